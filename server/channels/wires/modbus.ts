import type { ModbusConfig } from '@frustum/contract';
import type { Coefficients } from '@frustum/core';
import type { ModbusConnection } from './modbus-connection.ts';
import { celsiusOf, checked, type Wire, type WireReading } from './wire.ts';
import { IDLE_MS, type WireReader } from './wire-reader.ts';

/**
 * Frustum's own map, relative to the probe's first register. Big-endian, high word first.
 *
 * Input:   +0 mV × 10 (signed), +1 °C × 100 (signed), +2,+3 device clock in tenths of a second, +4 status (0 = measuring),
 *          and where the device measures them: +5 impedance of the membrane, MΩ × 10, +6 of the reference, kΩ × 10
 * Holding: +0 zero, mV × 10 (signed), +1 slope × 10 000
 */
const INPUT_COUNT = 5;
const WITH_IMPEDANCE = 7;

/** A device with Frustum's own register map. */
export class HouseMapWire implements Wire {
  private readonly connection: ModbusConnection;
  private readonly config: ModbusConfig;
  private readonly base: number;

  constructor(connection: ModbusConnection, config: ModbusConfig) {
    this.connection = connection;
    this.config = config;
    this.base = config.baseAddress;
  }

  async read(): Promise<WireReading> {
    const { impedance, host, port } = this.config;
    const bytes = await this.connection.words('input', this.base, impedance ? WITH_IMPEDANCE : INPUT_COUNT);
    const status = bytes.readUInt16BE(8);
    if (status !== 0) throw this.connection.refuse('status', `the transmitter reports status ${status}`);
    const [mv, degrees] = [bytes.readInt16BE(0), bytes.readInt16BE(2)];
    const where = `${host}:${port}`;
    return {
      signal: checked(where, mv, mv / 10, 'mV', this.config),
      unit: 'mV',
      temperatureC: celsiusOf(where, degrees / 100),
      ...(impedance
        ? { impedance: { membraneMohm: bytes.readUInt16BE(10) / 10, referenceKohm: bytes.readUInt16BE(12) / 10 } }
        : {}),
      clockSeconds: bytes.readUInt32BE(4) / 10,
      raw: [
        { what: `input register ${this.base}`, value: `${mv}` },
        { what: `input register ${this.base + 1}`, value: `${degrees}` },
        ...(impedance
          ? [5, 6].map((i) => ({ what: `input register ${this.base + i}`, value: `${bytes.readUInt16BE(2 * i)}` }))
          : []),
      ],
    };
  }

  async writeCoefficients({ zero, sensitivity }: Coefficients): Promise<Coefficients> {
    const bytes = Buffer.alloc(4);
    bytes.writeInt16BE(Math.round(zero * 10), 0);
    bytes.writeUInt16BE(Math.round(sensitivity * 10_000), 2);
    await this.connection.write(this.base, bytes);
    const held = await this.connection.words('holding', this.base, 2);
    const kept = { zero: held.readInt16BE(0) / 10, sensitivity: held.readUInt16BE(2) / 10_000 };
    if (Math.abs(kept.zero - zero) > 0.051 || Math.abs(kept.sensitivity - sensitivity) > 0.000051) {
      const what = `it holds zero ${kept.zero} mV and slope ${(kept.sensitivity * 100).toFixed(2)} %`;
      throw this.connection.refuse('read back', what);
    }
    return kept;
  }

  close(): void {
    // The connection is shared by the probes of one device, and closed with all others.
  }
}

export const modbus: WireReader<ModbusConfig> = {
  open: (config, { connections }) => new HouseMapWire(connections.to(config), config),
  nameOf: ({ host, port }) => `${host}:${port}`,
  pauseMs: (_, watchedMs) => watchedMs ?? IDLE_MS,
  tellsSilenceAtOnce: true,
};
