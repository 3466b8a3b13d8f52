import type { ElectrodeTruth } from './electrode.ts';
import type { BodyTruth } from './truth.ts';

/** One thing that goes wrong with a body, its lead, its cup or its process. */
export interface Fault {
  readonly name: string;
  /** what an operator sees of it */
  readonly shows: string;
  /**
   * The truth with the fault in it.
   *
   * @param severity 0 = nothing, 1 = gross
   * @param seconds since it was switched on, on the stand-in's clock
   */
  readonly on: (truth: BodyTruth, severity: number, seconds: number) => BodyTruth;
}

/** A fault that was switched on. */
export interface Switched {
  readonly fault: Fault;
  readonly severity: number;
  /** s on the stand-in's clock */
  readonly from: number;
}

/** The truth of a body with all that has been switched on, in that order. */
export const faulty = (truth: BodyTruth, switched: readonly Switched[], seconds: number): BodyTruth =>
  switched.reduce(
    (t, { fault, severity, from }) => (seconds < from ? t : fault.on(t, severity, seconds - from)),
    truth,
  );

/** A change to every electrode of a body, and to what it is under a film. */
export const everyElectrode = (
  truth: BodyTruth,
  change: (e: ElectrodeTruth) => Partial<ElectrodeTruth>,
): BodyTruth => ({
  ...truth,
  electrodes: Object.fromEntries(
    Object.entries(truth.electrodes).map(([k, e]) => {
      const under = e.bare ? { bare: { ...e.bare, ...change(e.bare) } } : {};
      return [k, { ...e, ...under, ...change(e) }];
    }),
  ),
});
