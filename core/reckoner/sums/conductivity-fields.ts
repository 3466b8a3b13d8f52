import { COURSES } from '../../solutions/compensation.ts';
import type { SumChoice, SumField } from '../sum.ts';

/** What sums of conductivity share. */
export const GROUP = 'Conductivity and salinity';
export const alpha: SumField = { id: 'a', name: 'Coefficient', unit: '%/°C', usual: 2, decimals: 2, nudge: 0.1 };

export const COURSE: SumChoice = {
  id: 'course',
  name: 'Compensated',
  usual: 'line',
  options: COURSES,
};
