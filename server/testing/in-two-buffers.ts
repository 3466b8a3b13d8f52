import request from 'supertest';
import type { RunView } from '@frustum/contract';
import type { TestApplication } from './application.ts';
import { fromPhone, UP_TO_VERDICT } from './cast.ts';

/** A run from the hold to its end, typed by hand in two buffers: adjusted to what was found, or left. */
export async function runInTwoBuffers(
  { app }: Pick<TestApplication, 'app'>,
  sensorId: string,
  action: 'adjust' | 'leave',
): Promise<RunView> {
  const points = [{ standardId: 'technical-7.00' }, { standardId: 'technical-4.01' }];
  const begun = await request(app).post('/api/runs').send({ sensorId, points, school: 'statistical' });
  let run = begun.body as RunView;
  const sends = async (...bodies: object[]) => {
    const { length } = run.events;
    const events = bodies.map((body, i) => fromPhone(length + i, body, length + i));
    const answer = await request(app).post(`/api/runs/${run.runId}/events`).send({ events });
    if (answer.status !== 200) throw new Error(JSON.stringify(answer.body));
    run = answer.body as RunView;
  };
  await sends(...UP_TO_VERDICT);
  await sends({ type: 'decided', action, because: 'as it was found' });
  if (action === 'adjust') {
    await sends({ type: 'adjusted', coefficients: { zero: -8, sensitivity: 0.93 }, how: 'entered-by-hand' });
    await sends({ type: 'skipped', stepId: 'read-back', because: 'read later' });
  }
  await sends({ type: 'step-done', stepId: 'return', traceSeconds: null });
  await sends({ type: 'closed' });
  return run;
}
