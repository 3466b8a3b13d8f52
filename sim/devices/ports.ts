import type { Shown } from '../physics/body.ts';

/** What one body shows on the wire, and when by its own clock. */
export interface Reading extends Shown {
  /** the first electrode; 0 where there is none */
  readonly potentialMv: number;
  readonly clockSeconds: number;
  /** 0 = measuring */
  readonly status: number;
  readonly has: {
    readonly cell: boolean;
    readonly chlorine: boolean;
    readonly optics: boolean;
    readonly oxygen: 'membrane' | 'cap' | null;
  };
}

/** One body as a device sees it. */
export interface ProbePort {
  /** called just before a figure is shown: brings the physics up to now */
  read(): Reading;
  /** coefficients that a transmitter remembers */
  readonly memory: { zeroMv: number; slope: number };
  /** called after somebody wrote into the memory */
  written(): void;
}

const digits = (value: number, places: number) => Math.round(value * 10 ** places) / 10 ** places;

/** The figures of a body in the steps of a small display, by plain names; only those that it has. */
export function displayed({
  electrodes,
  conductance,
  chlorine,
  nitrateN,
  oxygen,
  has,
}: Reading): Record<string, number> {
  const [first, ...more] = Object.keys(electrodes);
  return {
    ...(first ? { mv: digits(electrodes[first]!, 1) } : {}),
    ...Object.fromEntries(more.map((name) => [`${name}_mv`, digits(electrodes[name]!, 1)])),
    ...(has.cell ? { conductance_us: Number(conductance.toPrecision(5)) } : {}),
    ...(has.chlorine ? { current_na: digits(chlorine, 1) } : {}),
    ...(has.oxygen === 'membrane' ? { current_na: digits(oxygen, 2) } : {}),
    ...(has.oxygen === 'cap' ? { lifetime_ratio: digits(oxygen, 4) } : {}),
    ...(has.optics ? { nitrate_n: digits(nitrateN, 2) } : {}),
  };
}
