import type { Family, SettingField } from '../../sensor/family.ts';
import type { Standard } from '../../solutions/standard.ts';

/** Settings that every contacting cell has. */
export const CELL_CONSTANT: SettingField = {
  kind: 'figure',
  name: 'cell constant',
  unit: '/cm',
  usual: 1,
  low: 0.001,
  high: 100,
};

export const ALPHA: SettingField = {
  kind: 'figure',
  name: 'temperature coefficient',
  unit: '%/°C',
  usual: 2,
  low: 0,
  high: 10,
};

/** Coefficient of a real water against the one that is set, standard uncertainty, %/°C. Common practice, no source. */
export const ALPHA_UNCERTAINTY = 0.1;

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
  uncertainty: 0,
  tableStep: 0,
  source: 'air does not conduct',
};

/** The two ends of a cell's line differ by a fifth or more. Common practice, no source. */
export const CELL_SHARE = 0.8;

/** What practice expects of every contacting cell. Common practice, no source. */
export const CELL_PRACTICE: Pick<Family, 'limits' | 'suspects' | 'step' | 'tail'> = {
  limits: {
    zero: 20,
    sensitivityLow: 0.85,
    sensitivityHigh: 1.15,
    sensitivityDead: 0.2,
    t90Seconds: 120,
    adjustAboveShare: 0.5,
  },
  suspects: {
    zero: 'a wet cell, or a cable that leaks',
    high: 'suspect the standard or the cell constant',
    dead: 'the cell is dry, bridged by a bubble or not connected',
    alike: {
      means: 'a bubble, a bridged or dry cell, or cable',
      test: 'Shake the bubbles out in each cup. Then lift it into the air: a sound, dry cell shows next to nothing there.',
    },
  },
  step: { absolute: 0.1, relative: 0.003 },
  tail: { seconds: 5, spread: 1, share: 0.05, forecast: { usual: 1.1, times: [0.35, 0.88, 1.15] } },
};
