import { atLikeliestPace } from '../drift/pace.ts';
import { type Comparison, type CoLocatedSensor, filteredTogether, weekly } from '../drift/together.ts';
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
  };
}

const basisOf = (last: Comparison | undefined) =>
  last ? [last.atMs, ...last.given.flatMap((g) => [g.signal, g.temperatureC])] : [];
