// A simulated sensor in its place, whatever its family: long because each family answers here in its own way.

import { chance, type Chance } from './chance.ts';
import { Follower, potentialAtRest, slowness, type Sense } from './electrode.ts';
import {
  all,
  AROUND,
  chlorineOf,
  ionOf,
  oxygenOf,
  phOf,
  POURED,
  standardOf,
  stirred,
  usOf,
  type Liquid,
  type Mixture,
} from './liquids.ts';
import { airKPa, fullKPa, OXYGEN_NOISE, oxygenAtRest, oxygenGone, oxygenMgPerL } from './oxygen.ts';
import { processC, waterOf, type Process } from './process.ts';
import { FRESH_KCL, shiftOf } from './reference.ts';
import { shareGone, slownessAt } from './thermal.ts';
import type { BodyTruth, CellTruth } from './truth.ts';

/** Where a body can be: around the plant, or `cup-<name>` for anything that can be poured. */
type Place = string;
export const PLACES: readonly Place[] = [
  'process',
  ...Object.keys(POURED).map((name) => `cup-${name}`),
  ...Object.keys(AROUND),
  'air',
];

/** mL that cling to a wet probe and to a blotted one; mL about the membrane; mL in a cup. Common practice, no source. */
const WET_ML = 0.3;
const BLOTTED_ML = 0.03;
const NEAR_ML = 8;
const CUP_ML = 40;
/** a rinse leaves this share of what clung */
const RINSED = 0.1;
/** s in which a still cup takes up the film; a wiggle does it at once */
const FILM_SECONDS = 25;
/** s in which a body follows a cup, and a cup the room; the body holds as much warmth as so many mL of water */
const BODY_SECONDS = 8;
const CUP_SECONDS = 1200;
const BODY_ML = 6;
/** A bubble on the glass shifts the reading and makes it jumpy; it comes with one cup in four. */
const BUBBLE_MV = 6;
const BUBBLE_CHANCE = 0.25;
/** mains, and what its beat with the sampling leaves visible; Hz */
const MAINS_HZ = 50.03;
/** A wet cell in air loses its film, s; and what a breath through it leaves. */
const DRY_SECONDS = 900;
const BLOWN = 0.06;
/** Below this a liquid lets charge stand, µS/cm; s in which it wanders. Common practice, no source. */
const STATIC_US = 10;
const STATIC_SECONDS = 20;

interface Cup {
  mix: Mixture;
  temperatureC: number;
}

/** What the body's sensors show just now. */
export interface Shown {
  /** mV by electrode */
  readonly electrodes: Readonly<Record<string, number>>;
  /** conductance, µS */
  readonly conductance: number;
  /** nA */
  readonly chlorine: number;
  /** mg/L as N */
  readonly nitrateN: number;
  /** nA of a membrane, or lifetime without oxygen over lifetime of a cap */
  readonly oxygen: number;
  readonly temperatureC: number;
  /** impedance as a transmitter measures it: membrane of the first electrode, MΩ, and junction, kΩ */
  readonly membraneMohm: number;
  readonly junctionKohm: number;
}

/**
 * A body with its sensors on one reference, in an operator's hand. Steps on a clock of its own, so that the same physics
 * serves live demos, fast tests and years of history. Nothing in here is the core's.
 */
export class Body {
  place: Place = 'process';
  /** what is plugged into the input instead of the probe, mV (electrodes) or µS (cell); null = the probe */
  plugged: { readonly mv?: number; readonly us?: number } | null = null;
  private readonly senses: Readonly<Record<string, Sense>>;
  private readonly process: Process;
  private readonly chance: Chance;
  private readonly truth: (seconds: number) => BodyTruth;
  private readonly roomC: number;
  private readonly cups = new Map<Place, Cup>();
  private readonly followers = new Map<string, Follower>();
  private conductance = 0;
  private chlorine = 0;
  private nitrateN = 0;
  private oxygen = 0;
  private clinging: { mix: Mixture; ml: number };
  /** the film about the membrane, while it has not been stirred in */
  private film: { mix: Mixture; share: number } | null = null;
  private airFilmUs = 0;
  private bodyC: number;
  private bubbleMv = 0;
  private stir = 0;
  private wander = 0;
  private seconds = 0;
  private atMs: number;

  /**
   * @param truth what is right and wrong with it after so many seconds of its clock
   * @param roomC temperature that cups tend to
   */
  constructor(options: {
    senses: Readonly<Record<string, Sense>>;
    truth: (seconds: number) => BodyTruth;
    process: Process;
    seed: number;
    atMs: number;
    roomC?: number;
  }) {
    this.senses = options.senses;
    this.truth = options.truth;
    this.process = options.process;
    this.chance = chance(options.seed);
    this.atMs = options.atMs;
    this.bodyC = processC(options.process, options.atMs);
    this.roomC = options.roomC ?? options.process.temperatureC - 1;
    this.clinging = { mix: this.bulk(), ml: WET_ML };
    const truth0 = this.truth(0);
    for (const name of Object.keys(this.senses)) this.followers.set(name, new Follower(this.rest(name, truth0)));
    const { conductance, chlorine, nitrateN, oxygen } = this.atRest(truth0);
    Object.assign(this, { conductance, chlorine, nitrateN, oxygen });
  }

  /** Advances by seconds of its own clock, a quarter of a second at most for exactness. */
  step(seconds: number, atMs: number): void {
    this.seconds += seconds;
    this.atMs = atMs;
    const truth = this.truth(this.seconds);
    this.warm(seconds, truth);
    if (this.film) this.film = { ...this.film, share: this.film.share * Math.exp(-seconds / FILM_SECONDS) };
    this.airFilmUs *= Math.exp(-seconds / DRY_SECONDS);
    this.wander += -this.wander * shareGone(seconds, STATIC_SECONDS);
    this.wander += Math.sqrt(-Math.expm1((-2 * seconds) / STATIC_SECONDS)) * this.chance.normal();
    const mix = this.met(truth);
    for (const [name, follower] of this.followers) {
      const slower = slowness(this.senses[name]!, mix, this.bodyC) * (1 + 40 * truth.dry);
      follower.step(this.rest(name, truth), seconds, slower, truth.electrodes[name]!);
    }
    const rest = this.atRest(truth);
    const cold = slownessAt(this.bodyC);
    this.conductance += (rest.conductance - this.conductance) * shareGone(seconds, 2);
    this.chlorine += (rest.chlorine - this.chlorine) * shareGone(seconds, 30 * cold);
    this.nitrateN += (rest.nitrateN - this.nitrateN) * shareGone(seconds, 12);
    if (truth.oxygen) this.oxygen += (rest.oxygen - this.oxygen) * oxygenGone(truth.oxygen, seconds, this.bodyC);
    this.stir = Math.max(0, this.stir - seconds);
  }

  // ---- hands ----

  /** Moves the body. What clings to it goes along; a cup is poured fresh, unless it is to be used again. */
  moveTo(place: Place, again = false): void {
    if (place === this.place && (again || !place.startsWith('cup-'))) return;
    if (!PLACES.includes(place)) throw new RangeError(`there is no “${place}” on the bench`);
    // What clings to a wet body is what it was in last; in air nothing new does, and a rinse has seen to it already.
    if (!['air', 'rinse', 'tap'].includes(this.place)) this.clinging = { mix: this.bulk(), ml: WET_ML };
    const before = this.clinging;
    this.place = place;
    const truth = this.truth(this.seconds);
    if (place.startsWith('cup-') && !(again && this.cups.has(place))) {
      this.cups.set(place, { mix: this.poured(place, truth), temperatureC: this.roomC + truth.cupsOffC });
    }
    if (place === 'rinse' || place === 'tap') {
      this.clinging = { mix: stirred(this.bulk(), before.mix, RINSED), ml: WET_ML };
      this.film = { mix: before.mix, share: RINSED };
    } else if (place === 'air') {
      this.film = null;
      this.airFilmUs = truth.cell?.filmUs ?? 0;
    } else {
      const ml = before.ml * (1 + truth.sticky);
      this.film = { mix: before.mix, share: ml / (ml + NEAR_ML) };
      this.stirIn(before.mix, ml);
    }
    const unlucky = place.startsWith('cup-') && this.chance.uniform() < BUBBLE_CHANCE;
    this.bubbleMv = unlucky ? BUBBLE_MV * (0.5 + this.chance.uniform()) : 0;
    this.stir = 4;
  }

  /** Shakes or dabs off what clings. In air a breath through the cell takes its film. */
  blot(): void {
    this.clinging = { ...this.clinging, ml: BLOTTED_ML };
    this.airFilmUs *= BLOWN;
  }

  /** A swirl: bubbles leave, the film is mixed in, the reading jumps and settles again. */
  wiggle(): void {
    this.bubbleMv = 0;
    this.film = null;
    this.stir = 5;
    for (const f of this.followers.values()) f.fast += 9 * (this.chance.uniform() < 0.5 ? -1 : 1);
  }

  /** A tap on the body: the bubble leaves, and nothing else happens. */
  tap(): void {
    this.bubbleMv = 0;
    this.stir = 1;
  }

  /** Brings all cups to a temperature at once, for a test that wants them cold. */
  cupsTo(temperatureC: number): void {
    for (const cup of this.cups.values()) cup.temperatureC = temperatureC;
  }

  // ---- what it is in ----

  /** °C of what the body stands in. */
  surroundingsC(): number {
    if (this.place === 'process') return processC(this.process, this.atMs);
    return this.cups.get(this.place)?.temperatureC ?? this.roomC;
  }

  /** The liquid about the body, well stirred. */
  bulk(): Mixture {
    const truth = this.truth(this.seconds);
    if (this.place === 'process') return all(this.moved(waterOf(this.process, this.atMs), truth.processOffPh));
    const cup = this.cups.get(this.place);
    if (cup) return cup.mix;
    return all(AROUND[this.place] ?? AROUND['storage']!);
  }

  /** Oxygen in what the body stands in, as a titration finds it, mg/L. */
  oxygenMgPerL(): number {
    const salinity = this.place === 'process' ? (this.process.salinity ?? 0) : 0;
    return oxygenMgPerL(oxygenOf(this.bulk()), this.surroundingsC(), salinity, airKPa(this.atMs));
  }

  /** What the membranes meet: the bulk with the film that has not gone. */
  private met(truth: BodyTruth): Mixture {
    if (truth.capped) return all(AROUND['storage']!);
    if (this.place === 'air') return this.clinging.mix;
    return this.film ? stirred(this.bulk(), this.film.mix, this.film.share) : this.bulk();
  }

  private poured(place: Place, { lotOffPh, lotOffMv, lotShare }: BodyTruth): Mixture {
    const liquid = POURED[place.slice(4)]!;
    const aged = lotOffMv === 0 ? liquid : { ...liquid, eh: (t: number) => liquid.eh(t) + lotOffMv };
    return stirred(all(AROUND['rinse']!), all(this.moved(aged, lotOffPh)), lotShare);
  }

  private moved(liquid: Liquid, byPh: number): Liquid {
    return byPh === 0 ? liquid : { ...liquid, ph: (t) => liquid.ph(t) + byPh };
  }

  private stirIn(mix: Mixture, ml: number): void {
    const cup = this.cups.get(this.place);
    if (cup) cup.mix = stirred(cup.mix, mix, ml / (ml + CUP_ML));
  }

  private warm(seconds: number, truth: BodyTruth): void {
    for (const cup of this.cups.values()) {
      cup.temperatureC += (this.roomC + truth.cupsOffC - cup.temperatureC) * shareGone(seconds, CUP_SECONDS);
    }
    const cup = this.cups.get(this.place);
    const outside = this.surroundingsC();
    if (!cup) this.bodyC += (outside - this.bodyC) * shareGone(seconds, BODY_SECONDS);
    else {
      // Body and cup exchange warmth; together they keep what they have.
      const share = BODY_ML / CUP_ML;
      const gap = (outside - this.bodyC) * shareGone(seconds, BODY_SECONDS / (1 + share));
      this.bodyC += gap / (1 + share);
      cup.temperatureC -= (gap * share) / (1 + share);
    }
  }

  // ---- what the sensors tend to ----

  /** Noise-free potential that an electrode tends to, mV. */
  rest(name: string, truth = this.truth(this.seconds)): number {
    const mix = this.met(truth);
    const sample = 1 - standardOf(mix);
    const own = potentialAtRest(this.senses[name]!, truth.electrodes[name]!, mix, this.bodyC);
    // In air a film of liquid stays on the membrane: neither a value nor silence.
    const inAir = this.place === 'air' ? 18 : 0;
    const bubble = this.bubbleMv + BUBBLE_MV * truth.bubble;
    return own - shiftOf(truth.reference, this.bodyC) + truth.reference.blockedMv * sample + inAir + bubble;
  }

  private atRest(truth: BodyTruth) {
    const mix = this.met(truth);
    const { cell, chlorine, optics, oxygen } = truth;
    const dry = this.place === 'air' && !truth.capped;
    const open = (1 - truth.bubble) * (1 - (cell?.scaled ?? 0));
    const us = dry ? this.airFilmUs : (usOf(mix, this.bodyC) * (cell?.gain ?? 0) * open) / (cell?.constant ?? 1);
    // Only the acid half of free chlorine passes the membrane well; pKa 7.54 at 25 °C (Morris 1966), its course left out.
    const acid = 1 / (1 + 10 ** (phOf(mix, this.bodyC) - 7.54)) / (1 / (1 + 10 ** (7 - 7.54)));
    const flowing = this.place === 'process' ? (chlorine?.flow ?? 0) / 30 : 1;
    const current = chlorine
      ? chlorine.zeroNa + chlorine.slopeNa * chlorineOf(mix) * acid * Math.min(1, flowing) * 1.03 ** (this.bodyC - 25)
      : 0;
    const light = this.place.startsWith('cup-') ? (optics?.straylight ?? 0) : 0;
    // Dirt takes light at every wavelength and looks like nitrate: 5 mg/L for a tenth of the light.
    const nitrateN = optics
      ? optics.zero +
        optics.gain * ionOf(mix, 'nitrate') * 14.007 +
        5 * (Math.log(1 - optics.dirt) / Math.log(0.9)) +
        light
      : 0;
    // In the room's air it is as full as in water under it; a bubble is full of air, too.
    const share = oxygenOf(mix);
    const kPa = fullKPa(this.bodyC, airKPa(this.atMs)) * (dry ? 1 : share + (1 - share) * truth.bubble);
    return {
      conductance: dry ? us : Math.min(us, cell?.mostUs ?? us),
      chlorine: current,
      nitrateN,
      oxygen: oxygen ? oxygenAtRest(oxygen, kPa, this.bodyC) : 0,
    };
  }

  // ---- what the instrument sees ----

  /** All signals at the instrument's input, noise included. */
  shown(): Shown {
    const truth = this.truth(this.seconds);
    const { input, reference } = truth;
    const electrodes = Object.fromEntries(Object.keys(this.senses).map((name) => [name, this.atInput(name, truth)]));
    const first = Object.values(truth.electrodes)[0];
    const plugUs = this.plugged?.us;
    const conductance = input.pulled ? 0 : (plugUs ?? this.conductance);
    const speck = (value: number, share: number) => value * (1 + share * this.chance.normal());
    const { offsetC, elsewhereC } = truth.thermometer;
    return {
      electrodes,
      conductance: truth.cell
        ? speck(
            conductance * shownOver(truth.cell, this.bodyC),
            (0.0006 + 0.02 * truth.bubble) * (this.stir > 0 ? 4 : 1),
          )
        : 0,
      chlorine: truth.chlorine ? this.chlorine + 0.4 * this.chance.normal() : 0,
      nitrateN: truth.optics ? Math.max(0, this.nitrateN + 0.02 * this.chance.normal()) : 0,
      oxygen: truth.oxygen && !input.pulled ? this.oxygen + OXYGEN_NOISE[truth.oxygen.kind] * this.chance.normal() : 0,
      temperatureC: (elsewhereC ?? this.bodyC) + offsetC + 0.01 * this.chance.normal(),
      membraneMohm: this.impedance(first?.megohm ?? 0, truth),
      // A thinner electrolyte conducts less, about in proportion.
      junctionKohm: input.pulled
        ? 2000
        : ((reference.junctionKohm * FRESH_KCL) / reference.kcl) * (this.place === 'air' ? 60 : 1),
    };
  }

  private impedance(megohm: number, { input }: BodyTruth): number {
    // Glass doubles its resistance for every 8 °C of cold. Common practice, no source.
    const own = megohm * 2 ** ((25 - this.bodyC) / 8);
    if (input.pulled) return Math.min(2000, input.insulationMohm);
    return (own * input.insulationMohm) / (own + input.insulationMohm) || own;
  }

  private atInput(name: string, truth: BodyTruth): number {
    const { input } = truth;
    const electrode = truth.electrodes[name]!;
    const hum = input.humMv * Math.sin(2 * Math.PI * MAINS_HZ * this.seconds);
    if (this.plugged) return (this.plugged.mv ?? 0) + input.offsetMv + 0.05 * this.chance.normal();
    // An open input of a high resistance picks up whatever there is.
    if (input.pulled) return 180 * Math.sin(this.seconds / 7) + 10 * hum + 25 * this.chance.normal();
    const mix = this.met(truth);
    const follower = this.followers.get(name)!;
    const restless =
      (1 + (this.stir > 0 ? 4 : 0) + (this.bubbleMv ? 2 : 0)) * (1 + 5 * truth.bubble) +
      (this.place === 'air' ? 20 : 0) +
      60 * truth.dry;
    const weak = Math.max(0, 1 - usOf(mix, this.bodyC) / STATIC_US);
    const stray = this.place === 'process' ? input.strayMv : 0;
    const insulated = Number.isFinite(input.insulationMohm)
      ? input.insulationMohm / (input.insulationMohm + electrode.megohm * slownessAt(this.bodyC) ** 2)
      : 1;
    return (
      (follower.at(electrode.slowShare) + stray) * insulated * (input.turned ? -1 : 1) +
      input.offsetMv +
      hum +
      input.staticMv * weak * this.wander +
      electrode.noiseMv * restless * this.chance.normal()
    );
  }
}

/** What the channel makes of a conductance that is set up in another scale, or with another coefficient. */
const shownOver = ({ scale = 1, overPerC = 0 }: CellTruth, bodyC: number) => scale * (1 + overPerC * (bodyC - 25));
