// What a client sends
export { handsSchema, type Hands } from './hands.ts';
export { appendEventsSchema, startRunSchema, type OutgoingEvent, type StartRun } from './runs.ts';
export { newLotSchema, newSensorSchema, type ChannelConfig, type NewLot, type NewSensor } from './set-up.ts';

// What the server answers
export type {
  ChannelState,
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
