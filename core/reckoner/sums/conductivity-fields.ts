import { COURSES } from '../../solutions/compensation.ts';
import type { SumChoice, SumField } from '../sum.ts';

/** What sums of conductivity share. */
export const GROUP = 'Conductivity and salinity';
export const temperature = (usual: number): SumField => ({
  id: 't',
  name: 'Temperature',
  unit: '°C',
  usual,
  decimals: 1,
  nudge: 1,
});
export const alpha: SumField = { id: 'a', name: 'Coefficient', unit: '%/°C', usual: 2, decimals: 2, nudge: 0.1 };

export const COURSE: SumChoice = {
  id: 'course',
  name: 'Compensated',
  usual: 'line',
  options: COURSES,
};
