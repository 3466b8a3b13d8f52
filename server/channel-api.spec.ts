import type { AddressInfo } from 'node:net';
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { MarginsView, Problem, ReadingsView, SensorView } from '@frustum/contract';
import { IDEAL_SENSOR, shownPh } from '@frustum/core';
import { handsServer } from '../sim/devices/hands-server.ts';
import { StandIn } from '../sim/devices/stand-in.ts';
import { houseBodies } from '../sim/fleets/bodies.ts';
import { Recorder } from './channels/recorder.ts';
import { logInsIn } from './config/log-ins.ts';
import { keepReadings } from './services/channels/readings.ts';
import { testApplication, type TestApplication } from './testing/application.ts';
import { fromPhone, RESERVOIR } from './testing/cast.ts';

let subject: TestApplication;
let sensorId = '';
const closers: { close: () => unknown }[] = [];
beforeAll(async () => {
  // The stand-in's hands, on a port of their own, for one body that answers to a topic.
  const [made] = houseBodies(4870);
  const bodies = new Map([['display-main', new StandIn(made!, { nowMs: Date.now })]]);
  const find = ({ topic }: Record<string, unknown>) => (topic === 'tidewater/display-main/now' ? 'display-main' : null);
  const hands = await handsServer(bodies, find, '127.0.0.1', 0);
  closers.push(hands);
  subject = await testApplication({ handsUrl: `http://127.0.0.1:${(hands.address() as AddressInfo).port}` });
  const added = await api().post('/api/sensors').send(RESERVOIR);
  sensorId = (added.body as { sensorId: string }).sensorId;
});
afterAll(async () => {
  await subject.close();
  for (const c of closers) c.close();
});

const api = () => request(subject.app);
const sensor = async () => (await api().get(`/api/sensors/${sensorId}`)).body as SensorView;
const channelId = async () => (await sensor()).row.channelId;
const mqtt = {
  kind: 'mqtt',
  host: '127.0.0.1',
  port: 1,
  topic: 'tidewater/display-main/now',
  pointer: '/probe/mv',
  fixedC: 25,
};
const change = async (channel: object, version: number) =>
  api()
    .put(`/api/channels/${await channelId()}`)
    .send({ channel, version });

describe('a channel that is changed', () => {
  it('has its new settings at once, with a new version; outputs on it are held with the loop in the next run', async () => {
    expect((await sensor()).row).toMatchObject({ channel: { kind: 'hand' }, channelVersion: 1 });
    const changed = await change({ ...mqtt, outputs: ['acid pump'], rangeHigh: 300 }, 1);
    expect([changed.status, changed.body]).toEqual([200, { version: 2 }]);
    expect((await sensor()).row).toMatchObject({
      channelVersion: 2,
      channel: { kind: 'mqtt', outputs: ['acid pump'], rangeHigh: 300, coefficientsIn: 'instrument' },
    });
    const started = await api()
      .post('/api/runs')
      .send({
        sensorId,
        points: [{ standardId: 'technical-7.00' }, { standardId: 'technical-4.01' }],
        school: 'statistical',
      });
    expect(started.body).toMatchObject({ events: [{ body: { plan: { controls: 'acid dosing, acid pump' } } }] });
    const busy = await change({ kind: 'hand' }, 2);
    expect([busy.status, (busy.body as Problem).code]).toEqual([409, 'run-open']);
    const { runId } = started.body as { runId: string };
    await api()
      .post(`/api/runs/${runId}/events`)
      .send({ events: [fromPhone(1, { type: 'abandoned', because: 'only a look' }, 1)] });
  });

  it('is refused when somebody was faster, when it gives no pH, and when it is none', async () => {
    const late = await change({ kind: 'hand' }, 1);
    expect([late.status, (late.body as Problem).code]).toEqual([409, 'channel-moved']);
    expect((late.body as Problem).facts).toEqual({ version: 2 });
    const wrong = await change({ ...mqtt, quantity: 'mS/cm' }, 2);
    expect(wrong.status).toBe(422);
    expect((wrong.body as Problem).detail).toMatch(/A loop of pH needs mV or pH, and this channel gives mS\/cm/);
    const nonsense = await change({ ...mqtt, topic: 'a/#' }, 2);
    expect((nonsense.body as Problem).errors!.map((e) => e.path)).toContain('channel.topic');
    const nobody = await api()
      .put('/api/channels/00000000-0000-4000-8000-000000000000')
      .send({ channel: { kind: 'hand' }, version: 1 });
    expect(nobody.status).toBe(404);
    expect((await sensor()).row.channelVersion).toBe(2);
  });
});

describe('the stand-in’s hands behind the API', () => {
  const hands = async (body: object) =>
    api()
      .post(`/api/stand-in/${await channelId()}`)
      .send(body);

  it('are found by what the channel reads, and do as they are told', async () => {
    const view = await api().get(`/api/stand-in/${await channelId()}`);
    expect(view.body).toMatchObject({ place: 'process', clockRate: 1, plugged: null });
    expect((await hands({ action: 'move', place: 'cup-7.00' })).body).toMatchObject({ place: 'cup-7.00' });
    const faulty = (await hands({ action: 'fault', fault: 'bubble', severity: 0.5 })).body as {
      faults: { name: string; severity: number }[];
    };
    expect(faulty.faults.find((f) => f.name === 'bubble')!.severity).toBe(0.5);
  });

  it('refuses in the stand-in’s own words what it cannot do; a malformed order never reaches it', async () => {
    const no = await hands({ action: 'move', place: 'the moon' });
    expect(no.status).toBe(422);
    expect((no.body as Problem).detail).toMatch(/The stand-in refused: the hands cannot move the moon/);
    expect((await hands({ action: 'plug' })).status).toBe(422);
  });

  it('a channel on which none hangs has none', async () => {
    await change({ ...mqtt, topic: 'elsewhere/now' }, 2);
    const none = await api().get(`/api/stand-in/${await channelId()}`);
    expect([none.status, (none.body as Problem).code]).toEqual([404, 'no-stand-in']);
  });
});

describe('readings', () => {
  it('are kept by the minute, by the coefficients of the time, and what the bench saw is marked', async () => {
    const { context, setNow } = subject;
    const id = await channelId();
    const recorder = new Recorder(context.hub, (minutes) => keepReadings(context, minutes), context.now);
    const say = (t: number, signal: number) =>
      context.hub.publish({
        event: 'sample',
        data: { channelId: id, t, epoch: 'e', signal, unit: 'mV', temperatureC: 25 },
      });
    setNow('2026-11-23T10:00:10Z');
    [60, 62, 64].forEach((mv, i) => say(1000 + i, mv));
    context.hub.publish({
      event: 'sample',
      data: {
        channelId: '00000000-0000-4000-8000-000000000000',
        t: 1,
        epoch: 'e',
        signal: 1,
        unit: 'mV',
        temperatureC: 25,
      },
    });
    setNow('2026-11-23T10:05:10Z');
    say(1300, 177);
    await recorder.flush(true);
    // The server was restarted within the minute: the second part is joined to the first.
    say(1310, 179);
    await recorder.flush(true);
    // What a device sends later belongs to the minute in which it was taken.
    const past = { channelId: id, signal: 66, unit: 'mV' as const, temperatureC: 25 };
    for (const second of [20, 40]) context.hub.file({ ...past, atMs: Date.parse(`2026-11-23T09:30:${second}Z`) });
    await recorder.flush(false);
    recorder.stop();
    const view = (await api().get(`/api/sensors/${sensorId}/readings?days=1`)).body as ReadingsView;
    expect(view.buckets.map((b) => new Date(b.atMs).toISOString())).toEqual([
      '2026-11-23T09:30:00.000Z',
      '2026-11-23T10:00:00.000Z',
      '2026-11-23T10:03:00.000Z',
    ]);
    expect(view.buckets[1]!.mean).toBeCloseTo(shownPh(62, 25, IDEAL_SENSOR), 3);
    expect(view.buckets[1]!.low).toBeCloseTo(shownPh(64, 25, IDEAL_SENSOR), 3);
    expect(view.buckets[1]!.high).toBeCloseTo(shownPh(60, 25, IDEAL_SENSOR), 3);
    expect(view.buckets[2]!.mean).toBeCloseTo(shownPh(178, 25, IDEAL_SENSOR), 3);
    expect(view.buckets.some((b) => b.onBench)).toBe(false);
  });

  it.each(['0', '401', 'many'])('a span of %s days is refused with its limits', async (days) => {
    const answer = await api().get(`/api/sensors/${sensorId}/readings?days=${days}`);
    expect(answer.status).toBe(422);
    expect((answer.body as Problem).detail).toMatch(/1 to 400 days/);
  });
});

describe('a condition that another loop shows', () => {
  const site = { siteName: 'My pool', workingC: 25, tolerance: 0.1, intervalDays: 30, fittedOn: '2026-11-01', pointSet: [] }; // prettier-ignore
  const wired = (quantity: string) => ({ kind: 'http-json', url: 'http://127.0.0.1:1/now', pointer: '/x', quantity, fixedC: 25, pollSeconds: 60 }); // prettier-ignore
  const ph = { ...site, loopName: 'Pool pH', sensorName: 'A', family: 'ph', workingValue: 7.2, pointSet: ['technical-7.00', 'technical-4.01'], channel: wired('mV') }; // prettier-ignore
  const chlorine = { ...site, loopName: 'Pool chlorine', sensorName: 'B', family: 'chlorine', settings: { senses: 'acid', ph: 7.4 }, workingValue: 0.5, channel: wired('nA') }; // prettier-ignore
  const add = async (body: object) => (await api().post('/api/sensors').send(body)).body as { sensorId: string; loopId: string } & Problem; // prettier-ignore
  const viewOf = async (id: string) => (await api().get(`/api/sensors/${id}`)).body as SensorView;
  let [giver, taker] = ['', ''];
  let row: SensorView['row'];
  beforeAll(async () => {
    const added = await add(ph);
    giver = added.sensorId;
    row = (await viewOf(giver)).row;
    taker = (await add({ ...chlorine, takes: { ph: added.loopId } })).sensorId;
    subject.setNow('2026-11-23T12:00:00Z');
  });
  const gives = (signal: number) =>
    subject.context.hub.publish({ event: 'sample', data: { channelId: row.channelId, t: 1, epoch: 'e', signal, unit: 'mV', temperatureC: 25 } }); // prettier-ignore
  const order = { procedure: 'sample', school: 'statistical', overrides: [{ id: 'prerequisite:Pool pH', because: 'a look' }] }; // prettier-ignore
  const starts = (more: object) =>
    api()
      .post('/api/runs')
      .send({ sensorId: taker, ...order, ...more });

  it('is refused from a loop that does not show it, from another house, and for a family that asks for none', async () => {
    const nitrate = { ...chlorine, loopName: 'No', family: 'nitrate', settings: {}, workingValue: 1, channel: wired('mg/L NO3-N') }; // prettier-ignore
    const loopId = row.loopId;
    for (const no of [
      { ...chlorine, loopName: 'No', takes: { ph: (await viewOf(taker)).row.loopId } },
      { ...chlorine, loopName: 'No', siteName: 'My other pool', takes: { ph: loopId } },
      { ...nitrate, takes: { ph: loopId } },
    ])
      expect(await add(no)).toMatchObject({ code: 'giver-unfit', detail: expect.stringMatching(/The pH of the water cannot come from Pool/) as string }); // prettier-ignore
  });

  it('is taken while it is shown; else the set-up’s figure holds, with the reason; what is typed goes before both', async () => {
    const now = async () => (await viewOf(taker)).conditions;
    expect(await now()).toEqual([{ name: 'ph', value: 7.4, from: 'set-up', loopName: 'Pool pH', because: 'it shows nothing just now' }]); // prettier-ignore
    gives(-59.16);
    expect(await now()).toMatchObject([{ from: 'loop', because: '' }]);
    // One decade of Nernst’s slope, 59.16 mV at 25 °C, below pH 7: pH 8.
    expect((await now())[0]!.value).toBeCloseTo(8, 3);
    const typed = await starts({ conditions: { ph: 7.9 } });
    expect(typed.body).toMatchObject({
      events: [
        { body: { plan: { settings: { senses: 'acid', ph: 7.9 }, conditions: [{ from: 'typed', value: 7.9 }] } } },
      ],
    });
    const { runId } = typed.body as { runId: string };
    await api()
      .post(`/api/runs/${runId}/events`)
      .send({ events: [fromPhone(1, { type: 'abandoned', because: 'only a look' }, 1)] });
    // What came before the channel fell silent is no reading.
    subject.setNow('2026-11-23T12:01:00Z');
    expect(await now()).toMatchObject([{ value: 7.4, from: 'set-up' }]);
    expect((await starts({ conditions: { ph: 15 } })).body).toMatchObject({ code: 'out-of-range' });
    expect((await starts({ conditions: { salinity: 'much' } })).status).toBe(422);
    expect((await starts({ overrides: [] })).body).toMatchObject({ code: 'gate-open', detail: expect.stringMatching(/Pool pH was never calibrated\. This run takes the pH of the water from it/) as string }); // prettier-ignore
    // At the bench it shows a cup.
    gives(-59.16);
    await api().post('/api/runs').send({ sensorId: giver, school: 'statistical', points: [{ standardId: 'technical-7.00' }] }); // prettier-ignore
    expect(await now()).toMatchObject([{ value: 7.4, from: 'set-up', because: 'its sensor is at the bench' }]);
  });

  it('goes into the readings minute by minute', async () => {
    const { context } = subject;
    const channelOf = (await viewOf(taker)).row.channelId;
    const minute = (channelId: string, at: string, mean: number) => ({ channelId, minute: `2026-11-23T11:${at}:00.000Z`, count: 1, mean, low: mean, high: mean, temperatureC: 25, onBench: false }); // prettier-ignore
    await context.store.keepMinutes([minute(row.channelId, '10', 0), minute(row.channelId, '20', -59.16), ...['10', '20', '30'].map((at) => minute(channelOf, at, 50))] as Parameters<typeof context.store.keepMinutes>[0]); // prettier-ignore
    const view = (await api().get(`/api/sensors/${taker}/readings?days=1`)).body as ReadingsView;
    // 50 nA are 0.5 mg/L at pH 7. At pH 8 the acid is less by (1 + 10^(8 − pKa)) / (1 + 10^(7 − pKa)); pKa 7.5366 (Morris 1966).
    const per = (p: number) => (0.5 * (1 + 10 ** (p - 7.5366))) / (1 + 10 ** (7 - 7.5366));
    expect(view.buckets.map((b) => b.mean)).toEqual([0.5, expect.closeTo(per(8), 3), expect.closeTo(per(7.4), 3)]);
  });
});

describe('log-ins', () => {
  it('are read from the data folder as they stand just now; a file that is broken says where, and never what stands there', () => {
    const folder = mkdtempSync(join(tmpdir(), 'frustum-log-ins-'));
    const logIns = logInsIn(folder);
    expect(logIns('hall')).toBeNull();
    const file = (text: string) => writeFileSync(join(folder, 'log-ins.json'), text);
    file('{"hall":{"username":"reader","password":"not a real one"},"half":{"username":"x"}}');
    expect(logIns('hall')).toEqual({ username: 'reader', password: 'not a real one' });
    expect([logIns('attic'), logIns('toString')]).toEqual([null, null]);
    expect(() => logIns('half')).toThrow('Log-in “half” in log-ins.json has no usable “password”. Mend it');
    file('{\n  "hall": {\n    "username": "reader",,\n');
    expect(() => logIns('hall')).toThrow(/^log-ins\.json is no JSON in line 3\. Mend it in the data folder\.$/);
    file('[1]');
    expect(() => logIns('hall')).toThrow(/no list of log-ins by name/);
    rmSync(folder, { recursive: true });
  });

  it('are entered on a page: kept for their owner only, never shown, and sent elsewhere only with the password typed again', async () => {
    const put = (part: object) => api().put('/api/log-ins').send({ name: 'tank', to: '127.0.0.1:1883', username: 'reader', ...part }); // prettier-ignore
    expect((await put({})).body).toMatchObject({ code: 'password-wanted' });
    const row = { name: 'tank', to: '127.0.0.1:1883', username: 'reader' };
    expect((await put({ password: 'swordfish' })).body).toEqual([row]);
    const file = join(subject.context.config.dataFolder, 'log-ins.json');
    expect(statSync(file).mode & 0o077).toBe(0);
    const stolen = await put({ to: '192.168.1.66:1883' });
    expect(stolen.body).toMatchObject({ code: 'password-wanted', detail: 'The password of “tank” is kept for reader at 127.0.0.1:1883 only. Type it again.' }); // prettier-ignore
    expect((await put({ username: 'admin' })).body).toMatchObject({ code: 'password-wanted' });
    expect((await put({ to: '127.0.0.1:1884', password: 'tuna' })).body).toEqual([{ ...row, to: '127.0.0.1:1884' }]);
    const logIns = logInsIn(subject.context.config.dataFolder);
    expect(logIns('tank')).toEqual({ to: '127.0.0.1:1884', username: 'reader', password: 'tuna' });
    // As it was typed already.
    await put({ to: '127.0.0.1:1884' });
    expect(logIns('tank')!.password).toBe('tuna');
    expect((await api().get('/api/log-ins')).text).not.toContain('tuna');
    for (const bad of [{ name: '../x' }, { to: 'reader@host:1' }, { to: 'host' }, { to: 'http://a/b' }])
      expect((await put({ ...bad, password: 'x' })).status, JSON.stringify(bad)).toBe(422);
    expect((await api().post('/api/log-ins/dropped').send({ name: 'tank' })).body).toEqual([]);
    expect(logIns('tank')).toBeNull();
    writeFileSync(file, '{ "tank": ');
    expect((await put({ password: 'x' })).body).toMatchObject({ code: 'log-ins-broken' });
    expect(readFileSync(file, 'utf8')).toBe('{ "tank": ');
  });

  it('never come back in an answer: the channel has the name only', async () => {
    await change({ ...mqtt, logIn: 'hall' }, 3);
    const text = JSON.stringify((await api().get('/api/margins')).body as MarginsView);
    expect(text).toContain('"logIn":"hall"');
    expect(text).not.toContain('password');
  });
});
