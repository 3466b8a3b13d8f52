// Parts of a channel's settings that several wires share.
import { array, boolean, number, string } from 'yup';
import { figure, readable, trimmed, within } from '../fields.ts';
import { SIGNAL_UNITS, UNIT_LIST, type SignalUnit } from '../signals.ts';

export const host = string()
  .transform(trimmed)
  .required('The host is missing. Type a name or address, such as 192.168.1.20.')
  .matches(/^[a-zA-Z0-9.:-]{1,253}$/, 'A host has letters, figures, dots and hyphens only.');

/** How often a channel is read, and after how long without a reading it is stale. */
export const pace = {
  pollSeconds: within('Read every', 0.2, 3600, 's').default(1),
  staleSeconds: within('Stale after', 1, 86_400, 's').default(15),
};

/** From the number on the wire to the signal: times scale, plus offset; a current goes through its span first. */
export const scaling = {
  scale: figure('Scale')
    .test('not-zero', 'A scale of 0 shows nothing. Type what one step of the device is worth.', (v) => v !== 0)
    .default(1),
  offset: figure('Offset').default(0),
  /** what the scaled number is, or the current of a 4-20 mA loop */
  quantity: string<SignalUnit | 'mA'>()
    .oneOf([...SIGNAL_UNITS, 'mA'], `The number is one of ${UNIT_LIST}, mA.`)
    .default('mV'),
  /** what a current stands for */
  at4: figure('Value at 4 mA').default(-500),
  at20: figure('Value at 20 mA').default(500),
  spanUnit: string<SignalUnit>().oneOf(SIGNAL_UNITS, `A span is in one of ${UNIT_LIST}.`).default('mV'),
};

/** Of the scaled number: a current stands for its span's unit. */
export const scaledUnit = ({ quantity, spanUnit }: { quantity: SignalUnit | 'mA'; spanUnit: SignalUnit }): SignalUnit =>
  quantity === 'mA' ? spanUnit : quantity;

const edge = (label: string) =>
  number().typeError(`${label} is not a figure. Leave it empty for none.`).nullable().default(null);

/** What belongs to a channel whatever its wire. */
export const about = {
  /** whether a probe takes its coefficients along when it moves */
  coefficientsIn: string<'instrument' | 'sensor'>()
    .oneOf(['instrument', 'sensor'], 'Coefficients live in the instrument or in the sensor’s head.')
    .default('instrument'),
  /** which thermometer compensates it, in the operator's words; '' = its own */
  compensatedBy: readable('The thermometer’s name')
    .transform(trimmed)
    .max(60, 'Shorten the thermometer’s name to 60 characters.')
    .default(''),
  /** what the channel can show, in its own unit; beyond it is a fault */
  rangeLow: edge('The low end of the range'),
  rangeHigh: edge('The high end of the range').test(
    'ends',
    'The range ends below its beginning. Swap the two.',
    (high, { parent }) => {
      const low = (parent as { rangeLow?: number | null }).rangeLow ?? null;
      return high === null || low === null || high > low;
    },
  ),
  /** what acts on its value: held with the loop while the probe is out */
  outputs: array(
    readable('An output’s name').transform(trimmed).max(60, 'Shorten an output’s name to 60 characters.').required(),
  )
    .max(8, 'Eight outputs at most.')
    .default([]),
  /** switched off: nobody reads it */
  off: boolean().default(false),
};

/** Name of a log-in that the server keeps in its own folder; never the log-in itself. */
export const logIn = string()
  .transform(trimmed)
  .matches(/^[a-zA-Z0-9._-]{0,40}$/, 'The name of a log-in has letters, figures, dots and hyphens.')
  .default('');

/** A temperature that the device does not give is set by hand. */
export const fixedC = number()
  .typeError('The temperature is not a figure. Type it like 25.')
  .min(-5, 'The temperature is below −5 °C.')
  .max(110, 'The temperature is above 110 °C.')
  .nullable()
  .default(null);

/** It sends later what it measured while it was away: readings are then kept under their own time. */
export const buffered = boolean().default(false);

/** A JSON pointer (RFC 6901). */
export const pointer = (label: string) =>
  string()
    .transform(trimmed)
    .max(200, `${label} has more than 200 characters.`)
    .matches(/^(\/.*)?$/, `${label} begins with “/”, like /probes/0/mv.`);

/** What a device that says a temperature says it in. */
export const temperatureUnit = string().oneOf(['°C', '°F'], 'A temperature is in °C or °F.').default('°C');

/** Of a device that answers in text, whatever the text comes over, beside the places of signal and temperature. */
export const textual = {
  logIn,
  ...scaling,
  /** JSON: seconds by the device's own clock, where it says them: its trace then does not depend on when it is asked */
  clockPointer: pointer('Path to its clock').nullable().default(null),
  buffered,
  temperatureUnit,
  fixedC,
  ...pace,
  ...about,
};
