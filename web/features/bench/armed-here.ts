const KEY = 'frustum.armed';
/** Runs that are remembered: more than stand on any bench. */
const MOST = 50;

function read(): string[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]');
    return Array.isArray(kept) ? kept.filter((id) => typeof id === 'string') : [];
  } catch {
    return [];
  }
}

/** Runs of this device capture by themselves here; a page that only looks on at somebody else's run must not. */
export const armHere = (runId: string): void =>
  localStorage.setItem(KEY, JSON.stringify([...read().filter((id) => id !== runId), runId].slice(-MOST)));

/** Was this run begun on this device, at the bench of several? */
export const isArmedHere = (runId: string): boolean => read().includes(runId);
