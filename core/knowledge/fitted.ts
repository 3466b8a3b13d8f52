import type { RunPlan, Surrounding } from '../calibration/events.ts';
import type { RunOutcome } from '../calibration/outcome.ts';
import type { ControlAction } from '../calibration/outlook.ts';
import type { ChannelId, LoopId, SensorId, SiteId } from '../quantities/ids.ts';
import type { ConditionName } from '../sensor/conditions.ts';
import type { ShownAs } from '../sensor/scale.ts';
import type { DueBy } from '../scheduling/due.ts';
import type { SensorLimits, Settings } from '../sensor/family.ts';

/** What a computation must know of a channel, whatever its wire is. */
export interface Reads {
  /** unit of what it gives once it is scaled */
  readonly unit: string;
  readonly kind: RunPlan['channelKind'];
  /** name of the thermometer that compensates it; '' = its own, or none */
  readonly compensatedBy: string;
  /** outputs that hang on it */
  readonly outputs: readonly string[];
  /** whether a sensor takes its coefficients along when it moves */
  readonly coefficientsIn: 'instrument' | 'sensor';
  /** width of what the instrument's own range covers, in its unit; absent = not known */
  readonly span?: number;
}

/** Which loop shows each condition that this loop takes. */
export type Takes = Readonly<Partial<Record<ConditionName, LoopId>>>;

/** A loop with what is fitted at it, as far as anything is computed from it. */
export interface Fitted {
  readonly siteName: string;
  /** of the site, IANA name: its days and calendars go by it */
  readonly timeZone: string;
  readonly loop: {
    readonly id: LoopId;
    readonly siteId: SiteId;
    readonly name: string;
    readonly place: string;
    readonly family: string;
    readonly settings: Settings;
    /** loops that show conditions of this one: what they show goes before what is typed in the settings */
    readonly takes: Takes;
    readonly workingValue: number;
    readonly workingC: number;
    readonly tolerance: number;
    /** how its instrument writes its values; absent = as the family does */
    readonly shownAs?: ShownAs;
    readonly intervalDays: number;
    readonly dueBy: DueBy;
    readonly controls: string;
    readonly controlAction: ControlAction;
    /** loops of one name here share a reference electrode; '' = its own */
    readonly referenceGroup: string;
    /** loops of one name here hang on one body and are taken out together; '' = with those on its reference */
    readonly body: string;
    /** loops of one name here hang in the same water; '' = with those of its place and working value */
    readonly water: string;
    readonly surroundings: readonly Surrounding[];
    /** limits of its own, where they differ from the family's */
    readonly limits: Partial<SensorLimits>;
  };
  readonly sensor: {
    readonly id: SensorId;
    readonly name: string;
    /** the house's own name for its kind; '' = not said */
    readonly model: string;
    /** when it came to this loop, epoch ms; null for a sensor that has been here since the loop was set up */
    readonly fittedMs: number | null;
  };
  readonly channel: {
    readonly id: ChannelId;
    /** smallest step, in the unit of the signal */
    readonly resolution: number;
    readonly reads: Reads;
  };
}

/** A finished run of a sensor. */
export interface Finished {
  readonly sensorId: SensorId;
  /** where it was fitted then */
  readonly loopId: LoopId;
  /** ISO 8601 */
  readonly endedAt: string;
  readonly outcome: RunOutcome;
}

/** The same, where it is known whose it is. */
export type Ended = Omit<Finished, 'sensorId' | 'loopId'>;
