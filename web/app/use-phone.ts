import { useSyncExternalStore } from 'react';

const wide = () => matchMedia('(min-width: 64rem)');

function subscribe(listener: () => void): () => void {
  const query = wide();
  query.addEventListener('change', listener);
  return () => query.removeEventListener('change', listener);
}

/** Whether there is only room for a phone's layout; follows a window that is resized or a device that is turned. */
export const usePhone = (): boolean => useSyncExternalStore(subscribe, () => !wide().matches);
