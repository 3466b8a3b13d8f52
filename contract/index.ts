// What a client sends
export { handsSchema, type Hands } from './hands.ts';
export { appendEventsSchema, startRunSchema, type OutgoingEvent, type StartRun } from './runs.ts';
export {
  testChannelSchema,
  type ChannelConfig,
  type ChannelKind,
  type HttpJsonConfig,
  type ModbusConfig,
  type ModbusMapConfig,
  type MqttConfig,
} from './channels.ts';
export { newLotSchema, newSensorSchema, type NewLot, type NewSensor } from './set-up.ts';

// What the server answers
export type {
  ChannelState,
  ChannelTest,
  ConeView,
  HandsView,
  LiveSample,
  LiveState,
  LoopRow,
  LotRow,
  MarginsView,
  OpenRunRow,
  Problem,
  RunRow,
  RunView,
  SensorView,
  ShelfView,
} from './views.ts';
