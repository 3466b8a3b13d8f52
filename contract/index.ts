// What a client sends
export { handsSchema, type Hands } from './hands.ts';
export { appendEventsSchema, startRunSchema, type OutgoingEvent, type StartRun } from './runs.ts';
export {
  changeChannelSchema,
  channelSchema,
  SIGNALS,
  testChannelSchema,
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
export { newLotSchema, newSensorSchema, type NewLot, type NewSensor } from './set-up.ts';

// What the server answers
export type {
  ChannelState,
  ChannelTest,
  ConeView,
  HandsView,
  Impedance,
  Latest,
  LiveSample,
  LiveState,
  LoopRow,
  LotRow,
  MarginsView,
  OpenRunRow,
  Problem,
  ReadingBucket,
  ReadingsView,
  RunRow,
  RunView,
  SensorView,
  ServiceRow,
  ShelfView,
} from './views.ts';
