import { ValidationError } from 'yup';
import { Refusal, type RefusalCode } from '@frustum/core';
import type { Problem } from '@frustum/contract';
import { diskRefusal } from './store/failures.ts';

/** Every refusal by its code, and the HTTP status that it comes with. What is not here does not compile. */
export const STATUS = {
  'alarm-unknown': 404,
  'aside-unknown': 404,
  'channel-moved': 409,
  'channel-unknown': 404,
  'counter-taken': 409,
  'decision-out-of-place': 409,
  'device-fault': 502,
  'device-unreachable': 502,
  'disk-full': 507,
  'folder-lost': 503,
  'gate-open': 409,
  'hands-unreachable': 502,
  'image-too-large': 413,
  'loop-exists': 409,
  'loop-unknown': 404,
  'lot-exists': 409,
  'lot-unknown': 404,
  'no-reading-then': 404,
  'no-room': 507,
  'no-stand-in': 404,
  'not-plain': 400,
  'not-prepared': 409,
  'other-origin': 403,
  'person-exists': 409,
  'person-unknown': 404,
  'photo-unknown': 404,
  preparing: 409,
  'procedure-exists': 409,
  'procedure-moved': 409,
  'procedure-unknown': 404,
  'read-only': 507,
  'route-unknown': 404,
  'run-ended': 409,
  'run-moved': 409,
  'run-not-finished': 409,
  'run-open': 409,
  'run-started-twice': 409,
  'run-unknown': 404,
  'schedule-moved': 409,
  'sensor-unknown': 404,
  'set-up-moved': 409,
  'site-exists': 409,
  'site-unknown': 404,
  'snapshot-unknown': 404,
  'store-away': 503,
  'store-gone': 503,
  'too-many': 429,
  'unknown-standard': 404,
  // What cannot be as it was asked for.
  'before-bought': 422,
  'before-fitted': 422,
  'moved-later': 422,
  'place-taken': 409,
  retired: 409,
  'sensor-exists': 409,
  'sensor-of-another-family': 422,
  'still-soaking': 409,
  'no-such-part': 422,
  'channel-of-another-kind': 422,
  'charge-unknown': 422,
  'choice-unknown': 422,
  'scale-unknown': 422,
  'walk-unknown': 404,
  'walk-reading-there': 409,
  'not-on-walk': 422,
  'walk-ended': 409,
  'limits-turned': 422,
  'not-told': 502,
  'compensation-breaks-down': 422,
  'family-unknown': 422,
  'formula-unreadable': 422,
  'gain-not-positive': 422,
  'giver-unfit': 422,
  'password-wanted': 422,
  'backup-unfit': 422,
  'runs-rest-on-it': 409,
  'ids-wanted': 422,
  'tar-wanted': 422,
  'hands-refused': 422,
  'ion-not-in-salt': 422,
  'ion-unknown': 422,
  'label-outside-course': 422,
  'limit-not-positive': 422,
  'loop-fault': 422,
  'loop-saturated': 422,
  'no-draw-succeeded': 422,
  'no-resistivity-in-air': 422,
  'no-span': 422,
  'no-standards': 422,
  'not-a-number': 422,
  'not-an-image': 422,
  'not-read': 422,
  'not-valid': 422,
  'not-yet': 422,
  'nothing-to-adjust-by': 422,
  'out-of-range': 422,
  'procedure-unfit': 422,
  'purer-than-water': 422,
  'reading-too-old': 422,
  'reference-outside-table': 422,
  'reference-unknown': 422,
  'references-of-two-series': 422,
  'run-not-started': 422,
  'salinity-outside-scale': 422,
  'salt-unknown': 422,
  'sample-of-another-kind': 422,
  'sample-too-far': 422,
  'sensitivity-zero': 422,
  'setting-unknown': 422,
  'signal-beyond-sensor': 422,
  'slope-zero': 422,
  'standard-of-another-kind': 422,
  'standard-outside-table': 422,
  'standards-no-use': 422,
  'standards-not-distinct': 422,
  stands: 422,
  'step-not-skippable': 422,
  'step-takes-no-value': 422,
  'step-unknown': 422,
  'stock-too-weak': 422,
  'sum-unknown': 422,
  'table-of-another-standard': 422,
  'table-unusable': 422,
  'thermometers-disagree': 422,
  'too-few-draws': 422,
  'too-few-standards': 422,
  'too-many-draws': 422,
  'too-many-photos': 422,
  'too-many-standards': 422,
  'trace-too-short': 422,
  // Said by a start, a command or a folder; where one of them comes through a route, it is the request that cannot be done.
  'backup-broken': 422,
  'backup-of-newer': 422,
  'database-damaged': 422,
  'file-exists': 422,
  'file-unknown': 422,
  'folder-in-use': 422,
  'log-ins-broken': 422,
  'newer-event': 422,
  'no-house': 422,
  'not-answered': 422,
  'nothing-known': 422,
  'of-another-frustum': 422,
  'port-in-use': 422,
  'zone-unknown': 422,
} as const satisfies Readonly<Record<RefusalCode, number>>;

/** Turns whatever was thrown into an RFC 9457 problem. */
export function problemOf(thrown: unknown): Problem {
  // A file that cannot be written: the journal, a picture.
  const error = diskRefusal(thrown) ?? thrown;
  if (error instanceof Refusal) {
    const { code, message, facts }: Refusal = error;
    return make(code, STATUS[code], message, { facts });
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

function make(code: Problem['code'], status: number, detail: string, more: Partial<Problem> = {}): Problem {
  return { type: `about:blank#${code}`, title: code.replace(/-/g, ' '), status, detail, code, ...more };
}
