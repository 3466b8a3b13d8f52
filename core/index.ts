// Quantities
export { FARADAY, GAS_CONSTANT, MS_PER_DAY } from './quantities/constants.ts';
export { celsius, fahrenheit, kelvin } from './quantities/temperature.ts';
export { Refusal, requireFinite, requireWithin, type RefusalFacts } from './quantities/refusal.ts';
export type { ChannelId, LoopId, LotId, RunId, SensorId, SiteId, StandardId } from './quantities/ids.ts';

// Statistics
export { generalisedLeastSquares, type Estimate } from './statistics/generalised-least-squares.ts';
export { fitLine, type Line, type LineResult } from './statistics/line.ts';
export { chanceOutside, normalCdf, Z50, Z95 } from './statistics/normal.ts';
export { median, noiseSd } from './statistics/robust.ts';
export { interpolate, type TableRow } from './statistics/shape-preserving-cubic.ts';

// Solutions
export { buffer, BUFFERS } from './solutions/buffers.ts';
export { temperatureSlope, valueAt, type Standard } from './solutions/standard.ts';

// Families: pH
export { errorGradient, IDEAL, millivolts, shownError, shownPh, type Coefficients } from './families/ph/electrode.ts';
export {
  foundAt,
  workingError,
  workingUncertaintyRows,
  type PhError,
  type UncertaintyRow,
} from './families/ph/as-found.ts';
export {
  fitCalibration,
  type Calibration,
  type CalibrationPoint,
  type CalibrationResult,
  type Covariance2,
} from './families/ph/fit.ts';
export { PH_LIMITS, type PhLimits } from './families/ph/limits.ts';
export { nernstSlope } from './families/ph/nernst-slope.ts';

// Settling
export { expectedAt, finalValue, fitApproach, type Approach } from './settling/approach.ts';
export {
  settle,
  STATISTICAL,
  TEMPERATURE_LIMIT_C_PER_MIN,
  type Band,
  type School,
  type Settling,
  type SettlingState,
} from './settling/settle.ts';
export { thinned, type Sample } from './settling/trace.ts';

// Calibration
export {
  DECISIONS,
  type Capture,
  type CaptureMethod,
  type CapturePurpose,
  type DecisionAction,
  type PlannedLot,
  type PlannedPoint,
  type RunEvent,
  type RunEventBody,
  type RunEventType,
  type RunPlan,
} from './calibration/events.ts';
export { stepsOf, type Step, type StepKind } from './calibration/procedure.ts';
export {
  apply,
  fitOf,
  lastPass,
  pointsOf,
  replay,
  type KeptCapture,
  type MeasuredPoint,
  type RunState,
} from './calibration/replay.ts';
export { COVERAGE, judge, outcomeOf, type Reason, type RunOutcome, type Verdict } from './calibration/verdict.ts';
export { otherCup, type CupGuess } from './calibration/which-cup.ts';

// Drift
export { cone, type Cone, type ErrorAt, type FoundMark, type Segment, type Working } from './drift/cone.ts';
export { PH_PRIOR, type FamilyPrior, type Observation } from './drift/history.ts';
export { marginOf, type Margin, type MarginState } from './drift/margin.ts';

// Scheduling
export { fixedInterval, type Due } from './scheduling/fixed-interval.ts';
