// What tests and benchmarks may ask of the simulator.
export { chance, seedOf, type Chance } from './physics/chance.ts';
export { SOUND, truthAt, type Life } from './physics/ageing.ts';
export { bufferPh, LIQUIDS, type Liquid, type Process } from './physics/liquids.ts';
export { PhProbe, potentialAtRest, type ProbeTruth } from './physics/ph-probe.ts';
export { TIDEWATER, lifeOf, type HousePh } from './fleets/tidewater.ts';
export { historyOf, REGISTERS_A_PROBE } from './fleets/history.ts';
