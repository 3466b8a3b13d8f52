import type { Reads, Steps } from '@frustum/core';
import { mixed, number, object, type InferType } from 'yup';
import { among } from './alternatives.ts';
import { whole } from './fields.ts';
import type { SignalUnit } from './signals.ts';
import { CHANNEL_SCHEMAS, kindOf, type ChannelConfig } from './wires/kinds.ts';

/** A reading older than this is no live one, s; null for a channel that is typed. */
export const staleSecondsOf = (config: ChannelConfig): number | null => kindOf(config).staleSeconds(config);

/** Unit of what a channel gives once it is scaled; Frustum's own map is in mV. */
export const unitOf = (config: ChannelConfig): SignalUnit => kindOf(config).unit(config);

/** What a computation must know of a channel, whatever its wire. */
export const readsOf = (config: ChannelConfig): Reads => ({
  unit: unitOf(config),
  kind: kindOf(config).reads,
  compensatedBy: config.compensatedBy,
  outputs: config.outputs,
  coefficientsIn: config.coefficientsIn,
  ...(config.rangeLow !== null && config.rangeHigh !== null ? { span: config.rangeHigh - config.rangeLow } : {}),
});

/** What a channel says of its own steps: one count of a whole-number register is worth its scale. */
export const stepsOf = (config: ChannelConfig): Steps => ({
  typed: kindOf(config).reads === 'hand',
  unit: unitOf(config),
  perCount: kindOf(config).perCount?.(config) ?? null,
});

export const channelSchema = among(
  mixed<ChannelConfig>()
    .required('Say how the reading reaches Frustum.')
    // What is usual is filled in before anything is checked.
    .transform((value: ChannelConfig) => {
      try {
        return kindOf(value).schema.cast(value, { assert: false }) as ChannelConfig;
      } catch {
        return value;
      }
    })
    .test('channel', (value, context) => {
      const { schema, trouble } = kindOf(value);
      try {
        schema.validateSync(value, { strict: false, abortEarly: true });
      } catch (error) {
        const { path, message } = error as { path?: string; message: string };
        return context.createError({ path: path ? `${context.path}.${path}` : context.path, message });
      }
      const found = trouble?.(value) ?? null;
      return !found || context.createError({ path: `${context.path}.${found.field}`, message: found.words });
    }),
  CHANNEL_SCHEMAS,
);

/** A channel to be tried once, before or after it is set up. */
export const testChannelSchema = object({ channel: channelSchema }).noUnknown();

/** A device to be looked at, for a figure whose place nobody knows yet. */
export const surveySchema = object({
  channel: channelSchema,
  /** what the device's own display shows just now: places that fit are marked */
  shows: number().typeError('What the display shows is not a figure.').nullable().default(null),
}).noUnknown();
export type Survey = InferType<typeof surveySchema>;

/** What a device has to offer, each figure with the settings that lead to it. */
export interface SurveyView {
  readonly ok: boolean;
  readonly message: string;
  readonly places: readonly {
    readonly label: string;
    readonly value: number;
    /** it is what the display shows */
    readonly fits: boolean;
    /** settings of the channel, as they are typed */
    readonly settings: Readonly<Record<string, string>>;
  }[];
}

/** A channel’s new settings; refused when somebody else has changed them since. */
export const changeChannelSchema = object({
  channel: channelSchema,
  version: whole('Version', 1, 1_000_000),
}).noUnknown();
export type ChangeChannel = InferType<typeof changeChannelSchema>;
