import { existsSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { deflateSync } from 'node:zlib';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { LotRow, OutlookView, Problem, ProcedureRow, RunView, SensorView } from '@frustum/contract';
import { replay } from '@frustum/core';
import { print } from './services/runs/printer.ts';
import { capture, fromPhone, RESERVOIR, UP_TO_VERDICT } from './testing/cast.ts';
import { testApplication, type TestApplication } from './testing/application.ts';

let subject: TestApplication;
let sensorId = '';
beforeAll(async () => {
  subject = await testApplication();
  sensorId = ((await api().post('/api/sensors').send(RESERVOIR)).body as { sensorId: string }).sensorId;
});
afterAll(() => subject.close());

const api = () => request(subject.app);
const order = {
  points: [{ standardId: 'technical-7.00' }, { standardId: 'technical-4.01' }],
  school: 'statistical',
};
let counter = 1000;
const send = (runId: string, body: object, onSeq: number | null = null) =>
  api()
    .post(`/api/runs/${runId}/events`)
    .send({ events: [fromPhone(counter++, body, onSeq)] });
const starts = async (more: object = {}) =>
  (
    await api()
      .post('/api/runs')
      .send({ sensorId, ...order, ...more })
  ).body as RunView;
const abandon = (runId: string) => send(runId, { type: 'abandoned', because: 'only a test' });

/** One grey dot, with a text chunk that tells where it was taken. */
function picture(): Buffer {
  const chunk = (name: string, data: Buffer) => {
    const head = Buffer.alloc(8);
    head.writeUInt32BE(data.length);
    head.write(name, 4, 'latin1');
    return Buffer.concat([head, data, crc(Buffer.concat([head.subarray(4), data]))]);
  };
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    chunk('IHDR', Buffer.from([0, 0, 0, 1, 0, 0, 0, 1, 8, 0, 0, 0, 0])),
    chunk('tEXt', Buffer.from('Location\0behind the sump')),
    chunk('IDAT', deflateSync(Buffer.from([0, 128]))),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

/** CRC-32 of a chunk: PNG, annex D. */
function crc(bytes: Buffer): Buffer {
  let c = 0xffffffff;
  for (const byte of bytes) {
    c ^= byte;
    for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
  }
  const out = Buffer.alloc(4);
  out.writeUInt32BE((c ^ 0xffffffff) >>> 0);
  return out;
}

describe('a photo as witness', () => {
  it('is kept without metadata in the data folder, under a name nobody chose, and served as a picture only', async () => {
    const { runId } = await starts();
    const kept = await api().post(`/api/runs/${runId}/photos`).set('content-type', 'image/png').send(picture());
    expect(kept.status).toBe(201);
    const { photoId } = kept.body as { photoId: string };
    await send(runId, { type: 'photographed', photoId, stepId: 'hold', typed: '7.02' });
    const shown = await api().get(`/api/photos/${photoId}`);
    expect(shown.headers).toMatchObject({
      'content-type': 'image/png',
      'content-security-policy': "default-src 'none'",
      'x-content-type-options': 'nosniff',
    });
    expect((shown.body as Buffer).toString('latin1')).not.toContain('behind the sump');
    const folder = join(subject.context.config.dataFolder, 'photos');
    expect(readdirSync(folder)).toEqual([photoId]);
    expect(statSync(join(folder, photoId)).mode & 0o077).toBe(0);
    const { events } = (await api().get(`/api/runs/${runId}`)).body as RunView;
    expect(replay(events).photos).toMatchObject([{ photoId, stepId: 'hold', typed: '7.02' }]);
    await abandon(runId);
  });

  it('one whose inside is broken is refused, and if it breaks later does not take the record along', async () => {
    const { runId } = await starts();
    const folder = join(subject.context.config.dataFolder, 'photos');
    const files = readdirSync(folder).length;
    const whole = picture();
    const at = whole.indexOf('IDAT') + 4;
    const broken = Buffer.concat([whole.subarray(0, at), Buffer.alloc(4, 7), whole.subarray(at + 4)]);
    const keep = (bytes: Buffer) =>
      api().post(`/api/runs/${runId}/photos`).set('content-type', 'image/png').send(bytes);
    expect(((await keep(broken)).body as Problem).code).toBe('not-an-image');
    expect(readdirSync(folder)).toHaveLength(files);
    const { photoId } = (await keep(whole)).body as { photoId: string };
    writeFileSync(join(folder, photoId), broken);
    await send(runId, { type: 'photographed', photoId, stepId: 'hold', typed: '' });
    const record = await api().get(`/api/runs/${runId}/record.pdf`).buffer(true);
    expect([record.status, (record.body as Buffer).subarray(0, 5).toString()]).toEqual([200, '%PDF-']);
    await abandon(runId);
  });

  it('the forty-first of a run is refused and leaves no file', async () => {
    const { runId } = await starts();
    const folder = join(subject.context.config.dataFolder, 'photos');
    const before = readdirSync(folder).length;
    const keep = () => api().post(`/api/runs/${runId}/photos`).set('content-type', 'image/png').send(picture());
    for (let i = 0; i < 40; i++) expect((await keep()).status).toBe(201);
    expect(((await keep()).body as Problem).code).toBe('too-many-photos');
    expect(readdirSync(folder)).toHaveLength(before + 40);
    await abandon(runId);
  });

  it('a record that takes longer than it may is ended, and the next one is printed', async () => {
    const { runId } = await starts();
    const { events } = (await api().get(`/api/runs/${runId}`)).body as RunView;
    const job = { runId, siteName: 'A', place: 'B', serial: '1', events, photos: {} };
    await expect(print(job, { milliseconds: 1, megabytes: 256 })).rejects.toThrow(/not printed within 1 ms/);
    expect((await print(job)).subarray(0, 5).toString()).toBe('%PDF-');
    await abandon(runId);
  });

  it('too large, no picture, or for no run: a sentence each, and nothing is written', async () => {
    const { runId } = await starts();
    const before = readdirSync(join(subject.context.config.dataFolder, 'photos')).length;
    const large = await api()
      .post(`/api/runs/${runId}/photos`)
      .set('content-type', 'image/jpeg')
      .send(Buffer.alloc(13_000_000));
    expect([large.status, (large.body as Problem).detail]).toEqual([413, expect.stringMatching(/12 MB/)]);
    const page = await api().post(`/api/runs/${runId}/photos`).set('content-type', 'image/png').send('<svg/>');
    expect([page.status, (page.body as Problem).code]).toEqual([422, 'not-an-image']);
    const nowhere = await api()
      .post('/api/runs/00000000-0000-4000-8000-000000000009/photos')
      .set('content-type', 'image/png')
      .send(picture());
    expect(nowhere.status).toBe(404);
    expect((await api().get('/api/photos/00000000-0000-4000-8000-000000000009')).status).toBe(404);
    expect(readdirSync(join(subject.context.config.dataFolder, 'photos'))).toHaveLength(before);
    await abandon(runId);
  });
});

describe('gates over the API', () => {
  let lot: LotRow;

  it('an expired bottle wants a reason, which the run keeps; one withdrawn meanwhile is said at the next start', async () => {
    lot = (await api().post('/api/lots').send({ standardId: 'technical-7.00', label: 'K-1', expiresOn: '2026-11-01' }))
      .body as LotRow;
    const points = [{ standardId: 'technical-7.00', lotId: lot.lotId }, { standardId: 'technical-4.01' }];
    const shut = await api()
      .post('/api/runs')
      .send({ sensorId, ...order, points });
    expect([shut.status, (shut.body as Problem).facts]).toEqual([409, { gate: 'lot-expired:7.00' }]);
    const overrides = [{ id: 'lot-expired:7.00', because: 'the new one comes tomorrow' }];
    const run = await starts({ points, overrides });
    expect(replay(run.events).plan.gates).toMatchObject([
      { id: 'lot-expired:7.00', because: 'the new one comes tomorrow' },
    ]);
    const ended = (await api().post(`/api/lots/${lot.lotId}/used-up`)).body as LotRow;
    expect(ended.usedUpOn).toBe('2026-11-23');
    // The run that has begun goes on with what it was planned on.
    expect((await send(run.runId, { type: 'step-done', stepId: 'hold', traceSeconds: null })).status).toBe(200);
    await abandon(run.runId);
    const again = await api()
      .post('/api/runs')
      .send({ sensorId, ...order, points, overrides });
    expect((again.body as Problem).facts).toEqual({ gate: 'lot-used-up:7.00' });
  });

  it('a run without a standard, or with an unknown procedure, begins nothing', async () => {
    const none = await api()
      .post('/api/runs')
      .send({ sensorId, ...order, points: [] });
    expect([none.status, (none.body as Problem).code]).toEqual([422, 'no-standards']);
    const odd = await api()
      .post('/api/runs')
      .send({ sensorId, ...order, procedureId: '00000000-0000-4000-8000-000000000009' });
    expect((odd.body as Problem).code).toBe('procedure-unknown');
    const { row } = (await api().get(`/api/sensors/${sensorId}`)).body as SensorView;
    expect(row.openRunId).toBeNull();
  });
});

describe('limits of a loop’s own', () => {
  it('stand in place of the family’s in the next run, and only where something was said', async () => {
    const strict = { ...RESERVOIR, loopName: 'Strict pH', limits: { sensitivityLow: 0.99, adjustAboveShare: 0.2 } };
    const { sensorId: strictId } = (await api().post('/api/sensors').send(strict)).body as { sensorId: string };
    const run = (
      await api()
        .post('/api/runs')
        .send({ sensorId: strictId, ...order })
    ).body as RunView;
    expect(replay(run.events).plan.limits).toMatchObject({
      sensitivityLow: 0.99,
      adjustAboveShare: 0.2,
      sensitivityHigh: 1.02,
      zero: 30,
    });
    const bad = await api()
      .post('/api/sensors')
      .send({ ...strict, loopName: 'B', limits: { sensitivityLow: 7 } });
    expect((bad.body as Problem).errors!.map((e) => e.path)).toContain('limits.sensitivityLow');
  });
});

describe('a procedure of a team’s own', () => {
  const made = {
    version: 0,
    family: 'ph',
    kind: 'calibrate',
    name: 'Sump pH, our way',
    points: ['technical-4.01', 'technical-7.00'],
    school: 'fixed-time',
    seconds: 90,
    words: { 'take-out': { title: 'Sump probe out' } },
    extra: [{ after: 'take-out', title: 'Photograph the glass', text: 'Both sides.' }],
  };
  let row: ProcedureRow;

  it('is versioned; a run keeps the version it was made with', async () => {
    row = (await api().post('/api/procedures').send(made)).body as ProcedureRow;
    expect(row).toMatchObject({ version: 1, name: 'Sump pH, our way', seconds: 90 });
    const run = await starts({ procedureId: row.procedureId });
    const changed = await api()
      .put(`/api/procedures/${row.procedureId}`)
      .send({ ...made, version: 1, words: { 'take-out': { title: 'Gently out' } } });
    expect(changed.body).toMatchObject({ version: 2 });
    const before = replay(((await api().get(`/api/runs/${run.runId}`)).body as RunView).events);
    expect(before.plan.procedure).toMatchObject({ version: 1, name: 'Sump pH, our way' });
    expect(before.steps.map((s) => s.title)).toEqual(
      expect.arrayContaining(['Sump probe out', 'Photograph the glass']),
    );
    await abandon(run.runId);
    const later = await starts({ procedureId: row.procedureId });
    expect(replay(later.events).steps.map((s) => s.title)).toContain('Gently out');
    await abandon(later.runId);
  });

  it('two who change it at once: the second is told, and loses nothing of the first', async () => {
    const late = await api()
      .put(`/api/procedures/${row.procedureId}`)
      .send({ ...made, version: 1, name: 'Another' });
    expect([late.status, (late.body as Problem).code]).toEqual([409, 'procedure-moved']);
    const list = (await api().get('/api/procedures')).body as ProcedureRow[];
    expect(list).toMatchObject([{ version: 2, name: 'Sump pH, our way' }]);
  });

  it.each([
    ['a name that is taken', {}, 'procedure-exists'],
    ['a procedure that the family has not', { name: 'b', kind: 'thermometers' }, 'procedure-unfit'],
    ['a standard that there is not', { name: 'b', points: ['moon dust'] }, 'unknown-standard'],
  ])('%s is refused', async (_, change, code) => {
    const answer = await api()
      .post('/api/procedures')
      .send({ ...made, ...change });
    expect((answer.body as Problem).code).toBe(code);
  });

  it('retired, it is offered no more; its old runs stay', async () => {
    await api()
      .put(`/api/procedures/${row.procedureId}`)
      .send({ ...made, version: 2, retired: true });
    expect((await api().get('/api/procedures')).body).toEqual([]);
  });
});

/** As a page of before an upgrade says it: in a sentence. */
const WARNED = { type: 'warned', stepId: 'p1.settle.1', warning: 'It looked like 10.01 where 4.01 was asked for.', kept: true }; // prettier-ignore

describe('the verdict’s company, and the record', () => {
  it('what if nothing is done, the record with everything in it, and two who decide at once', async () => {
    const { runId } = await starts();
    for (const body of UP_TO_VERDICT.slice(0, 3)) await send(runId, body);
    expect(((await api().get(`/api/runs/${runId}/outlook`)).body as OutlookView).outlook).toBeNull();
    for (const body of [
      capture(0, -8.9, 'p1.settle.0'),
      capture(0, -8.8, 'p1.repeat.0', 'repeat'),
      { type: 'step-done', stepId: 'p1.place.1', traceSeconds: null },
      capture(1, 156.3, 'p1.settle.1'),
      capture(1, 156.2, 'p1.repeat.1', 'repeat'),
      WARNED,
      { type: 'noted', text: 'Growth on the glass. =HYPERLINK("http://x")' },
    ])
      await send(runId, body);
    // What a page of before says in a sentence is kept with the code that it was about.
    const events = ((await api().get(`/api/runs/${runId}`)).body as RunView).events;
    expect(events.find((e) => e.body.type === 'warned')!.body).toMatchObject({ odd: { id: 'as-said', facts: { was: 'wrong-cup' } } }); // prettier-ignore
    const odd = { id: 'wrong-cup', facts: { other: '10.01' } };
    expect((await send(runId, { type: 'warned', stepId: 'p1.settle.1', odd, kept: true })).status).toBe(422);
    const { outlook } = (await api().get(`/api/runs/${runId}/outlook`)).body as OutlookView;
    expect(outlook!.leave.chanceOutside).toBeGreaterThan(outlook!.adjust.chanceOutside);

    const record = await api().get(`/api/runs/${runId}/record.pdf`).buffer(true);
    expect(record.headers['content-type']).toBe('application/pdf');
    expect(record.headers['content-disposition']).toBe('inline; filename="reservoir-1-ph-2026-11-23.pdf"');
    expect((record.body as Buffer).subarray(0, 5).toString()).toBe('%PDF-');
    expect((record.body as Buffer).length).toBeGreaterThan(10_000);

    const { seq } = replay(((await api().get(`/api/runs/${runId}`)).body as RunView).events);
    const decide = (action: string) => send(runId, { type: 'decided', action, because: 'at once' }, seq);
    const answers = await Promise.all([decide('adjust'), decide('leave')]);
    const codes = answers.map((a) => a.status).sort();
    expect(codes).toEqual([200, 409]);
    const refused = answers.find((a) => a.status === 409)!.body as Problem;
    expect(refused.detail).toMatch(/has moved on since .* Look at it again, then decide\./);
    const after = replay(((await api().get(`/api/runs/${runId}`)).body as RunView).events);
    expect(after.decisions).toHaveLength(1);
    // What was decided second is not carried out, and not lost.
    const second = after.decisions[0]!.action === 'adjust' ? 'leave' : 'adjust';
    expect(after.notes.at(-1)!.text).toBe(
      `Decided elsewhere at the same time, and not carried out: ${second}, because at once.`,
    );
  });

  it('the service log takes what was done, in words of its own', async () => {
    const done = await api().post(`/api/sensors/${sensorId}/services`).send({ kind: 'refilled', note: '3 mol/kg KCl' });
    expect(done.status).toBe(201);
    const bad = await api().post(`/api/sensors/${sensorId}/services`).send({ kind: 'polished' });
    expect(bad.status).toBe(422);
    const { services } = (await api().get(`/api/sensors/${sensorId}`)).body as SensorView;
    expect(services).toMatchObject([{ kind: 'refilled', note: '3 mol/kg KCl', fresh: true }]);
    expect(existsSync(subject.context.config.dataFolder)).toBe(true);
  });

  it('an earlier day is noted too; what is to come is refused; a fresh entry is taken back, an old one stands', async () => {
    const log = `/api/sensors/${sensorId}/services`;
    const seen = async () => ((await api().get(`/api/sensors/${sensorId}`)).body as SensorView).services;
    subject.setNow('2026-11-24T09:00:00Z');
    const before = (await seen()).length;
    const old = { kind: 'plug dried', at: '2026-11-20T12:00:00.000Z' };
    expect(
      (
        await api()
          .post(log)
          .send({ ...old, note: '' })
      ).status,
    ).toBe(201);
    expect(await seen()).toHaveLength(before + 1);
    const ahead = await api().post(log).send({ kind: 'cleaned', at: '2026-11-25T12:00:00.000Z' });
    expect([ahead.status, (ahead.body as Problem).code]).toEqual([422, 'not-yet']);
    const early = await api().post(log).send({ kind: 'cleaned', at: '2001-01-01T12:00:00.000Z' });
    expect((early.body as Problem).detail).toMatch(/was fitted on .*\. Give a later day\./);
    // By when it was written down, not by when it was done.
    expect((await api().delete(log).send(old)).status).toBeLessThan(300);
    expect(await seen()).toHaveLength(before);
    expect(((await api().delete(log).send(old)).body as Problem).code).toBe('stands');
    await api()
      .post(log)
      .send({ ...old, note: '' });
    subject.setNow('2026-11-25T10:00:00Z');
    expect(((await api().delete(log).send(old)).body as Problem).code).toBe('stands');
    expect((await seen()).find((s) => s.kind === 'plug dried')).toMatchObject({ fresh: false });
  });
});
