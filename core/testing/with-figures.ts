import type { FamilyPrior, FigurePrior } from '../sensor/prior.ts';

/** A prior in which some figures are others. */
export const withFigures = (
  prior: FamilyPrior,
  zero: Partial<FigurePrior>,
  sensitivity: Partial<FigurePrior> = {},
): FamilyPrior => ({
  ...prior,
  zero: { ...prior.zero, ...zero },
  sensitivity: { ...prior.sensitivity, ...sensitivity },
});
