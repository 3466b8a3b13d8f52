import type {
  AlarmLimits,
  ControlAction,
  DueBy,
  LoopId,
  SensorId,
  SensorLimits,
  Settings,
  ShownAs,
  SiteId,
  Storage,
  Surrounding,
  Takes,
} from '@frustum/core';
import { array, boolean, object, string, type InferType, type ObjectShape } from 'yup';
import { day, readable, trimmed, whole, words } from './fields.ts';
import { LOOP_FIGURES, placeName, timeZone } from './set-up.ts';
import type { ChannelConfig } from './wires/kinds.ts';

/** What becomes another, the version that was on screen, and why. */
const changeOf = <S extends ObjectShape>(to: S) =>
  object({
    version: whole('Version', 1, 1_000_000),
    to: object(to).noUnknown().required('Say what becomes another.'),
    why: words(300).default(''),
  }).noUnknown();

export const changeLoopSchema = changeOf({
  name: placeName('Loop').optional(),
  ...LOOP_FIGURES,
  archived: boolean().optional(),
});
export type ChangeLoop = InferType<typeof changeLoopSchema>;

/** What several loops of a kind may have alike. */
const ALIKE = ['tolerance', 'intervalDays', 'dueBy', 'limits', 'holdMinutes'] as const;
/** The part of a change that goes for others of its kind, too. */
export const alikeIn = (to: ChangeLoop['to']): Pick<ChangeLoop['to'], (typeof ALIKE)[number]> =>
  Object.fromEntries(ALIKE.flatMap((key) => (to[key] === undefined ? [] : [[key, to[key]]])));

const several = array(string<LoopId>().uuid('Pick loops from the list.').required()).max(
  200,
  'At most 200 loops at once.',
);

/** One figure for several loops of a kind: all of them, or none. */
export const changeAlikeSchema = object({
  loops: array(object({ loopId: string<LoopId>().uuid('Pick loops from the list.').required(), version: whole('Version', 1, 1_000_000) }).noUnknown()).min(1, 'Pick a loop.').max(200, 'At most 200 loops at once.').required(), // prettier-ignore
  to: object(Object.fromEntries(ALIKE.map((key) => [key, LOOP_FIGURES[key]])) as Pick<typeof LOOP_FIGURES, (typeof ALIKE)[number]>).noUnknown().required('Say what becomes another.'), // prettier-ignore
  why: words(300).default(''),
}).noUnknown();
export type ChangeAlike = InferType<typeof changeAlikeSchema>;

/** Figures that somebody thinks of, for one loop and maybe for others of its kind: nothing is kept. */
export const wouldBeSchema = object({
  to: object(LOOP_FIGURES).noUnknown().required(),
  also: several.default([]),
}).noUnknown();
export type WouldBe = InferType<typeof wouldBeSchema>;

export const changeSiteSchema = changeOf({
  name: placeName('Site').optional(),
  timeZone: timeZone.optional(),
  archived: boolean().optional(),
});
export type ChangeSite = InferType<typeof changeSiteSchema>;

export const changeFittedSensorSchema = changeOf({
  name: placeName('Sensor').optional(),
  serial: readable('The serial').transform(trimmed).max(60, 'Shorten the serial to 60 characters.').optional(),
  fittedOn: day('Type the date as 2026-11-23.').optional(),
  model: readable('The model').transform(trimmed).max(60, 'Shorten the model to 60 characters.').optional(),
  boughtOn: day('Type the date as 2026-11-23.').nullable().optional(),
  /** put into storage solution now, before it is fitted; or taken out of it again */
  soaking: boolean().optional(),
});
export type ChangeFittedSensor = InferType<typeof changeFittedSensorSchema>;

/** An order of one's own. */
export const orderSchema = object({
  loops: array(string<LoopId>().uuid('Pick loops from the list.').required())
    .max(2000, 'Too many loops at once.')
    .required(),
}).noUnknown();
export type Order = InferType<typeof orderSchema>;

export const newPersonSchema = object({ name: placeName('The name', 40) }).noUnknown();
export type NewPerson = InferType<typeof newPersonSchema>;
export const changePersonSchema = object({
  name: placeName('The name', 40).optional(),
  left: boolean().optional(),
}).noUnknown();
export type ChangePerson = InferType<typeof changePersonSchema>;

/** A name in the list of people: it proves nothing. */
export interface PersonRow {
  readonly personId: string;
  readonly name: string;
  /** no longer offered */
  readonly left: boolean;
}

/** A sensor as it is set up, wherever it is. */
export interface SetUpSensor {
  readonly sensorId: SensorId;
  readonly name: string;
  readonly serial: string;
  readonly model: string;
  readonly boughtOn: string | null;
  readonly fittedOn: string;
  readonly version: number;
}

/** A sensor that is fitted nowhere. */
export interface ShelvedSensor extends Omit<SetUpSensor, 'fittedOn'> {
  readonly family: string;
  /** how it is stored; '' when it is retired */
  readonly storage: Storage;
  /** in storage solution since then */
  readonly soakingSince: string | null;
  /** when it may be fitted, after it has soaked; null for now */
  readonly readyAt: string | null;
  readonly retiredAt: string | null;
  /** since when it is where it is */
  readonly since: string;
}

/** A loop as it is set up. */
export interface SetUpLoop {
  readonly loopId: LoopId;
  readonly name: string;
  readonly place: string;
  readonly family: string;
  readonly settings: Settings;
  readonly workingValue: number;
  readonly workingC: number;
  readonly tolerance: number;
  readonly shownAs: ShownAs;
  readonly intervalDays: number;
  readonly dueBy: DueBy;
  readonly controls: string;
  readonly holdMinutes: number;
  readonly controlAction: ControlAction;
  readonly referenceGroup: string;
  readonly body: string;
  readonly water: string;
  readonly backupOf: LoopId | null;
  readonly takes: Takes;
  readonly surroundings: readonly Surrounding[];
  readonly limits: Partial<SensorLimits>;
  readonly alarmLimits: Partial<AlarmLimits>;
  readonly pointSet: readonly string[];
  readonly version: number;
  readonly archivedAt: string | null;
  readonly hasRuns: boolean;
  /** null while nothing is fitted */
  readonly sensor: SetUpSensor | null;
  readonly channel: ChannelConfig;
}

/** A site with its loops, in an order of one's own. */
export interface SetUpSite {
  readonly siteId: SiteId;
  readonly name: string;
  readonly timeZone: string;
  readonly version: number;
  readonly archivedAt: string | null;
  readonly loops: readonly SetUpLoop[];
}

export interface SetUpView {
  readonly sites: readonly SetUpSite[];
  /** sensors that are fitted nowhere, also those that are retired */
  readonly shelf: readonly ShelvedSensor[];
}

/** What was changed, by whom and why. */
export interface ChangeRow {
  readonly changeId: string;
  readonly of: 'site' | 'loop' | 'sensor' | 'channel';
  readonly at: string;
  readonly by: string;
  readonly why: string;
  readonly fields: readonly { readonly field: string; readonly from: unknown; readonly to: unknown }[];
}

/** What a loop's margin would be with other figures, and how its last verdicts would have come out. */
export interface WouldBeView {
  /** how many loops were weighed, and how many of them are outside now, and would be */
  readonly loops: number;
  readonly outside: { readonly now: number; readonly then: number };
  readonly now: { readonly state: string; readonly chanceOutside: number | null; readonly dueMs: number | null };
  readonly then: { readonly state: string; readonly chanceOutside: number | null; readonly dueMs: number | null };
  /** of the last runs that were judged: how many there are, and how many would have come out as what */
  readonly verdicts: number;
  readonly otherwise: Readonly<Record<string, number>>;
}
