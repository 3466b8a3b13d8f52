import { randomUUID } from 'node:crypto';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type {
  AlarmsView,
  MarginsView,
  NoticeRow,
  Problem,
  ReadingsView,
  SensorView,
  WalkView,
} from '@frustum/contract';
import { testApplication, type TestApplication } from '../../testing/application.ts';
import { RESERVOIR } from '../../testing/cast.ts';
import { AlarmWatch } from '../alarms/watch.ts';

/** Three displays that nobody but people reads, each in a scale of its own. */
const DISPLAYS = [
  { loopName: 'Frag tank temperature', family: 'temperature', workingValue: 25, tolerance: 0.5, shownAs: { scale: '°F', step: 0.1 }, settings: {} }, // prettier-ignore
  { loopName: 'Nursery pH', family: 'ph', workingValue: 5.8, tolerance: 0.1, shownAs: { scale: '', step: 0.1 } },
  { loopName: 'Veg room EC', family: 'conductivity', workingValue: 1900, tolerance: 60, shownAs: { scale: 'ppm×700', step: 10 }, settings: {} }, // prettier-ignore
];

describe('a walk along the displays', () => {
  let subject: TestApplication;
  let walkId = '';
  const ids: Record<string, { loopId: string; sensorId: string }> = {};
  const api = () => request(subject.app);
  const walk = async () => (await api().get('/api/walk')).body as WalkView;
  const stop = async (name: string) => (await walk()).stops.find((s) => s.loopName === name)!;
  const reads = (name: string, typed: string, unit: string, more: object = {}) =>
    api()
      .post(`/api/walks/${walkId}/readings`)
      .send({ id: randomUUID(), loopId: ids[name]!.loopId, typed, unit, ...more });
  const codeOf = (answer: { body: unknown }) => (answer.body as Problem).code;

  beforeAll(async () => {
    subject = await testApplication();
    for (const display of DISPLAYS) {
      const { pointSet: _, ...rest } = RESERVOIR as Record<string, unknown>;
      const added = await api().post('/api/sensors').send({ ...rest, pointSet: [], channel: { kind: 'hand' }, sensorName: `${display.loopName} probe`, ...display }); // prettier-ignore
      expect(added.status, JSON.stringify(added.body)).toBe(201);
      ids[display.loopName] = added.body as { loopId: string; sensorId: string };
    }
    const wired = { ...RESERVOIR, loopName: 'On a wire', channel: { kind: 'modbus', host: '127.0.0.1', port: 15_020, unitId: 1, baseAddress: 0 } }; // prettier-ignore
    await api().post('/api/sensors').send(wired);
    subject.context.poller.stop();
    subject.setNow('2026-11-23T09:00:20Z');
  });
  afterAll(() => subject.close());

  it('has every display that is read by eye, and goes on with the one that is under way, on any device', async () => {
    expect((await walk()).walk).toBeNull();
    const begun = (await api().post('/api/walk')).body as WalkView;
    walkId = begun.walk!.walkId;
    expect(begun.stops.map((s) => s.loopName)).toEqual(['Frag tank temperature', 'Nursery pH', 'Veg room EC']);
    expect((await stop('Nursery pH')).usual).toEqual({
      value: 5.8,
      sd: expect.closeTo(0.3, 9) as number,
      from: 'set-up',
    });
    expect(((await api().post('/api/walk')).body as WalkView).walk!.walkId).toBe(walkId);
  });

  it('what was typed is kept in the unit of the family, with one step of the display as its ±, and as a reading of its loop', async () => {
    expect((await reads('Frag tank temperature', '77,9', '°F')).status).toBe(201);
    const { done } = await stop('Frag tank temperature');
    // 77.9 °F is 25.5 °C; a step of 0.1 °F is 0.1/1.8 °C.
    expect(done).toMatchObject({ typed: '77,9', unit: '°F', value: expect.closeTo(25.5, 9) as number, plusMinus: expect.closeTo(1 / 18, 9) as number }); // prettier-ignore
    await reads('Veg room EC', '1330', 'ppm×700');
    await reads('Nursery pH', '5.7', 'pH');
    for (const [name, value, half] of [
      ['Frag tank temperature', 25.5, 1 / 18],
      ['Veg room EC', 1900, 10 / 0.7],
      ['Nursery pH', 5.7, 0.1],
    ] as const) {
      // prettier-ignore
      const view = (await api().get(`/api/sensors/${ids[name]!.sensorId}/readings?days=1`)).body as ReadingsView;
      expect(view.buckets, name).toHaveLength(1);
      expect(view.buckets[0]!.mean, name).toBeCloseTo(value, 2);
      expect((view.buckets[0]!.high - view.buckets[0]!.low) / 2, name).toBeCloseTo(half, 2);
    }
  });

  it('the same one sent twice is there once; the same display by somebody else is asked about; a correction takes its place', async () => {
    const id = randomUUID();
    const before = (await stop('Nursery pH')).done!;
    const twice = () => reads('Nursery pH', '5.6', 'pH', { id, replaces: before.id });
    expect([(await twice()).status, (await twice()).status]).toEqual([201, 201]);
    const other = await reads('Nursery pH', '5.9', 'pH');
    expect([other.status, codeOf(other)]).toEqual([409, 'walk-reading-there']);
    expect((other.body as Problem).detail).toContain('has read 5.6 pH there already');
    const view = (await api().get(`/api/sensors/${ids['Nursery pH']!.sensorId}/readings?days=1`)).body as ReadingsView;
    expect(view.buckets.map((b) => b.mean)).toEqual([expect.closeTo(5.6, 3)]);
  });

  it.each([
    ['Nursery pH', 'nine', 'pH', 'out-of-range'],
    ['Nursery pH', '58', 'pH', 'out-of-range'],
    ['Nursery pH', '5.8', 'mS/cm', 'scale-unknown'],
    ['Nursery pH', '1e999', 'pH', 'out-of-range'],
  ])('%s: “%s” %s is refused as %s', async (name, typed, unit, code) => {
    const answer = await reads(name, typed, unit, { replaces: (await stop(name)).done!.id });
    expect([answer.status, codeOf(answer)]).toEqual([422, code]);
  });

  it('a loop on a wire is not on it; ended, it takes nothing more, and the next one begins anew', async () => {
    const { rows } = (await api().get('/api/margins')).body as MarginsView;
    ids['On a wire'] = rows.find((r) => r.loopName === 'On a wire')!;
    expect(codeOf(await reads('On a wire', '7', 'pH'))).toBe('not-on-walk');
    await api().post(`/api/walks/${walkId}/end`);
    expect(
      codeOf(await reads('Veg room EC', '1330', 'ppm×700', { replaces: (await stop('Veg room EC')).done!.id })),
    ).toBe('walk-ended');
    expect(codeOf(await api().post(`/api/walks/${randomUUID()}/end`))).toBe('walk-unknown');
    const next = (await api().post('/api/walk')).body as WalkView;
    expect(next.walk!.walkId).not.toBe(walkId);
    expect(next.stops.every((s) => s.done === null)).toBe(true);
    walkId = next.walk!.walkId;
  });

  it('what a display shows beyond its limits is an alarm at once, in its own unit', async () => {
    const { loopId } = ids['Frag tank temperature']!;
    await api().put('/api/alarm-limits').send({ loops: [{ loopId, version: 1, alarmLimits: { warnHigh: 27, silentMinutes: 600 } }] }); // prettier-ignore
    subject.setNow('2026-11-23T09:30:00Z');
    await reads('Frag tank temperature', '82.4', '°F');
    const watch = new AlarmWatch(subject.context);
    await watch.look();
    const { standing } = (await api().get('/api/alarms')).body as AlarmsView;
    expect(standing.map((a) => a.text)).toEqual([
      expect.stringMatching(/^Frag tank temperature shows 82\.4 °F, above its limit of 80\.6 °F since 23 Nov, 09:30/),
    ]);
    // Nobody has read it for longer than its limit.
    subject.setNow('2026-11-23T20:00:00Z');
    await watch.look();
    const later = ((await api().get('/api/alarms')).body as AlarmsView).standing.map((a) => a.kind);
    expect(later.toSorted()).toEqual(['silent', 'water']);
  });
});

describe('what somebody notices at a loop', () => {
  let subject: TestApplication;
  let ids: { loopId: string; sensorId: string };
  const api = () => request(subject.app);
  beforeAll(async () => {
    subject = await testApplication();
    ids = (await api().post('/api/sensors').send(RESERVOIR)).body as typeof ids;
  });
  afterAll(() => subject.close());

  it('is kept once, taken back within a day, and no longer after that; a time to come is refused', async () => {
    const note = (body: object) => api().post(`/api/loops/${ids.loopId}/notices`).send(body);
    const at = '2026-11-23T08:00:00.000Z';
    expect((await note({ kind: 'fell', at, note: 'off the rim' })).status).toBe(201);
    await note({ kind: 'fell', at });
    await note({ kind: 'feeding' });
    const list = async () => ((await api().get(`/api/loops/${ids.loopId}/notices?days=7`)).body as NoticeRow[]).map((n) => n.kind); // prettier-ignore
    expect(await list()).toEqual(['feeding', 'fell']);
    expect((await note({ kind: 'fell', at: '2027-01-01T00:00:00Z' })).body).toMatchObject({ code: 'not-yet' });
    expect((await note({ kind: 'exploded' })).status).toBe(422);
    const back = (kind: string) => api().delete(`/api/loops/${ids.loopId}/notices`).send({ at, kind });
    expect((await back('fell')).status).toBe(200);
    expect((await back('fell')).body).toMatchObject({ code: 'stands' });
    expect(await list()).toEqual(['feeding']);
    // A sensor without a run is due for its first one, whatever was noted.
    expect(((await api().get(`/api/sensors/${ids.sensorId}`)).body as SensorView).row.due.atMs).toBeNull();
  });
});
