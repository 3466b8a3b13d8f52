import type { Server } from 'node:http';
import { chance } from '../physics/chance.ts';
import { chlorineOf, ionOf } from '../physics/liquids.ts';
import { airKPa } from '../physics/oxygen.ts';
import { shareGone } from '../physics/thermal.ts';
import { jsonDevice } from './listening.ts';
import type { StandIn } from './stand-in.ts';

/** s in which the thermometer follows; its own error, °C; its display's step, °C */
const THERMOMETER = { seconds: 15, offsetC: -0.08, stepC: 0.1 };
/** Reading of a photometer about its truth, share; what the colour loses a minute after the reagent went in. Common practice, no source. */
const PHOTOMETER = { spread: 0.015, fadesAMinute: 0.03 };
/** mg/L that an unzeroed cuvette adds */
const CUVETTE = 0.06;

/** Steps of a barometer, hPa; what a titration of oxygen spreads, mg/L. */
const BAROMETER_STEP = 0.1;
const TITRATION = 0.03;

/** A bench thermometer, a photometer, a barometer and a burette: what an operator measures with beside the installed sensors. */
export class BenchInstruments {
  private readonly bodies: ReadonlyMap<string, StandIn>;
  private readonly nowMs: () => number;
  private readonly dice;
  private readonly rate: number;
  private shownC = 20;
  private dippedIn: string | null = null;
  private lastMs: number;
  private blanked = false;
  private sample: {
    readonly chlorine: number;
    readonly nitrateN: number;
    readonly oxygen: number;
    readonly atMs: number;
  } | null = null;

  /** @param rate how many times faster than a clock the thermometer follows */
  constructor(bodies: ReadonlyMap<string, StandIn>, seed: number, nowMs: () => number, rate = 1) {
    this.rate = rate;
    this.bodies = bodies;
    this.nowMs = nowMs;
    this.dice = chance(seed);
    this.lastMs = nowMs();
  }

  now() {
    this.follow();
    const { stepC } = THERMOMETER;
    const minutes = this.sample ? (this.nowMs() - this.sample.atMs) / 60_000 : 0;
    const colour = Math.max(0, 1 - PHOTOMETER.fadesAMinute * minutes);
    const shown = (value: number) => Math.round((value * colour + (this.blanked ? 0 : CUVETTE)) * 100) / 100;
    return {
      thermometer: { celsius: Math.round(Math.round(this.shownC / stepC) * stepC * 10) / 10, in: this.dippedIn },
      photometer: {
        blanked: this.blanked,
        chlorine_mg_l: this.sample ? shown(this.sample.chlorine) : null,
        nitrate_n_mg_l: this.sample ? shown(this.sample.nitrateN) : null,
      },
      barometer: { hpa: Math.round((10 * airKPa(this.nowMs())) / BAROMETER_STEP) * BAROMETER_STEP },
      titration: { oxygen_mg_l: this.sample ? Math.round(this.sample.oxygen * 100) / 100 : null },
    };
  }

  /** @throws RangeError for what hands cannot do with them */
  hands({ action, probe }: { readonly action?: string; readonly probe?: string }) {
    this.follow();
    const body = this.bodies.get(probe ?? '')?.body;
    if (action === 'blank') this.blanked = true;
    else if (action === 'dip' && body) this.dippedIn = probe!;
    else if (action === 'sample' && body) {
      const mix = body.bulk();
      const spread = () => 1 + PHOTOMETER.spread * this.dice.normal();
      this.sample = {
        chlorine: chlorineOf(mix) * spread(),
        nitrateN: ionOf(mix, 'nitrate') * 14.007 * spread(),
        oxygen: body.oxygenMgPerL() + TITRATION * this.dice.normal(),
        atMs: this.nowMs(),
      };
    } else throw new RangeError(`the instruments cannot ${action ?? ''} ${probe ?? ''}`.trim());
    return this.now();
  }

  private follow(): void {
    const seconds = (this.rate * (this.nowMs() - this.lastMs)) / 1000;
    this.lastMs = this.nowMs();
    const body = this.dippedIn === null ? null : this.bodies.get(this.dippedIn)!.body;
    const there = (body?.surroundingsC() ?? 20) + THERMOMETER.offsetC;
    this.shownC += (there - this.shownC) * shareGone(seconds, THERMOMETER.seconds);
  }
}

/** The instruments over HTTP: GET /now, POST /hands. */
export const benchInstruments = (instruments: BenchInstruments, host: string, port: number): Promise<Server> =>
  jsonDevice(host, port, (method, path, body) => {
    if (method === 'GET' && path === '/now') return [200, instruments.now()];
    if (method === 'POST' && path === '/hands') return [200, instruments.hands(body ?? {})];
    return [404, { error: 'GET /now, POST /hands' }];
  });
