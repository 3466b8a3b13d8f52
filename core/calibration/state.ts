import type { Odd } from './odd.ts';
import type { Coefficients } from '../sensor/coefficients.ts';
import type { Standard } from '../solutions/standard.ts';
import type { Capture, DecisionAction, PhotoTaken, RunPlan, Refused } from './events.ts';
import type { Step } from './procedure.ts';

export interface KeptCapture extends Capture {
  readonly pass: number;
  readonly stepId: string;
  readonly at: string;
  readonly by: string;
}

/** State of a run after the events so far. */
export interface RunState {
  readonly status: 'open' | 'closed' | 'abandoned';
  readonly plan: RunPlan;
  readonly startedAt: string;
  readonly endedAt: string | null;
  readonly steps: readonly Step[];
  readonly done: readonly string[];
  /** first step not done; null when all are */
  readonly current: Step | null;
  /** captures that stand, in the order in which they were made */
  readonly captures: readonly KeptCapture[];
  readonly decisions: readonly { readonly action: DecisionAction; readonly because: string; readonly at: string }[];
  readonly adjusted: { readonly coefficients: Coefficients; readonly how: string; readonly at: string } | null;
  /** the instrument did not take the calibration */
  readonly refused: (Refused & { readonly at: string }) | null;
  readonly hold: { readonly since: string; readonly releasedAt: string | null } | null;
  /** settlings asked for beyond the second, by pass and point */
  readonly extraSettlings: Readonly<Record<string, number>>;
  /** standards that were entered during the run, by pass and point ("1.0"): a sample's value, two thermometers */
  readonly entered: Readonly<Record<string, Standard>>;
  readonly skipped: readonly { readonly stepId: string; readonly title: string; readonly because: string }[];
  readonly photos: readonly (PhotoTaken & { readonly at: string; readonly by: string })[];
  /** since when the current step is the current one */
  readonly since: string;
  readonly disturbances: number;
  /** trace time at which the current step began, s; null where there was no live trace */
  readonly traceFrom: number | null;
  /** which of the channel's clocks `traceFrom` was read on; once it has begun anew, `traceSince` counts instead */
  readonly traceEpoch: string | null;
  /** ISO 8601, by the server's clock: when the current step began, for samples of a clock that has begun anew since */
  readonly traceSince: string;
  /** trace time of the last disturbance in the current step, s, in `traceEpoch`; null for none, or none on a trace */
  readonly disturbedAt: number | null;
  /** whether it was disturbed in the current step */
  readonly disturbed: boolean;
  readonly warnings: readonly { readonly stepId: string; readonly odd: Odd; readonly kept: boolean }[];
  readonly notes: readonly { readonly text: string; readonly at: string; readonly by: string }[];
  readonly abandonedBecause: string | null;
  readonly seq: number;
}
