import { signalOf } from '../sensor/sensor.ts';
import { unlessRefused } from '../sensor/sources.ts';
import { familyOfPlan, stepIn } from './plan.ts';
import type { KeptCapture, RunState } from './state.ts';

/** Signals of water and cup that lie nearer together than so many steps that count cannot be told apart. */
const MIN_APART_STEPS = 5;

/** A probe that goes by the sheet from cup to cup; in a sample's run it never leaves its water, in an electrical one it is off. */
const goesIntoCups = ({ plan }: RunState) =>
  !['sample', 'thermometers', 'electrical'].includes(plan.procedure?.kind ?? '');

/** What a probe shows that should be back in its water, and does not seem to be. */
export interface StillInCup {
  /** the last capture of this run, which it shows still */
  readonly cup: KeptCapture;
  /** what it showed in its water when the run began, in the unit of the signal; null where nobody looked */
  readonly waterBefore: { readonly signal: number; readonly temperatureC: number } | null;
}

/**
 * Does a probe still show the last cup, where it should show its water? It does when its signal lies nearer to that cup
 * than to what the water gave before the run, and than to where the loop works.
 *
 * @param now what it shows just now, in the unit of the signal
 * @returns null where it does not, and where water and cup cannot be told apart
 */
export function stillInCup(
  state: RunState,
  now: { readonly signal: number; readonly temperatureC: number },
): StillInCup | null {
  const { plan } = state;
  const cup = state.captures.filter((c) => plan.points[c.pointIndex]?.role !== 'input').at(-1);
  const planned = cup && plan.points[cup.pointIndex];
  if (!goesIntoCups(state) || !cup || !planned) return null;
  const { model } = familyOfPlan(plan);
  const believed = (state.adjusted ?? { coefficients: plan.inForce }).coefficients;
  const works = unlessRefused(() => signalOf(model, plan.workingValue, { temperatureC: now.temperatureC }, believed));
  const waters = [plan.waterBefore?.signal, works].filter((s): s is number => s !== undefined && s !== null);
  const least = MIN_APART_STEPS * (unlessRefused(() => stepIn(plan, planned.standard, cup.temperatureC)) ?? 0);
  const fromCup = Math.abs(now.signal - cup.signal);
  const told = waters.length > 0 && waters.every((water) => Math.abs(water - cup.signal) >= least);
  if (!told || waters.some((water) => Math.abs(now.signal - water) <= fromCup)) return null;
  return { cup, waterBefore: plan.waterBefore ?? null };
}

/**
 * The cup that the probe stands in by the sheet; null while it is in its water, in air, in hands, or nobody knows where.
 */
export function cupByTheSheet(state: RunState): string | null {
  if (state.status !== 'open' || !goesIntoCups(state)) return null;
  const done = state.steps.filter((s) => state.done.includes(s.id));
  const last = done.findLast(
    (s) => s.kind === 'place' || s.key === 'take-out' || s.key === 'clean' || s.key === 'return',
  );
  const standard = last?.kind === 'place' ? state.plan.points[last.pointIndex!]?.standard : undefined;
  return standard && !standard.inAir ? standard.name : null;
}
