import { Refusal } from '../quantities/refusal.ts';
import type { Soak } from './words.ts';

/** What happens to a sensor between its shelf and its end. */
export const LIFE_EVENT_KINDS = ['fitted', 'taken-out', 'stored-wet', 'stored-dry', 'retired', 'brought-back'] as const;
export type LifeEventKind = (typeof LIFE_EVENT_KINDS)[number];

/** How a sensor on the shelf is stored; '' while it is fitted or retired. */
export const STORAGES = ['wet', 'dry', ''] as const;
export type Storage = (typeof STORAGES)[number];

/** A sensor as far as its next place depends on it. */
export interface OnTheMove {
  readonly name: string;
  readonly family: string;
  /** ISO date; null = not known */
  readonly boughtOn: string | null;
  /** epoch ms of what was last done to it; null = nothing yet */
  readonly lastMs: number | null;
  readonly soakingSinceMs: number | null;
  readonly retired: boolean;
}

/**
 * Whether a sensor may be moved at a moment.
 *
 * @param atMs when it is moved, epoch ms
 * @param nowMs a little later than that at the latest
 * @throws Refusal `not-yet`, `before-bought`, `moved-later`
 */
export function requireMoment({ name, boughtOn, lastMs }: OnTheMove, atMs: number, nowMs: number): void {
  if (atMs > nowMs)
    throw new Refusal('not-yet', 'That is still to come. Note it when it is done.', { at: isoOf(atMs) });
  if (boughtOn !== null && atMs < Date.parse(boughtOn))
    throw new Refusal('before-bought', `${name} was bought on ${boughtOn}. Give a later day, or correct that one.`, {
      boughtOn,
    });
  if (lastMs !== null && atMs < lastMs)
    throw new Refusal(
      'moved-later',
      `Something was noted of ${name} at ${minuteOf(lastMs)} UTC already. Give a later moment.`,
      { lastAt: isoOf(lastMs) },
    );
}

/**
 * Whether a sensor may be fitted at a loop of a family.
 *
 * @param soak what its family wants after a dry time; null for nothing
 * @param soaked somebody says that it has soaked long enough
 * @throws Refusal `retired`, `sensor-of-another-family`, `still-soaking`
 */
export function requireFittable(
  sensor: OnTheMove,
  loop: { readonly name: string; readonly family: string; readonly familyName: string },
  soak: Soak | null,
  atMs: number,
  soaked: boolean,
): void {
  const { name, family, soakingSinceMs, retired } = sensor;
  if (retired) throw new Refusal('retired', `${name} is retired. Bring it back to the shelf first, then fit it.`);
  if (family !== loop.family)
    throw new Refusal(
      'sensor-of-another-family',
      `${name} measures something else than ${loop.name}, which is ${loop.familyName}. Pick another sensor.`,
      { family },
    );
  const readyMs = soakingSinceMs !== null && soak ? soakingSinceMs + 1000 * soak.seconds : -Infinity;
  if (atMs < readyMs && !soaked)
    throw new Refusal(
      'still-soaking',
      `${name} soaks until ${minuteOf(readyMs)} UTC. Wait until then, or say that it has soaked long enough.`,
      { readyAt: isoOf(readyMs) },
    );
}

const isoOf = (ms: number) => new Date(ms).toISOString();
const minuteOf = (ms: number) => isoOf(ms).slice(0, 16).replace('T', ' ');
