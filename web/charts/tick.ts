/** How every chart writes along its axes. */
export const TICK = { fill: 'var(--color-secondary)', fontSize: 13, fontFamily: 'var(--font-mono)' };
