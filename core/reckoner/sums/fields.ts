import type { SumField } from '../sum.ts';

/** The temperature of whatever a sum is about. */
export const temperatureOf = (usual = 25): SumField => ({
  id: 't',
  name: 'Temperature',
  unit: '°C',
  usual,
  decimals: 1,
  nudge: 1,
});
