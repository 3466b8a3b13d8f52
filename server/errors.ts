import { ValidationError } from 'yup';
import { Refusal } from '@frustum/core';
import type { Problem } from '@frustum/contract';
import { diskRefusal } from './store/failures.ts';

/** Code of a refusal → HTTP status. Everything expected is here; what is not is a 500 and goes to the log. */
const STATUS: Readonly<Record<string, number>> = {
  'run-unknown': 404,
  'sensor-unknown': 404,
  'loop-unknown': 404,
  'channel-unknown': 404,
  'route-unknown': 404,
  'unknown-standard': 404,
  'run-open': 409,
  'run-moved': 409,
  'run-ended': 409,
  'counter-taken': 409,
  'channel-moved': 409,
  'schedule-moved': 409,
  'loop-exists': 409,
  'lot-exists': 409,
  'decision-out-of-place': 409,
  'run-not-finished': 409,
  'run-started-twice': 409,
  'device-unreachable': 502,
  'device-fault': 502,
  'hands-unreachable': 502,
  'no-stand-in': 404,
  'photo-unknown': 404,
  'procedure-unknown': 404,
  'lot-unknown': 404,
  'alarm-unknown': 404,
  'snapshot-unknown': 404,
  'aside-unknown': 404,
  preparing: 409,
  'no-room': 507,
  'not-prepared': 409,
  'folder-lost': 503,
  'procedure-moved': 409,
  'procedure-exists': 409,
  'gate-open': 409,
  'no-reading-then': 404,
  'not-plain': 400,
  'other-origin': 403,
  'disk-full': 507,
  'read-only': 507,
  'store-away': 503,
  'store-gone': 503,
  'too-large': 413,
  'image-too-large': 413,
  'too-many': 429,
};

/** Turns whatever was thrown into an RFC 9457 problem. */
export function problemOf(thrown: unknown): Problem {
  // A file that cannot be written: the journal, a picture.
  const error = diskRefusal(thrown) ?? thrown;
  if (error instanceof Refusal) {
    const status = STATUS[error.code] ?? 422;
    return make(error.code, status, error.message, { facts: error.facts });
  }
  if (error instanceof ValidationError) {
    const inner = error.inner.length ? error.inner : [error];
    const errors = inner.map((e) => ({ path: e.path ?? '', message: e.message }));
    return make('not-valid', 422, errors[0]?.message ?? 'Something in this request is not valid.', { errors });
  }
  const known = error as { type?: string; status?: number; limit?: number; message?: string } | null;
  if (known?.type === 'entity.too.large')
    return make('too-large', 413, `The request is larger than ${inMegabytes(known.limit)} MB. Send less at once.`);
  if (known?.type === 'entity.parse.failed') return make('not-json', 400, 'The request is not JSON.');
  const status = known?.status ?? 500;
  // What the parsers in front refuse: an address, a length, an encoding or a set of signs that is none.
  if (status >= 400 && status < 500)
    return make('not-readable', status, UNREADABLE[status] ?? 'The request cannot be read.');
  return make('crash', 500, 'Something went wrong in the server. What you typed is kept; try again.');
}

const UNREADABLE: Readonly<Record<number, string>> = {
  400: 'The request cannot be read: its address, length or encoding is not right.',
  415: 'The request is in an encoding that the server does not read. Send JSON in UTF-8.',
};

const inMegabytes = (bytes = 2e6) => Math.round(bytes / 1e6);

function make(code: string, status: number, detail: string, more: Partial<Problem> = {}): Problem {
  return { type: `about:blank#${code}`, title: code.replace(/-/g, ' '), status, detail, code, ...more };
}
