// What tests and benchmarks may ask of the simulator.
export { chance, seedOf, type Chance } from './physics/chance.ts';
export { electrodeAt, foundInBuffers, phBodyAt, referenceAt, SOUND, type Life } from './physics/ageing.ts';
export { Body, PLACES } from './physics/body.ts';
export { potentialAtRest, type ElectrodeTruth, type Sense } from './physics/electrode.ts';
export { all, bufferPh, POURED, type Liquid, type Mixture } from './physics/liquids.ts';
export { airKPa, fullKPa, oxygenAtRest, oxygenMgPerL, type OxygenTruth } from './physics/oxygen.ts';
export type { Process } from './physics/process.ts';
export { BARE_BODY, type BodyTruth } from './physics/truth.ts';
export { FAULTS, faulty, type Fault, type Switched } from './faults/index.ts';
export { DEEDS } from './physics/deeds.ts';
export { houseBodies, type HouseBody } from './fleets/bodies.ts';
export { seawaterUs } from './physics/waters.ts';
export { fleetOf } from './fleets/fleet.ts';
export { TIDEWATER, lifeOf, truthOf, type HousePh } from './fleets/tidewater.ts';
export { historyOf, REGISTERS_A_PROBE } from './fleets/history.ts';
export {
  captureOf,
  CAPTURE_FAMILIES,
  WEAK_WATER,
  type CaptureFamily,
  type SimulatedCapture,
} from './testing/captures.ts';
export { startRelay, type TakenMail } from './devices/relay.ts';
