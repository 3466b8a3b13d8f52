import { number, string } from 'yup';

/** A figure that an operator typed: a number, never NaN or infinite. */
export const figure = (label: string) =>
  number()
    .typeError(`${label} is not a figure. Type it like 5.8.`)
    .required(`${label} is missing.`)
    .test('finite', `${label} is not a figure. Type it like 5.8.`, (v) => Number.isFinite(v));

export const within = (label: string, low: number, high: number, unit: string) =>
  figure(label)
    .min(low, `${label} is below ${low} ${unit}. Type a value from ${low} to ${high}.`)
    .max(high, `${label} is above ${high} ${unit}. Type a value from ${low} to ${high}.`);

/** Whole-number register addresses and ports of a device. */
export const whole = (label: string, low: number, high: number) =>
  within(label, low, high, '').integer(`${label} is a whole number.`);

/** Signs that cannot be seen and change how a line reads: control characters, and those that turn its direction. */
const UNSEEN = /[\p{Cc}\p{Bidi_Control}\u2028\u2029\ufeff]/u;

/** A text that is kept as it is read. */
export const readable = (label: string, breaks = false) =>
  string().test(
    'readable',
    `${label} has a sign that cannot be seen. Type it again instead of pasting it.`,
    (text = '') => !UNSEEN.test(breaks ? text.replace(/[\t\n\r]/g, '') : text),
  );

/** Words of an operator, in as many lines as they need. */
export const words = (most: number) => readable('The text', true).trim().max(most, 'Shorten it to ${max} characters.');
