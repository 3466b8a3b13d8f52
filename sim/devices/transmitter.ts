import { createServer, type Server } from 'node:net';
import { server as servers } from 'jsmodbus';

/** What one probe shows on the wire. */
export interface ProbePort {
  /** called just before a register is read: brings the physics up to now */
  read(): { readonly potentialMv: number; readonly temperatureC: number; readonly clockSeconds: number };
  /** coefficients that the transmitter remembers */
  readonly memory: { zeroMv: number; slope: number };
  /** called after somebody wrote into the memory */
  written(): void;
}

/**
 * A stand-in for a pH transmitter on Modbus TCP: an invented register map, `registersAProbe` apart.
 *
 * Input +0 mV × 10, +1 °C × 100, +2/+3 clock in 0.1 s, +4 status. Holding +0 zero × 10, +1 slope × 10 000.
 * The map is written down in docs/connect-a-device.md; the server's client was written from that page, not from this file.
 */
export function transmitter(
  probes: readonly ProbePort[],
  registersAProbe: number,
  host: string,
  port: number,
): Promise<Server> {
  const bytes = probes.length * registersAProbe * 2;
  const tcp = createServer();
  // Whoever pulls the plug in the middle of a word must not take the device down with it.
  tcp.on('connection', (socket) => socket.on('error', () => socket.destroy()));
  const modbus = new servers.TCP(tcp, {
    input: Buffer.alloc(bytes),
    holding: Buffer.alloc(bytes),
    coils: Buffer.alloc(8),
    discrete: Buffer.alloc(8),
  });
  probes.forEach((p, i) => remember(modbus.holding, i * registersAProbe, p));
  modbus.on('preReadInputRegisters', (request) => {
    const { start } = request.body as unknown as { start: number };
    const i = Math.floor(start / registersAProbe);
    const probe = probes[i];
    if (!probe) return;
    const now = probe.read();
    const at = i * registersAProbe * 2;
    modbus.input.writeInt16BE(clamp(now.potentialMv * 10), at);
    modbus.input.writeInt16BE(clamp(now.temperatureC * 100), at + 2);
    modbus.input.writeUInt32BE(Math.floor(now.clockSeconds * 10) >>> 0, at + 4);
    modbus.input.writeUInt16BE(0, at + 8);
  });
  modbus.on('postWriteMultipleRegisters', () => {
    probes.forEach((p, i) => {
      p.memory.zeroMv = modbus.holding.readInt16BE(i * registersAProbe * 2) / 10;
      p.memory.slope = modbus.holding.readUInt16BE(i * registersAProbe * 2 + 2) / 10_000;
      p.written();
    });
  });
  return new Promise((resolve, reject) => {
    tcp.once('error', reject);
    tcp.listen(port, host, () => resolve(tcp));
  });
}

function remember(holding: Buffer, base: number, { memory }: ProbePort): void {
  holding.writeInt16BE(clamp(memory.zeroMv * 10), base * 2);
  holding.writeUInt16BE(Math.round(memory.slope * 10_000), base * 2 + 2);
}

const clamp = (value: number) => Math.max(-32_768, Math.min(32_767, Math.round(value)));
