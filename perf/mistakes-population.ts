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
  type Cup,
  type Facts,
  type Sample,
  type Settings,
  type Settling,
  type Standard,
} from '@frustum/core';
import { BARE_BODY, Body, chance, seedOf, type BodyTruth } from '@frustum/sim';
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

/** One run with a mistake in it (or without), watched as the bench watches. */
export function provoked(
  mistake: Provoked | null,
  family: 'ph' | 'conductivity',
  severity: number,
  seed: number,
): Seen {
  const name = mistake?.name ?? 'clean';
  const dice = chance(seedOf(seed, `${name}/${family}/${severity}`));
  const ph = family === 'ph';
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
  const truth = mistake?.truth?.(sound, severity, dice) ?? sound;
  const doing: Doing = {
    asked: ph ? PH : EC,
    into: ph ? PH : EC,
    school: STATISTICAL,
    turned: false,
    times: () => 1,
    blot: true,
    roomApart: (dice.uniform() < 0.5 ? -1 : 1) * (0.8 + 2 * dice.uniform()),
    ...mistake?.does?.(severity, dice),
  };
  const zeroSd = ph ? 1 + 2 * dice.uniform() : 0.1;
  const sensitivitySd = ph ? 0.004 + 0.008 * dice.uniform() : 0.006 + 0.006 * dice.uniform();
  const settings: Settings = ph ? {} : { cellConstant: 1, alpha: 2 };
  const expected = {
    zero: (ph ? it.zeroMv : 0) + zeroSd * dice.normal(),
    zeroSd,
    sensitivity: (ph ? it.slope : cell.gain) + sensitivitySd * dice.normal(),
    sensitivitySd,
  };
  const plan = { family, settings, expected, workingC: WATER_C };
  const model = modelOf(familyOf(family), settings);
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
  const before: Before[] = [];
  const said: string[] = [];
  let stopped = false;
  let facts: Facts | null = null;
  let last: { settling: Settling; cup: Cup; samples: Sample[] } | null = null;
  for (const [i, askedName] of doing.asked.entries()) {
    const into = doing.into[i] ?? doing.into.at(-1)!;
    const asked = named(askedName);
    const place = into === 'air' ? 'air' : `cup-${into}`;
    const way = [read().temperatureC];
    if (!(i > 0 && doing.into[i - 1] === into)) {
      body.moveTo('rinse');
      runs(body, 6);
      way.push(read().temperatureC);
      if (doing.blot) body.blot();
      body.moveTo(place);
      if (into !== 'air') body.tap();
      else if (doing.blot) body.blot();
    }
    const cup: Cup = {
      plan,
      asked,
      shelf: ph ? PH_SHELF : EC_SHELF,
      before,
      fresh: i === 0,
      wayC: Math.max(...way) - Math.min(...way),
    };
    const response = responseIn(plan, asked);
    const samples: Sample[] = [];
    const answered: string[] = [];
    let checked: Settling['checked'] | undefined;
    for (let t = 0; t <= LONGEST_S; t += 0.5) {
      samples.push({ t, ...read() });
      runs(body, 0.5);
      if (t === 0 || t % LOOK_EVERY_S !== 0) continue;
      const settling = settleIn(response, samples, doing.school, 0.1, undefined, checked);
      checked = settling.checked;
      last = { settling, cup, samples };
      facts = factsOf(cup, settling, samples) ?? facts;
      const warning = watched(cup, settling, samples, answered)?.warning;
      // What is said of two counts for both: the operator reads them together.
      const named = warning ? [warning.id, ...(warning.or ? [warning.or.id] : [])] : [];
      said.push(...named.filter((id) => !said.includes(id)));
      // Who looks and finds it otherwise says so, and goes on.
      if (warning && named.some((id) => mistake?.caught.includes(id))) stopped = warning.stops;
      else if (warning) answered.push(warning.id);
      if (settling.state === 'ready' || stopped) break;
    }
    if (stopped) break;
    before.push({ standard: asked, signal: last!.settling.level, temperatureC: last!.settling.temperatureC! });
  }
  if (!facts) throw new Error('nothing was ever read');
  // The effect of the mistake: what it reads against what it would have read, by the hidden sensor itself.
  const right = signalOf(
    model,
    expectedIn(model, { standard: last!.cup.asked, temperatureC: body.shown().temperatureC }),
    { temperatureC: facts.temperatureC },
    {
      zero: ph ? it.zeroMv : 0,
      sensitivity: ph ? it.slope : cell.gain,
    },
  );
  const seen = {
    said,
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

const PH_SHELF = CATALOGUE.filter((s) => s.family === 'ph' && s.id.startsWith('technical'));
const EC_SHELF = CATALOGUE.filter((s) => s.family === 'conductivity');
