import {
  CATALOGUE,
  factsOf,
  modelOf,
  familyOf,
  responseIn,
  settleIn,
  signalOf,
  expectedIn,
  STATISTICAL,
  watched,
  type Before,
  type Coefficients,
  type Cup,
  type Facts,
  type Sample,
  type Settings,
  type Settling,
  type Standard,
} from '@frustum/core';
import { BARE_BODY, Body, chance, seedOf, type BodyTruth, type Chance } from '@frustum/sim';
import { EC, PH, WATER_C, type Doing, type Provoked, type Seen } from './mistakes-provoked.ts';

const LOOK_EVERY_S = 5;
const LONGEST_S = 300;
const STEP_S = 0.25;

const standardOf = (name: string): Standard => CATALOGUE.find((s) => (s.id === name ? true : s.name === name))!;
const AIR = CATALOGUE.find((s) => s.family === 'conductivity' && s.nominal === 0)!;
const named = (name: string) => (name === 'air' ? AIR : standardOf(name));

function runs(body: Body, seconds: number): void {
  for (let left = seconds; left > 1e-9; left -= STEP_S) body.step(Math.min(STEP_S, left), 0);
}

const PH_SHELF = CATALOGUE.filter((s) => s.family === 'ph' && s.id.startsWith('technical'));
const EC_SHELF = CATALOGUE.filter((s) => s.family === 'conductivity');

type Family = 'ph' | 'conductivity';

/** The sensor that nobody sees: a cell, or an electrode as it wears. */
function hiddenSensor(dice: Chance, ph: boolean) {
  const cell = { constant: 1, gain: 1 + 0.01 * dice.normal(), scaled: 0, filmUs: 0.05, mostUs: 2e6 };
  const worn = dice.uniform();
  const it = {
    zeroMv: 8 * dice.normal(),
    slope: 1 - 0.08 * worn,
    fastSeconds: 2 + 3 * dice.uniform(),
    slowSeconds: 15 + 20 * worn,
    slowShare: 0.06 + 0.1 * worn,
    noiseMv: 0.08 + 0.15 * dice.uniform(),
    megohm: 120,
    slowSpread: 0.2,
  };
  const sound: BodyTruth = ph ? { ...BARE_BODY, electrodes: { it } } : { ...BARE_BODY, cell };
  return { sound, coefficients: ph ? { zero: it.zeroMv, sensitivity: it.slope } : { zero: 0, sensitivity: cell.gain } };
}

/** What the operator does, rightly unless the mistake is in it. */
const doingIn = (dice: Chance, ph: boolean, mistake: Provoked | null, severity: number): Doing => ({
  asked: ph ? PH : EC,
  into: ph ? PH : EC,
  school: STATISTICAL,
  turned: false,
  times: () => 1,
  blot: true,
  roomApart: (dice.uniform() < 0.5 ? -1 : 1) * (0.8 + 2 * dice.uniform()),
  ...mistake?.does?.(severity, dice),
});

/** What a house expects of such a sensor: about the truth, and as surely as it says. */
function expectedOf(dice: Chance, ph: boolean, { zero, sensitivity }: Coefficients) {
  const zeroSd = ph ? 1 + 2 * dice.uniform() : 0.1;
  const sensitivitySd = ph ? 0.004 + 0.008 * dice.uniform() : 0.006 + 0.006 * dice.uniform();
  return {
    zero: zero + zeroSd * dice.normal(),
    zeroSd,
    sensitivity: sensitivity + sensitivitySd * dice.normal(),
    sensitivitySd,
  };
}

const raised = (dice: Chance, family: Family, mistake: Provoked | null, severity: number, seed: number) => {
  const ph = family === 'ph';
  const { sound, coefficients } = hiddenSensor(dice, ph);
  const truth = mistake?.truth?.(sound, severity, dice) ?? sound;
  const doing = doingIn(dice, ph, mistake, severity);
  const settings: Settings = ph ? {} : { cellConstant: 1, alpha: 2 };
  const plan = { family, settings, expected: expectedOf(dice, ph, coefficients), workingC: WATER_C };
  const process = { ph: 6.5, dailySwing: 0, temperatureC: WATER_C, us25: 900, chlorine: 0, ions: {} };
  const roomC = WATER_C + doing.roomApart;
  const body = new Body({ senses: ph ? { it: { of: 'ph' } } : {}, truth: () => truth, process, seed, atMs: 0, roomC });
  const read = () => {
    const shown = body.shown();
    const raw = (ph ? shown.electrodes['it']! : shown.conductance) * doing.times(shown.temperatureC);
    return {
      signal: Math.round((doing.turned ? -raw : raw) * 10) / 10,
      temperatureC: Math.round(shown.temperatureC * 100) / 100,
    };
  };
  return { ph, coefficients, doing, plan, body, read };
};
type Bench = ReturnType<typeof raised>;

/** Rinses and goes into the next cup, unless it is in it; gives the temperatures on the way. */
function goesInto({ doing, body, read }: Bench, i: number): readonly number[] {
  const into = doing.into[i] ?? doing.into.at(-1)!;
  const way = [read().temperatureC];
  if (i > 0 && doing.into[i - 1] === into) return way;
  body.moveTo('rinse');
  runs(body, 6);
  way.push(read().temperatureC);
  if (doing.blot) body.blot();
  body.moveTo(into === 'air' ? 'air' : `cup-${into}`);
  if (into !== 'air') body.tap();
  else if (doing.blot) body.blot();
  return way;
}

/** What was seen of one cup. */
interface Watched {
  readonly settling: Settling;
  readonly facts: Facts | null;
  /** warnings, in the order in which they were first said */
  readonly said: readonly string[];
  /** the mistake was named, and nothing may be captured */
  readonly stopped: boolean;
}

/** Watches one cup as the bench does, until it is ready or stopped. */
function watchCup({ doing, body, read, plan }: Bench, cup: Cup, caught: readonly string[]): Watched {
  const response = responseIn(plan, cup.asked);
  const samples: Sample[] = [];
  const answered: string[] = [];
  const said: string[] = [];
  let stopped = false;
  let facts: Facts | null = null;
  let settling: Settling | null = null;
  for (let t = 0; t <= LONGEST_S; t += 0.5) {
    samples.push({ t, ...read() });
    runs(body, 0.5);
    if (t === 0 || t % LOOK_EVERY_S !== 0) continue;
    settling = settleIn(response, samples, doing.school, 0.1, undefined, settling?.checked);
    facts = factsOf(cup, settling, samples) ?? facts;
    const warning = watched(cup, settling, samples, answered)?.warning;
    // What is said of two counts for both: the operator reads them together.
    const named = warning ? [warning.id, ...(warning.or ? [warning.or.id] : [])] : [];
    said.push(...named);
    // Who looks and finds it otherwise says so, and goes on.
    if (warning && named.some((id) => caught.includes(id))) stopped = warning.stops;
    else if (warning) answered.push(warning.id);
    if (settling.state === 'ready' || stopped) break;
  }
  return { settling: settling!, facts, said, stopped };
}

/** One run with a mistake in it (or without), watched as the bench watches. */
export function provoked(mistake: Provoked | null, family: Family, severity: number, seed: number): Seen {
  const dice = chance(seedOf(seed, `${mistake?.name ?? 'clean'}/${family}/${severity}`));
  const bench = raised(dice, family, mistake, severity, seed);
  const { ph, doing, plan, body } = bench;
  const before: Before[] = [];
  const said: string[] = [];
  let facts: Facts | null = null;
  let asked: Standard | null = null;
  for (const [i, askedName] of doing.asked.entries()) {
    const way = goesInto(bench, i);
    asked = named(askedName);
    const shelf = ph ? PH_SHELF : EC_SHELF;
    const cup: Cup = { plan, asked, shelf, before, fresh: i === 0, wayC: Math.max(...way) - Math.min(...way) };
    const seen = watchCup(bench, cup, mistake?.caught ?? []);
    said.push(...seen.said);
    facts = seen.facts ?? facts;
    if (seen.stopped) break;
    before.push({ standard: asked, signal: seen.settling.level, temperatureC: seen.settling.temperatureC! });
  }
  if (!facts || !asked) throw new Error('nothing was ever read');
  // The effect of the mistake: what it reads against what it would have read, by the hidden sensor itself.
  const model = modelOf(familyOf(family), plan.settings);
  const should = expectedIn(model, { standard: asked, temperatureC: body.shown().temperatureC });
  const right = signalOf(model, should, { temperatureC: facts.temperatureC }, bench.coefficients);
  const seen = {
    said: [...new Set(said)],
    effect: Math.abs(facts.signal - right) / facts.step / facts.sd,
    offSd: facts.sd,
    toCome: facts.toCome,
    warmed: facts.warmed ?? 0,
    amplitude: facts.swing?.amplitude ?? 0,
    noise: facts.noise,
    apart: Math.abs(facts.temperatureC - WATER_C),
  };
  return mistake?.size ? { ...seen, effect: mistake.size(seen, severity) } : seen;
}
