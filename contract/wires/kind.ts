import type { ObjectSchema } from 'yup';
import type { SignalUnit } from '../signals.ts';
import { scaledUnit } from './parts.ts';

/** Something wrong between two settings: at which field, and in words. */
export interface Trouble {
  readonly field: string;
  readonly words: string;
}

/** What Frustum knows of one way by which readings come. One file each, listed in `kinds.ts`. */
export interface WireKind<Config> {
  // What a schema of Yup turns out to be is not compared with the type that was made of it.
  readonly schema: ObjectSchema<object>;
  /** its computations are told of a typed one, of Frustum's own map, and of any other */
  readonly reads: 'hand' | 'modbus' | 'wired';
  /** of what it gives once it is scaled */
  readonly unit: (config: Config) => SignalUnit;
  /** a reading older than this is no live one, s; null for a channel that is typed */
  readonly staleSeconds: (config: Config) => number | null;
  /** what one count of the device is worth, in its unit; null where it does not count */
  readonly perCount?: (config: Config) => number | null;
  /** its settings may be anything yet */
  readonly trouble?: (config: Partial<Config>) => Trouble | null;
}

/** A temperature has to come from somewhere: nothing is compensated without it. */
export const temperatureTrouble = (fromDevice: unknown, fixedC: unknown): Trouble | null =>
  (fixedC ?? fromDevice ?? null) !== null
    ? null
    : { field: 'fixedC', words: 'Say where the temperature comes from: from the device, or a fixed one.' };

interface Textual {
  readonly quantity: SignalUnit | 'mA';
  readonly spanUnit: SignalUnit;
  readonly staleSeconds: number;
  readonly temperaturePointer?: string | null | undefined;
  readonly fixedC?: number | null | undefined;
}

/** A way by which a device answers in text. */
export const textKind = <Config extends Textual>(schema: ObjectSchema<object>): WireKind<Config> => ({
  schema,
  reads: 'wired',
  unit: scaledUnit,
  staleSeconds: (config) => config.staleSeconds,
  trouble: (config) => temperatureTrouble(config.temperaturePointer, config.fixedC),
});
