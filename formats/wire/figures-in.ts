import { figure } from '@frustum/core';

/** A figure in a document, and the way to it. */
export interface FigureAt {
  /** JSON pointer, RFC 6901 */
  readonly pointer: string;
  readonly value: number;
}

/** Names of fields as instruments have them. What is not plain may be somebody's text, and is not repeated. */
const PLAIN_KEY = /^[\w .:-]{1,24}$/;
const MAX_DEPTH = 8;

/**
 * Every figure of a document with the pointer to it; texts are left out, for an address may lead to a page that is not ours to
 * show.
 *
 * @param document parsed JSON
 * @param most figures
 * @example figuresIn({ probes: [{ mv: -8.4, name: 'x' }] }, 9)[0].pointer // '/probes/0/mv'
 */
export function figuresIn(document: unknown, most: number): FigureAt[] {
  const found: FigureAt[] = [];
  const walk = (value: unknown, pointer: string, depth: number): void => {
    if (found.length >= most || depth > MAX_DEPTH) return;
    if (typeof value === 'object' && value !== null) {
      for (const [key, inside] of Object.entries(value))
        if (PLAIN_KEY.test(key)) walk(inside, `${pointer}/${key}`, depth + 1);
      return;
    }
    const number = typeof value === 'number' ? value : typeof value === 'string' ? figure(value.trim()) : null;
    if (number !== null && Number.isFinite(number)) found.push({ pointer, value: number });
  };
  walk(document, '', 0);
  return found;
}
