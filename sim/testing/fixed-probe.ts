import type { ProbePort, Reading } from '../devices/ports.ts';

/** A body that shows fixed figures, so that a wire itself is under test. */
export function fixedProbe(
  potentialMv: number,
  temperatureC: number,
  more: () => Partial<Reading> = () => ({}),
): ProbePort {
  return {
    read: () => ({
      potentialMv,
      temperatureC,
      clockSeconds: 12.34,
      status: 0,
      electrodes: { ph: potentialMv },
      conductance: 0,
      chlorine: 0,
      nitrateN: 0,
      oxygen: 0,
      membraneMohm: 123.44,
      junctionKohm: 7.96,
      has: { cell: false, chlorine: false, optics: false, oxygen: null },
      ...more(),
    }),
    memory: { zeroMv: 0, slope: 1 },
    written: () => undefined,
  };
}
