import {
  calibrationOf,
  coverageFactor,
  errorAtWork,
  expandedOf,
  familyOf,
  IDEAL_SENSOR,
  STATISTICAL,
  type RunPlan,
} from '@frustum/core';
import { seedOf } from '@frustum/sim';
import { chanceOf, type World } from './budget-worlds.ts';

function planOf(world: World, points: ReturnType<World['draw']>['points']): RunPlan {
  const { family, settings = {}, workingValue, workingC, held } = world;
  return {
    family,
    settings,
    loopName: '',
    sensorName: '',
    points: points.map(({ standard }) => ({ standard, lot: { id: '', label: '' } })),
    school: STATISTICAL,
    controls: '',
    workingValue,
    workingC,
    tolerance: 1,
    limits: familyOf(family).limits,
    inForce: IDEAL_SENSOR,
    inForceKnown: true,
    expected: { zero: 0, zeroSd: held?.zeroSd ?? 0, sensitivity: 1, sensitivitySd: held?.sensitivitySd ?? 0 },
    channelKind: 'modbus',
    resolution: 0,
  };
}

export interface Found {
  readonly name: string;
  readonly rms: number;
  readonly stated: number;
  readonly covered: number;
  readonly k: number;
  readonly refused: number;
}

/**
 * Calibrates many times over, each time another sensor in other bottles, and holds what is stated against what is true.
 *
 * @returns root mean square of the error, of the stated standard uncertainty, and how often the expanded interval holds it
 */
export function calibratedMany(world: World, draws: number, seed: number): Found {
  const by = chanceOf(seedOf(seed, world.name));
  let [squares, stated, covered, k, refused] = [0, 0, 0, 0, 0];
  for (let n = 0; n < draws; n++) {
    const drawn = world.draw(by);
    const plan = planOf(world, drawn.points);
    const fit = calibrationOf(plan, drawn.points);
    if (!fit.ok) {
      refused++;
      continue;
    }
    const points = drawn.points.map((p, pointIndex) => ({ ...p, pointIndex, disagreement: null, t90: null, firstOff: null })); // prettier-ignore
    const said = errorAtWork(plan, fit, fit.coefficients, points);
    const off = drawn.shows(fit.coefficients) - drawn.is;
    squares += off ** 2;
    stated += said.uncertainty ** 2;
    k += said.coverageFactor ?? coverageFactor(Infinity);
    if (Math.abs(off) <= expandedOf(said)) covered++;
  }
  const n = draws - refused;
  return {
    name: world.name,
    rms: Math.sqrt(squares / n),
    stated: Math.sqrt(stated / n),
    covered: covered / n,
    k: k / n,
    refused,
  };
}
