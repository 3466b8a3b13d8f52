import type { Problem } from '@frustum/contract';

/** What went wrong, as the server said it; or that it did not answer at all. */
export function problemOf(error: unknown): Problem {
  const { status, data } = (error ?? {}) as { status?: unknown; data?: Problem };
  if (data && typeof data === 'object' && 'detail' in data) return data;
  return {
    type: 'about:blank#no-answer',
    title: 'no answer',
    status: typeof status === 'number' ? status : 0,
    code: 'no-answer',
    detail: 'Frustum’s server does not answer. What you entered is kept and goes out when it is back.',
  };
}
