import { chance, type Chance } from './chance.ts';
import { bufferPh, processPh, type Liquid, type Process } from './liquids.ts';

/** Hidden truth of one pH probe at one age. */
export interface ProbeTruth {
  readonly zeroMv: number;
  /** share of the ideal slope */
  readonly slope: number;
  /** fast response of the glass, s at 25 °C */
  readonly fastSeconds: number;
  /** slow response of the gel layer and the junction, s */
  readonly slowSeconds: number;
  /** share of a step that goes the slow way */
  readonly slowShare: number;
  /** white noise of one sample, mV */
  readonly noiseMv: number;
  /** potential that appears in samples but not in buffers: a blocked junction, mV */
  readonly sampleShiftMv: number;
}

/** Boltzmann's constant over the elementary charge, mV/K. CODATA 2018: 1.380649e-23 / 1.602176634e-19. */
const THERMAL_MV_PER_K = (1000 * 1.380649e-23) / 1.602176634e-19;

/**
 * Potential at rest. Reaches the Nernst factor by kT/e, not by RT/F; shares with the core that E is linear in pH about 7.
 */
export function potentialAtRest(truth: ProbeTruth, ph: number, temperatureC: number): number {
  const thermal = THERMAL_MV_PER_K * (temperatureC + 273.15);
  return truth.zeroMv - truth.slope * thermal * Math.LN10 * (ph - 7);
}

/** What the probe carries from one liquid into the next, as a share of the old liquid's pH distance. */
const FILM_BLOTTED = 0.004;
const FILM_WET = 0.035;
/** s in which a still cup takes up the film; a wiggle does it at once */
const FILM_SECONDS = 25;
/** A bubble on the glass shifts the reading and makes it jumpy. */
const BUBBLE_MV = 6;
const BUBBLE_CHANCE = 0.25;
/** s in which the probe's body follows the cup's temperature */
const BODY_SECONDS = 8;

/**
 * One pH probe in an operator's hand: two time constants, a film of the last liquid, bubbles, a body that warms.
 *
 * It steps on its own clock, so the same physics serves live demos, fast tests and years of history.
 */
export class PhProbe {
  truth: ProbeTruth;
  liquid: Liquid = 'process';
  private readonly chance: Chance;
  private readonly process: Process;
  private fast: number;
  private slow: number;
  private bodyC: number;
  private cupC: number;
  /** pH units by which the film pulls the glass away from the liquid */
  private film = 0;
  private rinsed = true;
  private bubble = 0;
  private stir = 0;

  constructor(truth: ProbeTruth, process: Process, seed: number, cupC = process.temperatureC - 1) {
    this.truth = truth;
    this.process = process;
    this.chance = chance(seed);
    this.cupC = cupC;
    this.bodyC = process.temperatureC;
    this.fast = this.slow = this.rest(0);
  }

  /** pH that the glass meets, without the film. */
  phOf(liquid: Liquid, atMs: number): number {
    if (liquid === 'process') return processPh(this.process, atMs);
    if (liquid === 'rinse') return 6.2;
    if (liquid === 'air') return 7;
    return bufferPh(liquid.slice(4), this.cupC);
  }

  /** Noise-free potential toward which everything tends, mV. */
  rest(atMs: number): number {
    const ph = this.phOf(this.liquid, atMs);
    const shift = this.liquid === 'process' || this.liquid === 'rinse' ? this.truth.sampleShiftMv : 0;
    // In air a film of liquid stays on the glass: neither a value nor silence.
    const airDrift = this.liquid === 'air' ? 18 : 0;
    return potentialAtRest(this.truth, ph + this.film, this.bodyC) + shift + airDrift + this.bubble;
  }

  /** Moves the probe to another liquid; what clings to it goes along. */
  moveTo(liquid: Liquid, atMs: number): void {
    if (liquid === this.liquid) return;
    const from = this.phOf(this.liquid, atMs);
    if (liquid === 'rinse') this.rinsed = true;
    const share = this.rinsed ? FILM_BLOTTED : FILM_WET;
    this.film = liquid === 'air' || liquid === 'rinse' ? 0 : share * (from - this.phOf(liquid, atMs));
    if (liquid !== 'rinse') this.rinsed = this.liquid === 'rinse' && liquid === 'air';
    this.liquid = liquid;
    this.bubble =
      liquid.startsWith('cup') && this.chance.uniform() < BUBBLE_CHANCE ? BUBBLE_MV * (0.5 + this.chance.uniform()) : 0;
    this.stir = 4;
  }

  /** A swirl: bubbles leave, the film is mixed in, the reading jumps and settles again. */
  wiggle(): void {
    this.bubble = 0;
    this.film = 0;
    this.stir = 5;
    this.fast += 9 * (this.chance.uniform() < 0.5 ? -1 : 1);
  }

  /** Advances by `seconds` of the probe's own time. */
  step(seconds: number, atMs: number): void {
    const inCup = this.liquid.startsWith('cup');
    const surroundings = inCup ? this.cupC : this.liquid === 'process' ? this.process.temperatureC : this.cupC;
    this.bodyC += (surroundings - this.bodyC) * -Math.expm1(-seconds / BODY_SECONDS);
    this.film *= Math.exp(-seconds / FILM_SECONDS);
    const rest = this.rest(atMs);
    // Response doubles for every 15 °C of cold. Common practice, no source.
    const cold = 2 ** ((25 - this.bodyC) / 15);
    this.fast += (rest - this.fast) * -Math.expm1(-seconds / (this.truth.fastSeconds * cold));
    this.slow += (rest - this.slow) * -Math.expm1(-seconds / (this.truth.slowSeconds * cold));
    this.stir = Math.max(0, this.stir - seconds);
  }

  /** Signal at the transmitter's input, mV, noise included. */
  potentialMv(): number {
    const { slowShare, noiseMv } = this.truth;
    const restless = noiseMv * (1 + (this.stir > 0 ? 4 : 0) + (this.bubble ? 2 : 0) + (this.liquid === 'air' ? 20 : 0));
    return this.fast * (1 - slowShare) + this.slow * slowShare + restless * this.chance.normal();
  }

  /** What the probe's thermometer shows, °C. */
  temperatureC(): number {
    return this.bodyC + 0.01 * this.chance.normal();
  }

  /** Temperature that the cups have, for a test that wants them cold. */
  warmCupsTo(temperatureC: number): void {
    this.cupC = temperatureC;
  }
}
