import { expose } from 'comlink';
import {
  familyOf,
  fitSensor,
  modelOf,
  simulateBudget,
  type MonteCarlo,
  type Settings,
  type StandardPoint,
  type WorkingPoint,
} from '@frustum/core';

/** Everything that a budget rests on, as plain data: a calibration itself cannot cross to a worker. */
export interface BudgetOrder {
  readonly familyId: string;
  readonly settings: Settings;
  readonly points: readonly StandardPoint[];
  readonly at: WorkingPoint;
}

const twin = {
  /** @param progress told the share that is done */
  simulate(order: BudgetOrder, draws: number, seed: number, progress: (share: number) => void): MonteCarlo {
    const family = familyOf(order.familyId);
    const model = modelOf(family, order.settings);
    const fit = fitSensor(family, model, order.points);
    if (!fit.ok) throw new Error(fit.message);
    return simulateBudget(model, fit, order.at, draws, seed, progress);
  },
};

export type MonteCarloTwin = typeof twin;
expose(twin);
