import { PAIRS, type Befalls, type Cause, type Expected, type Piece } from '../sensor/befalls.ts';

/** What may be the matter: one cause, or two at once. */
export interface Suspicion {
  readonly causes: readonly [Cause] | readonly [Cause, Cause];
  /** share of sensors in service of which it is true */
  readonly prior: number;
}

/** One of as many densities as there are, each as likely. */
export interface Density {
  readonly mean: number;
  readonly sd: number;
}

/**
 * All that may be the matter with a sensor: each cause alone, and each pair. The shares add up to those of the causes.
 *
 * @example suspicionsOf({ causes: [{ prior: 0.1 }, { prior: 0.1 }], pairs: 0.5 }).map((s) => s.prior) // [0.05, 0.05, 0.1]
 */
export function suspicionsOf({ causes, pairs = PAIRS }: Pick<Befalls, 'causes' | 'pairs'>): readonly Suspicion[] {
  const total = causes.reduce((sum, c) => sum + c.prior, 0);
  const two = causes
    .filter((c) => !c.alone)
    .flatMap((a, i, list) => list.slice(i + 1).map((b) => ({ causes: [a, b] as const, weight: a.prior * b.prior })));
  const all = two.reduce((sum, p) => sum + p.weight, 0);
  const share = all > 0 ? pairs : 0;
  return [
    ...causes.map((cause): Suspicion => ({ causes: [cause], prior: cause.prior * (1 - share) })),
    ...(share > 0 ? two.map((p): Suspicion => ({ causes: p.causes, prior: (share * total * p.weight) / all })) : []),
  ];
}

const densities = ({ mean, sd, either }: Expected): readonly Density[] =>
  either
    ? [
        { mean, sd },
        { mean: -mean, sd },
      ]
    : [{ mean, sd }];

/**
 * What a piece of evidence is where a suspicion is true: of two causes each moves it by as much as it does alone. Its densities,
 * each as likely; null where it says nothing, and a sound sensor speaks.
 */
export function expectedBy(causes: readonly Cause[], piece: Piece, sound: Expected): readonly Density[] | null {
  const [first, second] = causes;
  const one = first?.expects[piece];
  const other = second?.expects[piece];
  const [a, b] = one ? [one, other] : [other, undefined];
  if (!a) return null;
  if (!b) return densities(a);
  return densities(a).flatMap((x) =>
    densities(b).map((y) => ({
      mean: x.mean + y.mean - sound.mean,
      // What a sound sensor scatters by is in both, and is there once.
      sd: Math.sqrt(Math.max(x.sd ** 2, y.sd ** 2, x.sd ** 2 + y.sd ** 2 - sound.sd ** 2)),
    })),
  );
}
