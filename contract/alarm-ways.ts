import { ALARM_LEVELS, type AlarmLevel, type QuietHours, type TravelRules } from '@frustum/core';
import { array, number, object, string, type InferType } from 'yup';
import { timeZone } from './set-up.ts';

const MAX_MINUTES = 1440;
const host = (what: string) =>
  string()
    .max(200, `${what} is too long.`)
    .matches(/^[\w.-]+$/, `${what} is a name or an IPv4 address, like relay.local.`)
    .required(`${what} is missing.`);
const port = (what: string) =>
  number().integer(`${what} is a whole number.`).min(1, `${what} is 1 to 65535.`).max(65_535, `${what} is 1 to 65535.`);
/** Plain addresses only: nothing that could become another header of a mail. */
const address = (what: string) =>
  string()
    .max(200, `${what} is too long.`)
    .matches(/^[^\s@<>,;:"\\]+@[^\s@<>,;:"\\]+$/, `${what} is no address. Type it like bench@tank.example.`)
    .required(`${what} is missing.`);
const logIn = string().max(60, 'The name of the log-in is too long.');
const level = () => string<AlarmLevel>().oneOf(ALARM_LEVELS, `One of ${ALARM_LEVELS.join(', ')}.`);
const clock = (what: string) =>
  string()
    .matches(/^([01]\d|2[0-3]):[0-5]\d$/, `${what} is a time like 22:00.`)
    .required(`${what} is missing.`);

const rule = object({
  /** what is less urgent does not go there */
  from: level().required('Say from which level on.'),
  /** only what nobody has seen for so long; 0 = at once */
  afterMinutes: number().integer('Whole minutes.').min(0, '0 minutes is at once.').max(MAX_MINUTES, 'A day at most.').required(), // prettier-ignore
}).noUnknown();

/** Where alarms go beside the screen, and when: the operator's `alarms.json`. */
export const alarmWaysSchema = object({
  /** gets each alarm as JSON by POST */
  webhook: string()
    .max(500, 'The address is too long.')
    .matches(/^https?:\/\/[^\s@]+$/, 'A webhook is an http or https address without a log-in in it.'),
  mqtt: object({
    host: host('The broker'),
    port: port('The port of the broker'),
    topic: string()
      .required('The topic is missing.')
      .max(200, 'The topic is too long.')
      .matches(/^[^#+]+$/, 'One topic, without # and +.'),
    logIn,
  })
    .noUnknown()
    .default(undefined),
  /** the operator's own relay */
  mail: object({
    host: host('The relay'),
    port: port('The port of the relay'),
    /** `tls` from the first byte, `starttls` before any mail goes over it, `none` in a network of one's own */
    security: string<'tls' | 'starttls' | 'none'>().oneOf(['tls', 'starttls', 'none'], 'tls, starttls or none.'),
    from: address('The sender'),
    to: array(address('The receiver')).min(1, 'Name a receiver.').max(10, 'Ten receivers at most.').required('Name a receiver.'), // prettier-ignore
    logIn,
  })
    .noUnknown()
    .default(undefined),
  /** when each way is taken; one that is not there is taken as usual */
  rules: object({ webhook: rule.default(undefined), mqtt: rule.default(undefined), mail: rule.default(undefined) })
    .noUnknown()
    .default(undefined),
  /** hours in which only what cannot wait is told */
  quiet: object({
    from: clock('The beginning of the quiet hours'),
    to: clock('The end of the quiet hours'),
    timeZone: timeZone.required('The time zone is missing.'),
    unless: level().required('Say what goes all the same.'),
  })
    .noUnknown()
    .default(undefined),
  /** so often webhook and topic are told that the server runs, minutes */
  heartbeatMinutes: number()
    .min(1, 'heartbeatMinutes is below 1')
    .max(MAX_MINUTES, 'heartbeatMinutes is above 1440: once a day'),
}).noUnknown('alarms.json knows “webhook”, “mqtt”, “mail”, “rules”, “quiet” and “heartbeatMinutes”');
export type AlarmWays = InferType<typeof alarmWaysSchema>;

/** Quiet until somebody wants to be told again. */
export const snoozeSchema = object({
  minutes: number().integer('Whole minutes.').min(1, 'A minute at least.').max(MAX_MINUTES, 'A day at most.').required('Say for how long.'), // prettier-ignore
}).noUnknown();
export type Snooze = InferType<typeof snoozeSchema>;

/** Where alarms go, as it is kept; a way that is not there is not taken. */
export interface KeptWays {
  readonly webhook?: string;
  readonly mqtt?: { readonly host: string; readonly port?: number; readonly topic: string; readonly logIn?: string };
  readonly mail?: {
    readonly host: string;
    readonly port?: number;
    readonly security?: 'tls' | 'starttls' | 'none';
    readonly from: string;
    readonly to: readonly string[];
    readonly logIn?: string;
  };
  readonly rules?: Partial<TravelRules['ways']>;
  readonly quiet?: QuietHours;
  readonly heartbeatMinutes?: number;
}

/** Where alarms go, as it was written, and when; no password is among it. */
export interface AlarmWaysView {
  /** null where the file cannot be read */
  readonly asked: KeptWays | null;
  readonly rules: TravelRules;
  readonly trouble: string | null;
}
