import { api } from './api.ts';
import { live } from './live.ts';
import { store } from './store.ts';

/** Asks again for whatever is on screen when the server says that records have changed, on this device or another. */
export function listenForChanges(): void {
  live.changes(() => store.dispatch(api.util.invalidateTags(['margins', 'sensor', 'runs', 'run', 'shelf', 'alarms'])));
}
