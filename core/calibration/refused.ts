import type { Coefficients } from '../sensor/coefficients.ts';
import { fitOf } from './measured.ts';
import type { RunOutcome } from './outcome.ts';
import { familyOfPlan } from './plan.ts';
import type { RunState } from './state.ts';
import { COVERAGE, judge } from './verdict.ts';

/** What else an instrument's own figures may differ by in the same cups, being rounded and timed its own way: steps that count, and a share. Common practice, no source. */
const OWN_ZERO_STEPS = 5;
const OWN_SENSITIVITY = 0.02;

/** Whether an instrument reckons from its cups what this run found in them. */
export type OwnFigures = 'alike' | 'other' | 'not shown';

/**
 * Holds the instrument's own figures against those of the run.
 *
 * @returns `not shown` also where the run found none
 */
export function ownFigures(state: RunState): OwnFigures {
  const shows = state.refused?.shows;
  const fit = fitOf(state);
  if (!shows || !fit.ok) return 'not shown';
  return areAlike(shows, fit, familyOfPlan(state.plan).family.step.absolute) ? 'alike' : 'other';
}

/** @param step what counts in a zero, in the unit of the signal */
function areAlike(shows: Coefficients, found: Found, step: number): boolean {
  const { zero, sensitivity } = found.coefficients;
  const [[zeroVar], [, sensitivityVar]] = found.covariance;
  const zeroAlike = Math.abs(shows.zero - zero) <= COVERAGE * Math.sqrt(zeroVar) + OWN_ZERO_STEPS * step;
  const spread = COVERAGE * Math.sqrt(sensitivityVar) + OWN_SENSITIVITY;
  return zeroAlike && Math.abs(shows.sensitivity - sensitivity) <= spread;
}
type Found = Pick<RunOutcome, 'coefficients' | 'covariance'>;

/**
 * Whether a run's refusal says something of its sensor: not when the instrument reckoned something else from the same cups.
 *
 * @param step what counts in a zero, in the unit of the signal
 * @example refusedForSensor({ coefficients: { zero: 0, sensitivity: 1 }, covariance: [[1, 0], [0, 1e-4]] }, 1) // false
 */
export function refusedForSensor({ refused, ...found }: Found & Pick<RunOutcome, 'refused'>, step: number): boolean {
  if (!refused) return false;
  return refused.shows === null || areAlike(refused.shows, found, step);
}

const LOOK =
  'Look which standards it takes the cups for, which temperature it reckons with, and whether it waited until they were steady. Then start its calibration again.';

/**
 * What to do after an instrument has refused a calibration; null where none was refused.
 */
export function afterRefusal(state: RunState): string | null {
  if (!state.refused) return null;
  const own = ownFigures(state);
  const sound = ['leave', 'adjust'].includes(judge(state)?.action ?? '');
  if (own === 'other') return `It reckons other figures than this run found in the same cups. ${LOOK}`;
  if (own === 'alike' || !sound)
    return `${own === 'alike' ? 'It reckons what this run found too: the sensor' : 'The sensor'} is beyond what the instrument takes. Clean it and test it again; if it is refused once more, replace it.`;
  return `This run found both within limits. ${LOOK}`;
}
