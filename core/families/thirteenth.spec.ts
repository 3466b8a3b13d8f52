import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { RunEvent, RunEventBody, RunPlan } from '../calibration/events.ts';
import { outcomeOf } from '../calibration/outcome.ts';
import { pointsTrouble } from '../calibration/points.ts';
import { replay } from '../calibration/replay.ts';
import { judge } from '../calibration/verdict.ts';
import { NO_FLEET } from '../drift/pool.ts';
import { EVERY_BENCH } from '../kin/bench.ts';
import { PROCESS_MOVED, SOUND_OTHER, STANDARD_WRONG } from '../kin/others.ts';
import { dueOfLoop, standingOf } from '../knowledge/due.ts';
import type { Fitted } from '../knowledge/fitted.ts';
import { passedGates } from '../knowledge/gates.ts';
import { healthOf } from '../knowledge/health.ts';
import { HouseKnowledge } from '../knowledge/house.ts';
import { planOf, pointsFor, procedureOf, type Lot } from '../knowledge/plan.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { PLAINLY, type Family } from '../sensor/family.ts';
import { apartBy, zeroOrGain } from '../sensor/points.ts';
import { usualPrior } from '../sensor/prior.ts';
import { inChannelUnit } from '../sensor/value-of-standard.ts';
import { still } from '../solutions/standard.ts';
import { proceduresFor } from './procedures.ts';
import { FAMILIES, familyOf } from './registry.ts';

/** A family of no sensor that there is: all that it takes to have one stands in this value. */
const THROWN_AWAY: Family = {
  id: 'thrown-away',
  name: 'free iodine',
  zero: { name: 'zero', unit: 'nA', meaning: 'current in water without any' },
  sensitivity: { name: 'slope', unit: '%', meaning: 'share of 50 nA per mg/L' },
  points: { least: 1, most: 2 },
  settings: {},
  conditions: () => [],
  limits: { zero: 5, sensitivityLow: 0.6, sensitivityHigh: 1.4, sensitivityDead: 0.1, t90Seconds: 120, adjustAboveShare: 0.5 }, // prettier-ignore
  suspects: {
    zero: 'a leak',
    high: 'the bottle',
    dead: 'no flow',
    alike: { means: 'no flow', test: 'Look for flow.' },
  },
  step: { absolute: 0.5, relative: 0.01 },
  tail: { seconds: 20, spread: 0.7, share: 0.2, forecast: { usual: 1, times: [0.5, 1, 2] } },
  model: () => ({
    valueUnit: 'mg/L',
    signalUnit: 'nA',
    range: { low: 0, high: 100 },
    origin: 0,
    ideal: (value) => 50 * value,
    valueOf: (response) => response / 50,
    shows: (standard, value) => inChannelUnit(standard, value, 'mg/L'),
    workingRows: () => [],
  }),
  frees: zeroOrGain,
  tooClose: (values) => apartBy(values, 0.5, 'Take a blank.'),
  atWork: () => null,
  standards: {
    all: [still('thrown-away', 'iodine-0', 'blank', 'mg/L', 0), still('thrown-away', 'iodine-2', '2 mg/L', 'mg/L', 2)],
    serves: ({ family }) => family === 'thrown-away',
    sets: () => [['iodine-0', 'iodine-2']],
    usedBy: () => 'sensors of iodine',
    mixedUp: () => true,
    openedDays: 20,
    cupsOfOne: 1,
    pairC: null,
    about: null,
  },
  procedures: ['calibrate', 'verify'],
  words: {
    ...EVERY_BENCH,
    takeOut: { title: 'Out of the flow', text: 'Shut the flow, take it out.' },
    place: ({ name }) => ({ title: `Into ${name}`, text: 'Stir.' }),
    settle: ({ name }) => ({ title: `Settle in ${name}`, text: 'Wait.' }),
    repeat: null,
    clean: { title: 'New membrane', text: 'Change it.' },
  },
  soak: {
    seconds: 1800,
    words: (dry) => ({ title: `Soak it: it ${dry ? 'stood dry' : 'is new'}`, text: 'In water.' }),
  },
  prior: (step) => usualPrior(step),
  befalls: {
    slopeKnown: false,
    sound: SOUND_OTHER,
    causes: [
      { ...STANDARD_WRONG, id: 'membrane-torn', name: 'the membrane is torn', group: 'replace the sensor', sudden: false, expects: { sensitivityLost: { mean: 20, sd: 8 } } }, // prettier-ignore
      STANDARD_WRONG,
      PROCESS_MOVED,
    ],
  },
  onReference: null,
  thermometer: false,
  storedIn: null,
  compensation: () => null,
  scales: [],
  shown: PLAINLY,
  typed: { worksAt: '1', tolerance: '0.1', traces: false },
};

const fitted = {
  timeZone: 'UTC',
  siteName: 'House',
  sensor: { id: 's', name: 'Probe', model: '', fittedMs: null },
  loop: { id: 'l', siteId: 'h', name: 'Iodine', place: '', family: 'thrown-away', settings: {}, takes: {}, workingValue: 1, workingC: 22, tolerance: 0.1, intervalDays: 30, dueBy: 'calendar', controls: 'dosing', controlAction: '', referenceGroup: '', body: '', water: '', surroundings: [], limits: {} }, // prettier-ignore
  channel: {
    id: 'c',
    resolution: 0.1,
    reads: { unit: 'nA', kind: 'wired', compensatedBy: '', outputs: [], coefficientsIn: 'instrument' },
  },
} satisfies Fitted;
const NOW = Date.parse('2026-11-25T12:00:00Z');

/** Goes through a run step by step with a sensor of this zero and slope, up to its end; what it adjusts is written. */
function gone(plan: RunPlan, zero: number, sensitivity: number) {
  const events: RunEvent[] = [];
  const add = (body: RunEventBody) => {
    const seq = events.length + 1;
    const at = new Date(NOW + seq * 1000).toISOString();
    events.push({ seq, device: 'paper-device', counter: seq, at, by: 'Operator A', body });
    return replay(events);
  };
  let state = add({ type: 'started', plan });
  let action = '';
  while (state.current) {
    const { id: stepId, kind, pointIndex, purpose } = state.current;
    if (kind === 'settle') {
      const signal = zero + sensitivity * 50 * plan.points[pointIndex!]!.standard.nominal;
      const capture = { pointIndex: pointIndex!, purpose: purpose!, method: 'live' as const, signal, signalUncertainty: 0.1, temperatureC: 22, settledSeconds: 60, t90: 20, trace: [] }; // prettier-ignore
      state = add({ type: 'captured', stepId, traceSeconds: null, capture });
    } else if (kind === 'decide') {
      action = judge(state)!.action;
      state = add({ type: 'decided', action: judge(state)!.action, because: '' });
    } else if (kind === 'adjust') {
      state = add({ type: 'adjusted', coefficients: judge(state)!.calibration.coefficients, how: 'written' });
    } else state = add({ type: 'step-done', stepId, traceSeconds: null });
  }
  return { action, titles: state.steps.map((s) => s.title), outcome: outcomeOf(add({ type: 'closed' }))! };
}

describe('a thirteenth family, registered by one value', () => {
  const lot: Lot = { id: 'b', label: 'I-1', table: null, plusMinus: null, expiresOn: null, openedOn: '2026-11-01', usedUpOn: null }; // prettier-ignore
  const order = { procedure: 'calibrate', procedureId: null, points: [{ standardId: 'iodine-0', lotId: null }, { standardId: 'iodine-2', lotId: 'b' }], boxes: [] } as const; // prettier-ignore
  beforeAll(() => void (FAMILIES as Family[]).push(THROWN_AWAY));
  afterAll(() => void (FAMILIES as Family[]).pop());

  it('goes from its gate through its own steps to verdict, outcome, margin, cause and due date', () => {
    expect(familyOf('thrown-away')).toBe(THROWN_AWAY);
    expect(proceduresFor('thrown-away').map((p) => p.kind)).toEqual(['calibrate', 'verify']);
    const points = pointsFor(fitted, order, [lot], THROWN_AWAY.standards.all, Date.UTC(2026, 10, 1));
    const standards = points.map((p) => p.standard);
    expect(pointsTrouble(fitted.loop, 'calibrate', standards)).toBeNull();
    // The bottle is open for 24 days, and good for 20.
    expect(() => passedGates(fitted, true, points, [lot], [], NOW, [])).toThrow(/has been open for 24 days; usual are 20 at most/); // prettier-ignore
    const gates = passedGates(fitted, true, points, [lot], [], NOW, [{ id: 'lot-open-long:2 mg/L', because: 'the only one' }]); // prettier-ignore
    expect(gates).toHaveLength(1);

    const empty = new HouseKnowledge([fitted], [], [], { of: () => NO_FLEET });
    const procedure = procedureOf(order, []);
    const plan = planOf(fitted, points, empty.pastOf(fitted), NOW, { school: 'statistical', fixedSeconds: 0, procedure, gates, sensorState: 'new' }); // prettier-ignore
    const { action, titles, outcome } = gone(plan, 2, 0.8);
    expect(titles.slice(0, 4)).toEqual(['Soak it: it is new', 'Put dosing on hold', 'Out of the flow', 'Into blank']);
    expect(action).toBe('adjust');
    // 2 nA and 40 nA per mg/L instead of 50: at 1 mg/L it shows 42/50.
    expect(outcome.coefficients).toMatchObject({ zero: expect.closeTo(2, 6) as number, sensitivity: expect.closeTo(0.8, 6) as number }); // prettier-ignore
    expect(outcome.asFound.error).toBeCloseTo(42 / 50 - 1, 6);
    expect(outcome.asLeft.error).toBeCloseTo(0, 6);

    const ended = (days: number, sensitivity: number) => ({
      sensorId: 's',
      loopId: 'l',
      endedAt: new Date(NOW - days * MS_PER_DAY).toISOString(),
      outcome: { ...outcome, coefficients: { ...outcome.coefficients, sensitivity } },
    });
    const house = new HouseKnowledge([fitted], [ended(90, 1), ended(60, 0.98), ended(30, 0.89), ended(0, 0.8)], [], { of: () => NO_FLEET }); // prettier-ignore
    const past = house.pastOf(fitted);
    expect(dueOfLoop(fitted, past).atMs).toBe(NOW + 30 * MS_PER_DAY);
    expect(standingOf(fitted, past, NOW).outside).toBe(false);
    expect(healthOf(fitted, house)!.named?.id).toBe('membrane-torn');
  });
});
