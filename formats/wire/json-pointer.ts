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

function whatIsThere(value: unknown): string {
  if (Array.isArray(value)) return `it is a list of ${value.length}`;
  if (typeof value === 'object' && value !== null) {
    const keys = Object.keys(value);
    const some = keys.slice(0, 6).join(', ');
    return keys.length ? `it has ${some}${keys.length > 6 ? ', …' : ''}` : 'it is empty';
  }
  return `it is ${JSON.stringify(value)?.slice(0, 40) ?? 'nothing'}`;
}

/**
 * A figure out of JSON: a number, or a text that is one and nothing else.
 *
 * @returns null for anything else, and for what is no finite number
 * @example figureOf('24,6') // 24.6
 */
export function figureOf(value: unknown): number | null {
  if (typeof value === 'number') return Number.isFinite(value) ? value : null;
  if (typeof value !== 'string') return null;
  return figure(value.trim());
}
