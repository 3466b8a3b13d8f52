import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ConesView, LotRow, MarginsView, Problem, RunView, SensorView } from '@frustum/contract';
import { DRIFT_VERSION, NO_FLEET, replay, type RunPlan } from '@frustum/core';
import { makeApp } from './app.ts';
import { checkConfig } from './config/config.ts';
import { testApplication, type TestApplication } from './testing/application.ts';
import { capture, fromPhone, RESERVOIR, UP_TO_VERDICT } from './testing/cast.ts';

let subject: TestApplication;
beforeAll(async () => {
  subject = await testApplication();
});
afterAll(() => subject.close());

const api = () => request(subject.app);
const margins = async () => (await api().get('/api/margins')).body as MarginsView;

describe('from nothing to the next due date, over the API', () => {
  let sensorId = '';
  let runId = '';

  it('is empty and well', async () => {
    const health = await api().get('/api/health');
    expect(health.body).toEqual({ ok: true, demo: false });
    // Only its own scripts, whatever a text in it says.
    expect(health.headers['content-security-policy']).toMatch(/default-src 'self';.*script-src 'self';/);
    expect((await margins()).rows).toEqual([]);
  });

  it('adds site, loop, sensor and channel in one go, once', async () => {
    const added = await api().post('/api/sensors').send(RESERVOIR);
    expect(added.status).toBe(201);
    sensorId = (added.body as { sensorId: string }).sensorId;
    const again = await api().post('/api/sensors').send(RESERVOIR);
    expect(again.status).toBe(409);
    expect((again.body as Problem).detail).toMatch(/Names stay unique/);
    const [row] = (await margins()).rows;
    expect(row).toMatchObject({ loopName: 'Reservoir 1 pH', margin: { state: 'not known' }, due: { atMs: null } });
  });

  it('starts one run a sensor, with what it rests on frozen in its first event', async () => {
    const order = {
      sensorId,
      points: [{ standardId: 'technical-7.00' }, { standardId: 'technical-4.01' }],
      school: 'statistical',
    };
    const started = await api().post('/api/runs').send(order);
    expect(started.status).toBe(201);
    const view = started.body as RunView;
    runId = view.runId;
    expect(view.events[0]!.body).toMatchObject({
      type: 'started',
      plan: {
        tolerance: 0.15,
        inForceKnown: false,
        controls: 'acid dosing',
        // Who expected it: an engine that has learned nothing of this house yet.
        expectedBy: { version: DRIFT_VERSION, fleet: NO_FLEET },
      },
    });
    const twin = await api().post('/api/runs').send(order);
    expect(twin.status).toBe(409);
    expect((twin.body as Problem).facts).toEqual({ runId });
  });

  it('counts a retried batch once', async () => {
    const events = UP_TO_VERDICT.map((body, i) => fromPhone(i + 1, body));
    expect(
      (
        await api()
          .post(`/api/runs/${runId}/events`)
          .send({ events: events.slice(0, 3) })
      ).status,
    ).toBe(200);
    const all = await api().post(`/api/runs/${runId}/events`).send({ events });
    expect((all.body as RunView).events.map((e) => e.seq)).toEqual([1, 2, 3, 4, 5, 6, 7]);
    expect(replay((all.body as RunView).events).current!.kind).toBe('decide');
  });

  it('takes in two devices at once without losing either', async () => {
    const note = (device: string, counter: number) => ({
      ...fromPhone(counter, { type: 'noted', text: `${device} ${counter}` }),
      device,
    });
    const answers = await Promise.all(
      [1, 2, 3, 4].map((n) =>
        api()
          .post(`/api/runs/${runId}/events`)
          .send({ events: [note(`tablet-at-bench-${n % 2}`, n)] }),
      ),
    );
    expect(answers.map((a) => a.status)).toEqual([200, 200, 200, 200]);
    const view = (await api().get(`/api/runs/${runId}`)).body as RunView;
    expect(view.events.map((e) => e.seq)).toEqual(Array.from({ length: 11 }, (_, i) => i + 1));
  });

  it('an event that is sent twice is kept once; another event under the same number is refused', async () => {
    const send = (...events: object[]) => api().post(`/api/runs/${runId}/events`).send({ events });
    const note = (text: string) => fromPhone(15, { type: 'noted', text });
    const before = ((await api().get(`/api/runs/${runId}`)).body as RunView).events.length;
    expect((await send(note('Rinsed twice.'), note('Rinsed twice.'))).status).toBe(200);
    const again = await send(note('Rinsed twice.'));
    expect((again.body as RunView).events).toHaveLength(before + 1);
    const other = await send(note('Something else.'));
    expect(other.status).toBe(409);
    expect(other.body).toMatchObject({ code: 'counter-taken', facts: { counter: 15 } });
  });

  it('refuses a decision made on an older picture, with the difference', async () => {
    const answer = await api()
      .post(`/api/runs/${runId}/events`)
      .send({ events: [fromPhone(20, { type: 'decided', action: 'adjust', because: '' }, 7)] });
    expect(answer.status).toBe(409);
    expect(answer.body).toMatchObject({ code: 'run-moved', facts: { onSeq: 7, seq: 12 } });
  });

  it('decides, adjusts, reads back, closes; the cone opens and the due date moves', async () => {
    const found = { zero: -7.8, sensitivity: 0.93 };
    // The decision that was refused stands as a note before these.
    const events = [
      // On a slow line a fact waits, and goes together with the decision that was made on it.
      fromPhone(21, { type: 'noted', text: 'Seen on the way.' }),
      fromPhone(22, { type: 'decided', action: 'adjust', because: '' }, 14),
      fromPhone(23, { type: 'adjusted', coefficients: found, how: 'entered-by-hand' }, 15),
      fromPhone(24, capture(1, 156.3, 'read-back', 'read-back')),
      fromPhone(25, { type: 'step-done', stepId: 'return', traceSeconds: null }),
      fromPhone(26, { type: 'closed' }, 18),
    ];
    const closed = await api().post(`/api/runs/${runId}/events`).send({ events });
    expect(closed.status, JSON.stringify(closed.body)).toBe(200);
    const [row] = (await margins()).rows;
    expect(row).toMatchObject({ inForce: found, inForceKnown: true, openRunId: null, margin: { state: 'inside' } });
    expect(new Date(row!.due.atMs!).toISOString().slice(0, 10)).toBe('2026-12-23');
    const sensor = (await api().get(`/api/sensors/${sensorId}`)).body as SensorView;
    expect(sensor.runs[0]!.outcome!.coefficients.sensitivity).toBeCloseTo(0.9375, 3);
    subject.setNow('2027-02-20T09:00:00Z');
    expect((await margins()).rows[0]!.margin.expanded!).toBeGreaterThan(row!.margin.expanded!);
    subject.setNow('2026-11-23T09:00:00Z');
  });

  it('by the forecast it is due sooner, never later than the days say; a schedule is changed from what it was', async () => {
    const schedule = (body: object) => api().put(`/api/sensors/${sensorId}/schedule`).send(body);
    const was = { dueBy: 'calendar', intervalDays: 30 };
    const dueNow = async () => (await margins()).rows[0]!;
    const { forecast } = await dueNow();
    const days = Math.ceil((forecast.atMs! - (await dueNow()).lastRunMs!) / 86_400_000) + 40;
    const changed = await schedule({ dueBy: 'forecast', intervalDays: days, was });
    expect([changed.status, changed.body]).toEqual([200, { dueBy: 'forecast', intervalDays: days }]);
    expect((await dueNow()).due).toEqual(forecast);
    // Somebody else still sees the old one.
    const late = await schedule({ dueBy: 'calendar', intervalDays: 14, was });
    expect([late.status, (late.body as Problem).code]).toEqual([409, 'schedule-moved']);
    const wrong = await schedule({ dueBy: 'calendar', intervalDays: 0, was });
    expect([wrong.status, (wrong.body as Problem).detail]).toEqual([422, expect.stringMatching(/Interval/)]);
    const now = { dueBy: 'forecast', intervalDays: days };
    await schedule({ dueBy: 'forecast', intervalDays: 2, was: now });
    expect((await dueNow()).due.reason).toMatch(/^every 2 days at the latest/);
    await schedule({ ...was, was: { dueBy: 'forecast', intervalDays: 2 } });
    expect((await dueNow()).due.reason).toBe('every 30 days');
  });

  it('keeps the record as it was: an ended run takes notes and nothing else, and no row of it can be changed', async () => {
    const late = await api()
      .post(`/api/runs/${runId}/events`)
      .send({ events: [fromPhone(30, { type: 'step-done', stepId: 'hold', traceSeconds: null })] });
    expect(late.status).toBe(200);
    expect((late.body as RunView).events.at(-1)!.body).toEqual({
      type: 'noted',
      text: 'Came after the run had ended: step-done of step hold.',
    });
    const decided = await api()
      .post(`/api/runs/${runId}/events`)
      .send({ events: [fromPhone(31, { type: 'decided', action: 'leave', because: '' })] });
    expect(decided.status).toBe(409);
    expect((decided.body as Problem).detail).toMatch(/Start a new one/);
  });
});

describe('every edge is checked', () => {
  it.each([
    ['a tolerance of nothing', '/api/sensors', { ...RESERVOIR, loopName: 'B', tolerance: 0 }, 'tolerance'],
    [
      'a working value as a word',
      '/api/sensors',
      { ...RESERVOIR, loopName: 'B', workingValue: 'acid' },
      'workingValue',
    ],
    [
      'a host that is none',
      '/api/sensors',
      { ...RESERVOIR, loopName: 'B', channel: { kind: 'modbus', host: 'a b;c', port: 502, unitId: 1, baseAddress: 0 } },
      'channel.host',
    ],
    ['an unknown field', '/api/sensors', { ...RESERVOIR, loopName: 'B', isAdmin: true }, ''],
    [
      'six standards',
      '/api/runs',
      {
        sensorId: '00000000-0000-4000-8000-000000000000',
        points: Array.from({ length: 6 }, () => ({ standardId: 'technical-7.00' })),
        school: 'statistical',
      },
      'points',
    ],
    [
      'a lot without a date',
      '/api/lots',
      { standardId: 'technical-7.00', label: 'K-1', expiresOn: 'soon' },
      'expiresOn',
    ],
  ])('%s is refused with its field', async (_, path, body, field) => {
    const answer = await api().post(path).send(body);
    expect(answer.status).toBe(422);
    expect(answer.type).toBe('application/problem+json');
    expect((answer.body as Problem).errors!.map((e) => e.path)).toContain(field);
  });

  it.each([
    ['an id that is none', 'get', '/api/runs/%27;drop%20table%20runs', 404],
    ['an id of nothing', 'get', '/api/sensors/00000000-0000-4000-8000-000000000000', 404],
    ['an address of nothing', 'get', '/api/nowhere', 404],
    ['a stand-in that is not there', 'get', '/api/stand-in/00000000-0000-4000-8000-000000000000', 404],
  ] as const)('%s: %s %s is %i', async (_, method, path, status) => {
    const answer = await api()[method](path);
    expect(answer.status).toBe(status);
    expect((answer.body as Problem).detail).not.toBe('');
  });

  it('refuses a body that is not JSON or too large, a request from another site, and events a bench cannot send', async () => {
    expect((await api().post('/api/runs').set('content-type', 'application/json').send('{oops')).status).toBe(400);
    expect(
      (
        await api()
          .post('/api/runs')
          .send({ x: 'y'.repeat(2_200_000) })
      ).status,
    ).toBe(413);
    const foreign = await api().post('/api/lots').set('origin', 'https://elsewhere.example').send({});
    expect((foreign.body as Problem).code).toBe('other-origin');
    expect((await api().post('/api/lots').set('origin', 'null').send({})).status).toBe(403);
    expect((await api().get('/api/margins').set('host', 'rebound.example')).status).toBe(403);
    // Nor is it read from another site, whatever method that site found.
    expect((await api().get('/api/margins').set('sec-fetch-site', 'cross-site')).status).toBe(403);
    expect((await api().get('/api/margins').set('sec-fetch-site', 'same-site')).status).toBe(403);
    expect((await api().get('/api/margins').set('origin', 'https://elsewhere.example')).status).toBe(403);
    expect((await api().get('/api/margins').set('sec-fetch-site', 'same-origin')).status).toBe(200);
    const started = await api()
      .post('/api/runs/00000000-0000-4000-8000-000000000000/events')
      .send({ events: [fromPhone(1, { type: 'started', plan: {} })] });
    expect(started.status).toBe(422);
    expect((started.body as Problem).detail).toMatch(/no event that a bench can send/);
  });
});

describe('where it listens', () => {
  const env = { port: '0', data: 'x', logLevel: 'silent', demoBundle: undefined, handsUrl: undefined, watchedMs: undefined, pollAlways: undefined, allow: undefined }; // prettier-ignore

  it.each([undefined, '', 'localhost', '127.0.0.1', '127.8.9.1', '::1'])('this machine: HOST=%s', (host) => {
    expect(checkConfig({ ...env, host }).host).toBe(host || '127.0.0.1');
  });

  it.each(['0.0.0.0', '::', '192.168.1.20', 'hall.example', '127.0.0.1.example'])('not beyond it: HOST=%s', (host) => {
    expect(() => checkConfig({ ...env, host })).toThrow(/no sign-in yet, so it listens on this machine only/);
  });
});

describe('the shelf', () => {
  it('a lot’s own table wins over the usual one, and stays in the plan of the run', async () => {
    const lot = { standardId: 'technical-7.00', label: 'K-9', expiresOn: '2027-05-31' };
    const table = [
      [20, 7.04],
      [25, 7.02],
    ];
    const foreign = await api()
      .post('/api/lots')
      .send({ ...lot, table: [...table, [30, 9.2]] });
    expect(foreign.status).toBe(422);
    expect((foreign.body as Problem).detail).toMatch(/9\.2 at 30 °C is far from what 7\.00 has there \(6\.990\)/);
    const kept = await api()
      .post('/api/lots')
      .send({ ...lot, table, plusMinus: 0.015 });
    expect(kept.status).toBe(201);
    const { lotId } = kept.body as LotRow;
    const other = await api()
      .post('/api/sensors')
      .send({ ...RESERVOIR, loopName: 'Reservoir 2 pH' });
    const run = await api()
      .post('/api/runs')
      .send({
        sensorId: (other.body as { sensorId: string }).sensorId,
        points: [{ standardId: 'technical-7.00', lotId }, { standardId: 'technical-4.01' }],
        school: 'statistical',
      });
    const { plan } = (run.body as RunView).events[0]!.body as { plan: RunPlan };
    expect(plan.points[0]!.standard).toMatchObject({ table, uncertainty: 0.0075, source: 'the lot’s own table' });
    expect(plan.points[1]!.standard.uncertainty).toBe(0.01);
    await api()
      .post(`/api/runs/${(run.body as RunView).runId}/events`)
      .send({ events: [fromPhone(1, { type: 'abandoned', because: 'only a look' }, 1)] });
  });
});

describe('many requests', () => {
  it('Margins are sent once for each state of the house; cones only for the rows in sight', async () => {
    const first = await api().get('/api/margins');
    const mark = first.headers['etag'] as string;
    const again = await api().get('/api/margins').set('if-none-match', mark);
    expect([again.status, again.text]).toEqual([304, '']);
    const row = (first.body as MarginsView).rows.find((r) => r.lastRunMs !== null);
    expect([row!.hasCone, 'cone' in row!]).toEqual([true, false]);
    const nobody = '00000000-0000-4000-8000-000000000009';
    const { cones } = (await api().get(`/api/cones?sensors=${row!.sensorId},${nobody}`)).body as ConesView;
    const whole = ((await api().get(`/api/sensors/${row!.sensorId}`)).body as SensorView).row.cone;
    expect(cones[row!.sensorId]!.marks).toEqual(whole.marks);
    expect(cones[nobody]).toBeNull();
    for (const sensors of ['', 'x', Array(61).fill(nobody).join(',')])
      expect((await api().get(`/api/cones?sensors=${sensors}`)).status).toBe(422);
    // Whatever changes makes another answer.
    await api().post(`/api/sensors/${row!.sensorId}/services`).send({ kind: 'cleaned', note: '' }).expect(201);
    const after = await api().get('/api/margins').set('if-none-match', mark);
    expect([after.status, after.headers['etag'] === mark]).toEqual([200, false]);
  });

  it('one browser that asks too often does not lock out another: each that has loaded the page is counted by itself', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'frustum-pages-'));
    writeFileSync(join(folder, 'index.html'), '<!doctype html><title>Frustum</title>');
    const app = makeApp(subject.context, folder, 3);
    const page = await request(app).get('/');
    const [cookie] = page.headers['set-cookie'] as unknown as [string];
    expect(cookie).toMatch(/^frustum-browser=[0-9a-f-]{36}; Path=\/; HttpOnly; SameSite=Strict$/);
    const asks = async (name?: string) => {
      const asked = request(app).get('/api/health');
      return (await (name ? asked.set('cookie', name) : asked)).status;
    };
    const mine = cookie.split(';')[0]!;
    const flood = [];
    for (let i = 0; i < 5; i++) flood.push(await asks());
    expect(flood).toEqual([200, 200, 200, 429, 429]);
    // A name that was never given counts as none.
    expect(await asks('frustum-browser=00000000-0000-4000-8000-000000000009')).toBe(429);
    expect([await asks(mine), await asks(`a=b; ${mine}`), await asks(mine), await asks(mine)]).toEqual([
      200, 200, 200, 429,
    ]);
    expect((await request(app).get('/').set('cookie', mine)).headers['set-cookie']).toBeUndefined();
    rmSync(folder, { recursive: true });
  });
});

describe('twelve devices that were offline', () => {
  // 200 each are what a device sends at once: they were tried, and cost ten seconds of every run of the tests.
  it('come back at once with 50 facts each: every fact is there once, in the order of its device', async () => {
    const house = await testApplication();
    const app = () => request(house.app);
    await app().post('/api/sensors').send(RESERVOIR);
    const { sensorId } = ((await app().get('/api/margins')).body as MarginsView).rows[0]!;
    const points = [{ standardId: 'technical-7.00' }, { standardId: 'technical-4.01' }];
    const { runId } = (await app().post('/api/runs').send({ sensorId, points, school: 'statistical' })).body as RunView;
    const facts = (device: string) =>
      Array.from({ length: 50 }, (_, i) => ({
        ...fromPhone(i + 1, { type: 'noted', text: `${device}, ${i + 1}` }),
        device,
      }));
    const devices = Array.from({ length: 12 }, (_, i) => `phone-number-${i + 1}`);
    // Each sends twice, as a device does whose first answer got lost.
    const answers = await Promise.all(
      [...devices, ...devices].map((d) =>
        app()
          .post(`/api/runs/${runId}/events`)
          .send({ events: facts(d) }),
      ),
    );
    expect(new Set(answers.map((a) => a.status))).toEqual(new Set([200]));
    const { events } = (await app().get(`/api/runs/${runId}`)).body as RunView;
    expect(events.map((e) => e.seq)).toEqual(events.map((_, i) => i + 1));
    for (const device of devices)
      expect(events.filter((e) => e.device === device).map((e) => e.counter)).toEqual(
        facts(device).map((f) => f.counter),
      );
    await house.close();
  });
});
