import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { networkInterfaces } from 'node:os';
import { afterEach, describe, expect, it } from 'vitest';
import { channelSchema } from '@frustum/contract';
import { LiveHub } from './live-hub.ts';
import { Poller } from './poller.ts';
import { notReached, PRIVATE_ONLY, type Reach } from './reach.ts';

const reasonOf = (address: string, reach: Reach = PRIVATE_ONLY, host = address) =>
  notReached(host, 80, address, reach)?.message ?? null;

describe('where a channel may lead', () => {
  // First and last address of each net, and their neighbours: RFC 1918, RFC 4193.
  it.each(['10.0.0.0', '10.255.255.255', '172.16.0.0', '172.31.255.255', '192.168.0.0', '192.168.255.255', '127.0.0.1', '127.255.255.254', '::1', 'fc00::1', 'fdff::1'])('to %s, which is private', (address) => expect(reasonOf(address)).toBeNull()); // prettier-ignore
  it.each(['9.255.255.255', '11.0.0.0', '172.15.255.255', '172.32.0.0', '192.167.255.255', '192.169.0.0', '8.8.8.8', '0.0.0.0', '224.0.0.1', '::', '2001:db8::1', 'fe00::1', '::ffff:8.8.8.8'])('not to %s, which is public', (address) => expect(reasonOf(address)).toMatch(/outside private networks.*FRUSTUM_ALLOW/)); // prettier-ignore
  it.each(['169.254.0.0', '169.254.169.254', '169.254.255.255', 'fe80::1', 'febf::1', '::ffff:169.254.169.254'])('not to %s, which is link-local', (address) => expect(reasonOf(address)).toMatch(/link-local/)); // prettier-ignore

  it('wherever the owner has named it, by host or by host and port', () => {
    const reach = { allowed: ['weather.example', '169.254.1.1:80'], ownPorts: [] };
    expect(reasonOf('203.0.113.9', reach, 'weather.example')).toBeNull();
    expect(reasonOf('203.0.113.9', reach, 'Weather.Example.')).toBeNull();
    expect(reasonOf('169.254.1.1', reach)).toBeNull();
    expect(notReached('169.254.1.1', 81, '169.254.1.1', reach)).not.toBeNull();
    expect(reasonOf('203.0.113.9', reach, 'other.example')).not.toBeNull();
  });

  it('not to this server’s own port, on none of its addresses, however they are written', () => {
    const reach = { allowed: [], ownPorts: [80] };
    const here = Object.values(networkInterfaces()).flatMap((nets) => (nets ?? []).map((n) => n.address));
    for (const address of ['127.0.0.1', '127.9.8.7', '::1', '::ffff:127.0.0.1', '0.0.0.0', ...here])
      expect(reasonOf(address, reach), address).toMatch(/own port/);
    expect(notReached('127.0.0.1', 81, '127.0.0.1', reach)).toBeNull();
    expect(reasonOf('192.168.250.250', reach)).toBeNull();
  });
});

describe('a channel that leads elsewhere', () => {
  const open: Server[] = [];
  afterEach(() => open.splice(0).forEach((server) => server.close()));

  /** A server that counts who asks it: nothing may reach it that is refused. */
  async function counting(): Promise<{ port: number; asked: () => number }> {
    let asked = 0;
    const server = createServer((_, response) => {
      asked++;
      response.setHeader('content-type', 'application/json').end('{"mv":1}');
    });
    server.on('connection', (socket) => socket.unref());
    open.push(server);
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    return { port: (server.address() as AddressInfo).port, asked: () => asked };
  }
  const cast = (channel: object) => channelSchema.cast(channel, { assert: false });
  const tried = (channel: object, reach: Reach) => new Poller(new LiveHub(), { reach }).test(cast(channel));

  it('is not asked, by name or by figures, over any wire', async () => {
    const { port, asked } = await counting();
    const reach = { allowed: [], ownPorts: [port] };
    const modbus = { kind: 'modbus-map', port, register: 1, fixedC: 25 };
    // A whole number is an address too, for the system that looks names up.
    for (const host of ['localhost', '127.0.0.1', '127.1', '2130706433']) {
      const wires = [
        { kind: 'http-json', url: `http://${host}:${port}/`, pointer: '/mv', fixedC: 25 },
        { kind: 'mqtt', host, port, topic: 'a', fixedC: 25 },
        { ...modbus, host },
      ];
      for (const wire of wires) {
        const found = await tried(wire, reach);
        expect(found, `${wire.kind} to ${host}`).toMatchObject({ ok: false, stage: 'connect' });
        expect(found.message).toMatch(/own port/);
      }
    }
    expect(asked()).toBe(0);
    const other = await tried({ kind: 'http-json', url: `http://localhost:${port}/`, pointer: '/mv', fixedC: 25 }, PRIVATE_ONLY); // prettier-ignore
    expect(other).toMatchObject({ ok: true, reading: { signal: 1 } });
    const cloud = await tried({ ...modbus, host: '2852039166' }, PRIVATE_ONLY);
    expect(cloud.message).toMatch(/169\.254\.169\.254 is a link-local address/);
  });
});
