import type { Cause } from '../sensor/befalls.ts';

/** Causes that may be the matter with a sensor of any family. All figures are common practice without a source. */

/** What a figure is where none of the causes is the matter: anything. It takes what fits none of them. */
export const OTHER: Cause = {
  id: 'other',
  name: 'something else',
  prior: 0.002,
  group: 'look closer',
  test: {
    what: 'Hold it against a second instrument in the same water, and both of them in fresh standards.',
    procedure: 'sample',
    service: null,
    outcomes: [
      'The two differ in the water and agree in the standards: what surrounds the sensor there, its cable, its place, the flow.',
      'They differ in the standards as well: the sensor, or what reads it.',
    ],
  },
  expects: {
    zeroMoved: { mean: 0, sd: 30 },
    sensitivityLost: { mean: 0.7, sd: 20 },
    sensitivity: { mean: 90, sd: 20 },
    slower: { mean: 0.5, sd: 1 },
    sampleOff: { mean: 0, sd: 40 },
    readingMoved: { mean: 0, sd: 40 },
    membrane: { mean: 4.8, sd: 2 },
    reference: { mean: 2.5, sd: 2 },
  },
  unseen: true,
  alone: true,
};

/** The same for sensors that are no electrodes. */
export const OTHER_THAN_THESE: Cause = {
  ...OTHER,
  expects: { zeroMoved: { mean: 0, sd: 25 }, sensitivityLost: { mean: 0.3, sd: 30 }, slower: { mean: 0.5, sd: 1 } },
};

/**
 * The thermometer that compensates is wrong: what is found follows what it shows.
 *
 * @param percentAC of the sensitivity
 */
export const thermometerWrong = (percentAC: number, lost: number): Cause => ({
  id: 'thermometer-wrong',
  name: 'the thermometer that compensates is wrong',
  prior: 0.006,
  group: 'check the thermometer',
  test: {
    what: 'Hold the thermometer that compensates against a reference thermometer in the same cup.',
    procedure: 'buffers',
    service: null,
    outcomes: [
      'They differ: the thermometer; put it right, and test again.',
      'They agree: it is the sensor, or the bottle.',
    ],
  },
  // Mostly within two degrees.
  expects: { sensitivityLost: { mean: lost, sd: Math.max(1.5, 2 * percentAC) } },
});
