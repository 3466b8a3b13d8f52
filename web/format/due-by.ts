import type { DueBy } from '@frustum/core';

/** What decides a loop's next date, in words for a pick. */
export const DUE_BY_WORDS: readonly (readonly [DueBy, string])[] = [
  ['calendar', 'by the calendar, after these days'],
  ['forecast', 'by the drift forecast, these days at the latest'],
];
