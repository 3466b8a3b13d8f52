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

/** Words of an operator. */
export const words = (most: number) => string().trim().max(most, 'Shorten it to ${max} characters.');
