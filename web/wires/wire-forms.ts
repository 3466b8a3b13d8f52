import type { ChannelConfig, ChannelKind } from '@frustum/contract';
import { typedNumber } from '../format/typed.ts';
import { USUAL_CHANNEL, type ChannelForm } from './channel-form.ts';
import { hand } from './hand.ts';
import { httpJson } from './http-json.tsx';
import { modbusMap } from './modbus-map.tsx';
import { modbus } from './modbus.tsx';
import { mqtt } from './mqtt.tsx';
import type { WireForm } from './wire-form.ts';

/** Every way by which readings come, in the order in which the form lists them. */
const FORMS: { readonly [K in ChannelKind]: WireForm<K> } = {
  hand,
  modbus,
  'modbus-map': modbusMap,
  'http-json': httpJson,
  mqtt,
};

export const WIRE_FORMS = Object.entries(FORMS) as [ChannelKind, WireForm<ChannelKind>][];

export const wireFormOf = (kind: ChannelKind): WireForm<ChannelKind> => FORMS[kind] as WireForm<ChannelKind>;

/** The way of a reading to Frustum, in one line. */
export const wayOf = (config: ChannelConfig): string => wireFormOf(config.kind).wayOf(config);

/** What every channel has. */
const aboutOf = (form: ChannelForm) => ({
  coefficientsIn: form.coefficientsIn,
  compensatedBy: form.compensatedBy,
  rangeLow: typedNumber(form.rangeLow) ?? null,
  rangeHigh: typedNumber(form.rangeHigh) ?? null,
  outputs: form.outputs
    .split(',')
    .map((o) => o.trim())
    .filter(Boolean),
  off: form.off,
});

/** What the contract's schema is asked about: only what belongs to this kind of channel. */
export const channelOf = (form: ChannelForm): Record<string, unknown> => ({
  kind: form.kind,
  ...wireFormOf(form.kind).settingsOf(form),
  ...aboutOf(form),
});

const textOf = (value: unknown) =>
  typeof value === 'boolean' ? value : Array.isArray(value) ? value.join(', ') : String(value);

/** A channel as the form shows it, to be changed: the other way round. */
export function formOf(channel: ChannelConfig): ChannelForm {
  const given = Object.entries(channel).filter(([, value]) => value !== null);
  const texts = Object.fromEntries(given.map(([key, value]) => [key, textOf(value)]));
  return { ...USUAL_CHANNEL, ...texts, ...wireFormOf(channel.kind).typedOf?.(channel) };
}
