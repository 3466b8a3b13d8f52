import type { ChannelKind, ConfigOf } from '@frustum/contract';
import type { ComponentType } from 'react';
import type { ChannelForm } from './channel-form.ts';

/** The part of a form that a wire's fields need. */
export interface WithChannel {
  channel: ChannelForm;
}

/** The screen's part of one way by which readings come. One file each, listed in `wire-forms.ts`. */
export interface WireForm<K extends ChannelKind> {
  /** in the list of ways */
  readonly label: string;
  /** the way of a reading to Frustum, in one line */
  readonly wayOf: (config: ConfigOf<K>) => string;
  /** its fields; none for what is typed */
  readonly Fields?: ComponentType;
  /** what the contract's schema is asked about, beside what every channel has */
  readonly settingsOf: (form: ChannelForm) => Record<string, unknown>;
  /**
   * a device of this kind can be looked at for its figures; from the settings of a place, those by which the temperature is read
   * there
   */
  readonly temperatureAt?: (settings: Readonly<Record<string, string>>) => Partial<ChannelForm>;
  /** what the form names otherwise than the settings */
  readonly typedOf?: (config: ConfigOf<K>) => Partial<ChannelForm>;
}

/** The width of a row in the form's grid. */
export const WIDE = 'sm:col-span-2 lg:col-span-3';
