import type { Standard } from './standard.ts';

/** A dry cell in air: nothing conducts. The zero point of every contacting cell. */
export const AIR: Standard = {
  id: 'air',
  name: 'air, bone dry',
  family: 'conductivity',
  unit: 'µS/cm',
  nominal: 0,
  nominalAtC: 25,
  table: [
    [-20, 0],
    [60, 0],
  ],
  // What a film that nobody sees leaves. Common practice, no source.
  uncertainty: 0.01,
  tableStep: 0,
  source: 'air does not conduct',
  inAir: true,
};

/** The input of an instrument, shorted: it says what the instrument itself adds, and nothing of the sensor. */
export const ZERO_PLUG: Standard = {
  id: 'zero-plug',
  name: 'shorting plug',
  family: 'input',
  unit: 'mV',
  nominal: 0,
  nominalAtC: 25,
  table: [
    [-20, 0],
    [150, 0],
  ],
  // Contact potentials of a plug. Common practice, no source.
  uncertainty: 0.05,
  tableStep: 0,
  source: 'a shorted input has no potential',
};
