import type { Fleet } from '../drift/pool.ts';
import type { Coefficients } from '../sensor/coefficients.ts';
import type { ShownAs } from '../sensor/scale.ts';
import type { ConditionName } from '../sensor/conditions.ts';
import type { SensorLimits, Settings } from '../sensor/family.ts';
import type { ThermometerReading } from '../families/temperature/two-thermometers.ts';
import type { Sample } from '../settling/trace.ts';
import type { School } from '../settling/settle.ts';
import type { Standard } from '../solutions/standard.ts';
import type { ControlAction } from './outlook.ts';
import type { Odd } from './odd.ts';
import type { Procedure } from '../sensor/procedures.ts';

/** A calibration that the instrument did not take. */
export interface Refused {
  /** as it said it */
  readonly message: string;
  /** zero and sensitivity that it reckoned itself, where it shows them */
  readonly shows: Coefficients | null;
}

/** The bottle that a point is poured from, as it was when the run began. */
export interface PlannedLot {
  /** '' when no lot was noted */
  readonly id: string;
  readonly label: string;
  /** standard uncertainty that its age since it was opened adds, in the unit of the standard; absent = none, or not known */
  readonly ageUncertainty?: number;
}

export interface PlannedPoint {
  readonly standard: Standard;
  readonly lot: PlannedLot;
  /** `input`: says what the instrument adds, not the sensor; `verify`: only looked at. Absent = what the fit is made of */
  readonly role?: 'input' | 'verify';
}

/** A gate that stood open when the run began, and why it was passed all the same. */
export interface PassedGate {
  readonly id: string;
  readonly text: string;
  readonly because: string;
}

/** A condition of a run, and where its figure comes from. */
export interface ConditionOfRun {
  readonly name: ConditionName;
  /** in the unit of the condition */
  readonly value: number;
  /** typed for this run, shown by another loop, or as it was typed at set-up */
  readonly from: 'typed' | 'loop' | 'set-up';
  /** the loop that shows it, or should; '' = none */
  readonly loopName: string;
  /** why the other loop's figure was not taken; '' where there is nothing to say */
  readonly because: string;
}

/** What the sensor comes from: decides what is done to it first. */
export const SENSOR_STATES = ['in-use', 'new', 'stored-wet', 'stored-dry', 'cleaned', 'suspect'] as const;
export type SensorState = (typeof SENSOR_STATES)[number];

/** What there is around the loop that a procedure must mind. */
export const SURROUNDINGS = ['pressurised', 'stocked', 'high-purity'] as const;
export type Surrounding = (typeof SURROUNDINGS)[number];

/** Everything a run rests on, frozen at its start: replaying it later gives the same answer. */
export interface RunPlan {
  /** id of the family */
  readonly family: string;
  /** what the family must know of this sensor; absent in records from before other families */
  readonly settings?: Settings;
  readonly loopName: string;
  readonly sensorName: string;
  readonly points: readonly PlannedPoint[];
  readonly school: School;
  /** what the loop controls, '' for nothing: decides whether there is a hold */
  readonly controls: string;
  /** in the family's unit of value, as is the tolerance */
  readonly workingValue: number;
  readonly workingC: number;
  readonly tolerance: number;
  /** how its figures are written, from beginning to end, whatever its loop is written in meanwhile; absent = as the family does */
  readonly shownAs?: ShownAs;
  readonly limits: SensorLimits;
  readonly inForce: Coefficients;
  /** how it goes; absent in records from before other procedures: a calibration */
  readonly procedure?: Procedure;
  readonly sensorState?: SensorState;
  readonly surroundings?: readonly Surrounding[];
  readonly gates?: readonly PassedGate[];
  /** its conditions, which stand in the settings, too, and where each comes from */
  readonly conditions?: readonly ConditionOfRun[];
  /** what its output does to the value; absent or '' = not known */
  readonly controlAction?: ControlAction;
  /** false when nobody knows what the controller believes (first run): the relative story starts here */
  readonly inForceKnown: boolean;
  /** what the history makes of this sensor before anything is measured: mean and standard deviation */
  readonly expected: {
    readonly zero: number;
    readonly zeroSd: number;
    readonly sensitivity: number;
    readonly sensitivitySd: number;
  };
  /**
   * version of the drift engine that said so, and what it had learned of this house: with the history it can be reckoned
   * again; absent in older records
   */
  readonly expectedBy?: { readonly version: number; readonly fleet: Pick<Fleet, 'sensors' | 'runs'> };
  /** modbus: live, and takes coefficients; wired: live only; hand: typed, or a recorded trace */
  readonly channelKind: 'modbus' | 'wired' | 'hand';
  /** smallest step of the channel, in the unit of the signal */
  readonly resolution: number;
  /** for an electrical check: width of the transmitter's own range, in its unit; absent = that of the boxes stands for it */
  readonly span?: number;
  /** what it showed in its water when the run began, in the unit of the signal; absent where nothing was live */
  readonly waterBefore?: { readonly signal: number; readonly temperatureC: number };
  /** its figures stood in a logbook: typed in later, and known less well; absent for a run at the bench */
  readonly fromPaper?: true;
}

export const CAPTURE_PURPOSES = ['as-found', 'repeat', 'read-back', 'as-left'] as const;
export type CapturePurpose = (typeof CAPTURE_PURPOSES)[number];
/** `reading`: found in the recorded readings, at the moment of sampling */
export const CAPTURE_METHODS = ['live', 'typed', 'trace', 'reading'] as const;
export type CaptureMethod = (typeof CAPTURE_METHODS)[number];

/** One accepted stable measurement. */
export interface Capture {
  readonly pointIndex: number;
  readonly purpose: CapturePurpose;
  readonly method: CaptureMethod;
  readonly signal: number;
  readonly signalUncertainty: number;
  readonly temperatureC: number;
  readonly settledSeconds: number | null;
  readonly t90: number | null;
  /** of a live one: when its newest sample came, ISO 8601 UTC by the server's clock; absent in older records */
  readonly sampledAt?: string | null;
  /** thinned for keeping */
  readonly trace: readonly Sample[];
}

/** `go-on`: a health check that was not sound goes on to the other standards. */
export const DECISION_ACTIONS = ['leave', 'adjust', 'clean-and-retest', 'investigate', 'replace', 'go-on'] as const;
export type DecisionAction = (typeof DECISION_ACTIONS)[number];

/** A value that comes from elsewhere and becomes the run's standard. */
export type Entry =
  | {
      readonly kind: 'sample';
      readonly value: number;
      /** a scale of the family */
      readonly unit: string;
      /** of the lab's figure, k = 2, same unit */
      readonly plusMinus: number;
      readonly temperatureC: number;
    }
  | { readonly kind: 'thermometers'; readonly a: ThermometerReading; readonly b: ThermometerReading };

/** A moment on a channel's own clock. */
export interface TraceMoment {
  /** null where no reading is live */
  readonly traceSeconds: number | null;
  /** the time in which that clock goes on without a break; absent in older records */
  readonly traceEpoch?: string | null;
}

/** A picture of the controller's display, taken at a step. */
export interface PhotoTaken {
  readonly photoId: string;
  readonly stepId: string;
  /** the value that was typed with it, as typed; '' for none */
  readonly typed: string;
}

/**
 * What can happen in a run. `traceSeconds` is the channel's own clock at that moment, null where none is live, and
 * `traceEpoch` the time in which that clock goes on without a break (absent in older records): the trace of the next step
 * begins there, also after a reload.
 *
 * Facts are accepted whenever they arrive; a decision only while the run still is in the state it was made on.
 */
export type RunEventBody =
  | { readonly type: 'started'; readonly plan: RunPlan }
  | ({ readonly type: 'step-done'; readonly stepId: string } & TraceMoment)
  | ({ readonly type: 'step-reopened'; readonly stepId: string } & TraceMoment)
  | ({ readonly type: 'disturbed'; readonly stepId: string; readonly noticed: boolean } & TraceMoment)
  | ({ readonly type: 'captured'; readonly stepId: string; readonly capture: Capture } & TraceMoment)
  | ({ readonly type: 'entered'; readonly stepId: string; readonly entry: Entry } & TraceMoment)
  | ({ readonly type: 'skipped'; readonly stepId: string; readonly because: string } & TraceMoment)
  | ({ readonly type: 'photographed' } & PhotoTaken)
  /** `kept`: it stands all the same; else it was mended */
  | { readonly type: 'warned'; readonly stepId: string; readonly odd: Odd; readonly kept: boolean }
  | { readonly type: 'noted'; readonly text: string }
  /** the hold came off outside the return step: after a run was abandoned, or earlier than planned */
  | { readonly type: 'hold-released' }
  | { readonly type: 'decided'; readonly action: DecisionAction; readonly because: string }
  | { readonly type: 'adjusted'; readonly coefficients: Coefficients; readonly how: 'written' | 'entered-by-hand' }
  /** the instrument did not take it: nothing was changed, as left is as found */
  | ({ readonly type: 'adjustment-refused' } & Refused)
  | { readonly type: 'closed' }
  | { readonly type: 'abandoned'; readonly because: string };

export type RunEventType = RunEventBody['type'];

/** Decisions carry the sequence number that they were made on. */
export const DECISIONS: readonly RunEventType[] = [
  'decided',
  'adjusted',
  'adjustment-refused',
  'closed',
  'abandoned',
  'step-reopened',
];

/** An event as it is kept: counted once, whatever the network does. */
export interface RunEvent {
  /** position in the run, from 1; given by the server */
  readonly seq: number;
  /** device and counter: the same pair is the same event */
  readonly device: string;
  readonly counter: number;
  /** ISO 8601 UTC, the device's clock corrected by its offset */
  readonly at: string;
  readonly by: string;
  readonly body: RunEventBody;
  /** of the words that the body is written in, as it was kept; absent in one that was just made (`lift.ts`) */
  readonly version?: number;
}
