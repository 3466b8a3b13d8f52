import type { Fault } from '../physics/fault.ts';

/** 5 °C at severity 1. Shares nothing with the core. */
export const THERMOMETER_OFF: Fault = {
  name: 'thermometer off',
  shows: 'the shown temperature is wrong by a constant',
  on: (t, severity) => ({ ...t, thermometer: { ...t.thermometer, offsetC: t.thermometer.offsetC + 5 * severity } }),
};
