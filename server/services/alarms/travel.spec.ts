import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import request from 'supertest';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import type { AlarmsView, AlarmWaysView, LimitsView, MarginsView, Problem, SetUpView } from '@frustum/contract';
import type { ChannelId } from '@frustum/core';
import { startRelay } from '../../../sim/devices/relay.ts';
import type { AlarmMessage } from '../../store/schema/index.ts';
import { testApplication, type TestApplication } from '../../testing/application.ts';
import { fromPhone, RESERVOIR } from '../../testing/cast.ts';
import { keepReadings } from '../channels/readings.ts';
import { AlarmWatch } from './watch.ts';

const MINUTE = 60_000;
const MORNING = Date.parse('2026-11-23T09:00:00Z');

/** A house with one loop that shows pH, and a clock that the test turns. */
class House {
  private nowMs = MORNING;
  readonly watch: AlarmWatch;
  readonly subject: TestApplication;
  readonly loopId: string;
  readonly sensorId: string;
  readonly channelId: ChannelId;

  private constructor(subject: TestApplication, row: MarginsView['rows'][number]) {
    this.subject = subject;
    this.watch = new AlarmWatch(subject.context);
    this.loopId = row.loopId;
    this.sensorId = row.sensorId;
    this.channelId = row.channelId;
  }

  static async opens(more: object = {}): Promise<House> {
    const subject = await testApplication();
    const channel = { kind: 'http-json', url: 'http://127.0.0.1:1/now', quantity: 'pH', fixedC: 22, pollSeconds: 60 };
    const added = await request(subject.app).post('/api/sensors').send({ ...RESERVOIR, family: 'ph-shown', channel, ...more }); // prettier-ignore
    expect(added.status, JSON.stringify(added.body)).toBe(201);
    subject.context.poller.stop();
    const { rows } = (await request(subject.app).get('/api/margins')).body as MarginsView;
    return new House(subject, rows[0]!);
  }

  get api() {
    return request(this.subject.app);
  }
  /** Lets minutes go by in which the channel shows this. */
  async shows(minutes: number, value: number | ((i: number) => number)) {
    const list = Array.from({ length: minutes }, (_, i) => {
      const mean = typeof value === 'number' ? value : value(i);
      return { channelId: this.channelId, minute: new Date(this.nowMs + i * MINUTE).toISOString(), count: 60, mean, low: mean, high: mean, temperatureC: 22 }; // prettier-ignore
    });
    await keepReadings(this.subject.context, list);
    await this.waits(minutes);
  }
  async waits(minutes: number) {
    this.nowMs += minutes * MINUTE;
    this.subject.setNow(new Date(this.nowMs).toISOString());
    await this.watch.look();
    await this.subject.context.teller.settled();
  }
  async limits(alarmLimits: object, version = 1) {
    return this.api.put('/api/alarm-limits').send({ loops: [{ loopId: this.loopId, version, alarmLimits }] });
  }
  standing = async () => ((await this.api.get('/api/alarms')).body as AlarmsView).standing;
  close = () => this.subject.close();
}

const PH = { warnLow: 5.4, warnHigh: 6.2, actLow: 5, actHigh: 6.6, forMinutes: 10 };

describe('limits of the water', () => {
  let house: House;
  beforeAll(async () => (house = await House.opens()));
  afterAll(() => house.close());

  it('are proposed from what was shown, refused where they cannot be, and kept for all or none', async () => {
    await house.shows(300, (i) => 5.8 + 0.03 * Math.sin(i / 9));
    const view = (await house.api.get(`/api/loops/${house.loopId}/alarm-limits`)).body as LimitsView;
    expect(view).toMatchObject({ version: 1, kept: {}, calls: 0 });
    expect(view.proposed!.warnHigh).toBeGreaterThan(6);
    expect(view.buckets.length).toBeGreaterThan(1);
    const turned = await house.limits({ ...PH, warnLow: 6.3 });
    expect([turned.status, (turned.body as Problem).code]).toEqual([422, 'limits-turned']);
    expect((turned.body as Problem).detail).toContain(
      'Reservoir 1 pH: The limits are turned round: warn high is 6.20 pH, and warn low is 6.30 pH',
    );
    expect((await house.limits({ warnHigh: 900 })).status).toBe(422);
    expect((await house.limits(PH)).status).toBe(200);
    expect((await house.limits(PH)).body).toMatchObject({ code: 'set-up-moved' });
  });

  it('a value beyond for long enough is one alarm with value, limit and since when; it grows worse as one, and is over inside', async () => {
    await house.shows(8, 6.3);
    expect(await house.standing()).toEqual([]);
    await house.shows(6, 6.3);
    const [first] = await house.standing();
    expect(first).toMatchObject({ kind: 'water', level: 'warn' });
    expect(first!.text).toMatch(/^Reservoir 1 pH shows 6\.30 pH, above its limit of 6\.20 pH since 23 Nov, 14:00\./);
    await house.api.post(`/api/alarms/${first!.id}/acknowledge`);
    await house.shows(12, 6.8);
    const worse = await house.standing();
    expect(worse).toHaveLength(1);
    // It must be looked at anew: what was seen was a warning.
    expect(worse[0]).toMatchObject({ id: first!.id, level: 'act', acknowledgedAt: null });
    expect(worse[0]!.text).toContain('Act now');
    await house.shows(12, 5.9);
    expect(await house.standing()).toEqual([]);
  });

  it('while its body is at the bench nothing is raised, nothing is over, and what the cup showed never counts', async () => {
    const order = { sensorId: house.sensorId, points: [{ standardId: 'technical-7.00' }], school: 'statistical' };
    const { runId } = (await house.api.post('/api/runs').send(order)).body as { runId: string };
    await house.shows(30, 7);
    expect(await house.standing()).toEqual([]);
    await house.api
      .post(`/api/runs/${runId}/events`)
      .send({ events: [fromPhone(1, { type: 'abandoned', because: 'enough' })] });
    await house.waits(2);
    expect((await house.standing()).filter((a) => a.kind === 'water')).toEqual([]);
    await house.shows(20, 5.8);
    expect((await house.standing()).filter((a) => a.kind === 'water')).toEqual([]);
  });

  it('a probe that was left in its last cup by a run that was abandoned is told as that, and not as water', async () => {
    const order = { sensorId: house.sensorId, points: [{ standardId: 'technical-7.00' }, { standardId: 'technical-4.01' }], school: 'statistical' }; // prettier-ignore
    const { runId } = (await house.api.post('/api/runs').send(order)).body as { runId: string };
    const capture = { pointIndex: 0, purpose: 'as-found', method: 'typed', signal: 7.02, signalUncertainty: 0.01, temperatureC: 22, settledSeconds: null, t90: null, trace: [] }; // prettier-ignore
    const bodies = [
      ...['hold', 'take-out', 'p1.place.0'].map((stepId) => ({ type: 'step-done', stepId, traceSeconds: null })),
      { type: 'captured', stepId: 'p1.settle.0', traceSeconds: null, capture },
      { type: 'abandoned', because: 'called away' },
    ];
    const events = bodies.map((body, i) => fromPhone(i + 1, body));
    expect((await house.api.post(`/api/runs/${runId}/events`).send({ events })).status).toBe(200);
    await house.shows(40, 7.01);
    const now = (await house.standing()).filter((a) => a.kind !== 'hold');
    expect(now.map((a) => [a.kind, a.level])).toEqual([['in-cup', 'urgent']]);
    expect(now[0]!.text).toContain('the probe stands in 7.00');
    // Back in its water: that is over, and the water is watched again.
    await house.shows(15, 5.8);
    expect((await house.standing()).map((a) => a.kind)).not.toContain('in-cup');
    await house.api.post(`/api/runs/${runId}/events`).send({ events: [fromPhone(9, { type: 'hold-released' })] });
  });

  it('a run of another sensor on its body keeps it quiet, too', async () => {
    const mate = {
      ...RESERVOIR,
      loopName: 'Beside it',
      sensorName: 'Beside',
      body: 'sonde',
      channel: { kind: 'hand' },
    };
    const { sensorId } = (await house.api.post('/api/sensors').send(mate)).body as { sensorId: string };
    const { sites } = (await house.api.get('/api/set-up')).body as SetUpView;
    const { version } = sites[0]!.loops.find((l) => l.loopId === house.loopId)!;
    await house.api.put(`/api/loops/${house.loopId}`).send({ version, to: { body: 'sonde' }, why: '' });
    const order = { sensorId, points: [{ standardId: 'technical-7.00' }], school: 'statistical' };
    const { runId } = (await house.api.post('/api/runs').send(order)).body as { runId: string };
    await house.shows(30, 7);
    expect((await house.standing()).filter((a) => a.kind === 'water')).toEqual([]);
    await house.api.post(`/api/runs/${runId}/events`).send({ events: [fromPhone(1, { type: 'abandoned', because: 'enough' })] }); // prettier-ignore
    await house.shows(30, 5.8);
    expect((await house.standing()).filter((a) => a.kind === 'water')).toEqual([]);
  });

  it('a channel that falls silent beyond a limit leaves that alarm standing', async () => {
    await house.shows(12, 7.2);
    expect((await house.standing()).map((a) => a.kind)).toContain('water');
    await house.waits(60);
    expect((await house.standing()).map((a) => a.kind)).toContain('water');
    await house.shows(15, 5.8);
    expect((await house.standing()).map((a) => a.kind)).not.toContain('water');
  });
});

describe('how an alarm travels', () => {
  let house: House;
  const open: { close: () => unknown }[] = [];
  beforeAll(async () => {
    house = await House.opens();
    await house.limits(PH);
    await house.shows(30, 5.8);
  });
  afterEach(async () => {
    for (const one of open.splice(0)) await one.close();
  });
  afterAll(() => house.close());

  async function webhook(): Promise<{ url: string; got: AlarmMessage[] }> {
    const got: AlarmMessage[] = [];
    const server: Server = createServer((incoming, response) => {
      let text = '';
      incoming.on('data', (part: Buffer) => (text += part.toString()));
      incoming.on('end', () => {
        got.push(JSON.parse(text) as AlarmMessage);
        response.end();
      });
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    open.push(server);
    return { url: `http://127.0.0.1:${(server.address() as AddressInfo).port}/`, got };
  }
  const keep = (ways: object) => house.api.put('/api/alarm-ways').send(ways);
  const mailTo = (port: number, more: object = {}) => ({ host: '127.0.0.1', port, security: 'none', from: 'bench@tidewater.example', to: ['a@tidewater.example'], ...more }); // prettier-ignore
  const quietNow = { from: '00:00', to: '23:59', timeZone: 'UTC', unless: 'urgent' };

  it('by the rules of each way: a hook at once, a mail when nobody has seen it; snoozed, it comes again on both', async () => {
    const relay = await startRelay();
    open.push(relay);
    const hook = await webhook();
    const rules = { webhook: { from: 'note', afterMinutes: 0 }, mail: { from: 'warn', afterMinutes: 15 } };
    expect((await keep({ webhook: hook.url, mail: mailTo(relay.port), rules })).status).toBe(200);
    await house.shows(12, 6.3);
    expect(hook.got.map((m) => [m.event, m.level])).toEqual([['raised', 'warn']]);
    expect(relay.mails).toEqual([]);
    await house.shows(16, 6.3);
    expect(relay.mails).toHaveLength(1);
    expect(relay.mails[0]).toMatchObject({ from: 'bench@tidewater.example', to: ['a@tidewater.example'] });
    expect(relay.mails[0]!.subject).toMatch(/^Warning\. Reservoir 1 pH shows 6\.30 pH, above its limit of 6\.20 pH/);
    expect(relay.mails[0]!.text).toContain('Alarms are no safety device');
    const [alarm] = await house.standing();
    expect(alarm!.told.toSorted()).toEqual(['mail', 'webhook']);
    await house.api.post(`/api/alarms/${alarm!.id}/snooze`).send({ minutes: 60 });
    await house.shows(40, 6.3);
    expect(relay.mails.map((m) => m.subject.split(' ')[1])).toEqual(['Reservoir', 'Later:']);
    await house.shows(40, 6.3);
    expect(hook.got.map((m) => m.event)).toEqual(['raised', 'snoozed', 'again']);
    expect(relay.mails.at(-1)!.subject).toContain('Still so: Reservoir 1 pH');
    await house.shows(15, 5.8);
    expect(hook.got.at(-1)!.event).toBe('over');
    expect(relay.mails.at(-1)!.subject).toContain('Over: ');
  });

  it('in quiet hours a warning waits, what is urgent goes; what is over by the morning is not told at all', async () => {
    const hook = await webhook();
    await keep({ webhook: hook.url, quiet: quietNow });
    await house.shows(12, 6.3);
    expect(await house.standing()).toHaveLength(1);
    expect(hook.got).toEqual([]);
    await keep({ webhook: hook.url });
    await house.shows(1, 6.3);
    expect(hook.got.map((m) => m.event)).toEqual(['raised']);
    await house.shows(15, 5.8);
    await keep({ webhook: hook.url, quiet: quietNow });
    await house.shows(12, 6.3);
    await house.shows(15, 5.8);
    await keep({ webhook: hook.url });
    await house.waits(1);
    expect(hook.got.map((m) => m.event)).toEqual(['raised', 'over']);
  });

  it('a hold that nobody has released for longer than its limit reaches the relay through the quiet night', async () => {
    const relay = await startRelay({ logIn: { username: 'tank', password: 'secret word' } });
    open.push(relay);
    await house.api.put('/api/log-ins').send({ name: 'relay', to: `127.0.0.1:${relay.port}`, username: 'tank', password: 'secret word' }); // prettier-ignore
    await keep({ mail: mailTo(relay.port, { logIn: 'relay' }), quiet: quietNow });
    const order = { sensorId: house.sensorId, points: [{ standardId: 'technical-7.00' }], school: 'statistical' };
    const { runId } = (await house.api.post('/api/runs').send(order)).body as { runId: string };
    const send = (counter: number, body: object) => house.api.post(`/api/runs/${runId}/events`).send({ events: [fromPhone(counter, body)] }); // prettier-ignore
    await send(1, { type: 'step-done', stepId: 'hold', traceSeconds: null });
    await house.waits(59);
    expect(relay.mails).toEqual([]);
    await house.waits(3);
    expect(relay.mails).toHaveLength(1);
    expect(relay.mails[0]).toMatchObject({ user: 'tank' });
    expect(relay.mails[0]!.subject).toMatch(/^URGENT\. Reservoir 1 pH: .* on hold for more than 60 min/);
    await send(2, { type: 'abandoned', because: 'over' });
    await send(3, { type: 'hold-released' });
    await house.waits(1);
  });

  it('each way is tried by a button: taken, or refused with what the other side says; what waits is tried again', async () => {
    const grumpy = await startRelay({ refuses: 'mailbox unavailable, ask the janitor' });
    open.push(grumpy);
    const hook = await webhook();
    await keep({ webhook: hook.url, mail: mailTo(grumpy.port) });
    expect((await house.api.post('/api/alarm-ways/webhook/test')).status).toBe(200);
    expect(hook.got).toMatchObject([{ event: 'test', kind: 'frustum' }]);
    const refused = await house.api.post('/api/alarm-ways/mail/test');
    expect([refused.status, (refused.body as Problem).code]).toEqual([502, 'not-told']);
    expect((refused.body as Problem).detail).toContain(
      'Mail: the relay answers 550 mailbox unavailable, ask the janitor',
    );
    const unnamed = await house.api.post('/api/alarm-ways/mqtt/test');
    expect((unnamed.body as Problem).detail).toContain('MQTT: nobody has said where to');
    await house.shows(12, 6.3);
    const { told } = (await house.api.get('/api/alarms')).body as AlarmsView;
    expect(told.trouble).toContain('ask the janitor');
    expect(told.waiting).toBe(1);
    await house.shows(15, 5.8);
  });

  it.each([
    [{ mail: mailTo(25, { to: ['a@b.example\r\nBcc: c@d.example'] }) }, /no address/],
    [{ mail: mailTo(25, { to: [] }) }, /Name a receiver/],
    [{ webhook: 'http://169.254.169.254/latest' }, /link-local/],
    [{ quiet: { from: '25:00', to: '07:00', timeZone: 'UTC', unless: 'act' } }, /is a time like 22:00/],
    [{ quiet: { from: '22:00', to: '07:00', timeZone: 'Mars/Phobos', unless: 'act' } }, /no such time zone/],
    [{ rules: { mail: { from: 'loud', afterMinutes: 0 } } }, /One of note/],
  ])('%j is refused in words, and what was kept stays', async (ways, words) => {
    const before = (await house.api.get('/api/alarm-ways')).body as AlarmWaysView;
    const answer = await keep(ways);
    expect(answer.status).toBeGreaterThanOrEqual(422);
    expect(JSON.stringify(answer.body)).toMatch(words);
    expect((await house.api.get('/api/alarm-ways')).body).toEqual(before);
  });
});
