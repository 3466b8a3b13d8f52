import {
  acknowledgeAlarm,
  changeAlarms,
  readAlarmsOf,
  readPastAlarms,
  readStandingAlarms,
  snoozeAlarm,
} from './alarms.ts';
import {
  dropMessages,
  forgetGivenUp,
  noteUntold,
  queueMessages,
  readUntold,
  readWaitingMessages,
} from './alarm-messages.ts';
import { dropNotice, keepNotices, readAllNotices, readNotices } from './notices.ts';
import { beginWalk, endWalk, keepWalkReading, readWalk } from './walks.ts';
import { readNewest } from './newest.ts';
import { changeChannel } from './channels.ts';
import { dropDoses, keepDoses, readDoses, readLastDoses } from './doses.ts';
import { keepFleets, readFleets } from './fleets.ts';
import { changeAtOnce } from './at-once.ts';
import { addSpare, moveSensor, readLife } from './life.ts';
import { addSensor, changeSchedule, readEmptyLoops, readFittedLoops } from './places.ts';
import { keepPhoto, readPhoto, readPhotoIds } from './photos.ts';
import { keepProcedure, readProcedures } from './procedures.ts';
import { keepMinutes, readDaysBeside, readLastMinutes, readMinutes, readMinutesAlike } from './readings.ts';
import { dropService, keepServices, readAllServices, readServices } from './services.ts';
import { addLot, endLot, keepStandards, readLots, readStandards } from './shelf.ts';
import {
  appendEvents,
  importRuns,
  openRun,
  readBenchedSince,
  readBenchTimes,
  readEvents,
  readOpenRuns,
  readOutcomes,
  readOutcomesMark,
  readRun,
  readRunsOf,
} from './runs.ts';
import { changeLoop, changeSensor, changeSite, orderLoops, readChanges, readSetUp } from './set-up.ts';
import { addPerson, changePerson, keepUsers, readPeople } from './users.ts';

/** Everything that may be asked of the store. Readers see committed data; each writer is one transaction. */
export const READERS = {
  readAlarmsOf,
  readPastAlarms,
  readStandingAlarms,
  readWaitingMessages,
  readUntold,
  readNewest,
  readFittedLoops,
  readEmptyLoops,
  readStandards,
  readLots,
  readRun,
  readRunsOf,
  readOutcomes,
  readOutcomesMark,
  readBenchedSince,
  readBenchTimes,
  readOpenRuns,
  readEvents,
  readMinutes,
  readMinutesAlike,
  readLastMinutes,
  readAllNotices,
  readNotices,
  readWalk,
  readDaysBeside,
  readDoses,
  readLastDoses,
  readServices,
  readAllServices,
  readPhoto,
  readPhotoIds,
  readProcedures,
  readFleets,
  readSetUp,
  readLife,
  readChanges,
  readPeople,
};

export const WRITERS = {
  keepNotices,
  dropNotice,
  beginWalk,
  endWalk,
  keepWalkReading,
  acknowledgeAlarm,
  changeAlarms,
  snoozeAlarm,
  queueMessages,
  dropMessages,
  noteUntold,
  forgetGivenUp,
  addSensor,
  addSpare,
  changeAtOnce,
  moveSensor,
  addLot,
  endLot,
  keepPhoto,
  keepDoses,
  dropDoses,
  keepProcedure,
  changeChannel,
  changeSchedule,
  keepStandards,
  openRun,
  appendEvents,
  importRuns,
  keepMinutes,
  keepServices,
  dropService,
  keepUsers,
  addPerson,
  changePerson,
  changeLoop,
  changeSite,
  changeSensor,
  orderLoops,
  keepFleets,
};

type Unbound<F> = F extends (db: never, ...args: infer A) => Promise<infer R> ? (...args: A) => Promise<R> : never;

/** The store as the services see it: the same functions without their database. */
export type Store = {
  readonly [K in keyof typeof READERS]: Unbound<(typeof READERS)[K]>;
} & {
  readonly [K in keyof typeof WRITERS]: Unbound<(typeof WRITERS)[K]>;
};
