import { MS_PER_DAY, cone, errorHere, normalCdf, ofFleet, poolOf, type Fleet, type Observation } from '@frustum/core';
import { seedOf } from '@frustum/sim';
import { oracle, type Linear, type Piece } from './drift-oracle.ts';
import { lived, placeOf, type Kind, type Lived, type Place } from './drift-truths.ts';

/** One prediction and what became of it, in the unit of the family. */
export interface Predicted {
  readonly kind: Kind;
  /** error that came, less the middle of the cone */
  readonly off: number;
  readonly half50: number;
  readonly half95: number;
  /** half of the oracle's 95 % interval; null where it was not asked */
  readonly oracle95: number | null;
  readonly oracleHeld: boolean | null;
  /** interval scores of the 95 % bands: the cone's, and of the last value with its spread */
  readonly score: number;
  readonly naive: number;
}

/** A house: what its own sensors say of how theirs drift, and how far an error moves from run to run. */
export interface SimulatedFleet {
  readonly place: Place;
  readonly kind: Kind;
  readonly fleet: Fleet;
  readonly naiveSd: number;
}

const FLEET_RUNS = 10;

export function houseOf(family: string, kind: Kind, sensors: number, seed: number): SimulatedFleet {
  const place = placeOf(family);
  const all = Array.from({ length: sensors }, (_, i) => lived(kind, place, FLEET_RUNS, seedOf(seed, `fleet/${i}`)));
  const fleet = poolOf(all.map(({ history }) => ({ prior: place.prior, history })));
  const steps = all.flatMap(({ history }) =>
    history.slice(1).map((o, i) => errorOf(place, o.found, history[i]!.found)),
  );
  return { place, kind, fleet, naiveSd: Math.sqrt(steps.reduce((s, e) => s + e * e, 0) / steps.length) };
}

const errorOf = ({ working }: Place, actual: Observation['found'], inForce: Observation['found']) =>
  errorHere(working.model, working, actual, inForce).error;

/** Width, and a fine for what lies outside: Gneiting & Raftery, JASA 102 (2007) 359, eq. 43. */
const intervalScore = (off: number, half: number, alpha = 0.05) =>
  2 * half + (2 / alpha) * Math.max(0, Math.abs(off) - half);

/** One sensor of a house, its runs, and a prediction for a later day. */
export function predicted(house: SimulatedFleet, runs: number, seed: number, asked: boolean): Predicted {
  const { place, kind, fleet, naiveSd } = house;
  const one = lived(kind, place, runs, seed);
  const made = cone(one.history, ofFleet(place.prior, fleet), place.working, 0);
  const at = made.errorAt!(one.laterDay * MS_PER_DAY);
  const truth = errorOf(place, one.later, one.inForce);
  const off = truth - at.mean;
  const last = errorOf(place, one.history.at(-1)!.found, one.inForce);
  const said = asked && kind !== 'seasons' ? intervalOf(oracle(kind, place, one, linearAt(place, one))) : null;
  return {
    kind,
    off,
    half50: at.half50,
    half95: at.half95,
    oracle95: said && (said[1] - said[0]) / 2,
    oracleHeld: said && truth >= said[0] && truth <= said[1],
    score: intervalScore(off, at.half95),
    naive: intervalScore(truth - last, 1.96 * naiveSd),
  };
}

/** The error about what the last run found. */
function linearAt(place: Place, { history, inForce }: Lived): Linear {
  const { found } = history.at(-1)!;
  const g = errorHere(place.working.model, place.working, found, inForce);
  return [g.error - g.perZero * found.zero - g.perSensitivity * found.sensitivity, g.perZero, g.perSensitivity];
}

/** Its central 95 %. */
function intervalOf(pieces: readonly Piece[]): readonly [number, number] {
  const quantile = (share: number) => {
    let low = Math.min(...pieces.map((p) => p.mean - 10 * p.sd));
    let high = Math.max(...pieces.map((p) => p.mean + 10 * p.sd));
    for (let i = 0; i < 50; i++) {
      const middle = (low + high) / 2;
      const below = pieces.reduce((s, p) => s + p.weight * normalCdf((middle - p.mean) / p.sd), 0);
      if (below < share) low = middle;
      else high = middle;
    }
    return (low + high) / 2;
  };
  return [quantile(0.025), quantile(0.975)];
}
