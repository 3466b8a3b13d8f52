import type { ModbusMapConfig } from '@frustum/contract';
import { decodeRegisters, decodingsOf, registersOf, scaleShown, type RegisterType } from '@frustum/formats';
import type { ModbusConnection } from './modbus-connection.ts';
import { celsiusOf, signalOf, type Place, type Wire, type WireReading } from './wire.ts';
import { pauseAsSetUp, type WireReader } from './wire-reader.ts';

/** Registers that are looked at in one go. */
const BLOCK = 32;

/** Any other device on Modbus TCP, read by the map that the operator gave. */
class MappedWire implements Wire {
  private readonly connection: ModbusConnection;
  private readonly config: ModbusMapConfig;
  private readonly where: string;

  constructor(connection: ModbusConnection, config: ModbusMapConfig) {
    this.connection = connection;
    this.config = config;
    this.where = `${config.host}:${config.port}`;
  }

  async read(): Promise<WireReading> {
    const { config, where } = this;
    const raw: { what: string; value: string }[] = [];
    const signal = await this.figure('signal', config.register, config.type, raw);
    const degrees =
      config.temperatureRegister == null
        ? null
        : await this.figure('temperature', config.temperatureRegister, config.temperatureType, raw);
    return {
      ...signalOf(where, signal, config),
      temperatureC: celsiusOf(where, degrees === null ? (config.fixedC ?? 25) : degrees * config.temperatureScale),
      clockSeconds: null,
      raw,
    };
  }

  async survey(shows: number | null): Promise<readonly Place[]> {
    const { register, table } = this.config;
    const count = Math.min(BLOCK, 65_536 - register);
    const bytes = await this.connection.words(table, register, count);
    const words = Array.from({ length: count }, (_, i) => bytes.readUInt16BE(2 * i));
    return decodingsOf(words).map((decoding) => {
      const { at, type, order, value } = decoding;
      const wide = registersOf(type) === 2;
      const fits = shows === null ? null : scaleShown(decoding, shows);
      return {
        label: `register ${register + at}, ${type}${wide ? `, ${order === 'high-first' ? 'high' : 'low'} word first` : ''}`,
        value,
        fits,
        settings: { register: String(register + at), type, words: order, scale: String(fits ?? 1) },
      };
    });
  }

  close(): void {
    // The connection is shared by the probes of one device, and closed with all others.
  }

  private async figure(
    what: string,
    register: number,
    type: string,
    raw: { what: string; value: string }[],
  ): Promise<number> {
    const { table, words } = this.config;
    const count = registersOf(type as RegisterType);
    const bytes = await this.connection.words(table, register, count);
    const list = Array.from({ length: count }, (_, i) => bytes.readUInt16BE(2 * i));
    const hex = list.map((w) => w.toString(16).padStart(4, '0')).join(' ');
    const value = decodeRegisters(list, type as RegisterType, words);
    const name = `${what}, ${table} register ${register}${count === 2 ? ` and ${register + 1}` : ''}, ${type}`;
    raw.push({ what: name, value: `${hex} (hex)${value === null ? '' : ` = ${value}`}` });
    if (value !== null) return value;
    throw this.connection.refuse('decode', `${what} ${hex} is no figure as ${type}`);
  }
}

export const modbusMap: WireReader<ModbusMapConfig> = {
  open: (config, { connections }) => new MappedWire(connections.to(config), config),
  nameOf: ({ host, port }) => `${host}:${port}`,
  pauseMs: pauseAsSetUp,
};
