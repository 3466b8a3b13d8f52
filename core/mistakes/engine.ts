import { logSum } from '../statistics/chances.ts';
import type { Hypothesis, Warning } from './hypothesis.ts';
import type { Odd } from '../calibration/odd.ts';

/** The result of weighing all hypotheses against "nothing odd". */
export interface WeighedHypotheses {
  /** chance that nothing is odd, 0 to 1 */
  readonly sound: number;
  /** by class, the likeliest first; together with `sound` they make 1 */
  readonly classes: readonly { readonly id: string; readonly chance: number; readonly leader: string }[];
  /** the one that is worth saying; null where nothing is, or where nobody could say what */
  readonly warning: Warning | null;
}

/** Warn when the leading hypothesis has more than this chance, and "nothing odd" less than `SOUND_BELOW`. */
const SAID_ABOVE = 0.45;
/** The leader must be so many times likelier than the second: two that explain alike are not decided between. */
const LEAD = 1.5;
const SOUND_BELOW = 0.5;
/** Below this chance of "nothing odd" the leader is warned of even when the second is near, and the second is named with it. */
const SURELY_ODD = 0.3;
/** Name the second when the leader has at most `DECIDED` and the second at least `NAMED_ABOVE`. */
const DECIDED = 0.85;
const NAMED_ABOVE = 0.12;

/** A hypothesis gives the facts of its own code: the registry's specs look at each. */
const oddIn = <F>(h: Hypothesis<F>, facts: F) => ({ id: h.id, facts: h.facts(facts) }) as Odd;

/**
 * Weighs a registry of hypotheses against "nothing odd" and against each other: they share one unit of chance, so that
 * warnings compete and never add up.
 *
 * @param answered hypotheses that the operator has ruled out for these facts
 * @param settled the facts will not become clearer: what cannot be decided between two is then said of both
 * @example weigh([], {}).sound // 1
 */
export function weigh<F>(
  registry: readonly Hypothesis<F>[],
  facts: F,
  answered: (hypothesis: Hypothesis<F>) => boolean = () => false,
  settled = false,
): WeighedHypotheses {
  const open = registry.filter((h) => !answered(h));
  const soundLog = Math.log(
    1 -
      Math.min(
        0.5,
        open.reduce((sum, h) => sum + h.prior, 0),
      ),
  );
  const logs = open.map((h) => Math.log(h.prior) + h.weight(facts));
  const total = logSum([soundLog, ...logs]);
  const sound = Math.exp(soundLog - total);
  const classes = new Map<string, { chance: number; leader: number }>();
  open.forEach((h, i) => {
    const id = h.alike ?? h.id;
    const chance = Math.exp(logs[i]! - total);
    const known = classes.get(id);
    if (!known) classes.set(id, { chance, leader: i });
    else classes.set(id, { chance: known.chance + chance, leader: logs[i]! > logs[known.leader]! ? i : known.leader });
  });
  const ranked = [...classes].sort(([, a], [, b]) => b.chance - a.chance);
  const [top, next] = ranked.map(([, c]) => c);
  const leads = top && top.chance > SAID_ABOVE && top.chance > LEAD * (next?.chance ?? 0);
  const clear = leads || (top && settled && sound < SURELY_ODD);
  const leader = clear && sound < SOUND_BELOW ? open[top.leader]! : null;
  const said = leader && (leader.sayable?.(facts) ?? true) ? leader : null;
  const near =
    settled && said && top!.chance < DECIDED && next && next.chance > NAMED_ABOVE ? open[next.leader]! : null;
  return {
    sound,
    classes: ranked.map(([id, { chance, leader }]) => ({ id, chance, leader: open[leader]!.id })),
    warning: said
      ? ({
          id: said.id,
          stops: typeof said.stops === 'function' ? said.stops(facts) : (said.stops ?? false),
          facts: said.facts(facts),
          ...(near ? { or: oddIn(near, facts) } : {}),
        } as Warning)
      : null,
  };
}
