import type { ChannelKind } from '@frustum/contract';

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
  mvAt4: string;
  mvAt20: string;
  temperatureFrom: 'device' | 'fixed';
  temperatureRegister: string;
  temperatureType: string;
  temperatureScale: string;
  temperaturePointer: string;
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
  mvAt4: '-500',
  mvAt20: '500',
  temperatureFrom: 'device',
  temperatureRegister: '1',
  temperatureType: 'int16',
  temperatureScale: '0.1',
  temperaturePointer: '',
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
  const modbus = { host, port: number(form.port), unitId: number(form.unitId) };
  const signal = {
    quantity,
    scale: number(form.scale),
    offset: number(form.offset),
    mvAt4: number(form.mvAt4),
    mvAt20: number(form.mvAt20),
    fixedC: device ? null : number(form.fixedC),
    pollSeconds: number(form.pollSeconds),
    staleSeconds: number(form.staleSeconds),
  };
  if (kind === 'modbus') return { kind, ...modbus, baseAddress: number(form.baseAddress) };
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
  if (kind === 'http-json') {
    const temperaturePointer = device ? form.temperaturePointer : null;
    return { kind, url, pointer, ...signal, temperaturePointer, temperatureUnit };
  }
  if (kind === 'mqtt') {
    const { version, topic, format } = form;
    const temperaturePointer = device ? form.temperaturePointer : null;
    const broker = { host, port: number(form.brokerPort), version, topic, format };
    return { kind, ...broker, pointer, ...signal, temperaturePointer, temperatureUnit };
  }
  return { kind };
}
