/**
 * Parts of a line, with a dot between those that are there.
 *
 * @example besides('', 'X-1', 'in 9 days') // 'X-1 · in 9 days'
 */
export const besides = (...parts: readonly string[]): string =>
  parts
    .map((part) => part.trim())
    .filter(Boolean)
    .join(' · ');
