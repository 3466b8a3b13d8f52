/**
 * What a channel's number can be, once it is scaled, and what no sensor of that kind ever gives. A count means nothing by
 * itself: only whether it stands still.
 */
export const SIGNALS = {
  mV: { words: 'millivolts of the probe', low: -2000, high: 2000 },
  pH: { words: 'pH, as the device shows it', low: -1, high: 15 },
  µS: { words: 'conductance, µS', low: -10, high: 2_000_000 },
  'µS/cm': { words: 'conductivity, µS/cm', low: -10, high: 2_000_000 },
  'mS/cm': { words: 'conductivity, mS/cm', low: -0.01, high: 2000 },
  MΩ·cm: { words: 'resistivity, MΩ·cm', low: 0, high: 100 },
  '°C': { words: 'temperature, °C', low: -50, high: 250 },
  'PSS-78': { words: 'practical salinity', low: -1, high: 50 },
  'mg/L': { words: 'concentration, mg/L', low: -1, high: 100_000 },
  'mg/L NO3-N': { words: 'nitrate as N, mg/L', low: -10, high: 10_000 },
  'mg/L NO3': { words: 'nitrate as NO3, mg/L', low: -40, high: 40_000 },
  'mg/L activity': { words: 'activity of an ion, mg/L', low: -1, high: 1_000_000 },
  'mg/L O2': { words: 'dissolved oxygen, mg/L', low: -1, high: 80 },
  '% sat': { words: 'dissolved oxygen, % of saturation', low: -10, high: 500 },
  'kPa O2': { words: 'partial pressure of oxygen, kPa', low: -2, high: 110 },
  'hPa O2': { words: 'partial pressure of oxygen, hPa', low: -20, high: 1100 },
  'τ0/τ': { words: 'lifetime without oxygen over lifetime', low: 0, high: 1000 },
  nA: { words: 'current of a membrane cell, nA', low: -1000, high: 1_000_000 },
  counts: { words: 'raw counts', low: -2_147_483_648, high: 4_294_967_295 },
} as const;
export type SignalUnit = keyof typeof SIGNALS;
export const SIGNAL_UNITS = Object.keys(SIGNALS) as SignalUnit[];
/** For a message. */
export const UNIT_LIST = SIGNAL_UNITS.join(', ');
