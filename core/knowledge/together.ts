import { atLikeliestPace } from '../drift/pace.ts';
import { carried, filtered } from '../drift/course.ts';
import { parametersIn } from '../drift/error-from.ts';
import { type Comparison, type CoLocatedSensor, filteredTogether, PLACE_STEPS, weekly } from '../drift/together.ts';
import { familyOf } from '../families/registry.ts';
import type { Figure } from '../health/evidence.ts';
import { modelOf, shownValue, signalOf } from '../sensor/sensor.ts';
import { unlessRefused } from '../sensor/sources.ts';
import { type DayBeside, comparedOn } from './beside.ts';
import type { Fitted } from './fitted.ts';
import { coefficientsInForce, driftOf, observationsOf, ofSensor, stepAt } from './history.ts';
import type { Past, Together } from './past.ts';

/**
 * What a sensor's fellows in the same water say of it.
 *
 * @param members with one run each at least, itself among them
 */
export function togetherOf(
  { sensor }: Fitted,
  members: readonly { readonly fitted: Fitted; readonly past: Omit<Past, 'together'> }[],
  days: readonly DayBeside[],
): Together {
  const runs = members.map(({ past }) => ofSensor(past.finished));
  const breaks = [
    ...runs.flat().map((r) => Date.parse(r.endedAt)),
    ...members.flatMap(({ past }) => past.services.map((s) => s.atMs)),
  ];
  const group = members.map((m) => m.fitted);
  const comparisons = weekly(
    comparedOn(
      days,
      group,
      runs.map((list, i) => coefficientsInForce(list, members[i]!.past.atFit)),
      breaks,
    ),
    breaks,
  );
  const mine = group.findIndex((f) => f.sensor.id === sensor.id);
  return {
    withLoops: group.filter((_, i) => i !== mine).map((f) => f.loop.name),
    times: comparisons.length,
    basis: [breaks.length, Math.max(...breaks), comparisons.length, ...basisOf(comparisons.at(-1))].join(),
    known: () => {
      const sensors = members.map(({ fitted, past }, i): CoLocatedSensor => {
        const { prior, working } = driftOf(fitted, past.fleet);
        const history = observationsOf(runs[i]!);
        const own = atLikeliestPace(prior, history, past.services);
        return { prior: own, working, step: stepAt(fitted), history, services: past.services };
      });
      const known = filteredTogether(sensors, comparisons)[mine]!;
      return { prior: sensors[mine]!.prior, known, chances: known.map(() => 1) };
    },
    beside: () => besideOf(members, comparisons.at(-1), mine),
  };
}

/** What a sensor gives beside what its partners say the water is, by the runs of each alone. */
function besideOf(
  members: readonly { readonly fitted: Fitted; readonly past: Omit<Past, 'together'> }[],
  compared: Comparison | undefined,
  mine: number,
): Figure | null {
  if (!compared) return null;
  const known = members.map(({ fitted, past }) => {
    const { prior } = driftOf(fitted, past.fleet);
    const before = observationsOf(ofSensor(past.finished)).filter((o) => o.kind !== 'grab-sample' && o.atMs <= compared.atMs); // prettier-ignore
    const own = atLikeliestPace(prior, before, past.services);
    const state = filtered(before, own, past.services).at(-1)?.state;
    return state ? parametersIn(carried(state, own, past.services, compared.atMs)) : null;
  });
  const self = known[mine];
  if (!self) return null;
  const model = (i: number) => modelOf(familyOf(members[i]!.fitted.loop.family), members[i]!.fitted.loop.settings);
  const at = compared.given[mine]!;
  const said = members.flatMap(({ fitted }, i): Figure[] => {
    const other = known[i];
    if (i === mine || !other) return [];
    const expected = unlessRefused(() => {
      const { signal, temperatureC } = compared.given[i]!;
      return signalOf(model(mine), shownValue(model(i), signal, { temperatureC }, other), at, self);
    });
    if (expected === null) return [];
    // A partner hangs at a spot of its own.
    const spot = (PLACE_STEPS * stepAt(fitted) * self.sensitivity) / Math.max(1e-6, other.sensitivity);
    return [{ value: at.signal - expected, sd: Math.hypot(self.zeroSd, other.zeroSd, spot) }];
  });
  if (!said.length) return null;
  const weight = said.reduce((sum, f) => sum + f.sd ** -2, 0);
  return { value: said.reduce((sum, f) => sum + f.value / f.sd ** 2, 0) / weight, sd: weight ** -0.5 };
}

const basisOf = (last: Comparison | undefined) =>
  last ? [last.atMs, ...last.given.flatMap((g) => [g.signal, g.temperatureC])] : [];
