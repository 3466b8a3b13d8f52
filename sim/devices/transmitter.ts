import type { Server } from 'node:net';
import { modbusDevice } from './modbus-device.ts';
import type { ProbePort } from './ports.ts';

/**
 * A stand-in for a process transmitter with several pH inputs on Modbus TCP: an invented register map, `registersAProbe`
 * apart.
 *
 * Input +0 mV × 10, +1 °C × 100, +2/+3 clock in 0.1 s, +4 status, +5 impedance of the glass in MΩ × 10, +6 impedance of
 * the reference in kΩ × 10. Holding +0 zero × 10, +1 slope × 10 000.
 * The map is written down in docs/connect-a-device.md; the server's client was written from that page, not from this file.
 */
export function transmitter(
  probes: readonly ProbePort[],
  registersAProbe: number,
  host: string,
  port: number,
): Promise<Server> {
  return modbusDevice(
    probes.length * registersAProbe,
    {
      remember: (holding) => {
        probes.forEach(({ memory }, i) => {
          holding.writeInt16BE(signed(memory.zeroMv * 10), i * registersAProbe * 2);
          holding.writeUInt16BE(unsigned(memory.slope * 10_000), i * registersAProbe * 2 + 2);
        });
      },
      show: (input, start) => {
        const i = Math.floor(start / registersAProbe);
        const probe = probes[i];
        if (!probe) return;
        const now = probe.read();
        const at = i * registersAProbe * 2;
        input.writeInt16BE(signed(now.potentialMv * 10), at);
        input.writeInt16BE(signed(now.temperatureC * 100), at + 2);
        input.writeUInt32BE(Math.floor(now.clockSeconds * 10) >>> 0, at + 4);
        input.writeUInt16BE(now.status, at + 8);
        input.writeUInt16BE(unsigned(now.membraneMohm * 10), at + 10);
        input.writeUInt16BE(unsigned(now.junctionKohm * 10), at + 12);
      },
      take: (holding) => {
        probes.forEach((probe, i) => {
          probe.memory.zeroMv = holding.readInt16BE(i * registersAProbe * 2) / 10;
          probe.memory.slope = holding.readUInt16BE(i * registersAProbe * 2 + 2) / 10_000;
          probe.written();
        });
      },
    },
    host,
    port,
  );
}

const signed = (value: number) => Math.max(-32_768, Math.min(32_767, Math.round(value)));
const unsigned = (value: number) => Math.max(0, Math.min(65_535, Math.round(value)));
