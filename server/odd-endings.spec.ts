import request from 'supertest';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { MarginsView, Problem, RunView, SensorView } from '@frustum/contract';
import { judge, replay } from '@frustum/core';
import { testApplication, type TestApplication } from './testing/application.ts';
import { capture, fromPhone, RESERVOIR, UP_TO_VERDICT } from './testing/cast.ts';

let application: TestApplication;
beforeAll(async () => {
  application = await testApplication();
});
afterAll(() => application.close());
const api = () => request(application.app);

/** A run in two buffers, typed by hand, and what a phone sends into it. */
async function begins(loopName: string) {
  const { sensorId } = (
    await api()
      .post('/api/sensors')
      .send({ ...RESERVOIR, loopName })
  ).body as { sensorId: string };
  const order = {
    sensorId,
    points: [{ standardId: 'technical-7.00' }, { standardId: 'technical-4.01' }],
    school: 'statistical',
  };
  const { runId } = (await api().post('/api/runs').send(order)).body as RunView;
  const send = async (...bodies: object[]) =>
    api()
      .post(`/api/runs/${runId}/events`)
      .send({ events: bodies.map((body) => fromPhone(++sent, body)) });
  const state = async () => replay(((await api().get(`/api/runs/${runId}`)).body as RunView).events);
  const ends = async () => {
    for (let step = (await state()).current; step; step = (await state()).current)
      await send({ type: 'step-done', stepId: step.id, traceSeconds: null });
    await send({ type: 'closed' });
    expect((await state()).status).toBe('closed');
    const page = await api().get(`/api/sensors/${sensorId}`);
    expect(page.status).toBe(200);
    for (const path of [`/api/runs/${runId}/record.pdf`, '/api/alarms', `/api/sensors/${sensorId}/readings?days=7`])
      expect((await api().get(path)).status, path).toBe(200);
    // The next run can be begun, and is expected from what is known.
    expect((await api().post('/api/runs').send(order)).status).toBe(201);
    return (page.body as SensorView).runs[0]!.outcome!;
  };
  const evidence = async () =>
    ((await api().get(`/api/sensors/${sensorId}`)).body as SensorView).health!.evidence.map((e) => e.piece);
  return { runId, send, state, ends, evidence };
}
/** Events of the phone, over all runs. */
let sent = 0;

it('the same number in two cups, as a cracked glass gives: nothing is adjusted by it, the run ends, and every page still answers', async () => {
  const { runId, send, state, ends } = await begins('Cracked pH');
  await send(...UP_TO_VERDICT.slice(0, 5), capture(1, -8.9, 'p1.settle.1'));
  expect(judge(await state())!.sentence).toBe('Investigate it: both cups read alike: cracked glass, cap on, or cable.');
  expect((await api().get(`/api/runs/${runId}/outlook`)).status).toBeLessThan(500);

  const refused = await send({ type: 'decided', action: 'adjust', because: 'it should do' });
  expect(refused.status).toBe(422);
  expect((refused.body as Problem).code).toBe('nothing-to-adjust-by');

  await send({ type: 'decided', action: 'investigate', because: '' });
  expect((await ends()).sentence).toContain('read alike');
  const margins = await api().get('/api/margins');
  expect(margins.status).toBe(200);
  expect((margins.body as MarginsView).rows[0]!.margin.state).not.toBe('inside');
});

it('an instrument that refuses the calibration: nothing is read back, and nothing is in force that was not before', async () => {
  const { send, state, ends, evidence } = await begins('Stubborn pH');
  await send(...UP_TO_VERDICT, { type: 'decided', action: 'adjust', because: '' });
  expect((await send({ type: 'adjustment-refused', message: '' })).status).toBe(422);
  const shows = { zero: -31, sensitivity: 0.71 };
  expect((await send({ type: 'adjustment-refused', message: 'Err 7: slope', shows })).status).toBe(200);
  expect((await state()).current!.id).toBe('return');
  const outcome = await ends();
  expect(outcome).toMatchObject({
    kind: 'verification',
    refused: { message: 'Err 7: slope', shows },
    readBackShown: null,
  });
  expect(outcome.inForceAfter).toEqual(outcome.inForceBefore);
  expect(outcome.asLeft).toEqual(outcome.asFound);
  // It reckoned something else from the same cups: that says nothing of the sensor.
  expect(await evidence()).not.toContain('refused');
});

it('refused without a figure that speaks against the run: evidence on the sensor’s page', async () => {
  const { send, ends, evidence } = await begins('Refused pH');
  await send(...UP_TO_VERDICT, { type: 'decided', action: 'adjust', because: '' });
  await send({ type: 'adjustment-refused', message: 'Err 7', shows: null });
  await ends();
  expect(await evidence()).toContain('refused');
});
