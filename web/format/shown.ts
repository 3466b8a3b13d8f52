import { shownPh } from '@frustum/core';
import type { LiveSample, LoopRow } from '@frustum/contract';

/** What a live sample is in pH, by the coefficients in force; a channel that shows pH says so itself. */
export const shownOf = ({ signal, unit, temperatureC }: LiveSample, { inForce }: Pick<LoopRow, 'inForce'>): number =>
  unit === 'pH' ? signal : shownPh(signal, temperatureC, inForce);
