import { describe, expect, it } from 'vitest';
import { causesNow } from '../alarms/alarms.ts';
import type { LeansOn } from '../calibration/gates.ts';
import type { PassedGate } from '../calibration/events.ts';
import { NO_FLEET } from '../drift/pool.ts';
import type { ServiceEvent } from '../drift/history.ts';
import { familyOf } from '../families/registry.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import type { SensorId } from '../quantities/ids.ts';
import { procedureFor } from '../testing/a-procedure.ts';
import { endedOn, fittedOf } from '../testing/a-house.ts';
import { modelOf } from '../sensor/sensor.ts';
import { buffer } from '../solutions/buffers.ts';
import { ZERO_PLUG } from '../solutions/without-liquid.ts';
import { comparedOn, sharingWater } from './beside.ts';
import { beyondLimits } from './beyond-limits.ts';
import { channelStep, resolutionOf } from './channel-step.ts';
import { backInWaterAt, fellowsOf, impedanceOf } from './checks.ts';
import { dueAtFit, dueOfLoop, standingOf } from './due.ts';
import type { Finished, Fitted } from './fitted.ts';
import { comesBefore, leansOn, passedGates } from './gates.ts';
import { healthOf, isElectrode } from './health.ts';
import { eventsOf, learnedFrom, observationsOf, stepAt } from './history.ts';
import { HouseKnowledge } from './house.ts';
import { leanedOn } from './look-back.ts';
import { paperUncertainty } from './paper.ts';
import { planOf, pointsFor, procedureOf, type RunOrder } from './plan.ts';
import { requireService, servicesOf } from './services-of.ts';
import { figuresIn, shownAsIn } from './written-figures.ts';

const ms = (day: number) => day * MS_PER_DAY;
const houseOf = (
  all: readonly Fitted[],
  outcomes: readonly Finished[] = [],
  services: readonly (ServiceEvent & { sensorId: SensorId })[] = [],
) => new HouseKnowledge(all, outcomes, services, { of: () => NO_FLEET });
const at = (zero: number, sensitivity = 0.97) => ({ zero, sensitivity });
const K25 = 59.159;

describe('sensors in one water', () => {
  const a = fittedOf('a', { loop: { place: 'Gallery' } });
  const b = fittedOf('b', { loop: { place: 'Gallery' } });
  const c = fittedOf('c', { loop: { place: 'Elsewhere' } });
  const nowhere = ['d', 'e'].map((id) => fittedOf(id));

  it('two at least, four at most; a loop whose place nobody has said hangs with none', () => {
    expect(sharingWater([a, c, b, ...nowhere]).map((g) => g.map((f) => f.loop.name))).toEqual([['Loop a', 'Loop b']]);
    const six = ['1', '2', '3', '4', '5', '6'].map((id) => fittedOf(id, { loop: { place: 'Gallery' } }));
    expect(sharingWater(six)[0]).toHaveLength(4);
  });

  it('are compared in signals on every day on which none of them was at the bench', () => {
    const given = [{ mean: 7, temperatureC: 25 }, { mean: -59.159, temperatureC: 25 }]; // prettier-ignore
    const shows = fittedOf('a', { reads: { unit: 'pH' } });
    const days = [1, 2, 3].map((day) => ({ atMs: ms(day + 0.5), given }));
    const inForce = [() => at(3, 0.9), () => at(0, 1)];
    const made = comparedOn(days, [shows, b], inForce, [ms(2.9)]);
    expect(made.map((d) => d.atMs)).toEqual([ms(1.5), ms(3.5)]);
    // A display that shows 7 sees the zero it was told; the other gives its millivolts themselves.
    expect(made[0]!.given.map((g) => g.signal)).toEqual([expect.closeTo(3, 9), expect.closeTo(-59.159, 9)]);
    // What no scale has is left out of that day.
    const odd = { atMs: ms(4.5), given: [{ mean: NaN, temperatureC: 25 }, given[1]!] };
    expect(comparedOn([odd], [shows, b], inForce, []).length).toBeLessThan(2);
  });
});

describe('steps of a channel', () => {
  const family = familyOf('ph');
  const model = modelOf(family);
  const steps = (of: object) => channelStep(family, model, { typed: false, unit: 'mV', perCount: null, ...of }, { value: 7, temperatureC: 25 }); // prettier-ignore

  it('a register counts, a wire says nothing finer than a tenth, a display shows what counts', () => {
    expect(steps({})).toBe(0.1);
    expect(steps({ perCount: -0.05 })).toBe(0.05);
    expect(steps({ perCount: 0 })).toBe(1e-4);
    // 0.01 pH is 0.59 mV
    expect(steps({ typed: true, perCount: 0.05 })).toBeCloseTo(0.59, 2);
    expect(steps({ unit: 'pH', perCount: 0.05 })).toBeCloseTo(0.59, 2);
  });

  it('a display that somebody reads off has the step that was said, in signals', () => {
    const hand = { reads: { kind: 'hand', unit: 'pH' }, loop: { shownAs: { scale: '', step: 0.1 } } };
    expect(resolutionOf(fittedOf('a', hand))).toBeCloseTo(0.1 * K25, 2);
    expect(resolutionOf(fittedOf('a', { ...hand, reads: { kind: 'wired' } }))).toBe(0.1);
    expect(resolutionOf(fittedOf('a', { ...hand, loop: { shownAs: { scale: '', step: null } } }))).toBe(0.1);
    expect(resolutionOf(fittedOf('a', { reads: hand.reads }))).toBe(0.1);
  });

  it('a figure from paper counts as two of the changes that count', () => {
    expect(paperUncertainty(fittedOf('a'))).toBeCloseTo(2 * stepAt(fittedOf('a')), 12);
    expect(stepAt(fittedOf('a'))).toBeCloseTo(0.0059 * 100, 2);
  });
});

describe('what is known beside the runs', () => {
  it('of several new bottles the one in which it moved most is asked about; sizes in steps', () => {
    const bottles = (day: number, lots: readonly [string, string], signals: readonly [number, number]) =>
      endedOn(fittedOf('a'), day, at(0), { bottles: [{ lotId: lots[0], label: '', standard: '7.00', signal: signals[0], sd: 0.3 }, { lotId: lots[1], label: '', standard: '10.01', signal: signals[1], sd: 0.4 }] }); // prettier-ignore
    const mine = [bottles(1, ['a', 'b'], [0, -170]), bottles(30, ['c', 'd'], [2, -176])];
    const made = fellowsOf(mine, [{ finished: mine, step: 2 }], 2)!;
    expect(made.mine.value).toBeCloseTo(-3, 12);
    expect(made.mine.sd).toBeCloseTo((Math.SQRT2 * 0.4) / 2, 12);
    expect(made.others).toEqual([made.mine]);
    expect(fellowsOf([endedOn(fittedOf('a'), 1, at(0)), mine[1]!], [], 2)).toBeUndefined();
  });

  it('impedances of the water are brought to 25 °C: glass doubles for 8 °C of cold', () => {
    const live = (temperatureC: number, impedance: object | null) => ({ signal: 0, temperatureC, impedance }) as never;
    const seen = impedanceOf([live(17, { membraneMohm: 200, referenceKohm: 8 }), live(25, null)]);
    expect(seen.membraneMohm).toBeCloseTo(100, 9);
    expect(seen.referenceKohm).toBe(8);
    expect(impedanceOf([live(25, null)])).toEqual({});
  });

  it('five minutes after its run it is back in its water', () => {
    const ended = '2026-11-30T12:00:00.000Z';
    expect(backInWaterAt(ended)).toBe(Date.parse('2026-11-30T12:05:00.000Z'));
    expect(backInWaterAt(undefined)).toBe(-Infinity);
    expect(backInWaterAt('now')).toBe(Infinity);
  });
});

describe('when it is due, and what leans on it', () => {
  const thermometer = fittedOf('t', { loop: { family: 'temperature', name: 'Tank °C' } });
  const probe = fittedOf('p', { reads: { compensatedBy: 'Tank °C' } });

  it('by the calendar at a fixed interval, by the forecast not later; from the day at which it came to another instrument', () => {
    const runs = [0, 30, 60].map((day) => endedOn(probe, day, at(0)));
    const due = (of: Readonly<Record<string, unknown>>) => {
      const fitted = fittedOf('p', { loop: of });
      return dueOfLoop(fitted, houseOf([fitted], runs).pastOf(fitted));
    };
    expect(due({}).atMs).toBe(ms(90));
    expect(due({ dueBy: 'forecast', intervalDays: 400 }).atMs!).toBeLessThan(ms(460));
    // A tolerance that is used up at once.
    expect(due({ dueBy: 'forecast', tolerance: 0.001 }).atMs).toBe(ms(60));
    const never = fittedOf('p', { loop: { dueBy: 'forecast' } });
    expect(dueOfLoop(never, houseOf([never]).pastOf(never)).atMs).toBeNull();
    const calendar = { atMs: ms(90), reason: 'x' };
    const past = { finished: runs, atFit: { atMs: ms(70), inForce: null } };
    expect(dueAtFit(calendar, past)).toMatchObject({ atMs: ms(70), reason: /fitted here/ as never });
    expect(dueAtFit(calendar, { finished: runs })).toBe(calendar);
    expect(dueAtFit(calendar, { ...past, atFit: { atMs: ms(50), inForce: null } })).toBe(calendar);
  });

  it('says whether it is outside now', () => {
    const runs = [endedOn(probe, 0, at(0)), endedOn(probe, 30, at(20), { inForceAfter: at(0) })];
    const left = houseOf([probe], runs);
    expect(standingOf(probe, left.pastOf(probe), ms(31))).toEqual({ dueMs: ms(31), outside: true });
    const set = houseOf([probe], runs.slice(0, 1));
    expect(standingOf(probe, set.pastOf(probe), ms(1))).toEqual({ dueMs: ms(30), outside: false });
    expect(standingOf(probe, houseOf([probe]).pastOf(probe), ms(1)).outside).toBe(false);
  });

  it('a thermometer comes before what it compensates, ORP after glass on its reference, a giver before what takes from it', () => {
    const elsewhere = fittedOf('x', { loop: { siteId: 'other' }, reads: { compensatedBy: 'Tank °C' } });
    expect(comesBefore(thermometer.loop, probe)).toBe(true);
    expect(comesBefore(thermometer.loop, elsewhere)).toBe(false);
    expect(comesBefore(thermometer.loop, fittedOf('q', { reads: { compensatedBy: 'Other °C' } }))).toBe(false);
    expect(comesBefore(fittedOf('n', { loop: { name: 'Tank °C' } }).loop, probe)).toBe(false);
    const glass = fittedOf('g', { loop: { referenceGroup: 'one' } });
    const tip = (referenceGroup: string) => fittedOf('o', { loop: { family: 'ion', referenceGroup } });
    expect(comesBefore(glass.loop, tip('one'))).toBe(true);
    expect(comesBefore(glass.loop, tip('two'))).toBe(false);
    expect(comesBefore(tip('one').loop, glass)).toBe(false);
    expect(comesBefore(glass.loop, glass)).toBe(false);
    const salinity = fittedOf('s', { loop: { family: 'salinity' } });
    const oxygen = fittedOf('o', { loop: { family: 'oxygen-optical', takes: { salinity: 'loop-s' } } });
    const standing = () => ({ dueMs: 5, outside: false });
    const said = leansOn(oxygen, [salinity, thermometer, oxygen], standing);
    expect(said).toEqual([{ loopName: 'Loop s', family: 'salinity', gives: ['salinity'], dueMs: 5, outside: false }]);
    expect(leansOn(probe, [salinity, thermometer], standing).map((l: LeansOn) => [l.loopName, l.gives])).toEqual([['Tank °C', []]]); // prettier-ignore
  });

  it('a gate that stands open is passed with a reason, or refused', () => {
    const standard = buffer('technical-7.00');
    const points = [{ standard, lot: { id: 'lot', label: 'L1' } }] as never;
    const lots = [{ id: 'lot', label: 'L1', table: null, plusMinus: null, expiresOn: '1970-01-05', openedOn: null, usedUpOn: null }] as never; // prettier-ignore
    const pass = (overrides: readonly { id: string; because: string }[], day = 10, list = lots): PassedGate[] =>
      passedGates(probe, false, points, list, [], ms(day), overrides);
    expect(pass([], 2)).toEqual([]);
    expect(pass([], 10, [] as never)).toEqual([]);
    expect(() => pass([])).toThrow(/Or say why/);
    const id = (() => {
      try {
        pass([]);
      } catch (refusal) {
        return (refusal as { facts: { gate: string } }).facts.gate;
      }
      return '';
    })();
    expect(pass([{ id: 'another', because: 'no' }, { id, because: 'only one here' }])).toMatchObject([{ id, because: 'only one here' }]); // prettier-ignore
    expect(() => pass([{ id: 'another', because: 'no' }])).toThrow(/Or say why/);
  });

  it('what leaned on it while it was wrong, the moments in order, nothing of before and after', () => {
    const steers = fittedOf('t', { loop: { ...thermometer.loop, controls: 'heater' } });
    const runs = [
      endedOn(steers, 12, at(0), { kind: 'grab-sample' }),
      endedOn(steers, 3, at(0), { kind: 'grab-sample' }),
      endedOn(steers, 13, at(0)),
      endedOn(probe, 11, at(0)),
      endedOn(probe, 21, at(0)),
    ];
    const back = { fromMs: ms(10), toMs: ms(20), foundMs: null, error: 1, sd: 0.1, course: [] };
    const notices = [9, 15, 21].map((day) => ({ kind: 'strange reading' as const, atMs: ms(day), sensorId: steers.sensor.id })); // prettier-ignore
    const house = new HouseKnowledge([steers, probe], runs, [], { of: () => NO_FLEET }, [], notices as never);
    const alarms = [8, 14, 22].map((day) => ({ raisedAt: new Date(ms(day)).toISOString(), text: 'hot' }));
    const leaned = leanedOn(back, steers, house, alarms, []);
    expect(leaned.map((l) => [l.kind, l.atMs === null ? null : l.atMs / MS_PER_DAY])).toEqual([
      ['control', null],
      ['run', 11],
      ['sample', 12],
      ['alarm', 14],
      ['notice', 15],
    ]);
    const two = ['A', 'A', 'B'].map((what, i) => ({ at: new Date(ms(11 + i)).toISOString(), what, amount: 1.5, unit: 'mL' })); // prettier-ignore
    expect(leanedOn(back, probe, house, [], two).map((l) => [l.what, l.untilMs])).toEqual([
      ['2 doses of A, 3 mL in all', ms(12)],
      ['one dose of B, 1.5 mL', undefined],
    ]);
  });
});

describe('which half, by what stands beside it', () => {
  const glass = (id: string) => fittedOf(id, { loop: { referenceGroup: 'one' } });
  const fell = [0, -6, -12, -18];
  const runsOf = (fitted: Fitted, zeros: readonly number[], from = 0) => zeros.map((zero, i) => endedOn(fitted, from + 30 * i, at(zero))); // prettier-ignore
  const chance = (house: HouseKnowledge, id: string) =>
    healthOf(glass('a'), house)!.causes.find((c) => c.cause.id === id)!.chance;

  it('what fell alike on the same reference speaks for it; what stayed, or was looked at in another year, does not', () => {
    const [a, b] = [glass('a'), glass('b')];
    const alone = chance(houseOf([a, b], runsOf(a, fell)), 'electrolyte-diluted');
    const alike = chance(houseOf([a, b], [...runsOf(a, fell), ...runsOf(b, fell)]), 'electrolyte-diluted');
    const stayed = chance(houseOf([a, b], [...runsOf(a, fell), ...runsOf(b, [0, 0, 0, 0])]), 'electrolyte-diluted');
    const before = chance(houseOf([a, b], [...runsOf(a, fell), ...runsOf(b, fell, -400)]), 'electrolyte-diluted');
    const once = chance(houseOf([a, b], [...runsOf(a, fell), ...runsOf(b, [-18], 90)]), 'electrolyte-diluted');
    expect(alike).toBeGreaterThan(alone);
    expect(stayed).toBeLessThan(alone);
    expect([before, once]).toEqual([expect.closeTo(alone, 9), expect.closeTo(alone, 9)]);
    // Another kind on the reference, or the same one on another reference, is no sibling.
    const other = fittedOf('b', { loop: { referenceGroup: 'two' } });
    expect(chance(houseOf([a, other], [...runsOf(a, fell), ...runsOf(other, fell)]), 'electrolyte-diluted')).toBeCloseTo(alone, 9); // prettier-ignore
  });

  it('an instrument that refused speaks for trouble, where its own figures do not contradict', () => {
    const a = glass('a');
    const last = (refused?: object) => endedOn(a, 90, at(-7), refused ? { refused: refused as never } : {});
    const sound = (one: Finished) => healthOf(a, houseOf([a], [...runsOf(a, [0, -2, -4]), one]))!.sound;
    expect(sound(last({ message: 'no', shows: null }))).toBeLessThan(sound(last()));
    expect(sound(last({ message: 'no', shows: at(-7) }))).toBeLessThan(sound(last()));
    expect(sound(last({ message: 'no', shows: at(60, 0.5) }))).toBeCloseTo(sound(last()), 9);
  });

  it('electrodes give millivolts; runs of a cell are looked at whatever they were', () => {
    expect(isElectrode(glass('a'))).toBe(true);
    const cell = fittedOf('c', { loop: { family: 'conductivity', workingValue: 1400 } });
    expect(isElectrode(cell)).toBe(false);
    const samples = [0, 30, 60].map((day) => endedOn(cell, day, at(0, 1), { kind: 'grab-sample' }));
    expect(healthOf(cell, houseOf([cell], samples))!.thin).toBeNull();
    expect(healthOf(glass('a'), houseOf([glass('a')], samples.map((s) => ({ ...s, sensorId: glass('a').sensor.id }))))).toBeNull(); // prettier-ignore
  });

  it('an electrical check says nothing of the sensor', () => {
    const a = glass('a');
    expect(observationsOf([endedOn(a, 1, at(0), { kind: 'electrical' }), endedOn(a, 2, at(1))])).toHaveLength(1);
    expect(learnedFrom({ fleet: NO_FLEET })).toMatchObject({ sensors: 0, runs: 0, ofModel: 0 });
    expect(learnedFrom({ fleet: { ...NO_FLEET, ofModel: { sensors: 3, runs: 9 } } }).ofModel).toBe(3);
    const rows = [{ at: '2026-02-01', kind: 'cleaned' as const }, { at: '2026-01-01', kind: 'refilled' as const }]; // prettier-ignore
    expect(eventsOf(rows).map((e) => e.kind)).toEqual(['refilled', 'cleaned']);
  });
});

describe('limits of practice', () => {
  it('that the last run found passed are told, each on both sides; not of what was exchanged since', () => {
    const f = fittedOf('a');
    const of = (zero: number, sensitivity: number, t90: number | null = 20, services: readonly ServiceEvent[] = []) =>
      beyondLimits(f, { finished: [endedOn(f, 1, at(0)), endedOn(f, 30, at(zero, sensitivity), { t90 })], services }).map((b) => b.text); // prettier-ignore
    expect(of(29.9, 0.851)).toEqual([]);
    expect(of(-30.1, 0.95)).toEqual(['zero −30.1 mV is beyond ±30 mV']);
    expect(of(30.1, 0.95)[0]).toMatch(/^zero 30\.1 mV/);
    expect(of(0, 0.849)).toEqual(['slope 84.9 % is below 85.0 %']);
    expect(of(0, 1.03)[0]).toMatch(/is above 102\.0 %/);
    expect(of(0, 0.95, 181)[0]).toMatch(/181 s for nine tenths of the way, more than 180 s/);
    expect(of(0, 0.95, null)).toEqual([]);
    expect(of(40, 0.8, 20, [{ kind: 'refilled', atMs: ms(31) }])).toEqual([]);
    expect(of(40, 0.8, 20, [{ kind: 'cleaned', atMs: ms(31) }])).toHaveLength(2);
    expect(of(40, 0.8, 20, [{ kind: 'refilled', atMs: ms(29) }])).toHaveLength(2);
    expect(beyondLimits(f, { finished: [], services: [] })).toEqual([]);
    const own = fittedOf('a', { loop: { limits: { zero: 50 } } });
    expect(beyondLimits(own, { finished: [endedOn(own, 1, at(40))], services: [] })).toEqual([]);
  });

  it('raise an alarm of their own, whatever the cause', () => {
    const loop = { sensorId: 's', loopName: 'Line 1 pH', siteId: 'x', referenceGroup: '', margin: { state: 'inside' as const, chanceOutside: 0, error: 0, expanded: 0.1 }, health: null, silentSeconds: 0 }; // prettier-ignore
    const [alarm] = causesNow([{ ...loop, beyond: [{ what: 'sensitivity', text: 'slope 83.7 % is below 85.0 %' }] }], new Set()); // prettier-ignore
    expect(alarm).toMatchObject({ key: 'limit s sensitivity', kind: 'limit', level: 'note' });
    expect(alarm!.text).toBe('Line 1 pH: slope 83.7 % is below 85.0 %. Clean it and test it again; if it stays so, plan a new one.'); // prettier-ignore
    expect(causesNow([loop], new Set())).toEqual([]);
  });
});

describe('what a run is planned with', () => {
  const fitted = fittedOf('a', { channel: { reads: { unit: 'mA', kind: 'wired', compensatedBy: '', outputs: ['acid pump', 'acid pump', 'alarm relay'], coefficientsIn: 'instrument', span: 16 } }, loop: { controls: 'acid pump', shownAs: { scale: '', step: null } } }); // prettier-ignore
  const order = (of: Partial<RunOrder>): RunOrder => ({ procedure: 'calibrate', procedureId: null, points: [], boxes: [], ...of }); // prettier-ignore
  const lot = { id: 'lot', label: 'L1', table: null, plusMinus: null, expiresOn: null, openedOn: '1970-01-01', usedUpOn: null } as never; // prettier-ignore
  const seven = buffer('technical-7.00');
  const points = (of: Partial<RunOrder>, lots: readonly never[] = [], nowMs = ms(30)) =>
    pointsFor(fitted, order(of), lots, [seven, ZERO_PLUG], nowMs);

  it('poured from a bottle with its own figures and age; a bottle that nobody noted has neither', () => {
    const ask = [{ standardId: seven.id, lotId: 'lot' as never }];
    const [aged] = points({ points: ask }, [lot]);
    expect(aged!.lot).toMatchObject({ id: 'lot', label: 'L1' });
    expect(aged!.lot.ageUncertainty).toBeGreaterThan(0);
    expect(points({ points: ask }, [lot], ms(0.5))[0]!.lot).not.toHaveProperty('ageUncertainty');
    expect(points({ points: ask })[0]!.lot).toEqual({ id: '', label: '' });
    const own = { ...(lot as object), table: [[20, 7.03], [25, 7.01]], plusMinus: 0.02 } as never; // prettier-ignore
    expect(points({ points: ask }, [own])[0]!.standard).toMatchObject({ uncertainty: 0.01, source: 'the lot’s own table' }); // prettier-ignore
    const certificate = { ...(lot as object), plusMinus: 0.05 } as never;
    expect(points({ points: ask }, [certificate])[0]!.standard.uncertainty).toBe(0.025);
    expect(points({ points: [{ standardId: ZERO_PLUG.id, lotId: null }] })[0]).toMatchObject({ role: 'input' });
    expect(points({ points: ask })[0]).not.toHaveProperty('role');
    expect(() => points({ points: [{ standardId: 'x', lotId: null }] })).toThrow(/no standard “x”/);
  });

  it('a sample and two thermometers stand in as wide as the tolerance; boxes are what they stand for', () => {
    const [sample] = points({ procedure: 'sample' });
    expect(sample!.standard).toMatchObject({ id: 'sample', name: 'the sample', nominal: 7, uncertainty: 0.1 });
    expect(points({ procedure: 'thermometers' })[0]!.standard.name).toBe('two thermometers');
    const boxes = points({ procedure: 'electrical', boxes: [{ label: '4', applied: 4, use: 'adjust' }, { label: '12', applied: 12, use: 'verify' }] }); // prettier-ignore
    expect(boxes.map((p) => [p.standard.nominal, p.role])).toEqual([
      [4, undefined],
      [12, 'verify'],
    ]);
  });

  it('by the built-in procedure, or by a team’s own as it stands today', () => {
    const own = procedureFor('calibrate', { id: 'own-1', name: 'Ours' });
    expect(procedureOf(order({}), [own]).name).not.toBe('Ours');
    expect(procedureOf(order({ procedureId: 'own-1' }), [own]).name).toBe('Ours');
    expect(() => procedureOf(order({ procedureId: 'gone' }), [own])).toThrow(/no longer there/);
  });

  it('holds every output once, carries what was chosen, and nothing that was not', () => {
    const past = houseOf([fitted], [endedOn(fitted, 0, at(3))]).pastOf(fitted);
    const made = planOf(fitted, points({ points: [{ standardId: seven.id, lotId: null }] }), past, ms(30), { school: 'fixed-time', fixedSeconds: 90 }); // prettier-ignore
    expect(made.controls).toBe('acid pump, alarm relay');
    expect(made).toMatchObject({ inForce: at(3), inForceKnown: true, school: { kind: 'fixed-time', seconds: 90 } });
    for (const none of ['shownAs', 'conditions', 'gates', 'sensorState', 'surroundings', 'procedure'])
      expect(made).not.toHaveProperty(none);
    const statistical = planOf(fitted, points({ points: [{ standardId: seven.id, lotId: null }] }), past, ms(30), { school: 'statistical', fixedSeconds: 90, gates: [{ id: 'g', text: '', because: '' }], sensorState: 'new' }); // prettier-ignore
    expect(statistical).toMatchObject({ school: { kind: 'statistical' }, gates: [{ id: 'g' }], sensorState: 'new' });
    const kind = (procedure: 'sample' | 'electrical') => planOf(fitted, points({ procedure, boxes: [{ label: '4', applied: 4, use: 'adjust' }, { label: '20', applied: 20, use: 'adjust' }] }), past, ms(30), { school: 'statistical', fixedSeconds: 1, procedure: procedureFor(procedure) }); // prettier-ignore
    expect(kind('sample').school).toEqual({ kind: 'fixed-time', seconds: 20 });
    expect(kind('electrical')).toMatchObject({ school: { seconds: 6 }, family: 'electrical', workingValue: 12, tolerance: 0.5, span: 16, inForceKnown: true, settings: { unit: 'mA' } }); // prettier-ignore
    expect(() => planOf(fitted, points({ points: [{ standardId: ZERO_PLUG.id, lotId: null }] }), past, 0, { school: 'statistical', fixedSeconds: 1 })).toThrow(/nothing to compare/); // prettier-ignore
  });
});

describe('services and figures as they are written', () => {
  it('nobody refills a cell; what is soaked is refilled', () => {
    expect(servicesOf('ph')).toContain('refilled');
    expect(servicesOf('conductivity')).not.toContain('refilled');
    expect(servicesOf('conductivity')).toContain('cleaned');
    expect(servicesOf('ion')).toContain('tip replaced');
    expect(() => requireService('ph', 'refilled')).not.toThrow();
    expect(() => requireService('conductivity', 'refilled')).toThrow(/electrolyte to refill/);
    expect(() => requireService('temperature', 'tip replaced')).toThrow(/tip or cap/);
  });

  it('in °F and back; a figure that says the same as the kept one is that one, to the last digit', () => {
    const of = { family: 'temperature', settings: {}, workingC: 25, scale: '°F' };
    const kept = { family: 'temperature', settings: {}, workingValue: 25.0000001, workingC: 25, tolerance: 0.5 };
    expect(figuresIn(of, { workingValue: 77, tolerance: 0.9 }, kept)).toEqual({ workingValue: 25.0000001, tolerance: 0.5 }); // prettier-ignore
    expect(figuresIn(of, { workingValue: 79.7, tolerance: 1.8 }, kept).workingValue).toBeCloseTo(26.5, 9);
    expect(figuresIn(of, { workingValue: 79.7, tolerance: 1.8 }, null).tolerance).toBeCloseTo(1, 9);
    expect(figuresIn(of, { workingValue: 'warm', tolerance: undefined }, kept)).toEqual({ workingValue: 'warm', tolerance: undefined }); // prettier-ignore
    expect(shownAsIn('ph', {}, 'pH', 0.01)).toEqual({ scale: '', step: 0.01 });
    expect(shownAsIn('temperature', {}, '°F', '')).toEqual({ scale: '°F', step: null });
    expect(shownAsIn('temperature', {}, '°F', undefined)).toEqual({ scale: '°F', step: null });
    expect(shownAsIn('no such family', {}, 'pH', 1).scale).toBe('pH');
  });
});
