import type { Facts } from './facts.ts';
import { signalDigitsFor } from '../calibration/plan.ts';
import { shown } from '../reckoner/figures.ts';

/** A signal with as many digits as its step is worth. */
export const countsFigure = (value: number, step: number) => shown(value, signalDigitsFor(step));

/** The signal, and what the history expects of it here. */
export const levelOf = ({ signal, expected, step, model }: Facts) => ({
  signal,
  expected,
  step,
  unit: model.signalUnit,
});
