// The whole public surface of the core, by heading: long because it is a list.

// Quantities
export { byWallClock, dayIn, daysFrom, daysLater } from './quantities/site-clock.ts';
export { FARADAY, GAS_CONSTANT, MS_PER_DAY } from './quantities/constants.ts';
export { figure } from './quantities/figure.ts';
export type { ChannelId, LoopId, LotId, RunId, SensorId, SiteId } from './quantities/ids.ts';
export { readQuantity, unitNamed, type ReadQuantity } from './quantities/read-quantity.ts';
export { Refusal, refusalSaid, requireFinite, requireWithin, saidOf, type RefusalSaid } from './quantities/refusal.ts';
export type { RefusalCode, RefusalFactsOf } from './quantities/refusal-codes.ts';
export { celsius, fahrenheit, kelvin } from './quantities/temperature.ts';
export {
  AMMONIUM_PER_N,
  convertTo,
  inUnit,
  kindOf,
  NITRATE_PER_N,
  quantity,
  UNITS,
  unitsOf,
  type Kind,
  type KindOf,
  type Quantity,
  type Unit,
  type UnitOf,
  isUnit,
  PPM_SCALES,
} from './quantities/units.ts';

// Statistics
export { seededChance, type Chance } from './statistics/chance.ts';
export { coverageFactor, effectiveFreedom } from './statistics/coverage-factor.ts';
export { fitLine, type Line, type LineResult } from './statistics/line.ts';
export { cusum, ewma, type Charted, type Summed } from './statistics/control-charts.ts';
export { RUN_RULES, runRules, type RunRule } from './statistics/run-rules.ts';
export { predict, update, type Belief, type Motion, type Updated, type Measurement } from './statistics/kalman.ts';
export { chanceOutside, normalCdf, Z50, Z95 } from './statistics/normal.ts';
export { minimise, minimiseInSteps, type Minimum } from './statistics/descent.ts';
export { chanceBeyond, halfWidth, sdOf, type Mixture } from './statistics/mixture.ts';
export { unlessRefused } from './sensor/sources.ts';
export { AS_OWN, isBare, ownOf, requireWritten, scaleOf, scalesOf, type Scale, type ShownAs } from './sensor/scale.ts';
export { decimalsOf, digitsFor, writtenIn, type WorksAt, type Written } from './sensor/written.ts';
export { median, noiseSd } from './statistics/robust.ts';
export { interpolate, type TableRow } from './statistics/shape-preserving-cubic.ts';

// Solutions: standards over temperature
export { buffer, BUFFERS } from './solutions/buffers.ts';
export { CATALOGUE, serves, usualSets } from './families/catalogue.ts';
export { oxygenPressure, oxygenSaturation, type UnderAir } from './solutions/oxygen.ts';
export { AIR, ZERO_PLUG } from './solutions/without-liquid.ts';
export { conductivityBottle, CONDUCTIVITY_STANDARDS, type Salt } from './solutions/conductivity-standards.ts';
export { ionStandard, preparedIon, type PreparedIon } from './solutions/ion-standard.ts';
export { ferrocyanidePotential, quinhydronePotential, REDOX_STANDARDS } from './solutions/redox-standards.ts';
export { grabSample } from './solutions/sample.ts';
export {
  ageUncertainty,
  certified,
  temperatureSlope,
  valueAt,
  withOwnTable,
  type Standard,
} from './solutions/standard.ts';

// Solutions: what water and salts do
export {
  daviesCoefficient,
  daviesUncertainty,
  debyeHuckelA,
  extendedCoefficient,
  ionicStrength,
  permittivity,
} from './solutions/activity.ts';
export {
  ammoniaPka,
  ammoniaShare,
  FRESH_WATER_NOTE,
  hypochlorousPka,
  hypochlorousShare,
} from './solutions/dissociation.ts';
export { nernstSlope } from './solutions/nernst-slope.ts';
export { concentrationOf, dilute, massFor, type Dilution, type Weighing } from './solutions/preparation.ts';
export {
  PURE_WATER_RELATIVE,
  pureCompensationUncertainty,
  pureFrom25,
  pureTo25,
  pureWater,
  pureWaterRelative,
  to25,
} from './solutions/pure-water.ts';
export { courseFactor, linearFactor, type Compensation } from './solutions/compensation.ts';
export {
  againstReference,
  REFERENCES,
  referenceOf,
  referencePotential,
  silverChlorideByActivity,
  type Reference,
} from './solutions/references.ts';
export { ionOf, IONS, molarMass, saltOf, SALTS, type Ion, type SaltOf } from './solutions/salts.ts';
export {
  density,
  density68,
  salinityOfGravity,
  specificGravity,
  type GravityAt,
} from './solutions/seawater/density.ts';
export { conductivityOfSeawater, salinity, salinityFromRatio, t68 } from './solutions/seawater/practical-salinity.ts';
export { TOTAL_SCALE_NOTE, trisPh } from './solutions/seawater/tris.ts';

// Electrical
export { currentFor, loopState, valueOfCurrent, type LoopState, type Span } from './electrical/current-loop.ts';
export {
  CLASS_A_C,
  classA,
  rtdResistance,
  rtdSlope,
  rtdTemperature,
  type NominalOhms,
  type Winding,
} from './electrical/resistance-thermometer.ts';
export {
  selfHeating,
  steinhartHart,
  THERMISTOR_ROWS,
  thermistorOf,
  thermistorResistance,
  thermistorTemperature,
  type SteinhartHart,
  type ThermistorRow,
} from './electrical/thermistor.ts';
export {
  boxForConductivity,
  boxForResistivity,
  cellConstantFrom,
  conductivityOfBox,
  resistivityOfBox,
} from './electrical/simulators.ts';
export { spanTable, type SpanPoint, type SpanRow, type SpanTable } from './electrical/span-table.ts';

// Families: what all have in common
export type { Free } from './sensor/calibration.ts';
export {
  type Family,
  type Model,
  type ParameterMeaning,
  type SensorLimits,
  type SettingField,
  type SettleStep,
  type Settings,
  type WorkingPoint,
  type WorkingRow,
  isCell,
  settingsThatMatter,
} from './sensor/family.ts';
export { FAMILIES, familyOf } from './families/registry.ts';
export { asFound, expectedIn, conditionsFor, modelOf, shownValue, signalOf } from './sensor/sensor.ts';
export type { NoCalibration, SensorCalibration } from './sensor/calibration.ts';
export { fitSensor, type FitOptions } from './sensor/fit.ts';
export type { Source } from './sensor/calibration.ts';
export { readsAs, requireReadsAs, signalOfReading, valueOfReading } from './sensor/channel-reading.ts';
export { bracket, bracketedValue, type Segment as Bracket } from './sensor/segments.ts';
export {
  errorGradientOf,
  errorHere,
  expandedOf,
  workingErrorOf,
  type Covariance2,
  type ValueError,
} from './sensor/working-error.ts';
export { shownErrorOf } from './sensor/shown-error.ts';
export { errorRowsOf, standingRowsOf, type ErrorRow } from './sensor/rows.ts';
export { budgetOf, type Budget, type BudgetRow } from './sensor/budget.ts';
export { simulateBudget, type MonteCarlo } from './sensor/monte-carlo.ts';

// Families: what each has of its own
export { fitIon, GAP_LIMITS, idealGap, type IonCalibration } from './families/ion/over-temperature.ts';
export { interference, type Interferent } from './families/ion/nikolsky.ts';
export { errorGradient, millivolts, shownError, shownPh } from './families/ph/electrode.ts';
export { PH_LIMITS } from './families/ph/limits.ts';
export { chainGains, type Chain, type ChainLink } from './families/ph-shown/chain.ts';
export {
  agree,
  offsetInSteps,
  type Agreement,
  type ThermometerReading,
} from './families/temperature/two-thermometers.ts';

// Reckoner
export { inside, shown } from './reckoner/figures.ts';
export {
  chosenOf,
  curveOf,
  fieldKind,
  inWords,
  nudges,
  solve,
  wayAfter,
  type Nudge,
  type Solved,
  type SumCurve,
  type SumInput,
} from './reckoner/solve.ts';
export type { Answer, Figure, Sum, SumChoice, SumField, Direction } from './reckoner/sum.ts';
export { EMPTY, lookFor, sumOf, SUMS, type Hit } from './reckoner/sums.ts';

// Settling
export { expectedAt, finalValue, fitApproach, type Approach } from './settling/approach.ts';
export { ANY_TAIL, type Tail } from './settling/ways.ts';
export {
  ANY_GLASS,
  settle,
  settleIn,
  STATISTICAL,
  type Band,
  type Response,
  type School,
  type Settling,
  type SettlingState,
} from './settling/settle.ts';
export { TEMPERATURE_LIMIT_C_PER_MIN, type ToGo } from './settling/time-to-ready.ts';
export { thinned, type Sample } from './settling/trace.ts';

// Calibration
export {
  DECISIONS,
  type Capture,
  type CaptureMethod,
  type CapturePurpose,
  type DecisionAction,
  type Entry,
  CAPTURE_METHODS,
  CAPTURE_PURPOSES,
  DECISION_ACTIONS,
  SENSOR_STATES,
  SURROUNDINGS,
  type ConditionOfRun,
  type PassedGate,
  type PhotoTaken,
  type PlannedLot,
  type PlannedPoint,
  type RunEvent,
  type RunEventBody,
  type RunEventType,
  type RunPlan,
  type SensorState,
  type Surrounding,
  type Refused,
} from './calibration/events.ts';
export { calibrationOf, type Calibration, type CalibrationResult } from './calibration/fit.ts';
export {
  significantStep,
  familyOfPlan,
  responseIn,
  signalDigitsFor,
  stepIn,
  writtenOfPlan,
} from './calibration/plan.ts';
export { stepsOf, type Step, type StepKind } from './calibration/procedure.ts';
export { boxStandard, spanOf, usualBoxes, type BoxPoint } from './calibration/electrical.ts';
export { standardOf } from './calibration/entry.ts';
export { farFromWork, pointsTrouble, requirePoints, suggestedSet, type PouredFor } from './calibration/points.ts';
export { gatesOf, leaningWith, type Gate, type GateFacts } from './calibration/gates.ts';
export {
  fitOf,
  inputOf,
  lastPass,
  planInForce,
  pointsOf,
  settlingsOf,
  standardAt,
  type MeasuredPoint,
} from './calibration/measured.ts';
export {
  adjustingLooksWorse,
  dosedBy,
  outlookOf,
  type ControlAction,
  type Outlook,
  type Prospect,
} from './calibration/outlook.ts';
export {
  builtIn,
  mayAdjust,
  poursStandards,
  type ExtraStep,
  type OwnWords,
  type Procedure,
  type ProcedureInfo,
  type ProcedureKind,
  PROCEDURE_KINDS,
} from './sensor/procedures.ts';
export {
  carryOver,
  cupInUse,
  isSame,
  leastCarryOver,
  nextMovement,
  waitsFor,
  type Movement,
  type OnTheBench,
  type Places,
} from './calibration/bench-of-many.ts';
export { planBench, planOnPaper, type BenchPlan, type PlannedMovement } from './calibration/bench-plan.ts';
export { EVENT_VERSION, inTodaysWords, lifted } from './calibration/lift.ts';
export { apply, replay } from './calibration/replay.ts';
export type { KeptCapture, RunState } from './calibration/state.ts';
export type { TraceMoment } from './calibration/events.ts';
export { cupByTheSheet, stillInCup, type StillInCup } from './calibration/left-in-cup.ts';
export { hasBegunAnew, movedSince, ofThisStep, tooOld, type LiveTraceSample } from './calibration/step-trace.ts';
export { afterRefusal, ownFigures, refusedForSensor, type OwnFigures } from './calibration/refused.ts';
export { outcomeOf, type Bottle, type RunOutcome } from './calibration/outcome.ts';
export {
  adjustTrouble,
  COVERAGE,
  errorAtWork,
  judge,
  whyNotJudged,
  type Reason,
  type Verdict,
} from './calibration/verdict.ts';
export { provable, type Provable } from './calibration/provable.ts';
export {
  provesOf,
  statementOf,
  statementWords,
  type Conformity,
  type Proves,
  type Statement,
} from './calibration/statement.ts';

// Drift
export {
  cone,
  coneAlong,
  DRIFT_VERSION,
  type Cone,
  type ConeBranch,
  type FoundMark,
  type Segment,
  type AtFit,
} from './drift/cone.ts';
export { forecastsHeld, type ForecastsHeld } from './drift/forecasts-held.ts';
export { weighedSize, withoutEvidence } from './drift/explained.ts';
export type { AtOnePace, ErrorAt, Explanation, ParametersAt, Working } from './drift/working.ts';
export { filtered, type Course, type Known } from './drift/course.ts';
export { atLikeliestPace, filteredAtPaces } from './drift/pace.ts';
export type { Observation, ServiceEvent } from './drift/history.ts';
export { PH_PRIOR } from './families/ph/prior.ts';
export { usualPrior, type FamilyPrior } from './sensor/prior.ts';
export { proceduresFor } from './families/procedures.ts';
export { filteredTogether, weekly, type Comparison, type CoLocatedSensor } from './drift/together.ts';
export { around, pastOf, type Around, type Change, type PastRun } from './drift/past.ts';
export { poolingModel, within as fleetWithin } from './drift/model-fleet.ts';
export { NO_FLEET, ofFleet, pooling, poolOf, type Fleet, type Member, type PoolProgress } from './drift/pool.ts';
export { marginOf, type Margin, type MarginState } from './drift/margin.ts';

// Health
export { lookBacks, type ErrorThen, type LookBack } from './drift/look-back.ts';
export { diagnose, type Diagnosis, type Pushed, type Thin } from './health/diagnose.ts';
export {
  healthFacts,
  type PeerComparison,
  type Checks as HealthChecks,
  type Figure as HealthFigure,
  type HealthFacts,
  type Treated,
  type TimedRun,
} from './health/evidence.ts';
export {
  SERVICE_KINDS,
  type ActionGroup,
  type Befalls,
  type Cause,
  type NextTest,
  type ServiceKind,
} from './sensor/befalls.ts';

// Scheduling
export { forecastDue } from './scheduling/forecast.ts';
export { byConsequence, dueWhenOutside, type Standing } from './scheduling/consequence.ts';
export { DUE_BY, dueOf, triggeredBy, type DueBy } from './scheduling/due.ts';
export { fixedInterval, type Due } from './scheduling/fixed-interval.ts';

// Mistakes
export { cupIn, takenByMistake } from './mistakes/cup.ts';
export { weigh, type WeighedHypotheses } from './mistakes/engine.ts';
export { factsOf, type Before, type Cup, type Facts } from './mistakes/facts.ts';
export { oddOf, type Hypothesis, type Warning } from './mistakes/hypothesis.ts';
export { walkDoubt, type Display } from './mistakes/walk-entry.ts';
export { chasesNoise, type ToAdjust } from './mistakes/inside-noise.ts';
export { aboutOf, ODD_IDS, type Odd, type OddFacts, type OddId } from './calibration/odd.ts';
export { areFactsOf, oddRecord, oddWords, type OddWords } from './mistakes/sentences.ts';
export { slipIn, temperatureSlip, type Typed } from './mistakes/typed.ts';
export { typedFacts, type TypedReading } from './mistakes/typed-facts.ts';
export { typedCapture, type EntryResult, type TypedEntry } from './mistakes/typed-entry.ts';
export { watched, weighCup } from './mistakes/watch.ts';
export {
  alarmsByConsequence,
  causesNow,
  USUAL_HOLD_MIN,
  type AlarmCause as AlarmCause,
  type HandsOn,
  type LoopNow,
} from './alarms/alarms.ts';
export {
  ALARM_LEVELS,
  isAtLeast,
  isQuiet,
  levelOf,
  MESSAGE_WAYS,
  USUAL_RULES,
  waysNow,
  type AlarmKind,
  type AlarmLevel,
  type MessageWay,
  type QuietHours,
  type Travelling,
  type TravelRules,
  type WayRule,
} from './alarms/levels.ts';
export { requireAlarmLimits } from './alarms/require-limits.ts';
export {
  callsOf,
  courseAt,
  withoutCourse,
  dailyCourse,
  NO_ALARM_LIMITS,
  proposedLimits,
  waterFindings,
  type AlarmLimits,
  type DailyCourse,
  type ShownMinute,
  type WaterFinding,
} from './alarms/water.ts';
export { waterWords, type WaterNow } from './alarms/water-words.ts';
export {
  isReason,
  LOOK_REASONS,
  NOTICE_KINDS,
  WATER_EVENTS,
  type LookReason,
  type Notice,
  type NoticeKind,
  type WaterEvent,
} from './alarms/notices.ts';
export { electrolyteLeft, limitsAhead, type LimitAhead } from './health/limits-ahead.ts';

// Knowledge: what is known of a sensor and of all of them together
export type { Ended, Finished, Fitted, Reads, Takes } from './knowledge/fitted.ts';
export type { Past, Together } from './knowledge/past.ts';
export { HouseKnowledge, type Compared, type Fleets } from './knowledge/house.ts';
export {
  byKey,
  coefficientsInForce,
  isKnownHere,
  reckonsWith,
  bySensor,
  coneOf,
  driftOf,
  eventsOf,
  learnedFrom,
  limitsOf,
  observationsOf,
  ofSensor,
  pastRunsOf,
  stepAt,
} from './knowledge/history.ts';
export { bodyOf, inSameWater, shareBody, shareReference, waterOf } from './knowledge/links.ts';
export { sharingWater, type DayBeside } from './knowledge/beside.ts';
export {
  backInWaterAt,
  fellowsOf,
  impedanceOf,
  LIKE_HOURS,
  MAX_LIVE,
  movedNow,
  NOW_MS,
  sampleOffOf,
  USUAL_DAYS,
  type Live,
  type Minute,
} from './knowledge/checks.ts';
export { cleaningTaught, type CleaningTaught } from './knowledge/cleaning.ts';
export { healthOf, isElectrode, serviceSaid, untested, type ServiceSaid, type Untested } from './knowledge/health.ts';
export { planOf, pointsFor, procedureOf, type Lot, type RunChoice, type RunOrder } from './knowledge/plan.ts';
export {
  conditionIn,
  conditionsOf,
  conditionWords,
  figuresOf,
  showsCondition,
  typedCondition,
  type ShownNow,
} from './knowledge/surrounded.ts';
export { comesBefore, leansOn, passedGates } from './knowledge/gates.ts';
export { leanedOn, lookBacksOf, type Dose, type Leaned, type Raised } from './knowledge/look-back.ts';
export { figuresIn, figuresOut, shownAsIn } from './knowledge/written-figures.ts';
export { channelStep, resolutionOf, type Steps } from './knowledge/channel-step.ts';
export {
  LIFE_EVENT_KINDS,
  requireFittable,
  requireMoment,
  STORAGES,
  type LifeEventKind,
  type OnTheMove,
  type Storage,
} from './sensor/life.ts';
export {
  explanationsBy,
  standApart,
  pictureOf,
  restsOn,
  type ExplainedBy,
  type Picture,
  type RestsOn,
} from './knowledge/picture.ts';
export { beyondLimits } from './knowledge/beyond-limits.ts';
export { paperUncertainty } from './knowledge/paper.ts';
export { requireService, servicesOf } from './knowledge/services-of.ts';
export { dueAtFit, dueOfLoop, standingOf } from './knowledge/due.ts';

// Sensors
export { IDEAL_SENSOR, type Coefficients, coefficientsAt } from './sensor/coefficients.ts';
export {
  CONDITIONS,
  type ConditionField,
  type ConditionName,
  type Conditions,
  type Surrounded,
} from './sensor/conditions.ts';
export type { StandardPoint } from './sensor/standard-point.ts';
