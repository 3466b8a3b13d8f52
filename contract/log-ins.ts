import { object, string, type InferType } from 'yup';
import { readable, trimmed } from './fields.ts';

const name = string()
  .transform(trimmed)
  .required('The name is missing. Type a short one, like hall.')
  .matches(/^[a-zA-Z0-9._-]{1,40}$/, 'The name of a log-in has letters, figures, dots and hyphens, 40 at most.');

/** A log-in to one device or broker, as it is entered. */
export const keepLogInSchema = object({
  name,
  to: string()
    .transform(trimmed)
    .required('Say which device it is for.')
    .matches(/^[^\s/@]{1,290}:\d{1,5}$/, 'Type host and port as the channel has them, like 192.168.1.21:1883.'),
  username: readable('The user name').required('The user name is missing.').max(200),
  /** '' = as it is kept already */
  password: readable('The password').max(500).default(''),
}).noUnknown();
export type KeepLogIn = InferType<typeof keepLogInSchema>;

export const dropLogInSchema = object({ name }).noUnknown();
export type DropLogIn = InferType<typeof dropLogInSchema>;

/** A log-in as it may be shown: never with its password. */
export interface LogInRow {
  readonly name: string;
  /** '' = nobody has said, so it goes nowhere */
  readonly to: string;
  readonly username: string;
}
