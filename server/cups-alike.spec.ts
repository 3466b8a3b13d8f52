import request from 'supertest';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { MarginsView, Problem, RunView, SensorView } from '@frustum/contract';
import { judge, replay } from '@frustum/core';
import { testApplication, type TestApplication } from './testing/application.ts';
import { capture, fromPhone, RESERVOIR, UP_TO_VERDICT } from './testing/cast.ts';

/** A cracked glass reads the same in every cup: no page may fall over it, and nothing may be adjusted by it. */
let application: TestApplication;
beforeAll(async () => {
  application = await testApplication();
});
afterAll(() => application.close());

it('the same number in two cups: nothing is adjusted by it, the run ends, and every page still answers', async () => {
  const api = () => request(application.app);
  const { sensorId } = (await api().post('/api/sensors').send(RESERVOIR)).body as { sensorId: string };
  const order = {
    sensorId,
    points: [{ standardId: 'technical-7.00' }, { standardId: 'technical-4.01' }],
    school: 'statistical',
  };
  const { runId } = (await api().post('/api/runs').send(order)).body as RunView;
  let sent = 0;
  const send = async (...bodies: object[]) =>
    api()
      .post(`/api/runs/${runId}/events`)
      .send({ events: bodies.map((body) => fromPhone(++sent, body)) });
  await send(...UP_TO_VERDICT.slice(0, 5), capture(1, -8.9, 'p1.settle.1'));
  const state = async () => replay(((await api().get(`/api/runs/${runId}`)).body as RunView).events);
  expect(judge(await state())!.sentence).toBe('Investigate it: both cups read alike: cracked glass, cap on, or cable.');
  expect((await api().get(`/api/runs/${runId}/outlook`)).status).toBeLessThan(500);

  const refused = await send({ type: 'decided', action: 'adjust', because: 'it should do' });
  expect(refused.status).toBe(422);
  expect((refused.body as Problem).code).toBe('nothing-to-adjust-by');

  await send({ type: 'decided', action: 'investigate', because: '' });
  for (let step = (await state()).current; step; step = (await state()).current)
    await send({ type: 'step-done', stepId: step.id, traceSeconds: null });
  await send({ type: 'closed' });
  expect((await state()).status).toBe('closed');

  const margins = await api().get('/api/margins');
  expect(margins.status).toBe(200);
  expect((margins.body as MarginsView).rows[0]!.margin.state).not.toBe('inside');
  const page = await api().get(`/api/sensors/${sensorId}`);
  expect(page.status).toBe(200);
  expect((page.body as SensorView).runs[0]!.outcome!.sentence).toContain('read alike');
  for (const path of [`/api/runs/${runId}/record.pdf`, '/api/alarms', `/api/sensors/${sensorId}/readings?days=7`])
    expect((await api().get(path)).status, path).toBeLessThan(500);
  // The next run can be begun, and is expected from what is known.
  expect((await api().post('/api/runs').send(order)).status).toBe(201);
});
