import type { Cause, Expected, NextTest, Piece, ServiceKind } from '../sensor/befalls.ts';
import { BOTTLE, processMoved, SOUND_ELECTRODE } from './electrodes.ts';

/** What cells, membranes, optical sensors and thermometers have in common. */

/**
 * What a sound cell, membrane, optical sensor or thermometer shows: a zero in steps that count, a sensitivity in percent, about
 * what it has been. Common practice, no source, as all figures here.
 */
export const SOUND_OTHER: Readonly<Record<Piece, Expected>> = {
  ...SOUND_ELECTRODE,
  zeroMoved: { mean: 0, sd: 3 },
  sensitivityLost: { mean: 0.3, sd: 1.5 },
};

/** A test in standards, after some service. */
export const tested = (what: string, service: ServiceKind | null, ...outcomes: readonly string[]): NextTest => ({
  what,
  procedure: 'buffers',
  service,
  outcomes,
});
export const OTHER_INSTRUMENT = tested(
  'Hold it against another instrument.',
  null,
  'It agrees with the other one: the first instrument was wrong.',
  'It differs by the same: it is the sensor.',
);

export const STANDARD_WRONG: Cause = {
  id: 'standard-wrong',
  name: 'a bottle was wrong',
  prior: 0.01,
  group: 'replace the standard',
  test: BOTTLE,
  expects: { zeroMoved: { mean: 0, sd: 6 }, sensitivityLost: { mean: 0.3, sd: 6 } },
  sudden: true,
  undone: true,
  moves: 'fellows',
};

/** One standard, or another instrument, moves one of the two. */
export const BOTTLE_OF_GAIN: Cause = { ...STANDARD_WRONG, expects: { sensitivityLost: { mean: 0.3, sd: 6 } } };

export const PROCESS_MOVED = processMoved('the sensor');

type Test = Cause['test'];

/** What befalls a cathode behind a membrane, whatever it reduces. Common practice, no source. */
export const membraneCauses = (wipe: Test, renew: Test): readonly Cause[] => [
  {
    id: 'membrane-fouled',
    name: 'the membrane is fouled',
    prior: 0.024,
    group: 'clean it',
    test: wipe,
    expects: { sensitivityLost: { mean: 12, sd: 8 }, slower: { mean: 0.6, sd: 0.4 } },
    curedBy: ['cleaned', 'tip replaced'],
  },
  {
    id: 'electrolyte-spent',
    name: 'the electrolyte behind the membrane is spent',
    prior: 0.02,
    group: 'renew cap and electrolyte',
    test: renew,
    expects: { sensitivityLost: { mean: 15, sd: 10 }, zeroMoved: { mean: 0, sd: 8 } },
    curedBy: ['refilled', 'tip replaced'],
  },
];
