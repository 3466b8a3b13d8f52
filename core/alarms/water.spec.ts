import { tz } from '@date-fns/tz';
import { getHours, getMinutes } from 'date-fns';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { familyOf } from '../families/registry.ts';
import { modelOf } from '../sensor/sensor.ts';
import { writtenIn } from '../sensor/written.ts';
import { seededChance } from '../statistics/chance.ts';
import { causesNow, type LoopNow } from './alarms.ts';
import { ALARM_LEVELS, isAtLeast, isQuiet, MESSAGE_WAYS, USUAL_RULES, waysNow } from './levels.ts';
import { requireAlarmLimits } from './require-limits.ts';
import { waterWords } from './water-words.ts';
import {
  callsOf,
  dailyCourse,
  NO_ALARM_LIMITS,
  proposedLimits,
  waterFindings,
  withoutCourse,
  type AlarmLimits,
  type ShownMinute,
} from './water.ts';

const MINUTE = 60_000;
const START = Date.parse('2026-11-23T00:00:00Z');
const SEED = 20272;

/** Minutes with these values, one after the other. */
const minutes = (...values: number[]): ShownMinute[] => values.map((value, i) => ({ ms: START + i * MINUTE, value }));
const many = (n: number, of: (i: number) => number): ShownMinute[] =>
  minutes(...Array.from({ length: n }, (_, i) => of(i)));
const limits = (some: Partial<AlarmLimits>): AlarmLimits => ({ ...NO_ALARM_LIMITS, ...some });
const PH = limits({ warnLow: 7.8, warnHigh: 8.4, actLow: 7.6, actHigh: 8.6, forMinutes: 10 });
const found = (list: readonly ShownMinute[], of = PH, standing: readonly string[] = [], usual: number[] = []) =>
  waterFindings(of, list, 0.01, new Set(standing), usual).map((f) => `${f.kind} ${f.level} ${f.side}`.trim());

describe('a value beyond its limits', () => {
  it('calls once it has been beyond for long enough, and says since when', () => {
    expect(found(many(10, () => 8.45))).toEqual([]);
    const long = many(11, () => 8.45);
    expect(found(long)).toEqual(['water warn high']);
    expect(waterFindings(PH, long, 0.01, new Set())[0]).toMatchObject({ value: 8.45, limit: 8.4, sinceMs: START });
  });

  it('is one finding, the worst: what must be acted on goes before a warning', () => {
    expect(found(many(30, (i) => 8.45 + (i > 5 ? 0.2 : 0)))).toEqual(['water act high']);
    // Beyond the outer limit for a short while only, beyond the inner one for long.
    expect(found(many(30, (i) => 8.45 + (i > 25 ? 0.2 : 0)))).toEqual(['water warn high']);
    expect(found(many(30, () => 7.5))).toEqual(['water act low']);
  });

  it('one minute inside begins it anew; a silence does, too', () => {
    expect(found(many(20, (i) => (i === 12 ? 8.3 : 8.45)))).toEqual([]);
    const gap = [...minutes(8.45), ...many(8, () => 8.45).map((m) => ({ ...m, ms: m.ms + 40 * MINUTE }))];
    expect(found(gap)).toEqual([]);
  });

  it('what stands is over once it is clearly inside again, not at the very edge', () => {
    const back = many(30, (i) => (i < 20 ? 8.5 : 8.39));
    expect(found(back)).toEqual([]);
    expect(found(back, PH, ['water high'])).toEqual(['water warn high']);
    expect(
      found(
        many(30, (i) => (i < 20 ? 8.5 : 8.36)),
        PH,
        ['water high'],
      ),
    ).toEqual([]);
  });

  it('the usual course of the day is taken off where that is asked for', () => {
    // pH of a planted tank: 0.3 up and down, the highest in the afternoon.
    const day = (i: number) => 8.1 + 0.3 * Math.sin((2 * Math.PI * (i - 9 * 60)) / 1440);
    const fortnight = many(14 * 1440, day);
    const course = dailyCourse(fortnight);
    expect(Math.max(...course) - Math.min(...course)).toBeCloseTo(0.6, 1);
    const narrow = limits({ warnLow: 8, warnHigh: 8.2, forMinutes: 10 });
    expect(callsOf(narrow, fortnight)).toBeGreaterThan(20);
    expect(callsOf({ ...narrow, daily: true }, fortnight, course)).toBe(0);
    // The limit that is told is that of the hour: 8.2 and what four in the morning usually has less.
    const early = many(20, () => 8.05).map((m) => ({ ...m, ms: m.ms + 4 * 60 * MINUTE }));
    const [told] = waterFindings({ ...narrow, daily: true }, early, 0.01, new Set(), course);
    expect(told).toMatchObject({ side: 'high', value: 8.05, limit: 8.2 + course[4]! });
    expect(told!.limit).toBeLessThan(8.05);
    // At four in the afternoon 8.4 is usual; at four in the morning it is not.
    const at = (hour: number) => many(20, () => 8.4).map((m) => ({ ...m, ms: m.ms + hour * 60 * MINUTE }));
    expect(found(at(15), { ...narrow, daily: true }, [], [...course])).toEqual([]);
    expect(found(at(4), { ...narrow, daily: true }, [], [...course])).toEqual(['water warn high']);
  });

  it(`agrees with a plain count of minutes, on walks at random (seed ${SEED})`, () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 7.3, max: 8.9, noNaN: true }), { minLength: 1, maxLength: 60 }),
        fc.integer({ min: 0, max: 20 }),
        (values, forMinutes) => {
          const list = minutes(...values);
          const got = waterFindings({ ...PH, forMinutes }, list, 0.01, new Set())[0];
          const beyondFor = (is: (v: number) => boolean) => {
            let n = 0;
            while (n < values.length && is(values.at(-1 - n)!)) n++;
            return n > 0 && n - 1 >= forMinutes;
          };
          const expected = beyondFor((v) => v < 7.6) ? 'act low' : beyondFor((v) => v < 7.8) ? 'warn low' : beyondFor((v) => v > 8.6) ? 'act high' : beyondFor((v) => v > 8.4) ? 'warn high' : ''; // prettier-ignore
          expect(got ? `${got.level} ${got.side}` : '').toBe(expected);
        },
      ),
      { seed: SEED, numRuns: 400 },
    );
  });
});

describe('what changes too fast, and what does not change at all', () => {
  it('a change within an hour beyond its limit calls; a slow one and a short look do not', () => {
    const of = limits({ perHour: 0.3 });
    expect(
      found(
        many(61, (i) => 8 + 0.005 * i),
        of,
      ),
    ).toEqual([]);
    expect(
      found(
        many(61, (i) => 8 + 0.008 * i),
        of,
      ),
    ).toEqual(['rate warn high']);
    expect(
      found(
        many(61, (i) => 8 - 0.008 * i),
        of,
      ),
    ).toEqual(['rate warn low']);
    expect(
      found(
        many(10, (i) => 8 + 0.1 * i),
        of,
      ),
    ).toEqual([]);
  });

  it('a value that has not moved by half a step for long is not being measured', () => {
    const of = limits({ frozenMinutes: 30 });
    expect(
      found(
        many(40, () => 8.12),
        of,
      ),
    ).toEqual(['frozen warn']);
    expect(
      found(
        many(40, (i) => 8.12 + (i === 20 ? 0.006 : 0)),
        of,
      ),
    ).toEqual([]);
    expect(
      found(
        many(29, () => 8.12),
        of,
      ),
    ).toEqual([]);
  });
});

describe('proposed limits', () => {
  it('leave room on both sides of what was shown, and would not have called for it', () => {
    const chance = seededChance(SEED);
    const shown = many(3000, () => 8.1 + 0.02 * chance.normal());
    const made = proposedLimits(shown, 0.2)!;
    expect(made.warnLow).toBeLessThan(7.9);
    expect(made.actHigh! - made.warnHigh!).toBeGreaterThanOrEqual(0.2 - 1e-12);
    expect(callsOf(limits({ ...made, forMinutes: 0 }), shown)).toBe(0);
    expect(proposedLimits(shown.slice(0, 100), 0.2)).toBeNull();
    expect(withoutCourse(shown, dailyCourse(shown))).toHaveLength(3000);
  });

  it.each([
    [{ warnLow: 8.4, warnHigh: 7.8 }, /turned round: warn high is 7\.80 pH, and warn low is 8\.40 pH/],
    [{ actHigh: 8.2, warnHigh: 8.4 }, /turned round: act high/],
    [{ warnHigh: 99 }, /The limit 99 pH is outside/],
  ])('%j is refused in figures of the loop', (some, words) => {
    const family = familyOf('ph');
    const model = modelOf(family);
    const written = writtenIn(family, model, { workingValue: 8.1, workingC: 25, tolerance: 0.1 });
    expect(() => requireAlarmLimits(model, some, written)).toThrow(words);
    expect(() => requireAlarmLimits(model, { actLow: 7.6, warnLow: 7.8, actHigh: 8.6 }, written)).not.toThrow();
  });
});

describe('what is told', () => {
  const family = familyOf('temperature');
  const written = writtenIn(family, modelOf(family), { workingValue: 25, workingC: 25, tolerance: 0.5, shownAs: { scale: '°F', step: 0.1 } }); // prettier-ignore
  const water = { findings: [], written, timeZone: 'Europe/Paris' };
  const finding = {
    kind: 'water',
    level: 'act',
    side: 'high',
    value: 28,
    limit: 27,
    sinceMs: Date.parse('2026-11-23T02:12:00Z'),
  } as const;

  it('names value, ± from the cone, limit and since when, in the unit of the loop and by the clock of the site', () => {
    expect(waterWords('Tank 1', finding, water, { expanded: 0.25 })).toBe(
      'Tank 1 shows 82.4 ±0.45 °F, above its limit of 80.6 °F since 23 Nov, 03:12. Act now: look at the water, then at the probe.',
    );
    expect(waterWords('Tank 1', { ...finding, level: 'warn', side: 'low' }, water, { expanded: null })).toContain(' 82.4 °F, below'); // prettier-ignore
    expect(waterWords('Tank 1', { ...finding, kind: 'rate', value: -2, limit: 1 }, water, { expanded: null })).toContain('risen by 3.60 °F within an hour; the limit is 1.80'); // prettier-ignore
    expect(waterWords('Tank 1', { ...finding, kind: 'frozen', side: '', limit: 90 }, water, { expanded: null })).toContain('without moving for 90 min'); // prettier-ignore
  });

  it('where the scale falls, more of the value is less of what is shown', () => {
    const cell = familyOf('resistivity');
    const falls = writtenIn(cell, modelOf(cell), { workingValue: 15, workingC: 25, tolerance: 1, shownAs: { scale: 'µS/cm', step: null } }); // prettier-ignore
    const words = waterWords('Loop', { ...finding, side: 'low', value: 10, limit: 12 }, { ...water, written: falls }, { expanded: null }); // prettier-ignore
    expect(words).toContain('shows 0.1000 µS/cm, above its limit of 0.0833');
  });

  it('one cause is one alarm, as urgent as it is now', () => {
    const loop: LoopNow = { sensorId: 's', loopName: 'Tank 1', siteId: 'h', referenceGroup: '', margin: { state: 'inside', error: 0, expanded: 0.2, chanceOutside: 0 }, health: null, silentSeconds: 0, water: { ...water, findings: [finding] } }; // prettier-ignore
    expect(causesNow([loop], new Set())).toMatchObject([{ key: 'water s high', kind: 'water', level: 'act' }]);
    expect(causesNow([{ ...loop, water: undefined, silentSeconds: 200, silentLimitSeconds: 600 }], new Set())).toEqual(
      [],
    );
  });
});

describe('how alarms travel', () => {
  const alarm = { level: 'warn' as const, sinceMs: 0, quiet: false, told: [] };
  const rules = { ...USUAL_RULES, ways: { ...USUAL_RULES.ways, mail: { from: 'act' as const, afterMinutes: 15 } } };

  it('each way from its level on, and one of them only when nobody has seen it', () => {
    expect(waysNow(alarm, rules, 0)).toEqual(['webhook', 'mqtt']);
    expect(waysNow({ ...alarm, level: 'act' }, rules, 14 * MINUTE)).toEqual(['webhook', 'mqtt']);
    expect(waysNow({ ...alarm, level: 'act', told: ['webhook', 'mqtt'] }, rules, 15 * MINUTE)).toEqual(['mail']);
    expect(waysNow({ ...alarm, level: 'act', quiet: true }, rules, 15 * MINUTE)).toEqual([]);
    expect(ALARM_LEVELS.map((level) => isAtLeast(level, 'act'))).toEqual([false, false, true, true]);
  });

  it('quiet hours hold back what is less urgent until they are over', () => {
    const quiet = { from: '22:00', to: '07:00', timeZone: 'Europe/Paris', unless: 'act' as const };
    const night = Date.parse('2026-11-23T23:30:00Z');
    const tonight = { ...alarm, sinceMs: night };
    expect(waysNow(tonight, { ...USUAL_RULES, quiet }, night)).toEqual([]);
    expect(waysNow({ ...tonight, level: 'urgent' }, { ...USUAL_RULES, quiet }, night)).toEqual(MESSAGE_WAYS);
    expect(waysNow(tonight, { ...USUAL_RULES, quiet }, Date.parse('2026-11-24T06:00:00Z'))).toEqual(MESSAGE_WAYS);
  });

  it.each([
    ['09:00', '17:00', '09:00', true],
    ['09:00', '17:00', '17:00', false],
    ['22:00', '07:00', '22:00', true],
    ['22:00', '07:00', '07:00', false],
    ['22:00', '07:00', '06:59', true],
    ['12:00', '12:00', '12:00', false],
  ])('from %s to %s: %s is quiet, %s', (from, to, now, expected) => {
    expect(isQuiet({ from, to, timeZone: 'UTC', unless: 'act' }, Date.parse(`2026-11-23T${now}:00Z`))).toBe(expected);
  });

  it(`quiet hours are those of the wall clock, by another library, in zones with and without summer time (seed ${SEED})`, () => {
    const clock = fc.tuple(fc.integer({ min: 0, max: 23 }), fc.constantFrom(0, 15, 30, 45));
    const zones = fc.constantFrom('UTC', 'Europe/Paris', 'America/St_Johns', 'Asia/Kathmandu', 'Pacific/Auckland');
    const text = ([h, m]: [number, number]) => `${String(h).padStart(2, '0')}:${String(m).padStart(2, '0')}`;
    fc.assert(
      fc.property(clock, clock, zones, fc.integer({ min: 0, max: 366 * 1440 }), (from, to, timeZone, minute) => {
        const ms = Date.parse('2026-01-01T00:00:00Z') + minute * MINUTE;
        const there = { in: tz(timeZone) };
        const now = 60 * getHours(ms, there) + getMinutes(ms, there);
        const [a, b] = [from, to].map(([h, m]) => 60 * h + m) as [number, number];
        // Minutes since the beginning, around the clock.
        const expected = a !== b && (now - a + 1440) % 1440 < (b - a + 1440) % 1440;
        expect(isQuiet({ from: text(from), to: text(to), timeZone, unless: 'act' }, ms)).toBe(expected);
      }),
      { seed: SEED, numRuns: 500 },
    );
  });
});
