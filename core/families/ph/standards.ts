import type { Poured } from '../../sensor/family.ts';
import { BUFFERS } from '../../solutions/buffers.ts';

/** What glass stands in, whatever its channel shows. */
export const IN_BUFFERS: Poured = {
  all: BUFFERS,
  serves: ({ family }) => family === 'ph',
  sets: () => [
    ['technical-7.00', 'technical-4.01'],
    ['technical-7.00', 'technical-10.01'],
    ['technical-7.00', 'technical-9.00'],
    ['technical-7.00', 'technical-10.01', 'technical-4.01'],
  ],
  usedBy: () => 'sensors of pH',
  // Only the technical ones stand on a bench; the primary ones lie too near to them.
  mixedUp: ({ id }) => id.startsWith('technical'),
  openedDays: 90,
  cupsOfOne: 1,
  pairC: null,
  about: { leastApart: 1.8, mostOutside: 0.3 },
};
