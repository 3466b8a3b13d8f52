import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { replay } from '@frustum/core';
import type { MarginsView, Problem, RunView } from '@frustum/contract';
import { testApplication, type TestApplication } from './testing/application.ts';
import { capture, fromPhone, RESERVOIR } from './testing/cast.ts';

let subject: TestApplication;
beforeAll(async () => {
  subject = await testApplication();
});
afterAll(() => subject.close());

describe('a live capture', () => {
  const channel = { kind: 'modbus', host: '127.0.0.1', port: 15_020, unitId: 1, baseAddress: 0 };
  const order = { points: [{ standardId: 'technical-7.00' }, { standardId: 'technical-4.01' }], school: 'statistical' };
  let runId = '';
  let sent = 0;
  const send = (at: string, body: object) =>
    request(subject.app)
      .post(`/api/runs/${runId}/events`)
      .send({ events: [{ ...fromPhone(++sent, body), at }] });
  const live = (signal: number, stepId: string, sampledAt: string | null) => {
    const typed = capture(0, signal, stepId);
    return { ...typed, capture: { ...typed.capture, method: 'live', sampledAt } };
  };
  const state = async () => replay(((await request(subject.app).get(`/api/runs/${runId}`)).body as RunView).events);

  it('begins with what the water gave: the middle of the readings that are live', async () => {
    const added = await request(subject.app)
      .post('/api/sensors')
      .send({ ...RESERVOIR, channel });
    const { sensorId } = added.body as { sensorId: string };
    subject.context.poller.stop();
    const { rows } = (await request(subject.app).get('/api/margins')).body as MarginsView;
    const { channelId } = rows.find((r) => r.sensorId === sensorId)!;
    const says = (at: string, signals: readonly number[]) => {
      subject.setNow(at);
      for (const signal of signals)
        subject.context.hub.publish({
          event: 'sample',
          data: { channelId, t: signal, epoch: 'e', signal, unit: 'mV', temperatureC: 22 },
        });
    };
    says('2026-11-23T08:50:00Z', [300, 310, 320]);
    says('2026-11-23T08:59:55Z', [68, 400, 71]);
    subject.setNow('2026-11-23T09:00:00Z');
    const run = (
      await request(subject.app)
        .post('/api/runs')
        .send({ sensorId, ...order })
    ).body as RunView;
    ({ runId } = run);
    expect(run.staleSeconds).toBe(15);
    expect(replay(run.events).plan.waterBefore).toEqual({ signal: 71, temperatureC: 22 });
  });

  it('of a reading that was too old at the moment of the deed is refused with both figures, and nothing is kept', async () => {
    subject.setNow('2026-11-23T09:10:00Z');
    for (const stepId of ['hold', 'take-out', 'p1.place.0'])
      expect((await send('2026-11-23T09:05:00Z', { type: 'step-done', stepId, traceSeconds: null })).status).toBe(200);
    const old = await send('2026-11-23T09:06:00Z', live(-8.9, 'p1.settle.0', '2026-11-23T09:04:26Z'));
    expect(old.status).toBe(422);
    expect((old.body as Problem).code).toBe('reading-too-old');
    expect((old.body as Problem).detail).toMatch(/newest reading was 94 s old; a live one is 15 s at most/);
    const silent = await send('2026-11-23T09:06:00Z', live(-8.9, 'p1.settle.0', null));
    expect((silent.body as Problem).detail).toMatch(/does not say when/);
    expect((await state()).captures).toEqual([]);
  });

  it('that was fresh at that moment is kept, however late it comes', async () => {
    subject.setNow('2026-11-23T11:00:00Z');
    const late = await send('2026-11-23T09:06:03Z', live(-8.9, 'p1.settle.0', '2026-11-23T09:06:00Z'));
    expect(late.status).toBe(200);
    expect((await state()).captures).toMatchObject([{ signal: -8.9, at: '2026-11-23T09:06:03.000Z' }]);
  });

  it.each([
    ['a year ahead', '2027-11-23T09:06:00Z', '2026-11-23T11:00:00.000Z'],
    ['a year back', '2025-11-23T09:06:00Z', '2026-11-23T09:00:00.000Z'],
  ])('a device whose clock is %s writes no time that cannot be', async (_, at, kept) => {
    await send(at, { type: 'noted', text: at });
    expect((await state()).notes.at(-1)).toMatchObject({ text: at, at: kept });
  });

  it('whose decision came second is told what was done instead, when, and on which device', async () => {
    await send('2026-11-23T10:30:00Z', { type: 'step-reopened', stepId: 'p1.place.0', traceSeconds: null });
    const event = { device: 'the-other-tablet', counter: 1, at: '2026-11-23T10:31:00Z', onSeq: 2 };
    const lost = await request(subject.app)
      .post(`/api/runs/${runId}/events`)
      .send({ events: [{ ...event, body: { type: 'abandoned', because: 'called away' } }] });
    expect(lost.status).toBe(409);
    expect((lost.body as Problem).detail).toContain('Device sump went back to a step at 10:30 UTC.');
    expect((await state()).status).toBe('open');
  });
});
