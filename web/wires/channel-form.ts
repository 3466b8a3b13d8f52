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
