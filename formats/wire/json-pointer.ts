import { figure } from '@frustum/core';

/** What a pointer found, or where it ended. */
export type Pointed = { readonly ok: true; readonly value: unknown } | { readonly ok: false; readonly message: string };

/**
 * The value that a JSON pointer names: "/probes/0/mv"; '' for the whole document.
 *
 * @param document parsed JSON
 * @returns the value; or a sentence that says how far the path goes and what is there
 * @see RFC 6901
 * @example pointedAt({ probes: [{ mv: -8.4 }] }, '/probes/0/mv').value // -8.4
 */
export function pointedAt(document: unknown, pointer: string): Pointed {
  if (pointer === '') return { ok: true, value: document };
  if (!pointer.startsWith('/')) {
    return { ok: false, message: `The path “${pointer}” does not begin with “/”. Write it like /probes/0/mv.` };
  }
  let value = document;
  let walked = '';
  for (const raw of pointer.slice(1).split('/')) {
    const key = raw.replace(/~1/g, '/').replace(/~0/g, '~');
    const next = stepInto(value, key);
    if (next === undefined) {
      return { ok: false, message: `There is no “${key}” at ${walked || 'the top'}; ${whatIsThere(value)}.` };
    }
    value = next.value;
    walked += `/${raw}`;
  }
  return { ok: true, value };
}

function stepInto(value: unknown, key: string): { value: unknown } | undefined {
  if (Array.isArray(value)) {
    // An index has no sign and no leading zero: "01" is no place in a list.
    const index = /^(0|[1-9]\d{0,8})$/.test(key) ? Number(key) : -1;
    return index >= 0 && index < value.length ? { value: value[index] as unknown } : undefined;
  }
  if (typeof value !== 'object' || value === null || !Object.hasOwn(value, key)) return undefined;
  return { value: (value as Record<string, unknown>)[key] };
}

/** Names of fields as instruments have them: short and plain. What is not may be somebody's text, and is not repeated. */
const PLAIN_KEY = /^[\w .:-]{1,24}$/;

function whatIsThere(value: unknown): string {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return `it is ${kindOf(value)}`;
  const keys = Object.keys(value);
  if (!keys.length) return 'it is empty';
  const some = keys.filter((key) => PLAIN_KEY.test(key)).slice(0, 6);
  return some.length
    ? `it has ${some.join(', ')}${keys.length > some.length ? ', …' : ''}`
    : `it has ${keys.length} fields`;
}

/**
 * What a value in a document is, without a word of what it says: an address may lead to a page that is not ours to show.
 *
 * @example kindOf('secret') // 'a text'
 */
export function kindOf(value: unknown): string {
  if (value === null || value === undefined) return 'nothing';
  if (Array.isArray(value)) return `a list of ${value.length}`;
  if (typeof value === 'object') return 'an object';
  if (typeof value === 'boolean') return 'true or false';
  return typeof value === 'number' ? 'a number' : 'a text';
}

/**
 * A figure out of JSON: a number, or a text that is one and nothing else.
 *
 * @returns null for anything else, and for a number that is not finite
 * @example figureOf('24,6') // 24.6
 */
export function figureOf(value: unknown): number | null {
  if (typeof value === 'number') return Number.isFinite(value) ? value : null;
  if (typeof value !== 'string') return null;
  return figure(value.trim());
}
