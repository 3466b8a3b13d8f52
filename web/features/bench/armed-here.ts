import type { Step } from '@frustum/core';

const KEY = 'frustum.armed';
/** Runs and cups that are remembered: more than stand on any bench. */
const MOST = 50;

function read(): string[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]');
    return Array.isArray(kept) ? kept.filter((id) => typeof id === 'string') : [];
  } catch {
    return [];
  }
}

/** A cup of a run, as its place step and its settle step both name it. */
type Cup = Pick<Step, 'pass' | 'pointIndex' | 'purpose'>;
const cupOf = (runId: string, { pass, pointIndex, purpose }: Cup) =>
  `${runId}/${pass}.${pointIndex}${purpose === 'read-back' ? '.read-back' : ''}`;

/** A device whose storage is full keeps nothing: its readings then wait for a press, which harms nobody. */
function keep(keys: readonly string[]): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(keys));
  } catch {
    // Nothing is armed that could not be kept.
  }
}

const arm = (key: string): void => keep([...read().filter((id) => id !== key), key].slice(-MOST));

/** All of a run is captured by itself on this device: a page that only looks on at somebody else's run must not. */
export const armHere = (runId: string): void => arm(runId);

/** From now on the reading in this cup is captured by itself on this device. */
export const armCup = (runId: string, cup: Cup): void => arm(cupOf(runId, cup));

/** From now on the reading in this cup waits for a press. */
export const disarmCup = (runId: string, cup: Cup): void => {
  const key = cupOf(runId, cup);
  keep(read().filter((id) => id !== key));
};

/** Was this run begun on this device at the bench of several, or was this cup filled here? */
export function isArmedHere(runId: string, cup?: Cup): boolean {
  const known = read();
  return known.includes(runId) || (cup !== undefined && known.includes(cupOf(runId, cup)));
}
