import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { MS_PER_DAY, coneOf } from '@frustum/core';
import { moveSensor } from '../services/house/life.ts';
import { historyOf } from '../../sim/fleets/history.ts';
import { TIDEWATER, truthOf } from '../../sim/fleets/tidewater.ts';
import { testApplication, type TestApplication } from '../testing/application.ts';
import { loadBundle } from '../services/house/load-bundle.ts';
import { marginRows } from '../services/margins/margins.ts';
import { readHouse } from '../services/house/read-house.ts';
import { ComparisonCache } from './comparison-cache.ts';

const TODAY = Date.UTC(2026, 10, 23, 9);
const SEED = 77;
/** The two in the gallery, and one that hangs elsewhere. The junction of the second clogs, which buffers do not show. */
const [MAIN, BACKUP, ELSEWHERE] = TIDEWATER;

describe('two sensors in the same water', () => {
  let application: TestApplication;
  beforeAll(async () => {
    application = await testApplication();
    const bundle = historyOf(TODAY, SEED, { host: '127.0.0.1', port: 1 }, [MAIN!, BACKUP!, ELSEWHERE!]);
    const loops = bundle.loops.map((l) => ({ ...l, channel: { kind: 'hand' } as const }));
    // A third one in the same water was never calibrated: it is no yardstick, and keeps the two from nothing.
    const never = {
      ...loops[0]!,
      key: 'never',
      name: 'Display pH, new',
      sensor: { ...loops[0]!.sensor, serial: 'N-1' },
    };
    await loadBundle(application.context, { ...bundle, loops: [never, ...loops] });
  });
  afterAll(() => application.close());

  it('are held beside each other week by week, and nobody else is', async () => {
    const rows = await marginRows(application.context);
    const besideOf = (name: string) => rows.find((r) => r.loopName === name)!.beside;
    expect(besideOf(MAIN!.name)!.loops).toEqual([BACKUP!.name]);
    expect(besideOf(BACKUP!.name)!.loops).toEqual([MAIN!.name]);
    // 60 days are nine or ten weeks; a run or two breaks one.
    expect(besideOf(MAIN!.name)!.times).toBeGreaterThan(8);
    expect(besideOf(MAIN!.name)!.times).toBe(besideOf(BACKUP!.name)!.times);
    expect(besideOf(ELSEWHERE!.name)).toBeNull();
    expect(besideOf('Display pH, new')).toBeNull();
  });

  it('both are better known by it, and what only the water shows is called an error of neither', async () => {
    const house = await readHouse(application.context);
    for (const loop of [MAIN!, BACKUP!]) {
      const fitted = house.all.find((f) => f.loop.name === loop.name)!;
      const past = house.pastOf(fitted);
      const { together: _, ...alone } = past;
      const own = coneOf(fitted, alone, TODAY).errorAt!(TODAY);
      const joint = coneOf(fitted, past, TODAY).errorAt!(TODAY);
      expect(joint.half95).toBeLessThan(own.half95);
      // The junction makes 0.19 pH in this water by now: it is not put down to either zero.
      expect(truthOf(BACKUP!, SEED).reference.blockedMv).toBeGreaterThan(11);
      expect(Math.abs(joint.mean - own.mean)).toBeLessThan(0.02);
    }
  });

  it('days are read once, and the last ones again', async () => {
    const asked: string[] = [];
    const { store } = application.context;
    const watching = {
      readDaysBeside: (ids: readonly string[], from: string, to: string) => {
        asked.push(from);
        return store.readDaysBeside(ids, from, to);
      },
    };
    const house = await readHouse(application.context);
    const group = [MAIN!, BACKUP!].map((l) => house.all.find((f) => f.loop.name === l.name)!);
    const beside = new ComparisonCache();
    const first = await beside.daysOf(watching, group, TODAY);
    const second = await beside.daysOf(watching, group, TODAY + MS_PER_DAY / 24);
    expect(second.map((d) => d.atMs)).toEqual(first.map((d) => d.atMs));
    second.forEach((d, i) => expect(d.given[1]!.mean).toBeCloseTo(first[i]!.given[1]!.mean, 9));
    expect(Date.parse(asked[1]!) - Date.parse(asked[0]!)).toBeGreaterThan(100 * MS_PER_DAY);
  });

  it('one that was out for a night is held beside the other only since it is back', async () => {
    const { context } = application;
    const fitted = (await readHouse(context)).all.find((f) => f.loop.name === BACKUP!.name)!;
    const move = (version: number, ms: number, to: 'wet' | 'loop') =>
      moveSensor(context, fitted.sensor.id, { version, to, ...(to === 'loop' ? { loopId: fitted.loop.id } : {}), soaked: true, at: new Date(ms).toISOString(), why: '' }, ''); // prettier-ignore
    const before = (await marginRows(context)).find((r) => r.loopName === MAIN!.name)!.beside!.times;
    await move(fitted.sensor.version, TODAY - 20 * MS_PER_DAY, 'wet');
    await move(fitted.sensor.version + 1, TODAY - 19.5 * MS_PER_DAY, 'loop');
    const { beside } = (await marginRows(context)).find((r) => r.loopName === MAIN!.name)!;
    expect(before).toBeGreaterThan(8);
    // Nineteen days touch four weeks at most.
    expect(beside!.times).toBeLessThanOrEqual(4);
    expect(beside!.times).toBeGreaterThan(0);
  });
});
