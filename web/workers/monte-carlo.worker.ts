import { expose } from 'comlink';
import {
  calibrationOf,
  familyOfPlan,
  simulateBudget,
  type MonteCarlo,
  type RunPlan,
  type StandardPoint,
  type WorkingPoint,
} from '@frustum/core';

/** Everything that a budget rests on, as plain data: a calibration itself cannot cross to a worker. */
export interface BudgetOrder {
  readonly plan: RunPlan;
  readonly points: readonly StandardPoint[];
  readonly at: WorkingPoint;
}

const twin = {
  /** @param progress told the share that is done */
  simulate(order: BudgetOrder, draws: number, seed: number, progress: (share: number) => void): MonteCarlo {
    const fit = calibrationOf(order.plan, order.points);
    if (!fit.ok) throw new Error(fit.message);
    return simulateBudget(
      familyOfPlan(order.plan).model,
      fit.whole,
      order.at,
      draws,
      seed,
      progress,
      order.plan.inForce,
    );
  },
};

export type MonteCarloTwin = typeof twin;
expose(twin);
