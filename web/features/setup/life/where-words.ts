import { byWallClock } from '@frustum/core';
import type { LifeRow, ShelvedSensor } from '@frustum/contract';
import { dayOf, hourOf } from '../../../format/dates.ts';

/** Ways to put a sensor away. */
export const AWAY = [
  ['wet', 'onto the shelf, stored wet'],
  ['dry', 'onto the shelf, stored dry'],
  ['retired', 'out of use'],
] as const;

export const LIFE_WORDS: Readonly<Record<LifeRow['kind'], (loopName: string) => string>> = {
  fitted: (loop) => `fitted at ${loop}`,
  'taken-out': (loop) => `taken out of ${loop}`,
  'stored-wet': () => 'on the shelf, stored wet',
  'stored-dry': () => 'on the shelf, stored dry',
  retired: () => 'out of use',
  'brought-back': () => 'brought back',
};

/** Where a sensor on the shelf is, and since when. */
export const shelfWords = ({ storage, retiredAt, readyAt, since }: ShelvedSensor): string => {
  if (retiredAt !== null) return `out of use since ${dayOf(retiredAt)}`;
  const stored = `stored ${storage} since ${dayOf(since)}`;
  return readyAt === null ? stored : `${stored}, soaks until ${hourOf(readyAt)}`;
};

/** A moment as a field of day and time gives it, by the clock of a site; nothing for just now. */
export const momentOf = (typed: string, timeZone: string): { at?: string } =>
  typed ? { at: byWallClock(typed, timeZone) } : {};
