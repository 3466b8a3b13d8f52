import { USUAL_LIFE, type FamilyPrior } from '../../sensor/prior.ts';

/** pH electrodes in continuous service. Common practice, no source; `pooled` learns it from the operator's own sensors. */
export const PH_PRIOR: FamilyPrior = {
  ...USUAL_LIFE,
  zero: 0,
  zeroSd: 10,
  sensitivity: 0.97,
  sensitivitySd: 0.03,
  zeroWalk: 0.25,
  sensitivityWalk: 0.0012,
  zeroRateSd: 0.06,
  sensitivityRateSd: 0.00035,
  zeroFirstRateSd: 0.06,
  sensitivityFirstRateSd: 0.00035,
  zeroJumpSd: 6,
  sensitivityJumpSd: 0.03,
  cleanedZeroSd: 1.5,
  cleanedSensitivitySd: 0.01,
};
