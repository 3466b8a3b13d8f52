import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { MarginsView, Problem, ReadingsView, RunView, SetUpView } from '@frustum/contract';
import { replay, writtenOfPlan, type ChannelId } from '@frustum/core';
import { keepReadings } from './services/channels/readings.ts';
import { AlarmWatch } from './services/alarms/watch.ts';
import { testApplication, type TestApplication } from './testing/application.ts';
import { RESERVOIR } from './testing/cast.ts';

describe('a loop in the unit of its instrument', () => {
  let subject: TestApplication;
  let ids: { loopId: string; sensorId: string };
  const api = () => request(subject.app);
  const row = async () => ((await api().get('/api/margins')).body as MarginsView).rows[0]!;
  const change = async (to: object) => {
    const { sites } = (await api().get('/api/set-up')).body as SetUpView;
    return api().put(`/api/loops/${ids.loopId}`).send({ version: sites[0]!.loops[0]!.version, to, why: '' });
  };
  const minute = (at: string, mean: number) => ({
    minute: at,
    count: 60,
    mean,
    low: mean,
    high: mean,
    temperatureC: 25,
  });

  beforeAll(async () => {
    subject = await testApplication();
    const channel = {
      kind: 'http-json',
      url: 'http://127.0.0.1:1/now',
      quantity: 'µS/cm',
      fixedC: 25,
      pollSeconds: 60,
    };
    const added = await api().post('/api/sensors').send({ ...RESERVOIR, family: 'conductivity', settings: { alpha: 2 }, workingValue: 1900, tolerance: 60, pointSet: ['kcl-0.01'], channel, shownAs: { scale: 'ppm×700', step: 10 } }); // prettier-ignore
    expect(added.status, JSON.stringify(added.body)).toBe(201);
    ids = added.body as typeof ids;
    subject.context.poller.stop();
    const channelId = (await row()).channelId as ChannelId;
    await keepReadings(subject.context, [{ channelId, ...minute('2026-11-23T08:50:00.000Z', 2100) }]);
  });
  afterAll(() => subject.close());

  it('is kept in the own unit of its family, and given in both: unit and scale stand beside every figure', async () => {
    expect(await row()).toMatchObject({ workingValue: 1900, tolerance: 60, written: { unit: 'ppm×700', workingValue: expect.closeTo(1330, 9) as number, tolerance: expect.closeTo(42, 6) as number } }); // prettier-ignore
    const read = async (as: string) => (await api().get(`/api/sensors/${ids.sensorId}/readings?days=1${as}`)).body as ReadingsView; // prettier-ignore
    expect(await read('')).toMatchObject({ unit: 'µS/cm', buckets: [{ mean: 2100 }] });
    expect(await read('&as=written')).toMatchObject({
      unit: 'ppm×700',
      buckets: [{ mean: expect.closeTo(1470, 3) as number }],
    });
  });

  it('a unit that changes leaves an open run in the one that it began with, and what is raised from then on in the new one', async () => {
    const order = { sensorId: ids.sensorId, points: [{ standardId: 'kcl-0.01' }], school: 'statistical' };
    const { runId } = (await api().post('/api/runs').send(order)).body as { runId: string };
    expect((await change({ shownAs: { scale: 'mS/cm 20 °C', step: 0.01 } })).status).toBe(200);
    const { events } = (await api().get(`/api/runs/${runId}`)).body as RunView;
    expect(writtenOfPlan(replay(events).plan).unit).toBe('ppm×700');
    // 1900 µS/cm at 25 °C are 1710 at 20 °C, by 2 %/°C.
    expect((await row()).written).toMatchObject({
      unit: 'mS/cm 20 °C',
      workingValue: expect.closeTo(1.71, 9) as number,
    });
    await api().post(`/api/runs/${runId}/events`).send({ events: [{ device: 'phone-of-the-test', counter: 1, at: '2026-11-23T09:00:00Z', onSeq: null, body: { type: 'abandoned', because: 'enough' } }] }); // prettier-ignore
    const version = (await change({ place: 'Hall 2' })).body as { version: number };
    await api().put('/api/alarm-limits').send({ loops: [{ loopId: ids.loopId, ...version, alarmLimits: { warnHigh: 2000, forMinutes: 0 } }] }); // prettier-ignore
    subject.setNow('2026-11-23T09:20:00Z');
    const channelId = (await row()).channelId as ChannelId;
    await keepReadings(subject.context, [{ channelId, ...minute('2026-11-23T09:19:00.000Z', 2100) }]);
    await new AlarmWatch(subject.context).look();
    const { standing } = (await api().get('/api/alarms')).body as { standing: { text: string }[] };
    expect(standing.map((a) => a.text).join()).toContain('shows 1.89 mS/cm 20 °C, above its limit of 1.80 mS/cm 20 °C since 23 Nov, 09:19'); // prettier-ignore
  });

  it.each([
    [{ shownAs: { scale: 'pH', step: null } }, 'scale-unknown'],
    [{ shownAs: { scale: '', step: 0 } }, 'not-valid'],
    [{ shownAs: { scale: 'ppm', step: 1 } }, 'scale-unknown'],
  ])('%j is refused, and the unit stays', async (to, code) => {
    const before = (await row()).shownAs;
    expect(((await change(to)).body as Problem).code).toBe(code);
    expect((await row()).shownAs).toEqual(before);
  });
});
