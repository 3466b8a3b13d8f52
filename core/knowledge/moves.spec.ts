import { describe, expect, it } from 'vitest';
import type { RunOutcome } from '../calibration/outcome.ts';
import { NO_FLEET } from '../drift/pool.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import type { Coefficients } from '../sensor/coefficients.ts';
import { seededChance } from '../statistics/chance.ts';
import { dueOfLoop } from './due.ts';
import type { Finished, Fitted } from './fitted.ts';
import { coefficientsInForce, coneOf, isKnownHere, ofSensor, reckonsWith } from './history.ts';
import { HouseKnowledge } from './house.ts';

const SEED = Number(process.env['FRUSTUM_MOVES_SEED'] ?? 20_261_130);
const HISTORIES = 60;
const LOOPS = ['A', 'B', 'C'] as const;
const SENSORS = ['s1', 's2', 's3', 's4'] as const;
type Loop = (typeof LOOPS)[number];
type Sensor = (typeof SENSORS)[number];

const fittedAt = (loop: Loop, sensor: Sensor, fittedMs: number | null, head: boolean): Fitted =>
  ({
    siteName: 'Tidewater House',
    loop: { id: loop, siteId: 'house', name: loop, place: '', family: 'ph', settings: {}, takes: {}, workingValue: 6, workingC: 22, tolerance: 0.15, intervalDays: 30, dueBy: 'calendar', controls: '', controlAction: '', referenceGroup: '', surroundings: [], limits: {} }, // prettier-ignore
    sensor: { id: sensor, name: sensor, fittedMs },
    channel: { id: loop, resolution: 0.1, reads: { unit: 'mV', kind: 'wired', compensatedBy: '', outputs: [], coefficientsIn: head ? 'sensor' : 'instrument' } }, // prettier-ignore
  }) as unknown as Fitted;

const outcomeOf = (coefficients: Coefficients, inForceBefore: Coefficients) =>
  ({
    kind: 'calibration',
    coefficients,
    covariance: [
      [0.2, 0],
      [0, 1e-5],
    ],
    inForceBefore,
    inForceAfter: coefficients,
    cleaned: false,
    t90: null,
  }) as unknown as RunOutcome;

const IDEAL: Coefficients = { zero: 0, sensitivity: 1 };

/** One house through ten months: calibrations, and sensors that change places in between. */
function historyOf(seed: number, head: boolean) {
  const dice = seededChance(seed);
  const pick = <T>(list: readonly T[]) => list[Math.floor(dice.uniform() * list.length)]!;
  // So far from each other that no two can be taken for one another.
  const zeroOf = (sensor: Sensor) => 40 * SENSORS.indexOf(sensor) - 60;
  const at = new Map<Loop, { sensor: Sensor; sinceMs: number | null }>(
    LOOPS.map((loop, i) => [loop, { sensor: SENSORS[i]!, sinceMs: null }]),
  );
  // What a thing that keeps coefficients was told last: an instrument, or a head. Nothing of the core is in it.
  const told = new Map<string, Coefficients>();
  const keeper = (loop: Loop, sensor: Sensor) => (head ? sensor : loop);
  const outcomes: Finished[] = [];
  for (let day = 1; day < 300; day += 3 + Math.floor(dice.uniform() * 12)) {
    const ms = day * MS_PER_DAY;
    const loop = pick(LOOPS);
    const here = at.get(loop);
    if (here && dice.uniform() < 0.6) {
      const found = { zero: zeroOf(here.sensor) + dice.normal(), sensitivity: 0.97 + 0.002 * dice.normal() };
      const before = told.get(keeper(loop, here.sensor)) ?? IDEAL;
      outcomes.push({ sensorId: here.sensor, loopId: loop, endedAt: new Date(ms).toISOString(), outcome: outcomeOf(found, before) }); // prettier-ignore
      told.set(keeper(loop, here.sensor), found);
      continue;
    }
    // Whatever is there goes to the shelf; the one that comes leaves its place empty.
    const sensor = pick(SENSORS);
    if (here?.sensor === sensor) continue;
    for (const [other, { sensor: fitted }] of at) if (fitted === sensor) at.delete(other);
    at.set(loop, { sensor, sinceMs: ms });
  }
  const all = [...at].map(([loop, { sensor, sinceMs }]) => fittedAt(loop, sensor, sinceMs, head));
  const house = new HouseKnowledge(all, outcomes, [], { of: () => NO_FLEET });
  return { house, outcomes, told, zeroOf, keeper };
}

describe.each([
  ['coefficients in the instrument', false],
  ['coefficients in the sensor’s head', true],
] as const)(`sensors that are fitted, moved and replaced, %s, ${HISTORIES} histories from seed ${SEED}`, (_, head) => {
  const histories = Array.from({ length: HISTORIES }, (__, i) => historyOf(SEED + i, head));

  it('keep all of their own past, and nothing of another sensor’s', () => {
    for (const { house, outcomes, zeroOf } of histories)
      for (const fitted of house.all) {
        const past = house.pastOf(fitted);
        expect(past.finished).toEqual(outcomes.filter((o) => o.sensorId === fitted.sensor.id));
        if (past.finished.length < 2) continue;
        const { zero } = coneOf(fitted, past, 300 * MS_PER_DAY).expectedAt(300 * MS_PER_DAY);
        expect(Math.abs(zero - zeroOf(fitted.sensor.id as Sensor))).toBeLessThan(15);
      }
  });

  it('are reckoned with by what the instrument, or the head, was told last', () => {
    for (const { house, told, keeper } of histories)
      for (const fitted of house.all) {
        const kept = told.get(keeper(fitted.loop.id as unknown as Loop, fitted.sensor.id as Sensor));
        const past = house.pastOf(fitted);
        expect(reckonsWith(past)).toEqual({ inForce: kept ?? IDEAL, known: kept !== undefined });
        expect(coefficientsInForce(ofSensor(past.finished), past.atFit)(300 * MS_PER_DAY)).toEqual(kept ?? IDEAL);
      }
  });

  it('are wrong by what the two differ, and due, from the moment on at which they came to another’s instrument', () => {
    let seen = 0;
    for (const { house, zeroOf, told, keeper } of histories)
      for (const fitted of house.all) {
        const past = house.pastOf(fitted);
        const cone = coneOf(fitted, past, 300 * MS_PER_DAY);
        if (past.atFit) for (const mark of cone.marks) expect(mark.atMs).toBeGreaterThan(past.atFit.atMs);
        if (!past.atFit || isKnownHere(past)) continue;
        seen++;
        expect(dueOfLoop(fitted, past)).toMatchObject({ atMs: past.atFit.atMs });
        const kept = told.get(keeper(fitted.loop.id as unknown as Loop, fitted.sensor.id as Sensor));
        const error = cone.errorAt?.(past.atFit.atMs);
        // Nothing is said of a sensor without a run, nor on an instrument that knows nothing.
        if (!kept || past.finished.length < 2) continue;
        // A glass electrode shows 1 pH less for each 57 mV that its zero is above what is believed.
        const expected = -(zeroOf(fitted.sensor.id as Sensor) - kept.zero) / 57;
        expect(Math.abs(error!.mean - expected)).toBeLessThan(0.25);
      }
    expect(seen > 0).toBe(!head);
  });
});
