/** What sums at terminals and boxes share. */
export const ELECTRICAL_GROUP = 'Electrical';
export const ELECTRICAL_CAUTION =
  'Simulator boxes and terminals: isolate, or let a qualified person do it. Wet hands and mains do not mix; local codes and site rules come first.';
