export {
  inventorySchema,
  MAX_INVENTORY_ROWS,
  type Inventory,
  type InventoryStep,
  type InventoryView,
} from './inventory.ts';
export { dropLogInSchema, keepLogInSchema, type DropLogIn, type KeepLogIn, type LogInRow } from './log-ins.ts';
export {
  logbookSchema,
  MAX_LOGBOOK_FAULTS,
  MAX_LOGBOOK_ROWS,
  type Logbook,
  type LogbookRun,
  type LogbookView,
} from './logbook.ts';
export {
  alarmWaysSchema,
  snoozeSchema,
  type AlarmWays,
  type AlarmWaysView,
  type KeptWays,
  type Snooze,
} from './alarm-ways.ts';
export { keepLimitsSchema, type KeepLimits, type LimitsView } from './alarm-limits.ts';
export { noticeSchema, takeBackNoticeSchema, type NewNotice, type NoticeRow, type TakeBackNotice } from './notices.ts';
export { walkReadingSchema, type NewWalkReading, type WalkDone, type WalkStop, type WalkView } from './walks.ts';
export { alternativesOf } from './alternatives.ts';
export type { Answers } from './answers.ts';
export {
  asideSchema,
  prepareSchema,
  type BackupsView,
  type HouseCounts,
  type Prepared,
  type SetAsideRow,
  type SnapshotRow,
} from './backups.ts';
// What a client sends
export {
  DOSE_UNITS,
  dosesSchema,
  MAX_DOSES,
  takeBackDosesSchema,
  type DoseRow,
  type DosesView,
  type NewDoses,
  type TakeBackDoses,
} from './doses.ts';
export { handsSchema, type Hands } from './hands.ts';
export { appendEventsSchema, type OutgoingEvent } from './run-events.ts';
export { startRunSchema, type StartRun } from './runs.ts';
export { SERVICES, serviceSchema, takeBackSchema, type NewService, type TakeBack } from './services.ts';
export { PROCEDURE_STEPS, procedureSchema, type ProcedureInput } from './procedures.ts';
export {
  changeChannelSchema,
  channelSchema,
  staleSecondsOf,
  surveySchema,
  testChannelSchema,
  readsOf,
  stepsOf,
  unitOf,
  type ChangeChannel,
  type Survey,
  type SurveyView,
} from './channels.ts';
export type { ChannelConfig, ChannelKind, ConfigOf } from './wires/kinds.ts';
export { SIGNALS, type SignalUnit } from './signals.ts';
export type { HandConfig } from './wires/hand.ts';
export type { HttpJsonConfig } from './wires/http-json.ts';
export type { ModbusMapConfig } from './wires/modbus-map.ts';
export type { ModbusConfig } from './wires/modbus.ts';
export type { MqttConfig } from './wires/mqtt.ts';
export {
  changeScheduleSchema,
  newLotSchema,
  newSensorSchema,
  type ChangeSchedule,
  type NewLot,
  type NewSensor,
} from './set-up.ts';

export {
  moveSensorSchema,
  newSpareSchema,
  type LifeRow,
  type LifeView,
  type MoveSensor,
  type NewSpare,
} from './life.ts';
export {
  changeFittedSensorSchema,
  alikeIn,
  changeAlikeSchema,
  changeLoopSchema,
  changePersonSchema,
  changeSiteSchema,
  newPersonSchema,
  orderSchema,
  wouldBeSchema,
  type ChangeAlike,
  type ChangeFittedSensor,
  type ChangeLoop,
  type ChangePerson,
  type ChangeRow,
  type ChangeSite,
  type NewPerson,
  type Order,
  type PersonRow,
  type SetUpLoop,
  type SetUpSite,
  type SetUpView,
  type WouldBe,
  type WouldBeView,
  type SetUpSensor,
  type ShelvedSensor,
} from './changes.ts';
export { isMoment } from './fields.ts';
export { epochIn, epochText, type Epoch, type EpochCause } from './epochs.ts';

// What the server answers
export type {
  ChannelState,
  ChannelTest,
  ConeView,
  HandsView,
  LeansOn,
  Impedance,
  Latest,
  LiveSample,
  LiveState,
  LoopRow,
  LotRow,
  ClockDoubt,
  ConesView,
  DrawnRow,
  MarginsView,
  OpenRunRow,
  OutlookView,
  ProcedureRow,
  Problem,
  RunView,
  Said,
  ShelfView,
} from './views.ts';
export type { ReadingAt, ReadingBucket, ReadingsView, RunRow, SensorView, ServiceRow } from './sensor-views.ts';
export type { AlarmRow, AlarmsView, LookBackView } from './watching.ts';
