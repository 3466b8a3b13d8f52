import type { RequestHandler } from 'express';
import { Refusal } from '@frustum/core';

/** Deeper than anything that the API takes. */
const MAX_DEPTH = 24;
const QUOTE = 0x22;
const BACKSLASH = 0x5c;
/** Half of a sign that needs two: with the flag for whole signs, a pair never matches. */
const LONE_HALF = /\p{Surrogate}/u;

/** @throws Refusal `not-plain` for JSON that nests so deeply that reading it costs more than it can say */
export function refuseDeep(json: Buffer): void {
  let depth = 0;
  let inText = false;
  for (let i = 0; i < json.length; i++) {
    const byte = json[i]!;
    if (inText) {
      if (byte === BACKSLASH) i++;
      else if (byte === QUOTE) inText = false;
    } else if (byte === QUOTE) inText = true;
    // “[” and “{”, “]” and “}”.
    else if (byte === 0x5b || byte === 0x7b) depth++;
    else if (byte === 0x5d || byte === 0x7d) depth--;
    if (depth > MAX_DEPTH)
      throw new Refusal('not-plain', `The request nests more than ${MAX_DEPTH} deep. Send it flat.`);
  }
}

/** The part of a value that the database cannot store, in words; null if it can store all of it. */
function troubleIn(value: unknown): string | null {
  if (typeof value === 'string') {
    if (value.includes('\u0000')) return 'has a sign of nothing (NUL) in a text';
    return !LONE_HALF.test(value) ? null : 'has half of a sign in a text';
  }
  if (typeof value === 'number') return Number.isFinite(value) ? null : 'has a figure that is too large';
  if (typeof value !== 'object' || value === null) return null;
  if (Array.isArray(value)) {
    for (const each of value as readonly unknown[]) {
      const trouble = troubleIn(each);
      if (trouble) return trouble;
    }
    return null;
  }
  for (const [key, each] of Object.entries(value)) {
    // Every object has these already: nothing of ours is named so.
    if (key in Object.prototype) return `has a field “${key}”, which means something else`;
    const trouble = troubleIn(key) ?? troubleIn(each);
    if (trouble) return trouble;
  }
  return null;
}

/** Lets a body pass that is plain: no text that a database cannot keep, no field that every object has already. */
export const plainOnly: RequestHandler = (request, _response, next) => {
  const trouble = Buffer.isBuffer(request.body) ? null : troubleIn(request.body);
  if (trouble) next(new Refusal('not-plain', `The request ${trouble}. Type it again instead of pasting it.`));
  else next();
};
