import { connect, createServer, type Server, type Socket } from 'node:net';
import { listening } from './listening.ts';

/** What can be wrong with a line: each does to the device's answer what its name says. */
export type LineFault = 'none' | 'silent' | 'late' | 'half a frame' | 'another unit' | 'hangs up';

/** How late `late` is, ms. */
const LATE_MS = 4000;

/**
 * A line to a device that can go wrong: relays bytes, and spoils the answers as told. `another unit` spoils Modbus TCP
 * only: its seventh byte is the unit id.
 *
 * @param to port of the device, on the same host
 */
export async function faultyLine(to: number, host: string, port: number) {
  let fault: LineFault = 'none';
  const open = new Set<Socket>();
  const spoil = (answer: Buffer, client: Socket) => {
    if (fault === 'silent') return;
    if (fault === 'hangs up') client.destroy();
    else if (fault === 'late') setTimeout(() => client.writable && client.write(answer), LATE_MS).unref();
    else if (fault === 'half a frame') client.write(answer.subarray(0, Math.max(1, answer.length >> 1)));
    else if (fault === 'another unit') {
      const other = Buffer.from(answer);
      other[6] = (other[6]! + 1) % 256;
      client.write(other);
    } else client.write(answer);
  };
  const server: Server = createServer((client) => {
    const device = connect(to, host);
    for (const socket of [client, device]) {
      open.add(socket);
      socket.on('error', () => socket.destroy());
      socket.on('close', () => open.delete(socket));
    }
    client.on('data', (request) => device.write(request));
    client.on('close', () => device.destroy());
    device.on('data', (answer) => spoil(answer, client));
    device.on('close', () => client.end());
  });
  await listening(server, host, port);
  return {
    server,
    /** how many are on the line */
    connections: () => open.size / 2,
    set: (next: LineFault) => {
      fault = next;
    },
    close: () => {
      for (const socket of open) socket.destroy();
      server.close();
    },
  };
}
