import type { Places } from '@frustum/core';

/** How much room there is on a bench: how many probes a cup takes, and how many cups of a standard are poured. */
export interface Room {
  readonly perCup: number;
  /** by standard; one where nothing is said */
  readonly cups: Readonly<Record<string, number>>;
}

const KEY = 'frustum.room';
/** A beaker of 250 mL takes three probes of 12 mm. Common practice, no source. */
const USUAL: Room = { perCup: 3, cups: {} };
export const MAX_PER_CUP = 6;
export const MAX_CUPS = 6;

const isCount = (value: unknown, most: number): value is number =>
  Number.isInteger(value) && (value as number) >= 1 && (value as number) <= most;

/** What was said on this device; what makes no sense is as usual. */
export function keptRoom(): Room {
  try {
    const { perCup, cups } = JSON.parse(localStorage.getItem(KEY) ?? '{}') as { perCup?: unknown; cups?: unknown };
    const known = Object.entries((cups ?? {}) as Record<string, unknown>).filter(([, n]) => isCount(n, MAX_CUPS));
    return {
      perCup: isCount(perCup, MAX_PER_CUP) ? perCup : USUAL.perCup,
      cups: Object.fromEntries(known) as Record<string, number>,
    };
  } catch {
    return USUAL;
  }
}

export const keepRoom = (room: Room): void => localStorage.setItem(KEY, JSON.stringify(room));

/** Room in each standard. */
export const placesOf =
  ({ perCup, cups }: Room): Places =>
  (standardId) =>
    perCup * (cups[standardId] ?? 1);
