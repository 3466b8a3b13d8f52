import request from 'supertest';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { RunView } from '@frustum/contract';
import { testApplication, type TestApplication } from '../../testing/application.ts';
import { fromPhone, RESERVOIR } from '../../testing/cast.ts';
import { keepReadings } from './readings.ts';

let application: TestApplication;
beforeAll(async () => {
  application = await testApplication();
});
afterAll(() => application.close());

it('a body at the bench takes all its sensors along: none of their minutes are kept as readings of the water', async () => {
  const { context, app } = application;
  const added = async (loopName: string, referenceGroup: string, more: object = {}) => {
    const sensor = { ...RESERVOIR, loopName, sensorName: `${loopName} probe`, referenceGroup, controls: '', ...more };
    return ((await request(app).post('/api/sensors').send(sensor)).body as { sensorId: string }).sensorId;
  };
  const ids = [
    await added('Body pH', 'one body'),
    await added('Body potassium', 'one body'),
    await added('Another pH', ''),
    // With no reference of its own; on the reference, and not on the body; of the same name at another site.
    await added('Body thermometer', '', { body: 'one body' }),
    await added('Apart', 'one body', { body: 'a holder of its own' }),
    await added('Elsewhere', 'one body', { siteName: 'Another house' }),
  ];
  const fitted = await context.store.readFittedLoops();
  const channelOf = (sensorId: string) => fitted.find((f) => f.sensor.id === sensorId)!.channel.id;
  const minutes = ids.map((id) => ({
    channelId: channelOf(id),
    minute: '2026-11-23T09:00:00.000Z',
    count: 60,
    mean: -3,
    low: -3.2,
    high: -2.8,
    temperatureC: 22,
  }));
  const atBench = async () => {
    await keepReadings(context, minutes);
    const read = (id: string) =>
      context.store.readMinutes(channelOf(id), '2026-11-23T08:59:00.000Z', '2026-11-23T09:10:00.000Z');
    return Promise.all(ids.map(async (id) => (await read(id)).at(-1)!.onBench));
  };
  expect(await atBench()).toEqual([false, false, false, false, false, false]);
  const order = { sensorId: ids[0], points: [{ standardId: 'technical-7.00' }, { standardId: 'technical-4.01' }] };
  const started = await request(app)
    .post('/api/runs')
    .send({ ...order, school: 'statistical' });
  expect(started.status, JSON.stringify(started.body)).toBe(201);
  expect(await atBench()).toEqual([true, true, false, true, false, false]);
  // After it has come back, as long as the sensor itself.
  const { runId } = started.body as RunView;
  await request(app)
    .post(`/api/runs/${runId}/events`)
    .send({ events: [fromPhone(1, { type: 'abandoned', because: 'enough' })] });
  // A device that was away sends the hours before and after later: only those of the run were at the bench.
  application.setNow('2026-11-23T12:00:00Z');
  const of = (minute: string) => ({ ...minutes[0]!, minute });
  await keepReadings(context, ['2026-11-23T07:00:00.000Z', '2026-11-23T11:00:00.000Z'].map(of));
  const kept = await context.store.readMinutes(
    channelOf(ids[0]!),
    '2026-11-23T00:00:00.000Z',
    '2026-11-24T00:00:00.000Z',
  );
  expect(kept.map((m) => m.onBench)).toEqual([false, true, false]);
  const since = await context.store.readBenchedSince('2026-11-22T00:00:00.000Z');
  expect(since.get(ids[1]!)).toBe(since.get(ids[0]!));
  expect(since.get(ids[2]!)).toBeUndefined();
});
