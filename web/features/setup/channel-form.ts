import type { ChannelConfig, ChannelKind } from '@frustum/contract';

/** The channel as the form has it: flat, all text. */
export interface ChannelForm {
  kind: ChannelKind;
  host: string;
  port: string;
  unitId: string;
  baseAddress: string;
  table: string;
  words: string;
  register: string;
  type: string;
  url: string;
  brokerPort: string;
  version: string;
  topic: string;
  format: string;
  pointer: string;
  quantity: string;
  scale: string;
  offset: string;
  at4: string;
  at20: string;
  spanUnit: string;
  impedance: boolean;
  logIn: string;
  coefficientsIn: string;
  compensatedBy: string;
  rangeLow: string;
  rangeHigh: string;
  outputs: string;
  off: boolean;
  temperatureFrom: 'device' | 'fixed';
  temperatureRegister: string;
  temperatureType: string;
  temperatureScale: string;
  temperaturePointer: string;
  clockPointer: string;
  buffered: boolean;
  temperatureUnit: string;
  fixedC: string;
  pollSeconds: string;
  staleSeconds: string;
}

export const USUAL_CHANNEL: ChannelForm = {
  kind: 'hand',
  host: '',
  port: '502',
  unitId: '1',
  baseAddress: '0',
  table: 'input',
  words: 'high-first',
  register: '0',
  type: 'int16',
  url: '',
  brokerPort: '1883',
  version: '3.1.1',
  topic: '',
  format: 'json',
  pointer: '',
  quantity: 'mV',
  scale: '1',
  offset: '0',
  at4: '-500',
  at20: '500',
  spanUnit: 'mV',
  impedance: false,
  logIn: '',
  coefficientsIn: 'instrument',
  compensatedBy: '',
  rangeLow: '',
  rangeHigh: '',
  outputs: '',
  off: false,
  temperatureFrom: 'device',
  temperatureRegister: '1',
  temperatureType: 'int16',
  temperatureScale: '0.1',
  temperaturePointer: '',
  clockPointer: '',
  buffered: false,
  temperatureUnit: '°C',
  fixedC: '25',
  pollSeconds: '1',
  staleSeconds: '15',
};

/** The text as a number; a text that is none stays as it is, so that the schema can name it. */
const number = (text: string) => {
  const plain = text.trim().replace(',', '.');
  return plain === '' ? undefined : Number.isNaN(Number(plain)) ? text : Number(plain);
};

/** What the contract's schema is asked about: only what belongs to this kind of channel. */
export function channelOf(form: ChannelForm): Record<string, unknown> {
  const { kind, host, table, words, type, url, pointer, quantity, temperatureUnit, temperatureType } = form;
  const device = form.temperatureFrom === 'device';
  const about = {
    coefficientsIn: form.coefficientsIn,
    compensatedBy: form.compensatedBy,
    rangeLow: number(form.rangeLow) ?? null,
    rangeHigh: number(form.rangeHigh) ?? null,
    outputs: form.outputs
      .split(',')
      .map((o) => o.trim())
      .filter(Boolean),
    off: form.off,
  };
  const modbus = { host, port: number(form.port), unitId: number(form.unitId) };
  const signal = {
    quantity,
    scale: number(form.scale),
    offset: number(form.offset),
    at4: number(form.at4),
    at20: number(form.at20),
    spanUnit: form.spanUnit,
    fixedC: device ? null : number(form.fixedC),
    pollSeconds: number(form.pollSeconds),
    staleSeconds: number(form.staleSeconds),
    ...about,
  };
  if (kind === 'modbus') {
    const { impedance } = form;
    return { kind, ...modbus, baseAddress: number(form.baseAddress), impedance, ...about };
  }
  if (kind === 'modbus-map') {
    const temperatureRegister = device ? number(form.temperatureRegister) : null;
    const temperatureScale = number(form.temperatureScale);
    const register = number(form.register);
    return {
      kind,
      ...modbus,
      table,
      words,
      register,
      type,
      ...signal,
      temperatureRegister,
      temperatureType,
      temperatureScale,
    };
  }
  const ownTime = { clockPointer: form.clockPointer.trim() || null, buffered: form.buffered };
  if (kind === 'http-json') {
    const temperaturePointer = device ? form.temperaturePointer : null;
    return { kind, url, logIn: form.logIn, pointer, ...signal, temperaturePointer, temperatureUnit, ...ownTime };
  }
  if (kind === 'mqtt') {
    const { version, topic, format } = form;
    const temperaturePointer = device ? form.temperaturePointer : null;
    const broker = { host, port: number(form.brokerPort), version, topic, format, logIn: form.logIn };
    return { kind, ...broker, pointer, ...signal, temperaturePointer, temperatureUnit, ...ownTime };
  }
  return { kind, ...about };
}

/** A channel as the form shows it, to be changed: the other way round. */
export function formOf(channel: ChannelConfig): ChannelForm {
  const texts = Object.fromEntries(
    Object.entries(channel)
      .filter(([, value]) => value !== null)
      .map(([key, value]) => [
        key,
        typeof value === 'boolean' ? value : Array.isArray(value) ? value.join(', ') : String(value),
      ]),
  );
  const own =
    channel.kind === 'modbus-map'
      ? channel.temperatureRegister
      : channel.kind === 'http-json' || channel.kind === 'mqtt'
        ? channel.temperaturePointer
        : 'the usual';
  const temperatureFrom = own === null ? 'fixed' : 'device';
  const brokerPort = channel.kind === 'mqtt' ? { brokerPort: String(channel.port), port: USUAL_CHANNEL.port } : {};
  return { ...USUAL_CHANNEL, ...texts, temperatureFrom, ...brokerPort };
}
