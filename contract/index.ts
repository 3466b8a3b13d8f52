export { alternativesOf } from './alternatives.ts';
export type { Answers } from './answers.ts';
export * from './backups.ts';
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
export {
  appendEventsSchema,
  PROCEDURE_STEPS,
  procedureSchema,
  serviceSchema,
  startRunSchema,
  SERVICES,
  takeBackSchema,
  type NewService,
  type TakeBack,
  type OutgoingEvent,
  type ProcedureInput,
  type StartRun,
} from './runs.ts';
export {
  changeChannelSchema,
  channelSchema,
  SIGNALS,
  staleSecondsOf,
  testChannelSchema,
  readsOf,
  stepsOf,
  unitOf,
  type ChangeChannel,
  type ChannelConfig,
  type ChannelKind,
  type HttpJsonConfig,
  type HandConfig,
  type ModbusConfig,
  type ModbusMapConfig,
  type MqttConfig,
  type SignalUnit,
} from './channels.ts';
export {
  changeScheduleSchema,
  newLotSchema,
  newSensorSchema,
  type ChangeSchedule,
  type NewLot,
  type NewSensor,
} from './set-up.ts';

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
