import { USUAL_LIFE, USUAL_PACE_SD, type FamilyPrior } from '../../sensor/prior.ts';

/** pH electrodes in continuous service. Common practice, no source; `pooled` learns it from the operator's own sensors. */
export const PH_PRIOR: FamilyPrior = {
  zero: {
    ...USUAL_LIFE,
    value: 0,
    sd: 10,
    walk: 0.21,
    rateSd: 0.05,
    firstRateSd: 0.05,
    jumpSd: 6,
    cleanedBy: 0,
    cleanedSd: 1.5,
  },
  sensitivity: {
    ...USUAL_LIFE,
    value: 0.97,
    sd: 0.03,
    walk: 0.0012,
    rate: -0.00006,
    rateSd: 0.00035,
    firstRateSd: 0.00035,
    jumpSd: 0.03,
    cleanedBy: 0,
    cleanedSd: 0.01,
  },
  paceSd: USUAL_PACE_SD,
  steadyShare: 0.7,
};
