import type {
  Coefficients,
  ControlAction,
  Due,
  DueBy,
  ExtraStep,
  GateFacts,
  LoopId,
  Margin,
  Outlook,
  OwnWords,
  ProcedureKind,
  RefusalCode,
  RefusalFactsOf,
  RestsOn,
  RunEvent,
  SensorLimits,
  Settings,
  ShownAs,
  Standard,
  Surrounding,
  Takes,
} from '@frustum/core';
import type { ChannelConfig } from './wires/kinds.ts';
import type { SignalUnit } from './signals.ts';

export type LeansOn = GateFacts['leansOn'][number];

/** Figures of a loop with the unit and scale of its instrument. */
export interface WrittenFigures {
  readonly unit: string;
  readonly workingValue: number | null;
  readonly tolerance: number;
  /** shown − right, now; null where nothing is known */
  readonly error: number | null;
  /** its ±, k = 2 */
  readonly expanded: number | null;
}

/** A cone as it travels: numbers only, times in epoch milliseconds. */
export interface ConeView {
  readonly segments: readonly {
    readonly fromMs: number;
    readonly toMs: number;
    /** [time, mean error, half width of the 50 % band, of the 95 % band] */
    readonly points: readonly (readonly [number, number, number, number])[];
  }[];
  readonly marks: readonly {
    readonly atMs: number;
    readonly kind: 'calibration' | 'verification' | 'grab-sample';
    readonly error: number;
    readonly sd: number;
    /** chance that the sensor has jumped since the run before */
    readonly jumped: number;
  }[];
  /** ways in which it may stand since its last run, where they stand apart; absent = they do not */
  readonly apart?: readonly {
    /** what it is if that is so: the name of a cause; null = what the runs say */
    readonly name: string | null;
    readonly chance: number;
    /** [time, mean error, half width of the 95 % band] */
    readonly points: readonly (readonly [number, number, number])[];
  }[];
}

/** One row of Margins. */
export interface LoopRow {
  readonly loopId: string;
  readonly sensorId: string;
  readonly loopName: string;
  readonly place: string;
  readonly siteName: string;
  /** of its site, IANA name: its days go by it */
  readonly timeZone: string;
  readonly family: string;
  /** what the arithmetic must know of the sensor: cell constant, ion, reference and so on */
  readonly settings: Settings;
  /** which loops show conditions of this one */
  readonly takes: Takes;
  readonly sensorName: string;
  readonly serial: string;
  readonly fittedOn: string;
  readonly workingValue: number;
  readonly workingC: number;
  readonly tolerance: number;
  /** how its instrument writes its values; every figure here is in the own unit of the family */
  readonly shownAs: ShownAs;
  /** the same figures as the instrument writes them */
  readonly written: WrittenFigures;
  readonly controls: string;
  readonly controlAction: ControlAction;
  readonly referenceGroup: string;
  /** rows of one text here and one site hang on one body; '' = a body of its own */
  readonly body: string;
  /** rows of one text here hang in the same water; null = nobody has said where it is */
  readonly water: string | null;
  /** the loop that it stands in for; null = none */
  readonly backupOf: string | null;
  readonly surroundings: readonly Surrounding[];
  /** in force here: the family's, with the loop's own in their place */
  readonly limits: SensorLimits;
  readonly pointSet: readonly string[];
  /** its place in the order of one's own */
  readonly position: number;
  readonly channelId: string;
  readonly channel: ChannelConfig;
  readonly channelVersion: number;
  readonly inForce: Coefficients;
  readonly inForceKnown: boolean;
  readonly margin: Margin;
  /** what the error rests on, where the sensor is not simply sound; null = nothing that speaks for a cause */
  readonly restsOn: RestsOn | null;
  /** there is a cone to be asked for; false before the first run */
  readonly hasCone: boolean;
  readonly due: Due;
  /** what decides that date, and the longest that it may be away */
  readonly dueBy: DueBy;
  readonly intervalDays: number;
  /** the first day on which the chance of being outside exceeds what is borne */
  readonly forecast: Due;
  /** what the drift engine knew: its version, and how many sensors and runs of this house it has learned from */
  readonly learnedFrom: {
    readonly version: number;
    readonly sensors: number;
    readonly runs: number;
    /** sensors of its model, where they have taught something on top; 0 = nothing */
    readonly ofModel: number;
  };
  /** others in the same water that it was held beside, and how often; null = none */
  readonly beside: { readonly loops: readonly string[]; readonly times: number } | null;
  readonly lastRunMs: number | null;
  readonly openRunId: string | null;
}

/** The row with its cone. */
export interface DrawnRow extends LoopRow {
  readonly cone: ConeView;
}

/** Cones of some rows, by sensor; null for a sensor that there is not. */
export interface ConesView {
  readonly cones: Readonly<Record<string, ConeView | null>>;
}

/** Why the time of the server's computer is not believed, what it said then, and what is reckoned with from there on, epoch ms. */
export interface ClockDoubt {
  readonly because: 'before-newest' | 'jumped';
  readonly saidMs: number;
  readonly reckonedMs: number;
}

export interface MarginsView {
  readonly nowMs: number;
  readonly demo: boolean;
  /** channels that are not read since a start, because the two before it died soon: by id */
  readonly held: readonly string[];
  /** why the time of the server's computer is not believed; null when it is */
  readonly clock: ClockDoubt | null;
  /** why nothing is kept on the server just now; null when all is well */
  readonly trouble: string | null;
  /** loops in use where no sensor is fitted */
  readonly empty: readonly { readonly loopId: LoopId; readonly loopName: string }[];
  readonly rows: readonly LoopRow[];
}

export interface RunView {
  readonly runId: string;
  readonly sensorId: string;
  readonly loopId: string;
  readonly channelId: string;
  readonly events: readonly RunEvent[];
  /** true when this run's channel is a stand-in that the screen may move */
  readonly hands: boolean;
  /** a reading older than this is no live one, s; null for a channel that is typed */
  readonly staleSeconds: number | null;
}

/** Runs that are still going, for the tray. */
export interface OpenRunRow {
  readonly runId: string;
  readonly sensorId: string;
  readonly loopName: string;
  readonly stepTitle: string;
  readonly stepKind: string;
  readonly status: 'open' | 'abandoned';
  /** since when the controlled output is on hold, null for not */
  readonly holdSince: string | null;
  readonly controls: string;
  readonly since: string;
  /** since when it stands at this step */
  readonly stepSince: string;
}

export interface LotRow {
  readonly lotId: string;
  readonly standardId: string;
  readonly label: string;
  readonly expiresOn: string;
  readonly openedOn: string | null;
  readonly usedUpOn: string | null;
  /** the label's own table, °C and value; null = the standard's usual one */
  readonly table: readonly (readonly [number, number])[] | null;
}

/** A team's own procedure, in its newest version. */
export interface ProcedureRow {
  readonly procedureId: string;
  readonly version: number;
  readonly family: string;
  readonly kind: ProcedureKind;
  readonly name: string;
  readonly points: readonly string[];
  readonly school: 'statistical' | 'fixed-time' | 'hand-count' | '';
  readonly seconds: number | null;
  readonly words: Readonly<Record<string, OwnWords>>;
  readonly extra: readonly ExtraStep[];
}

/** What if nothing is done; null where the run has nothing to say of it yet. */
export interface OutlookView {
  readonly outlook: Outlook | null;
}

export interface ShelfView {
  readonly standards: readonly Standard[];
  readonly lots: readonly LotRow[];
}

/** One sample of the live stream. */
export interface LiveSample {
  readonly channelId: string;
  /** the channel's own clock, s: begins anew with each epoch */
  readonly t: number;
  /** `epochText` of the time in which that clock has gone on without a break */
  readonly epoch: string;
  /** when it came, by the server's clock, epoch ms */
  readonly atMs: number;
  readonly signal: number;
  readonly unit: SignalUnit;
  readonly temperatureC: number;
  /** where the device measures it */
  readonly impedance?: Impedance;
}

/** Impedances as a transmitter reports them: of the membrane in MΩ, of the reference in kΩ. */
export interface Impedance {
  readonly membraneMohm: number;
  readonly referenceKohm: number;
}

/** The newest sample of every channel that has a new one, at most once a second. */
export interface Latest {
  readonly samples: readonly LiveSample[];
}

/** What comes beside samples and states: a beat, or that records have changed. */
export interface Said {
  /** the server's clock, epoch ms: by it a browser learns how far its own is off */
  readonly nowMs: number;
}

/** `fault`: the device answers, and says that it does not measure. */
export type ChannelState = 'live' | 'stale' | 'fault' | 'off';

/** What one try of a channel found: how far it came, what came raw, and what that is. */
export interface ChannelTest {
  readonly ok: boolean;
  /** where it ended: name, connect, refused, time out, read, address, decode, range, status; 'done' when it came through */
  readonly stage: string;
  readonly message: string;
  readonly milliseconds: number;
  readonly raw: readonly { readonly what: string; readonly value: string }[];
  readonly reading: {
    readonly signal: number;
    readonly unit: SignalUnit;
    readonly temperatureC: number;
    readonly impedance: Impedance | null;
  } | null;
}

export interface LiveState {
  readonly channelId: string;
  readonly state: ChannelState;
  readonly message: string;
}

export interface HandsView {
  readonly place: string;
  readonly places: readonly string[];
  readonly clockRate: number;
  /** what is plugged in instead of the probe; null = the probe */
  readonly plugged: { readonly mv?: number; readonly us?: number } | null;
  /** everything that can be made to go wrong, and how badly it does now (0 = not at all) */
  readonly faults: readonly { readonly name: string; readonly shows: string; readonly severity: number }[];
}

/** RFC 9457, with per-field errors. */
export interface Problem {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly detail: string;
  /** of the refusal; or what was no request, or no answer */
  readonly code: RefusalCode | 'not-valid' | 'not-json' | 'not-readable' | 'too-large' | 'crash' | 'no-answer';
  readonly facts?: RefusalFactsOf[RefusalCode];
  readonly errors?: readonly { readonly path: string; readonly message: string }[];
}
