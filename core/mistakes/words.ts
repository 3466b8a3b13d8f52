import type { Facts } from './facts.ts';
import { signalDigitsFor } from '../calibration/plan.ts';
import { shown } from '../reckoner/figures.ts';

/** A signal with as many digits as its step is worth. */
export const countsFigure = (value: number, step: number) => shown(value, signalDigitsFor(step));

/** The signal, and what the history expects of it here. */
export const levelWords = ({ signal, expected, step, model }: Facts) =>
  `It is heading for ${countsFigure(signal, step)} ${model.signalUnit}; this sensor gives ${countsFigure(expected, step)} there.`;
