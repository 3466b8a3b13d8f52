/** A device has to offer no more than this: what is beyond is no instrument. */
export const MAX_PLACES = 300;

/** Whether a figure is what a display shows, within half a percent. */
export const isShown = (value: number, shows: number | null): boolean =>
  shows !== null && Math.abs(value - shows) <= Math.abs(shows) / 200;
