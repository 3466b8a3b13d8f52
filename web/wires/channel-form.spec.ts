import { describe, expect, it } from 'vitest';
import { testChannelSchema } from '@frustum/contract';
import { USUAL_CHANNEL, type ChannelForm } from './channel-form.ts';
import { channelOf, formOf } from './wire-forms.ts';

/** What every channel has when nobody says otherwise. */
const ABOUT = {
  coefficientsIn: 'instrument',
  compensatedBy: '',
  rangeLow: null,
  rangeHigh: null,
  outputs: [],
  off: false,
};

/** What the schema makes of a form, as the screen and the server both ask it. */
const made = async (form: Partial<ChannelForm>) =>
  (await testChannelSchema.validate({ channel: channelOf({ ...USUAL_CHANNEL, ...form }) })).channel;
const refused = (form: Partial<ChannelForm>) =>
  made(form).then(
    () => 'taken',
    (error: unknown) => `${(error as { path: string }).path}: ${(error as Error).message}`,
  );

describe('the channel that a form describes', () => {
  it('by hand needs nothing, whatever stands in the other fields', async () => {
    expect(await made({ kind: 'hand', host: 'left over', scale: 'abc' })).toEqual({
      kind: 'hand',
      quantity: '',
      ...ABOUT,
    });
  });

  it('the house map carries host, port, unit and first register, and nothing of other kinds', async () => {
    const channel = await made({ kind: 'modbus', host: '192.168.1.20', baseAddress: '40', url: 'http://x/' });
    expect(channel).toEqual({
      kind: 'modbus',
      host: '192.168.1.20',
      port: 502,
      unitId: 1,
      baseAddress: 40,
      impedance: false,
      ...ABOUT,
    });
  });

  it('a map of one’s own: decimal commas, and the temperature from a register or fixed', async () => {
    const form = { kind: 'modbus-map', host: 'h', register: '7', scale: '0,1' } as const;
    expect(await made(form)).toMatchObject({
      register: 7,
      scale: 0.1,
      temperatureRegister: 1,
      temperatureScale: 0.1,
      fixedC: null,
    });
    expect(await made({ ...form, temperatureFrom: 'fixed', fixedC: '21,5' })).toMatchObject({
      temperatureRegister: null,
      fixedC: 21.5,
    });
  });

  it('JSON over HTTP and MQTT keep their own port, path and format', async () => {
    const http = { kind: 'http-json', url: 'http://10.0.0.2/now', pointer: '/mv', temperaturePointer: '/c' } as const;
    expect(await made(http)).toMatchObject({ url: 'http://10.0.0.2/now', pointer: '/mv', temperaturePointer: '/c' });
    const mqtt = {
      kind: 'mqtt',
      host: 'h',
      topic: 'a/b',
      format: 'senml',
      pointer: 'b/mv',
      temperaturePointer: 'b/c',
    } as const;
    expect(await made(mqtt)).toMatchObject({
      port: 1883,
      topic: 'a/b',
      format: 'senml',
      pointer: 'b/mv',
      version: '3.1.1',
    });
    expect(await made({ ...mqtt, brokerPort: '8883', version: '5' })).toMatchObject({ port: 8883, version: '5' });
  });

  it('carries range, thermometer, outputs and where its coefficients live', async () => {
    const form = {
      kind: 'hand',
      quantity: '',
      rangeLow: '3,5',
      rangeHigh: '9',
      outputs: ' acid pump ,alarm,, ',
      compensatedBy: 'Sump',
    } as const;
    expect(await made({ ...form, coefficientsIn: 'sensor' })).toEqual({
      kind: 'hand',
      quantity: '',
      coefficientsIn: 'sensor',
      compensatedBy: 'Sump',
      rangeLow: 3.5,
      rangeHigh: 9,
      outputs: ['acid pump', 'alarm'],
      off: false,
    });
  });

  it.each<Partial<ChannelForm>>([
    { kind: 'hand', outputs: 'a, b' },
    { kind: 'modbus', host: 'h', port: '5020', baseAddress: '40', impedance: true },
    {
      kind: 'modbus-map',
      host: 'h',
      register: '7',
      type: 'float32',
      words: 'low-first',
      temperatureFrom: 'fixed',
      fixedC: '21.5',
    },
    { kind: 'modbus-map', host: 'h', register: '7', quantity: 'mA', at4: '0', at20: '14', spanUnit: 'pH', off: true },
    {
      kind: 'http-json',
      url: 'http://10.0.0.2/now',
      pointer: '/mv',
      temperaturePointer: '/c',
      logIn: 'hall',
      rangeLow: '-400',
    },
    {
      kind: 'mqtt',
      host: 'h',
      brokerPort: '8883',
      topic: 'a/b',
      format: 'senml',
      pointer: 'b/mv',
      temperaturePointer: 'b/c',
    },
  ])('%j goes into the form and comes back the same', async (form) => {
    const channel = await made(form);
    expect(await made(formOf(channel))).toEqual(channel);
  });

  it.each<[Partial<ChannelForm>, RegExp]>([
    [{ kind: 'hand', rangeLow: '9', rangeHigh: '3' }, /^channel\.rangeHigh: The range ends below its beginning/],
    [{ kind: 'hand', rangeLow: 'low' }, /^channel\.rangeLow: The low end of the range is not a figure/],
    [{ kind: 'http-json', url: 'http://h:99999/now' }, /^channel\.url: The address cannot be: check its host and port/],
    [{ kind: 'mqtt', host: 'h', topic: 'a', logIn: '../secret' }, /^channel\.logIn: The name of a log-in/],
    [
      { kind: 'modbus-map', host: 'h', register: '40', type: 'float32', temperatureRegister: '41' },
      /^channel\.register: The temperature lies in the signal’s registers 40 and 41/,
    ],
    [
      { kind: 'modbus-map', host: 'h', register: '40', temperatureRegister: '39', temperatureType: 'int32' },
      /^channel\.register: The temperature lies in the signal’s register 40/,
    ],
    [
      { kind: 'modbus-map', host: 'h', register: '65535', type: 'float32', temperatureRegister: '0' },
      /^channel\.register: A 32-bit signal at 65535 would end at 65536/,
    ],
    [{ kind: 'modbus', host: '' }, /^channel\.host: The host is missing/],
    [{ kind: 'modbus', host: 'h; rm' }, /^channel\.host: A host has letters/],
    [{ kind: 'modbus-map', host: 'h', scale: 'tenth' }, /^channel\.scale: Scale is not a figure/],
    [{ kind: 'modbus-map', host: 'h', scale: '0' }, /^channel\.scale: A scale of 0/],
    [{ kind: 'modbus-map', host: 'h', register: '1.5' }, /^channel\.register: Signal register is a whole number/],
    [
      { kind: 'modbus-map', host: 'h', temperatureFrom: 'fixed', fixedC: 'warm' },
      /^channel\.fixedC: The temperature is not/,
    ],
    [
      { kind: 'modbus-map', host: 'h', temperatureFrom: 'fixed', fixedC: '' },
      /^channel\.fixedC: Say where the temperature/,
    ],
    [{ kind: 'http-json', url: 'now' }, /^channel\.url: The address is no http/],
    [{ kind: 'http-json', url: 'http://h/', pointer: 'mv' }, /^channel\.pointer: Path to the signal begins/],
    [{ kind: 'http-json', url: 'http://h/', pollSeconds: '0.01' }, /^channel\.pollSeconds: Read every is below 0\.2/],
    [{ kind: 'mqtt', host: 'h', topic: '' }, /^channel\.topic: The topic is missing/],
    [{ kind: 'mqtt', host: 'h', topic: 'a/#' }, /^channel\.topic: A channel reads one topic/],
  ])('%j is refused at its field', async (form, message) => {
    expect(await refused(form)).toMatch(message);
  });
});
