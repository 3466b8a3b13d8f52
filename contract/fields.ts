import { number, string } from 'yup';

/** A figure that an operator typed: a number, never NaN or infinite. */
export const figure = (label: string) =>
  number()
    .typeError(`${label} is not a figure. Type it like 5.8.`)
    .required(`${label} is missing.`)
    .test(
      'finite',
      `${label} is not a figure. Type it like 5.8.`,
      (v: number | undefined) => v === undefined || Number.isFinite(v),
    );

export const within = (label: string, low: number, high: number, unit: string) =>
  figure(label)
    .min(low, `${label} is below ${low} ${unit}. Type a value from ${low} to ${high}.`)
    .max(high, `${label} is above ${high} ${unit}. Type a value from ${low} to ${high}.`);

/** Whole-number register addresses and ports of a device. */
export const whole = (label: string, low: number, high: number) =>
  within(label, low, high, '').integer(`${label} is a whole number.`);

/** Cuts blanks at both ends of a text. Anything else is handed on, so that the schema can name what it is. */
export const trimmed = (value: unknown): unknown => (typeof value === 'string' ? value.trim() : value);

/** Years that anything here can have happened in, or can expire in. */
const YEARS = { first: 1970, last: 2199 } as const;

/** A moment of ISO 8601 that was or may be: 31 February is none, and neither is the year 99999. */
export function isMoment(text: string): boolean {
  const [, year, month, day] = /^(\d{4})-(\d{2})-(\d{2})(T|$)/.exec(text) ?? [];
  if (!year || Number(year) < YEARS.first || Number(year) > YEARS.last || Number.isNaN(Date.parse(text))) return false;
  // The engine rolls 31 February over to March.
  const date = new Date(Date.UTC(Number(year), Number(month) - 1, Number(day)));
  return date.getUTCMonth() === Number(month) - 1 && date.getUTCDate() === Number(day);
}

/** A day, as a form gives it. */
export const day = (hint: string) =>
  string().test('day', hint, (text) => text == null || (/^\d{4}-\d{2}-\d{2}$/.test(text) && isMoment(text)));

/** A moment, as a device gives it. */
export const moment = (hint: string) =>
  string().test(
    'moment',
    hint,
    (text) => text == null || (/^\d{4}-\d{2}-\d{2}T[\d:.]+(Z|[+-]\d{2}:?\d{2})$/.test(text) && isMoment(text)),
  );

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
export const words = (most: number) =>
  readable('The text', true).transform(trimmed).max(most, 'Shorten it to ${max} characters.');

/** A figure that is one: no NaN, no infinity. */
export const finite = () =>
  number()
    .required()
    .test('finite', '${path} is not a figure', (v) => Number.isFinite(v));

/** More than any sensor gives, in any unit: 5 S of sea water in µS. */
export const MAX_SIGNAL = 5_000_000;
