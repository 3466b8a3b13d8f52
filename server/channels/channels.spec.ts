import type { Server } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import type { ProbePort } from '../../sim/devices/ports.ts';
import { transmitter } from '../../sim/devices/transmitter.ts';
import { fixedProbe } from '../../sim/testing/fixed-probe.ts';
import { channelSchema, type ModbusConfig } from '@frustum/contract';
import { LiveHub, type LiveMessage } from './live-hub.ts';
import { ModbusConnection } from './wires/modbus-connection.ts';
import { HouseMapWire } from './wires/modbus.ts';
import { Poller } from './poller.ts';

const open: { close: () => unknown }[] = [];
afterEach(() => {
  for (const thing of open.splice(0)) thing.close();
});

const device = (clock: { t: number }) => fixedProbe(-176.9, 24.63, () => ({ clockSeconds: clock.t }));

async function listening(probes: ProbePort[], port = 0): Promise<{ tcp: Server; port: number }> {
  const tcp = await transmitter(probes, 20, '127.0.0.1', port);
  open.push(tcp);
  return { tcp, port: (tcp.address() as { port: number }).port };
}

const at = (port: number, more: object = {}) =>
  channelSchema.cast({ kind: 'modbus', host: '127.0.0.1', port, unitId: 1, ...more }) as ModbusConfig;

describe('Modbus TCP', () => {
  it('reads signed millivolts, temperature and clock of the probe asked for', async () => {
    const { port } = await listening([device({ t: 1 }), device({ t: 70_000.5 })]);
    const connection = new ModbusConnection('127.0.0.1', port, 1);
    open.push(connection);
    const house = new HouseMapWire(connection, at(port, { baseAddress: 20 }));
    expect(await house.read()).toMatchObject({ signal: -176.9, temperatureC: 24.63, clockSeconds: 70_000.5 });
  });

  it('writes coefficients, reads them back, and the device remembers them', async () => {
    const probe = device({ t: 0 });
    const { port } = await listening([probe]);
    const connection = new ModbusConnection('127.0.0.1', port, 1);
    open.push(connection);
    const house = new HouseMapWire(connection, at(port));
    expect(await house.writeCoefficients({ zero: -11.27, sensitivity: 0.94683 })).toEqual({
      zero: -11.3,
      sensitivity: 0.9468,
    });
    expect(probe.memory).toEqual({ zeroMv: -11.3, slope: 0.9468 });
  });

  it('says where it failed: nobody there, or a register that the device does not have', async () => {
    const nobody = new ModbusConnection('127.0.0.1', 1, 1);
    await expect(nobody.words('input', 0, 1)).rejects.toThrow(/127.0.0.1:1, refused: .*nothing listens on that port/);
    const { port } = await listening([device({ t: 0 })]);
    const connection = new ModbusConnection('127.0.0.1', port, 1);
    open.push(connection);
    await expect(connection.words('input', 500, 5)).rejects.toThrow(
      /address: it (has no such register|gave 0 registers from 500 on instead of 5)/,
    );
  });
});

describe('the poller', () => {
  const heard = (hub: LiveHub) => {
    const messages: LiveMessage[] = [];
    hub.listen(({ message }) => void (message.data.channelId === 'c1' && messages.push(message)));
    const until = async (fits: (m: LiveMessage) => boolean) => {
      while (!messages.some(fits)) await new Promise((r) => setTimeout(r, 10));
      return messages.find(fits)!;
    };
    return { messages, until };
  };

  it('goes stale with a sentence when the plug is pulled, and live again by itself; its clock began anew, and that is said', async () => {
    const clock = { t: 100 };
    const first = await listening([device(clock)]);
    const hub = new LiveHub();
    const poller = new Poller(hub);
    open.push({ close: () => poller.stop() });
    const { messages, until } = heard(hub);
    hub.watch(['c1']);
    poller.add('c1', at(first.port));
    await until((m) => m.event === 'sample' && m.data.t === 100);
    first.tcp.close();
    for (const c of open)
      if ('closeAllConnections' in c) (c as { closeAllConnections: () => void }).closeAllConnections();
    // A pulled plug: the device is gone, and so is what hung on it.
    poller['ways'].connections.close();
    const stale = await until((m) => m.event === 'state' && m.data.state === 'stale');
    expect(stale.event === 'state' && stale.data.message).toMatch(/Check (plug|the port)|check the port/);
    clock.t = 3;
    messages.length = 0;
    await listening([device(clock)], first.port);
    await until((m) => m.event === 'state' && m.data.state === 'live');
    const sample = await until((m) => m.event === 'sample');
    expect(sample.event === 'sample' && sample.data).toMatchObject({
      t: 3,
      epoch: expect.stringMatching(/^clock-jumped@/) as string,
    });
  });

  it('gives a late listener what it missed, by id, and nothing of other channels', () => {
    const hub = new LiveHub();
    const sample = (channelId: string, t: number) =>
      hub.publish({ event: 'sample', data: { channelId, t, epoch: 'e', signal: 0, unit: 'mV', temperatureC: 25 } });
    [1, 2, 3].forEach((t) => sample('a', t));
    sample('b', 9);
    expect(hub.since('a', 0).map((n) => (n.message.event === 'sample' ? n.message.data.t : null))).toEqual([1, 2, 3]);
    expect(hub.since('a', 2).map((n) => n.id)).toEqual([3]);
    expect(hub.since('a', 3)).toEqual([]);
    // Of another epoch: what came before says nothing beside it.
    hub.publish({
      event: 'sample',
      data: { channelId: 'a', t: 1, epoch: 'f', signal: 0, unit: 'mV', temperatureC: 25 },
    });
    expect(hub.since('a', 0).map((n) => n.id)).toEqual([5]);
  });
});
