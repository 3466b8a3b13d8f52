import { createServer, type Server } from 'node:net';
import { server as servers } from 'jsmodbus';
import { listening } from './listening.ts';

/**
 * A device with registers on Modbus TCP.
 *
 * @param registers how many of each kind
 * @param show fills the input registers just before they are read, from this one on
 * @param take is called after holding registers were written
 * @param remember fills the holding registers once
 */
export function modbusDevice(
  registers: number,
  device: {
    show(input: Buffer, start: number): void;
    take?(holding: Buffer): void;
    remember?(holding: Buffer): void;
  },
  host: string,
  port: number,
): Promise<Server> {
  const tcp = createServer();
  // A connection that is cut in the middle of a word must not take the device down.
  tcp.on('connection', (socket) => socket.on('error', () => socket.destroy()));
  const modbus = new servers.TCP(tcp, {
    input: Buffer.alloc(2 * registers),
    holding: Buffer.alloc(2 * registers),
    coils: Buffer.alloc(8),
    discrete: Buffer.alloc(8),
  });
  device.remember?.(modbus.holding);
  modbus.on('preReadInputRegisters', (request) =>
    device.show(modbus.input, (request.body as unknown as { start: number }).start),
  );
  modbus.on('postWriteMultipleRegisters', () => device.take?.(modbus.holding));
  return listening(tcp, host, port);
}
