import { createServer, type RequestListener, type Server } from 'node:http';
import { createServer as createTcp, type AddressInfo, type Server as TcpServer, type Socket } from 'node:net';
import { server as servers } from 'jsmodbus';
import { Aedes } from 'aedes';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { channelSchema, newSensorSchema, testChannelSchema, type ChannelConfig } from '@frustum/contract';
import { fixedProbe } from '../../sim/testing/fixed-probe.ts';
import { growRoomMonitor } from '../../sim/devices/grow-room-monitor.ts';
import { LiveHub, type LiveMessage } from './live-hub.ts';
import { Poller } from './poller.ts';
import { celsiusOf, signalOf, stageOf, type Scaled } from './wires/wire.ts';

const open: { close: () => unknown }[] = [];
afterEach(() => {
  for (const thing of open.splice(0)) thing.close();
});

async function listen<T extends Server | TcpServer>(server: T): Promise<number> {
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  open.push(server);
  return (server.address() as AddressInfo).port;
}

const web = (answer: RequestListener) => listen(createServer(answer));
const json =
  (body: unknown): RequestListener =>
  (_, response) => {
    response.setHeader('content-type', 'application/json').end(typeof body === 'string' ? body : JSON.stringify(body));
  };

/** As the API makes it: checked, and what is usual filled in. */
const config = async (channel: object) => (await testChannelSchema.validate({ channel })).channel;
const http = (port: number, more: object = {}) =>
  config({
    kind: 'http-json',
    url: `http://127.0.0.1:${port}/now`,
    pointer: '/probes/0/mv',
    temperaturePointer: '/probes/0/c',
    ...more,
  });

function poller(seconds?: () => number): { poller: Poller; hub: LiveHub } {
  const hub = new LiveHub();
  const made = new Poller(hub, seconds ? { seconds } : {});
  open.push({ close: () => made.stop() });
  return { poller: made, hub };
}
const test = async (channel: ChannelConfig) => poller().poller.test(channel);

/** A device with registers that a test fills, as an independent server of the protocol serves them. */
async function registers(fill: (input: Buffer, holding: Buffer) => void): Promise<number> {
  const tcp = createTcp();
  const modbus = new servers.TCP(tcp, { input: Buffer.alloc(200), holding: Buffer.alloc(200) });
  fill(modbus.input, modbus.holding);
  return listen(tcp);
}

const PROBE = { probes: [{ mv: -8.4, c: 24.6, f: 76.28 }], site: 'A' };

describe('JSON over HTTP', () => {
  it('reads signal and temperature by their paths, raw and converted', async () => {
    const found = await test(await http(await web(json(PROBE))));
    expect(found).toMatchObject({ ok: true, stage: 'done', reading: { signal: -8.4, temperatureC: 24.6 } });
    expect(found.raw).toEqual([
      { what: 'signal, /probes/0/mv', value: '-8.4' },
      { what: 'temperature, /probes/0/c', value: '24.6' },
    ]);
    expect(found.message).toBe('It answers: −8.4 mV at 24.6 °C.');
  });

  it('takes texts, °F, scale and offset, and a fixed temperature', async () => {
    const port = await web(json({ probes: [{ mv: '-0,0084', f: '76.28' }] }));
    const scaled = await http(port, {
      scale: 1000,
      offset: 2,
      temperaturePointer: '/probes/0/f',
      temperatureUnit: '°F',
    });
    const found = await test(scaled);
    expect(found.reading!.signal).toBeCloseTo(-6.4, 9);
    expect(found.reading!.temperatureC).toBeCloseTo(24.6, 9);
    const fixed = await test(await http(port, { scale: 1000, temperaturePointer: null, fixedC: 21 }));
    expect(fixed.reading!.temperatureC).toBe(21);
  });

  it.each<[string, RequestListener, object, string, RegExp]>([
    ['no such path', json(PROBE), { pointer: '/probe' }, 'address', /no “probe” at the top; it has probes, site/],
    ['no figure there', json(PROBE), { pointer: '/site' }, 'decode', /\/site is a text, no figure/],
    ['no JSON', json('<html>hello'), {}, 'decode', /answered no JSON but 11 characters of something else/],
    [
      'beyond any electrode',
      json(PROBE),
      { scale: 1000 },
      'range',
      /−8\.4 on the wire is −8400 mV; nothing of the kind is below −2000/,
    ],
    ['steam', json({ probes: [{ mv: 1, c: 400 }] }), {}, 'range', /400\.0 °C is outside −10 to 130/],
    ['not found', (_, r) => void r.writeHead(404).end(), {}, 'read', /it answered \(404\)\. Check the address/],
    [
      'elsewhere',
      (_, r) => void r.writeHead(302, { location: 'http://127.0.0.1:1/' }).end(),
      {},
      'read',
      /it sends on to another address \(302\)/,
    ],
    ['endless', (_, r) => void r.end('1'.repeat(300_000)), {}, 'read', /more than 256 KiB/],
    ['hung up', (q) => q.socket.destroy(), {}, 'connect', /Check plug/],
    [
      'another protocol',
      (_, r) => void r.writeHead(101, { connection: 'upgrade', upgrade: 'x' }).end(),
      {},
      'connect',
      /closed without an answer/,
    ],
  ])('%s: the stage and the way out', async (_, answer, more, stage, message) => {
    const found = await test(await http(await web(answer), more));
    expect(found).toMatchObject({ ok: false, stage, reading: null });
    expect(found.message).toMatch(message);
  });

  it('nobody there, and a name that is none', async () => {
    // A port that was open a moment ago, and is not any more.
    const gone = createTcp();
    const port = await listen(gone);
    await new Promise((resolve) => gone.close(resolve));
    expect(await test(await http(port))).toMatchObject({ ok: false, stage: 'refused' });
    expect(stageOf({ cause: { code: 'ENOTFOUND' } }, 'connect')).toBe('name');
    expect(stageOf({ code: 'EAI_AGAIN' }, 'connect')).toBe('name');
    expect(stageOf({ name: 'TimeoutError' }, 'connect')).toBe('time out');
    expect(stageOf(new Error('x'), 'read')).toBe('read');
  });
});

describe('any Modbus map', () => {
  const mapped = (port: number, more: object = {}) =>
    config({ kind: 'modbus-map', host: '127.0.0.1', port, register: 10, fixedC: 25, ...more });

  it.each([
    ['int16 tenths', { type: 'int16', scale: 0.1 }, (i: Buffer) => void i.writeInt16BE(-84, 20)],
    ['float, high word first', { type: 'float32' }, (i: Buffer) => void i.writeFloatBE(-8.4, 20)],
    [
      'float, low word first, holding',
      { type: 'float32', words: 'low-first', table: 'holding' },
      (_: Buffer, h: Buffer) => {
        const bytes = Buffer.alloc(4);
        bytes.writeFloatBE(-8.4);
        h.set([bytes[2]!, bytes[3]!, bytes[0]!, bytes[1]!], 20);
      },
    ],
    [
      'uint32 microvolts with an offset',
      { type: 'uint32', scale: 0.001, offset: -1000 },
      (i: Buffer) => void i.writeUInt32BE(991_600, 20),
    ],
    // 4-20 mA of -500 to 500 mV: -8.4 mV is 11.8656 mA
    [
      'a current in microamps',
      { type: 'uint16', scale: 0.001, quantity: 'mA' },
      (i: Buffer) => void i.writeUInt16BE(11_866, 20),
    ],
  ])('%s', async (_, more, fill) => {
    const found = await test(await mapped(await registers(fill), more));
    expect(found.message).toMatch(/^It answers/);
    expect(Math.abs(found.reading!.signal - -8.4)).toBeLessThan(0.05);
  });

  it('temperature from a register of its own, and the raw words in hexadecimal', async () => {
    const port = await registers((i) => {
      i.writeInt16BE(-84, 20);
      i.writeInt16BE(2463, 22);
    });
    const found = await test(
      await mapped(port, { scale: 0.1, fixedC: null, temperatureRegister: 11, temperatureScale: 0.01 }),
    );
    expect(found.reading).toMatchObject({ signal: -8.4, unit: 'mV', temperatureC: 24.63 });
    expect(found.raw[0]).toEqual({ what: 'signal, input register 10, int16', value: 'ffac (hex) = -84' });
  });

  it('a fault current, a register that is not there, and a float that is none: each by its stage', async () => {
    const port = await registers((i) => {
      i.writeUInt16BE(3500, 20);
      i.writeUInt32BE(0x7fc00000, 30);
    });
    const fault = await test(await mapped(port, { type: 'uint16', scale: 0.001, quantity: 'mA' }));
    expect(fault).toMatchObject({ ok: false, stage: 'status' });
    expect(fault.message).toMatch(/3\.50 mA is fault low \(NE 43/);
    expect(await test(await mapped(port, { register: 5000 }))).toMatchObject({ ok: false, stage: 'address' });
    const nan = await test(await mapped(port, { register: 15, type: 'float32' }));
    expect(nan).toMatchObject({ ok: false, stage: 'decode' });
    expect(nan.message).toMatch(/7fc0 0000 is no figure as float32/);
  });

  it('a device that takes the call and never answers: time out, and the others are not kept waiting', async () => {
    const silent = createTcp((socket: Socket) => open.push({ close: () => socket.destroy() }));
    const port = await listen(silent);
    const found = await test(await mapped(port));
    expect(found).toMatchObject({ ok: false, stage: 'time out' });
  });

  it('half a frame, and nonsense, are no reading', async () => {
    const babble = createTcp((socket: Socket) => {
      open.push({ close: () => socket.destroy() });
      socket.on('error', () => undefined);
      socket.on('data', (request) => {
        // The right beginning, a length that promises more, and then nothing.
        socket.write(Buffer.concat([request.subarray(0, 4), Buffer.from([0, 9, 1, 4, 6, 0])]));
        socket.end();
      });
    });
    expect(await test(await mapped(await listen(babble)))).toMatchObject({ ok: false, reading: null });
  });
});

describe('Modbus frames that are none, from a device that means harm', () => {
  /** A device that gives each request these bytes after its transaction number. */
  const device = (after: readonly number[]) =>
    listen(
      createTcp((socket: Socket) => {
        open.push({ close: () => socket.destroy() });
        socket.on('error', () => undefined);
        socket.on('data', (request) => socket.write(Buffer.concat([request.subarray(0, 2), Buffer.from(after)])));
      }),
    );
  const asked = { kind: 'modbus-map', host: '127.0.0.1', table: 'input', register: 10, type: 'int16', fixedC: 25 };

  it.each<[string, readonly number[], RegExp]>([
    ['an exception that no table has', [0, 0, 0, 3, 1, 0x84, 77], /read: exception 77\./],
    ['an exception of a known kind', [0, 0, 0, 3, 1, 0x84, 6], /it is busy \(exception 6\)/],
    ['an exception with more behind it', [0, 0, 0, 4, 1, 0x84, 2, 2], /its exception has 3 bytes instead of 2/],
    [
      'an exception for a function that nobody knows',
      [0, 0, 0, 3, 1, 0xff, 1],
      /it answers with function 255, which nobody asked for/,
    ],
    [
      'more registers than were asked for',
      [0, 0, 0, 7, 1, 4, 4, 0, 1, 0, 2],
      /it gave 2 registers from 10 on instead of 1/,
    ],
    ['no register at all', [0, 0, 0, 3, 1, 4, 0], /it gave 0 registers from 10 on instead of 1/],
    ['a count that the frame does not hold', [0, 0, 0, 5, 1, 4, 6, 0, 1], /it announces 6 bytes and sends 2/],
    ['half a register', [0, 0, 0, 4, 1, 4, 1, 9], /it announces 1 bytes and sends 1/],
    ['another function', [0, 0, 0, 5, 1, 1, 2, 0, 1], /it answers with function 1, which nobody asked for/],
    ['another protocol', [0, 9, 0, 5, 1, 4, 2, 0, 1], /it speaks protocol 9 instead of 0/],
    ['a length that Modbus does not have', [0, 0, 0xff, 0xff, 1, 4, 2, 0, 1], /no Modbus frame has 65535 bytes/],
    ['a length of nothing', [0, 0, 0, 0, 1, 4, 2, 0, 1], /no Modbus frame has 0 bytes/],
  ])('%s: refused in words, and the process goes on', async (_, after, words) => {
    const found = await test(await config({ ...asked, port: await device(after) }));
    expect(found).toMatchObject({ ok: false, reading: null });
    expect(found.message).toMatch(words);
  });

  it('a flood of frames that nobody asked for disturbs no reading, and one that writes is answered in words too', async () => {
    const flood = createTcp((socket: Socket) => {
      open.push({ close: () => socket.destroy() });
      socket.on('error', () => undefined);
      const late = Buffer.from([0, 0, 0, 0, 0, 5, 1, 4, 2, 0, 99]);
      socket.on('data', (request) => {
        const right = Buffer.concat([request.subarray(0, 2), Buffer.from([0, 0, 0, 5, 1, 4, 2, 0, 7])]);
        socket.write(Buffer.concat([right, ...Array.from({ length: 2000 }, () => late)]));
      });
    });
    const found = await test(await config({ ...asked, port: await listen(flood) }));
    expect(found.reading).toMatchObject({ signal: 7 });
  });
});

describe('MQTT, from a broker of another make', () => {
  /** A broker (aedes), and devices that publish what a test gives as soon as somebody listens. */
  async function broker(messages: Record<string, string>) {
    const made = await Aedes.createBroker();
    const tcp = createTcp((socket) => made.handle(socket));
    open.push({ close: () => made.close() });
    const say = (topic: string, text: string, retain = false) =>
      made.publish({ cmd: 'publish', topic, payload: Buffer.from(text), qos: 0, retain, dup: false }, () => undefined);
    made.on('subscribe', (subscribed) => {
      for (const { topic } of subscribed) if (Object.hasOwn(messages, topic)) say(topic, messages[topic]!);
    });
    return { port: await listen(tcp), say };
  }
  const mqtt = (port: number, more: object = {}) =>
    config({
      kind: 'mqtt',
      host: '127.0.0.1',
      port,
      topic: 'hall/now',
      pointer: '/mv',
      fixedC: 25,
      staleSeconds: 1,
      ...more,
    });
  const PACK = JSON.stringify([
    { bn: 'line-2/', n: 'potential', u: 'V', v: -0.0084 },
    { n: 'water', u: 'Cel', v: 24.6 },
  ]);

  // This broker speaks 3.1.1 only; 5 is tried with mosquitto in peers.spec.ts.
  it('JSON by its path, and a SenML pack by the names of its records', async () => {
    const { port } = await broker({ 'hall/now': '{"mv":-8.4,"water":{"f":76.28}}', 'hall/senml': PACK });
    const plain = await test(await mqtt(port, { fixedC: null, temperaturePointer: '/water/f', temperatureUnit: '°F' }));
    expect(plain.reading!.signal).toBe(-8.4);
    expect(plain.reading!.temperatureC).toBeCloseTo(24.6, 9);
    const pack = await test(
      await mqtt(port, {
        topic: 'hall/senml',
        format: 'senml',
        pointer: 'line-2/potential',
        scale: 1000,
        fixedC: null,
        temperaturePointer: 'line-2/water',
      }),
    );
    expect(pack.reading!.signal).toBeCloseTo(-8.4, 9);
    expect(pack.raw).toEqual([
      { what: 'signal, line-2/potential', value: '-0.0084 V' },
      { what: 'temperature, line-2/water', value: '24.6 Cel' },
    ]);
  });

  /** A poller that reads one buffered topic, what of it is live, and what it files under an earlier time. */
  async function buffered(port: number, more: object, nowMs: number) {
    const hub = new LiveHub();
    const live: number[] = [];
    const filed: [string, number, number][] = [];
    hub.listen(({ message: m }) => {
      if (m.event === 'sample') live.push(m.data.signal);
    });
    hub.onFiled((r) => filed.push([new Date(r.atMs).toISOString().slice(11, 16), r.signal, r.temperatureC]));
    const made = new Poller(hub, { now: () => nowMs });
    open.push({ close: () => made.stop() });
    hub.watch(['c1']);
    made.add('c1', await mqtt(port, { buffered: true, pollSeconds: 0.2, staleSeconds: 15, ...more }), '2026-11-20');
    const said = () => hub.stateOf('c1');
    return { live, filed, said };
  }
  const NOON = Date.parse('2026-11-23T12:00:00Z');
  const SOON = { timeout: 60_000 };

  it('a buffered SenML pack: the newest that can be is live, what is older is filed under its own time, with its own temperature', async () => {
    const at = (minute: number) => NOON / 1000 + 60 * minute;
    const record = (n: string, minute: number, v: number) => ({ n, t: at(minute), v });
    const pack = JSON.stringify([
      record('mv', -60, 1),
      record('c', -60, 21),
      record('mv', -30, 2),
      record('mv', 0, 3),
      record('c', 0, 23),
      record('mv', 60 * 25, 4),
      record('mv', -60 * 24 * 4, 5),
    ]);
    const senml = { topic: 'hall/senml', format: 'senml', pointer: 'mv', fixedC: null, temperaturePointer: 'c' };
    const { port, say } = await broker({ 'hall/senml': pack });
    const { live, filed, said } = await buffered(port, senml, NOON);
    await vi.waitFor(() => expect(live).toEqual([3]), SOON);
    expect(filed).toEqual([
      ['11:00', 1, 21],
      ['11:30', 2, 21],
    ]);
    say('hall/senml', JSON.stringify([record('mv', -45, 6), record('mv', 0.1, 7), record('c', 0, 23)]));
    await vi.waitFor(() => expect(live).toEqual([3, 7]), SOON);
    // Without a temperature up to then, the next one there is.
    expect(filed.slice(2)).toEqual([['11:15', 6, 23]]);
    expect(said()).toMatchObject({
      state: 'live',
      message: expect.stringMatching(/^It is live\. Set aside: 2 readings, the last one of 2026-11-24 13:00 UTC, more than a day ahead\.$/) as string, // prettier-ignore
    });
  });

  it('messages that waited come one by one: each once, however often it is sent, and none of them is live', async () => {
    const json = { pointer: '/mv', clockPointer: '/at' };
    const message = (minute: number, mv: number) => JSON.stringify({ mv, at: NOON / 1000 + 60 * minute });
    const { port, say } = await broker({});
    const { live, filed, said } = await buffered(port, json, NOON);
    const tell = () => [-3, -2, -2, -1].forEach((minute) => say('hall/now', message(minute, minute)));
    await vi.waitFor(() => {
      tell();
      expect(filed).toHaveLength(3);
    }, SOON);
    expect(filed.map(([at]) => at)).toEqual(['11:57', '11:58', '11:59']);
    expect(live).toEqual([]);
    await vi.waitFor(() => expect(said()?.message).toMatch(/its newest reading is from 2026-11-23 11:59 UTC/), SOON);
    expect(said()?.state).toBe('stale');
    say('hall/now', message(0, 9));
    await vi.waitFor(() => expect([live, said()?.state]).toEqual([[9], 'live']), SOON);
  });

  it('each failure by its stage: nobody, a silent topic, no JSON, no such path, no such record', async () => {
    const { port } = await broker({ 'hall/now': '{"mv":-8.4}', 'hall/words': 'hello', 'hall/senml': PACK });
    const gone = createTcp();
    const closed = await listen(gone);
    await new Promise((resolve) => gone.close(resolve));
    expect(await test(await mqtt(closed))).toMatchObject({ ok: false, stage: 'refused' });
    const silent = await test(await mqtt(port, { topic: 'hall/silent' }));
    expect(silent).toMatchObject({ ok: false, stage: 'time out' });
    expect(silent.message).toMatch(/no message on hall\/silent for 1 s. Check the topic/);
    expect(await test(await mqtt(port, { topic: 'hall/words' }))).toMatchObject({ ok: false, stage: 'decode' });
    expect(await test(await mqtt(port, { pointer: '/volt' }))).toMatchObject({ ok: false, stage: 'address' });
    const other = await test(await mqtt(port, { topic: 'hall/senml', format: 'senml', pointer: 'potential' }));
    expect(other.message).toMatch(/the pack has no “potential”; it has line-2\/potential, line-2\/water/);
  });

  it('what is published is sampled as it comes; a silent device is stale, and live again by itself', async () => {
    const { port, say } = await broker({ 'hall/now': '{"mv":1}' });
    const { poller: made, hub } = poller();
    const seen: number[] = [];
    const states: string[] = [];
    const heard = (fits: () => boolean) =>
      new Promise<void>((resolve) => {
        const stop = hub.listen(({ message }) => {
          if (message.event === 'sample') seen.push(message.data.signal);
          else states.push(message.data.state);
          if (!fits()) return;
          stop();
          resolve();
        });
      });
    const first = heard(() => seen.includes(1));
    made.add('c1', await mqtt(port, { pollSeconds: 0.2 }));
    await first;
    const stale = heard(() => states.includes('stale'));
    await stale;
    const again = heard(() => seen.includes(2) && states.at(-1) === 'live');
    say('hall/now', '{"mv":2}');
    await again;
    expect(seen.filter((v) => v === 2)).toHaveLength(1);
  });

  it('what a broker has kept is told as last known, and never read', async () => {
    const { port, say } = await broker({});
    say('hall/now', '{"mv":7}', true);
    const { poller: made, hub } = poller();
    const seen: number[] = [];
    const told = new Promise<string>((resolve) =>
      hub.listen(({ message }) => {
        if (message.event === 'sample') seen.push(message.data.signal);
        else if (message.data.state === 'stale') resolve(message.data.message);
      }),
    );
    made.add('c1', await mqtt(port, { pollSeconds: 0.2 }));
    expect(await told).toContain('no message on hall/now for 1 s; the broker keeps 7 mV as last known, age unknown');
    const live = new Promise<void>((resolve) => hub.listen(({ message }) => message.event === 'sample' && resolve()));
    say('hall/now', '{"mv":8}', true);
    await live;
    expect(seen).toEqual([8]);
    expect((await test(await mqtt(port))).message).toContain('the broker keeps 8 mV as last known');
  });

  it('a broker that sends another topic, a packet too long, or a length without end, gives no reading', async () => {
    const connack = Buffer.from([0x20, 2, 0, 0]);
    /** What a hostile broker says once it was asked for a topic (packet type 8). */
    const hostile = (says: Buffer) =>
      listen(
        createTcp((socket) => {
          socket.on('error', () => socket.destroy());
          socket.write(connack);
          socket.on('data', (bytes) => bytes.includes(0x82) && socket.write(says));
        }),
      );
    const publish = (topic: string, text: string) =>
      Buffer.concat([Buffer.from([0x30, 2 + topic.length + text.length, 0, topic.length]), Buffer.from(topic + text)]);
    expect(await test(await mqtt(await hostile(publish('other/now', '{"mv":5}'))))).toMatchObject({
      ok: false,
      stage: 'time out',
    });
    const long = await test(await mqtt(await hostile(Buffer.from([0x30, 0xff, 0xff, 0xff, 0x7f]))));
    expect(long.message).toContain('a message of more than 256 KiB is not taken');
    const endless = await test(await mqtt(await hostile(Buffer.from([0x30, 0x80, 0x80, 0x80, 0x80, 0x80]))));
    expect(endless.message).toContain('a packet without a length');
  });

  it('the stand-in monitor publishes what its probes show, as JSON in °F and as SenML in °C', async () => {
    const probe = fixedProbe(-8.4, 24.6);
    const tcp = await growRoomMonitor(new Map([['line-2', probe]]), '127.0.0.1', 0);
    open.push(tcp);
    const { port } = tcp.address() as AddressInfo;
    const more = { topic: 'tidewater/line-2/now', pointer: '/probe/mv', staleSeconds: 5, fixedC: null };
    const plain = await test(await mqtt(port, { ...more, temperaturePointer: '/water/f', temperatureUnit: '°F' }));
    expect(plain.reading!.signal).toBe(-8.4);
    expect(plain.reading!.temperatureC).toBeCloseTo(24.6, 2);
  });
});

describe('the poller on these wires', () => {
  const until = (hub: LiveHub, fits: (m: LiveMessage) => boolean) =>
    new Promise<LiveMessage>((resolve) => {
      const stop = hub.listen(({ message }) => {
        if (message.data.channelId !== 'c1' || !fits(message)) return;
        stop();
        resolve(message);
      });
    });

  it('samples carry a time of their own, a fault is one at once, and live comes back by itself', async () => {
    let body: unknown = PROBE;
    const port = await web((q, r) => json(body)(q, r));
    const { poller: made, hub } = poller();
    const first = until(hub, (m) => m.event === 'sample');
    made.add('c1', await http(port, { pollSeconds: 0.2 }));
    const sample = await first;
    expect(sample.data).toMatchObject({ signal: -8.4, temperatureC: 24.6 });
    const faulty = until(hub, (m) => m.event === 'state' && m.data.state === 'fault');
    body = { probes: [{ mv: 9999, c: 25 }] };
    const fault = await faulty;
    expect(fault.event === 'state' && fault.data.message).toMatch(/9999 on the wire/);
    const live = until(hub, (m) => m.event === 'state' && m.data.state === 'live');
    body = PROBE;
    await live;
  });

  it('one missed reading is no alarm; beyond its stale limit the channel says so', async () => {
    let now = 1000;
    let gone = false;
    const port = await web((q, r) => (gone ? q.socket.destroy() : json(PROBE)(q, r)));
    const { poller: made, hub } = poller(() => now);
    const first = until(hub, (m) => m.event === 'sample');
    hub.watch(['c1']);
    made.add('c1', await http(port, { pollSeconds: 0.2, staleSeconds: 15 }));
    await first;
    const states: string[] = [];
    hub.listen(({ message }) => {
      if (message.event === 'state') states.push(message.data.state);
    });
    gone = true;
    now += 5;
    made.hurry('c1');
    const stale = until(hub, (m) => m.event === 'state' && m.data.state === 'stale');
    // Five seconds of silence say nothing yet; sixteen do.
    now += 11.5;
    await stale;
    expect(states).toEqual(['stale']);
  });

  it('cannot be written where the device takes no coefficients', async () => {
    const { poller: made } = poller();
    made.add('c1', await http(await web(json(PROBE))));
    await expect(made.writeCoefficients('c1', { zero: 0, sensitivity: 1 })).rejects.toThrow(
      /Enter the figures at the controller/,
    );
  });
});

describe('what a number on the wire can be', () => {
  it('a potential within ±2 V, a temperature of water, and a current of NE 43', () => {
    const scaled = (more: object) =>
      channelSchema.cast({ kind: 'modbus-map', host: 'h', register: 0, fixedC: 25, ...more }) as Scaled;
    const loop = scaled({ quantity: 'mA' });
    expect(signalOf('here', 12, loop)).toEqual({ signal: 0, unit: 'mV' });
    expect(() => signalOf('here', 21.5, loop)).toThrow(/fault high/);
    expect(() => signalOf('here', 3.7, loop)).toThrow(/saturated low/);
    const cell = scaled({ quantity: 'mA', spanUnit: 'mS/cm', at4: 0, at20: 80 });
    expect(signalOf('here', 14.6, cell)).toEqual({ signal: 53, unit: 'mS/cm' });
    expect(() => signalOf('here', 2500, scaled({}))).toThrow(
      /2500 mV; nothing of the kind is below −2000 or above 2000/,
    );
    expect(() => signalOf('here', 15.2, scaled({ quantity: 'pH' }))).toThrow(/15.2 pH; nothing of the kind/);
    const narrow = scaled({ quantity: 'µS/cm', rangeLow: 0, rangeHigh: 200 });
    expect(signalOf('here', 199, narrow).signal).toBe(199);
    expect(() => signalOf('here', 1413, narrow)).toThrow(
      /range: 1413 on the wire is 1413 µS\/cm; this channel goes from 0 to 200/,
    );
    expect(signalOf('here', 40_000, scaled({ quantity: 'counts' })).unit).toBe('counts');
    expect(() => celsiusOf('here', -40)).toThrow(/outside −10 to 130/);
  });
});

describe('what may be set up', () => {
  const refused = async (channel: object, words: RegExp) =>
    expect(testChannelSchema.validate({ channel })).rejects.toThrow(words);

  it('fills in what is usual', async () => {
    expect(await config({ kind: 'modbus-map', host: 'h', register: 7, fixedC: 25 })).toMatchObject({
      port: 502,
      unitId: 1,
      table: 'input',
      type: 'int16',
      words: 'high-first',
      scale: 1,
      quantity: 'mV',
      pollSeconds: 1,
      staleSeconds: 15,
    });
  });

  it('says what is missing or cannot be', async () => {
    await refused({ kind: 'modbus-map', host: 'h', register: 7 }, /Say where the temperature comes from/);
    await refused({ kind: 'modbus-map', host: 'h', register: 70_000, fixedC: 25 }, /Signal register is above 65535/);
    await refused({ kind: 'modbus-map', host: 'h', register: 7, fixedC: 25, scale: 0 }, /scale of 0 shows nothing/);
    await refused({ kind: 'modbus-map', host: 'h', register: 7, fixedC: 25, type: 'int8' }, /one of the five types/);
    await refused({ kind: 'http-json', url: 'ftp://x/y', fixedC: 25 }, /no http or https/);
    await refused({ kind: 'http-json', url: 'http://me:secret@x/y', fixedC: 25 }, /end up in records/);
    await refused({ kind: 'http-json', url: 'http://x/y', pointer: 'mv', fixedC: 25 }, /begins with “\/”/);
    await refused({ kind: 'http-json', url: 'http://x/y' }, /Say where the temperature/);
    await refused({ kind: 'mqtt', host: 'h', topic: 'a/+/b', pointer: '/x', fixedC: 25 }, /leave out \+ and #/);
    await refused({ kind: 'mqtt', host: 'h', topic: 'a', pointer: 'x', fixedC: 25 }, /begins with “\/”/);
    await refused({ kind: 'telepathy' }, /./);
    const sensor = { siteName: 'A', loopName: 'B', workingValue: 7, workingC: 25, tolerance: 0.1, intervalDays: 30 };
    const rest = { pointSet: ['technical-7.00', 'technical-4.01'], sensorName: 'C', fittedOn: '2026-11-01' };
    await expect(
      newSensorSchema.validate({ ...sensor, ...rest, channel: { kind: 'http-json', url: 'nowhere', fixedC: 25 } }),
    ).rejects.toThrow(/no http or https/);
  });
});

describe('what a device has to offer', () => {
  const survey = (channel: ChannelConfig, shows: number | null) => poller().poller.survey(channel, shows);

  it('is every figure of an answer, with its path and none of its texts; what the display shows is marked', async () => {
    const secret = {
      ...PROBE,
      owner: 'nobody’s business',
      'a key that is somebody’s whole sentence': 1,
      count: '12,5',
    };
    const port = await web(json(secret));
    const all = await survey(await http(port, { pointer: '', temperaturePointer: null, fixedC: 25 }), null);
    expect(all.places.map((p) => [p.label, p.value, p.fits])).toEqual([
      ['/probes/0/mv', -8.4, false],
      ['/probes/0/c', 24.6, false],
      ['/probes/0/f', 76.28, false],
      ['/count', 12.5, false],
    ]);
    const shown = await survey(await http(port), 24.6);
    expect(shown).toMatchObject({ ok: true, message: '1 of 4 figures are what the display shows.' });
    expect(shown.places).toEqual([{ label: '/probes/0/c', value: 24.6, fits: true, settings: { pointer: '/probes/0/c' } }]); // prettier-ignore
  });

  it('is a block of registers in every decoding; those that the display confirms come with their scale', async () => {
    const port = await registers((input) => {
      input.writeInt16BE(702, 2 * 3);
      // A float with its low word first, as many devices have it.
      const float = Buffer.alloc(4);
      float.writeFloatBE(24.625);
      float.copy(input, 2 * 10, 2, 4);
      float.copy(input, 2 * 11, 0, 2);
    });
    const map = await config({ kind: 'modbus-map', host: '127.0.0.1', port, unitId: 1, table: 'input', register: 0, type: 'int16', fixedC: 25 }); // prettier-ignore
    const ph = await survey(map, 7.02);
    expect(ph.places).toContainEqual({ label: 'register 3, int16', value: 702, fits: true, settings: { register: '3', type: 'int16', words: 'high-first', scale: '0.01' } }); // prettier-ignore
    const warm = await survey(map, 24.6);
    expect(warm.places).toContainEqual({ label: 'register 10, float32, low word first', value: 24.625, fits: true, settings: { register: '10', type: 'float32', words: 'low-first', scale: '1' } }); // prettier-ignore
    expect((await survey(map, 1234.5)).message).toContain('None of');
  });

  it('is every figure that is published on a broker, of JSON and of SenML packs; topics without a plain name are left out', async () => {
    const made = await Aedes.createBroker();
    open.push({ close: () => made.close() });
    const port = await listen(createTcp((socket) => made.handle(socket)));
    const say = (topic: string, text: string) =>
      made.publish({ cmd: 'publish', topic, payload: Buffer.from(text), qos: 0, retain: false, dup: false }, () => undefined); // prettier-ignore
    made.on('subscribe', () => {
      say('hall/line-2', '{"ph":7.02,"note":"private"}');
      say('hall/line-2/ec', '1413');
      say('hall/pack', '[{"bn":"line-3/","n":"potential","u":"mV","v":-8.4}]');
      say('somebody’s whole story', '{"a":1}');
      say('hall/words', 'not JSON');
    });
    const broker = await config({ kind: 'mqtt', host: '127.0.0.1', port, topic: 'any', fixedC: 25 });
    const heard = await survey(broker, null);
    expect(heard.places.map((p) => [p.label, p.value, p.settings])).toEqual([
      ['hall/line-2 /ph', 7.02, { topic: 'hall/line-2', pointer: '/ph', format: 'json' }],
      ['hall/line-2/ec', 1413, { topic: 'hall/line-2/ec', pointer: '', format: 'json' }],
      ['hall/pack line-3/potential', -8.4, { topic: 'hall/pack', pointer: 'line-3/potential', format: 'senml' }],
    ]);
  });

  it('says at which stage it failed, and what has one figure only', async () => {
    expect(await survey(await http(9), null)).toMatchObject({ ok: false, message: expect.stringContaining('127.0.0.1:9') as string, places: [] }); // prettier-ignore
    expect(await survey(await config({ kind: 'hand' }), null)).toMatchObject({ ok: false, message: expect.stringContaining('one figure only') as string }); // prettier-ignore
  });
});
