import type { AtFit } from '../drift/cone.ts';
import type { AtOnePace, Explanation } from '../drift/working.ts';
import type { Notice } from '../alarms/notices.ts';
import type { ServiceEvent } from '../drift/history.ts';
import type { Fleet } from '../drift/pool.ts';
import type { Figure } from '../health/evidence.ts';
import type { Ended } from './fitted.ts';

/** What one sensor has been through, and what its siblings say of sensors like it. */
export interface Past {
  /** finished runs, oldest first */
  readonly finished: readonly Ended[];
  /** what was done to it outside of runs, oldest first */
  readonly services: readonly ServiceEvent[];
  /** what somebody noted at its loop while it was there, oldest first; absent = nothing */
  readonly notices?: readonly Notice[];
  readonly fleet: Fleet;
  /** others in the same water, where they were held beside it */
  readonly together?: Together;
  /** where it came to an instrument that knows other coefficients than its own; absent otherwise */
  readonly atFit?: AtFit;
  /** ways in which it may stand since its last run, weighed by all that speaks for them; absent = as its runs say */
  readonly explained?: readonly Explanation[];
}

/** A sensor as one of several in the same water. */
export interface Together {
  /** names of the loops of the others */
  readonly withLoops: readonly string[];
  /** how often they were held beside each other */
  readonly times: number;
  /** changes whenever what is known by it does */
  readonly basis: string;
  readonly known: () => AtOnePace;
  /**
   * What it gave in the water at the latest comparison, less what its own runs lead one to expect where its partners are
   * right, in the unit of its signal; null where the partners say nothing
   */
  readonly beside: () => Figure | null;
}
