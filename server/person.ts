import type { Request } from 'express';

/** Who works here until somebody has chosen a name. */
export const LOCAL_OPERATOR = 'Operator A';
/** The name that somebody chose in the bar, percent-encoded. It proves nothing. */
export const PERSON_HEADER = 'x-frustum-person';
const MAX_NAME = 40;
const UNSEEN = /[\p{Cc}\p{Bidi_Control}\u2028\u2029\ufeff]/gu;

/** The name that comes with a request; one that cannot be read is that of nobody in particular, and keeps nothing from being done. */
export function personOf(request: Request): string {
  try {
    const name = decodeURIComponent(request.get(PERSON_HEADER) ?? '')
      .replace(UNSEEN, '')
      .trim();
    return name.slice(0, MAX_NAME) || LOCAL_OPERATOR;
  } catch {
    return LOCAL_OPERATOR;
  }
}
