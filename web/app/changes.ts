import { api } from './api.ts';
import { store } from './store.ts';

/** Asks again for whatever is on screen when the server says that records have changed, on this device or another. */
export function listenForChanges(): void {
  const stream = new EventSource('/api/live');
  let opened = false;
  const again = () => store.dispatch(api.util.invalidateTags(['margins', 'sensor', 'runs', 'run', 'shelf']));
  stream.addEventListener('changed', again);
  // Back after a gap: something may have happened meanwhile.
  stream.addEventListener('open', () => {
    if (opened) again();
    opened = true;
  });
}
