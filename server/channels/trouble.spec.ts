import { createServer, type AddressInfo, type Server } from 'node:net';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { channelSchema, epochIn, type ChannelConfig, type LiveSample } from '@frustum/contract';
import { aquariumController } from '../../sim/devices/aquarium-controller.ts';
import { faultyLine, type LineFault } from '../../sim/devices/line-fault.ts';
import type { ProbePort } from '../../sim/devices/ports.ts';
import { transmitter } from '../../sim/devices/transmitter.ts';
import { fixedProbe } from '../../sim/testing/fixed-probe.ts';
import { LiveHub, type LiveMessage } from './live-hub.ts';
import { Poller } from './poller.ts';

const HOST = '127.0.0.1';
const open: { close: () => unknown }[] = [];
afterEach(() => {
  for (const thing of open.splice(0).reverse()) thing.close();
});

const modbus = (port: number, more: object = {}) =>
  channelSchema.cast({ kind: 'modbus', host: HOST, port, unitId: 1, ...more }) as ChannelConfig;

/** A poller, what it has said of each channel, and waiting until it has said something. */
function watched(ids: readonly string[]) {
  const hub = new LiveHub();
  const poller = new Poller(hub);
  open.push({ close: () => poller.stop() });
  const said: LiveMessage[] = [];
  let look = () => undefined as void;
  hub.listen(({ message }) => {
    said.push(message);
    look();
  });
  hub.watch(ids);
  const until = (fits: (m: LiveMessage) => boolean, from = 0) =>
    new Promise<LiveMessage>((resolve) => {
      look = () => {
        const found = said.slice(from).find(fits);
        if (found) resolve(found);
      };
      look();
    });
  return { hub, poller, said, until };
}
const isState = (m: LiveMessage, state: string, id = 'c1') =>
  m.event === 'state' && m.data.channelId === id && m.data.state === state;
const isSample = (m: LiveMessage, id = 'c1') => m.event === 'sample' && m.data.channelId === id;

/** A probe of a device whose clock goes on by a fifth of a second at each reading. */
function running(mv: number): ProbePort {
  let seconds = 0;
  return fixedProbe(mv, 25, () => ({ clockSeconds: (seconds += 0.2) }));
}

describe('a line to a transmitter that goes wrong', () => {
  it.each<[LineFault, RegExp]>([
    ['silent', /time out: /],
    ['late', /time out: /],
    ['half a frame', /(time out|read): /],
    ['another unit', /(time out|read): /],
    ['hangs up', /(read|connect): /],
  ])(
    '%s: stale in words, nothing is recorded, the neighbour goes on, and it is live again by itself',
    async (fault, words) => {
      const device = await transmitter([running(-69.5)], 20, HOST, 0);
      const line = await faultyLine((device.address() as AddressInfo).port, HOST, 0);
      const neighbour = await transmitter([running(12.3)], 20, HOST, 0);
      open.push(device, neighbour, line);
      const { poller, said, until } = watched(['c1', 'c2']);
      poller.add('c1', modbus((line.server.address() as AddressInfo).port));
      poller.add('c2', modbus((neighbour.address() as AddressInfo).port));
      await until((m) => isSample(m));
      line.set(fault);
      const stale = await until((m) => isState(m, 'stale'));
      expect(stale.event === 'state' && stale.data.message).toMatch(words);
      const from = said.length;
      await until((m) => isSample(m, 'c2'), from);
      const between = said.slice(from).filter((m) => isSample(m));
      expect(between).toEqual([]);
      line.set('none');
      await until((m) => isState(m, 'live'), from);
      const back = await until((m) => isSample(m), from);
      expect(back.event === 'sample' && back.data.signal).toBe(-69.5);
      // Nothing came that was none of the device’s figures.
      const signals = said.filter((m) => isSample(m)).map((m) => (m.data as LiveSample).signal);
      expect(new Set(signals)).toEqual(new Set([-69.5]));
    },
  );

  it('a hundred channels on one device share one connection', async () => {
    const probes = Array.from({ length: 100 }, (_, i) => fixedProbe(i, 25));
    const device = await transmitter(probes, 20, HOST, 0);
    const line = await faultyLine((device.address() as AddressInfo).port, HOST, 0);
    open.push(device, line);
    const ids = probes.map((_, i) => `c${i}`);
    const { poller, hub, until } = watched(ids);
    ids.forEach((id, i) =>
      poller.add(id, modbus((line.server.address() as AddressInfo).port, { baseAddress: 20 * i })),
    );
    for (const id of ids) await until((m) => isSample(m, id));
    ids.forEach((id, i) => expect(hub.since(id, 0)[0]!.message.data.signal).toBe(i));
    expect(line.connections()).toBe(1);
  });

  it('a device that takes one caller only refuses the next in words', async () => {
    const busy = createServer((socket) => socket.destroy());
    await new Promise<void>((resolve) => busy.listen(0, HOST, resolve));
    open.push(busy);
    const { poller } = watched([]);
    const tried = await poller.test(modbus((busy.address() as AddressInfo).port));
    expect(tried).toMatchObject({ ok: false });
    expect(tried.message).toMatch(/Check plug/);
  });
});

describe('a clock that jumps', () => {
  /** A device whose clock a test sets. */
  async function clocked() {
    const clock = { seconds: 100 };
    const probe: ProbePort = fixedProbe(1, 25, () => ({ clockSeconds: (clock.seconds += 0.2) }));
    const device = await transmitter([probe], 20, HOST, 0);
    open.push(device);
    const { poller, said, until } = watched(['c1']);
    poller.add('c1', modbus((device.address() as AddressInfo).port));
    const samples = () => said.filter((m) => isSample(m)).map((m) => m.data as LiveSample);
    const more = async (count: number) => {
      const want = samples().length + count;
      await until(() => samples().length >= want);
    };
    await more(3);
    return { clock, samples, more };
  }

  it.each([
    ['an hour ahead', 3600],
    ['a day back', -86_400],
    ['to nothing, as after a restart', -1e9],
  ])('%s begins another epoch: within each, time goes on by itself', async (_, by) => {
    const { clock, samples, more } = await clocked();
    const atMs = Date.now();
    clock.seconds = Math.max(0, clock.seconds + by);
    await more(4);
    const epochs = [...new Set(samples().map((s) => s.epoch))];
    expect(epochs.map((e) => epochIn(e)!.because)).toEqual(['server-started', 'clock-jumped']);
    expect(epochIn(epochs[1]!)!.atMs).toBeGreaterThanOrEqual(atMs);
    for (const epoch of epochs) {
      const times = samples().flatMap((s) => (s.epoch === epoch ? [s.t] : []));
      const gaps = times.slice(1).map((t, i) => t - times[i]!);
      expect(Math.min(...gaps)).toBeGreaterThan(0);
      expect(Math.max(...gaps)).toBeLessThan(5);
    }
  });
});

describe('a device that has frozen', () => {
  it('answers with the same moment again and again: live at first, at fault when it has stood still for 15 s', async () => {
    let now = 0;
    const hub = new LiveHub();
    const poller = new Poller(hub, { seconds: () => now });
    const device = await transmitter([fixedProbe(5, 25)], 20, HOST, 0);
    open.push(device, { close: () => poller.stop() });
    hub.watch(['c1']);
    const states: string[] = [];
    const fault = new Promise<string>((resolve) => {
      hub.listen(({ message: m }) => {
        now += m.event === 'sample' ? 16 : 0;
        if (m.event !== 'state') return;
        states.push(m.data.state);
        if (m.data.state === 'fault') resolve(m.data.message);
      });
    });
    poller.add('c1', modbus((device.address() as AddressInfo).port));
    expect(await fault).toMatch(/status: its clock has stood still for 1\d s/);
    expect(states).toEqual(['live', 'fault']);
    expect(hub.since('c1', 0)).toHaveLength(1);
  });
});

describe('a device that was silent for longer than its limit', () => {
  it.each([
    ['without a clock begins another epoch: it may have been anywhere', false, ['server-started', 'was-silent']],
    ['with a clock that went on does not: how long it was is known', true, ['server-started']],
  ])('%s', async (_, hasClock, causes) => {
    const clock = { now: 100 };
    const hub = new LiveHub();
    const poller = new Poller(hub, { seconds: () => clock.now });
    const probe = fixedProbe(5, 25, () => ({ clockSeconds: clock.now }));
    const device = hasClock
      ? await transmitter([probe], 20, HOST, 0)
      : await aquariumController(new Map([['main', probe]]), HOST, 0);
    const port = (device.address() as AddressInfo).port;
    const json = {
      kind: 'http-json',
      url: `http://${HOST}:${port}/now`,
      pointer: '/probes/main/signal/mv',
      fixedC: 25,
    };
    open.push(device, { close: () => poller.stop() });
    hub.watch(['c1']);
    const seen: string[] = [];
    const six = new Promise<void>((resolve) => {
      hub.listen(({ message: m }) => {
        if (m.event !== 'sample') return;
        seen.push(epochIn(m.data.epoch)!.because);
        clock.now += seen.length === 3 ? 40 : 0.5;
        if (seen.length === 6) resolve();
      });
    });
    poller.add('c1', hasClock ? modbus(port) : channelSchema.cast(json));
    await six;
    expect([...new Set(seen)]).toEqual(causes);
    expect(seen[2]).toBe('server-started');
  });
});

describe('a channel that is switched off, changed, or at the end of its range', () => {
  const device = async (mv: number): Promise<Server> => {
    const tcp = await transmitter([fixedProbe(mv, 25)], 20, HOST, 0);
    open.push(tcp);
    return tcp;
  };
  const portOf = (server: Server) => (server.address() as AddressInfo).port;

  it('off: it is not polled, and its state says so; switched on again it is live', async () => {
    const tcp = await device(5);
    let calls = 0;
    tcp.on('connection', () => calls++);
    const { poller, hub, until } = watched(['c1']);
    poller.add('c1', modbus(portOf(tcp), { off: true }));
    expect(hub.stateOf('c1')).toEqual({ channelId: 'c1', state: 'off', message: 'Switched off in its set-up.' });
    expect(calls).toBe(0);
    poller.replace('c1', modbus(portOf(tcp)));
    await until((m) => isState(m, 'live'));
  });

  it('held back after starts that died soon: it is not polled until an operator releases it', async () => {
    const tcp = await device(5);
    let calls = 0;
    tcp.on('connection', () => calls++);
    const { poller, hub, until } = watched(['c1']);
    poller.holdBack('c1', modbus(portOf(tcp)));
    poller.holdBack('typed', channelSchema.cast({ kind: 'hand' }));
    expect([poller.held, calls]).toEqual([['c1'], 0]);
    expect(hub.stateOf('c1')).toMatchObject({ state: 'stale', message: expect.stringMatching(/died soon/) as string });
    poller.release('c1');
    await until((m) => isState(m, 'live'));
    expect(poller.held).toEqual([]);
  });

  it('all wires opened anew, after an error that nobody caught: the old one is let go, and the trace goes on', async () => {
    const tcp = await transmitter([running(5)], 20, HOST, 0);
    open.push(tcp);
    let calls = 0;
    tcp.on('connection', () => calls++);
    const { poller, said, until } = watched(['c1']);
    poller.add('c1', modbus(portOf(tcp)));
    await until((m) => isSample(m));
    poller.restart();
    const from = said.length;
    await until((m) => isSample(m), from);
    const standing = () => new Promise<number>((resolve) => tcp.getConnections((_, count) => resolve(count)));
    await vi.waitFor(async () => expect([calls, await standing()]).toEqual([2, 1]), { timeout: 60_000 });
    const samples = said.flatMap((m) => (m.event === 'sample' ? [m.data] : []));
    expect(new Set(samples.map((s) => s.epoch)).size).toBe(1);
    expect(samples.slice(1).every((s, i) => s.t > samples[i]!.t)).toBe(true);
  });

  it('changed to another device: another epoch, and nothing more of the first one', async () => {
    const [one, other] = [await device(1), await device(2)];
    const { poller, said, until } = watched(['c1']);
    poller.add('c1', modbus(portOf(one)));
    await until((m) => isSample(m));
    poller.replace('c1', modbus(portOf(other)));
    await until((m) => m.event === 'sample' && m.data.signal === 2);
    const samples = said.filter((m) => isSample(m)).map((m) => m.data as LiveSample);
    const causes = new Set(samples.map((s) => `${epochIn(s.epoch)!.because} ${s.signal}`));
    expect([...causes]).toEqual(['server-started 1', 'set-up-changed 2']);
    // Nobody listens to the first one any more.
    const since = samples.findIndex((s) => s.signal === 2);
    expect(samples.slice(since).every((s) => s.signal === 2)).toBe(true);
  });

  it('beyond its range it is at fault, in words, and gives no sample', async () => {
    const { poller, said, until } = watched(['c1']);
    poller.add('c1', modbus(portOf(await device(450)), { rangeLow: -414, rangeHigh: 414 }));
    const fault = await until((m) => isState(m, 'fault'));
    expect(fault.event === 'state' && fault.data.message).toMatch(
      /4500 on the wire is 450 mV; this channel goes from −414 to 414 mV/,
    );
    expect(said.some((m) => isSample(m))).toBe(false);
  });

  it('impedances come along where the channel has them', async () => {
    const { poller, until } = watched(['c1']);
    const port = portOf(await device(7));
    poller.add('c1', modbus(port, { impedance: true }));
    const sample = await until((m) => isSample(m));
    expect(sample.data).toMatchObject({ signal: 7, unit: 'mV', impedance: { membraneMohm: 123.4, referenceKohm: 8 } });
    const tried = await poller.test(modbus(port, { impedance: true }));
    expect(tried.reading?.impedance).toEqual({ membraneMohm: 123.4, referenceKohm: 8 });
  });
});

describe('log-ins', () => {
  const http = (port: number, logIn: string) =>
    channelSchema.cast({
      kind: 'http-json',
      url: `http://${HOST}:${port}/now`,
      pointer: '/probes/main/signal/mv',
      fixedC: 25,
      logIn,
    }) as ChannelConfig;

  it('are sent by name from what the server keeps; a name that it does not keep is said', async () => {
    const seen: (string | undefined)[] = [];
    const device = await aquariumController(new Map([['main', fixedProbe(3, 25)]]), HOST, 0);
    device.prependListener('request', (request) => void seen.push(request.headers.authorization));
    open.push(device);
    const port = (device.address() as AddressInfo).port;
    const poller = new Poller(new LiveHub(), {
      logIns: (name) => {
        const kept = { username: 'reader', password: 'not a real one' };
        const to = { hall: `${HOST}:${port}`, 'hall elsewhere': `${HOST}:1`, 'hall without a place': undefined };
        return Object.hasOwn(to, name) ? { ...kept, to: to[name as keyof typeof to] } : null;
      },
    });
    expect(await poller.test(http(port, 'hall'))).toMatchObject({ ok: true });
    expect(seen).toEqual([`Basic ${Buffer.from('reader:not a real one').toString('base64')}`]);
    const unknown = await poller.test(http(port, 'attic'));
    expect(unknown).toMatchObject({ ok: false, stage: 'connect' });
    expect(unknown.message).toMatch(/keeps no log-in “attic”. Enter it in Set-up, Log-ins of devices/);
    const elsewhere = await poller.test(http(port, 'hall elsewhere'));
    expect(elsewhere.message).toMatch(/belongs to another host or port, and is not sent here/);
    const nowhere = await poller.test(http(port, 'hall without a place'));
    expect(nowhere.message).toContain(`Enter it anew in Set-up, Log-ins of devices, for ${HOST}:${port}.`);
    expect(seen).toHaveLength(1);
  });
});
