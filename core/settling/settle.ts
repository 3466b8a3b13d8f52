import { expectedAt, finalValue, fitApproach, originOf, type Approach } from './approach.ts';
import { disturbanceIn, type Checked } from './disturbance.ts';
import {
  exactly,
  GLASS_STEP,
  TEMPERATURE_LIMIT_C_PER_MIN,
  temperatureSlope,
  timeToReady,
  type ToGo,
} from './time-to-ready.ts';
import { binned, type Sample } from './trace.ts';
import { ANY_TAIL, type Tail } from './ways.ts';

/** Which rule says that a reading may be captured. */
export type School =
  | { readonly kind: 'statistical'; readonly limit: number; readonly dwellSeconds: number }
  | { readonly kind: 'fixed-time'; readonly seconds: number }
  /** no digit of the display moves for so long, counted by the bench */
  | { readonly kind: 'hand-count'; readonly seconds: number };

/** Default of the statistical school: 0.01 pH still to come at most, never before 20 s. */
export const STATISTICAL: School = { kind: 'statistical', limit: 0.59, dwellSeconds: 20 };

export type SettlingState = 'waiting' | 'settling' | 'temperature-moving' | 'ready';

export interface Band {
  /** seconds of the trace */
  readonly t: number;
  readonly mean: number;
  readonly sd: number;
}

/** What the bench says about a trace. Before there is a sample its temperature is not known, which is not 0. */
export type Settling = Figures &
  (
    | { readonly state: 'waiting'; readonly temperatureC: number | null }
    | { readonly state: Exclude<SettlingState, 'waiting'>; readonly temperatureC: number }
  );

interface Figures {
  /** samples before this index belong to before the last disturbance */
  readonly windowFrom: number;
  /** the window began with a disturbance that was noticed, not at the trace's start */
  readonly disturbed: boolean;
  readonly seconds: number;
  /** value to capture now, in the unit of the signal, and its standard uncertainty (what is still to come included) */
  readonly level: number;
  readonly levelUncertainty: number;
  readonly temperaturePerMinute: number;
  /** final value that the approach heads for */
  readonly final: number;
  readonly finalSd: number;
  /** how far the level may be from where the signal will stand: near its end 2.6 standard deviations of it */
  readonly bound: number;
  readonly limit: number;
  /** forecast of the time until ready, s: middle and 90 % interval; null when nothing can be said */
  readonly toGo: ToGo | null;
  /** 90 % response time, s; null when the trace does not hold the step */
  readonly t90: number | null;
  readonly ahead: readonly Band[];
  readonly noise: number;
  /** hand it back with the longer trace: only new samples cost anything then */
  readonly checked: Checked;
}

/**
 * Standard deviations of the final value that must lie within the limit. Chosen on simulated captures (seeds 1000 to 1799
 * of `sim/testing/captures.ts`), so that the first of many looks below the limit is rarely a lucky one.
 */
const SURE = 3;
/** Share of the limit that may still be to come, and is then taken into the reading. */
const NEAR = 0.6;

/** How a signal answers, as far as it is known before it is read. */
export interface Response {
  /** change of the signal that counts in this cup, in its unit: the limit of the statistical school */
  readonly step: number;
  /** how the signal of a sensor at rest in this cup moves with temperature, per °C: taken out before anything is judged */
  readonly perC: number;
  readonly tail: Tail;
}

/** A glass electrode of which nothing is known, in a liquid that does not move with temperature. */
export const ANY_GLASS: Response = { step: 0.59, perC: 0, tail: ANY_TAIL };

/**
 * Is it steady, and if not, when will it be?
 *
 * A pure function of the whole trace: it may be called after every sample, live or on a recording. Judged is where the
 * signal will stand at the temperature that it has now; what the liquid's own temperature moves is no approach.
 *
 * @param samples trace since the probe came into this cup, rising time
 * @param resolution step of the signal; what it rounds away cannot be asked for: the limit is never less
 * @param disturbedAt trace time of the operator's last "disturbed", if any: nothing before it is used
 */
export function settle(
  samples: readonly Sample[],
  school: School,
  resolution: number,
  disturbedAt = Number.NEGATIVE_INFINITY,
  before?: Checked,
  { perC, tail }: Pick<Response, 'perC' | 'tail'> = ANY_GLASS,
): Settling {
  const marked = samples.findIndex((s) => s.t >= disturbedAt);
  const fromMark = marked < 0 ? samples.length : marked;
  const checked = disturbanceIn(samples, fromMark, resolution, before);
  const noticed = checked.found;
  const windowFrom = noticed ?? fromMark;
  const window = samples.slice(windowFrom);
  const limit = school.kind === 'statistical' ? Math.max(school.limit, resolution) : 0;
  const last = samples.at(-1);
  const seconds = window.length ? window.at(-1)!.t - window[0]!.t : 0;
  const temperaturePerMinute = temperatureSlope(window);
  const here = last ? atTemperature(window, perC, last.temperatureC) : window;
  const approach = fitApproach(here, resolution, { tail, origin: originOf(samples) });
  if (!approach || !last) {
    const disturbed = noticed !== null;
    const temperatureC = last?.temperatureC ?? null;
    return { ...NOTHING_YET, windowFrom, disturbed, seconds, limit, temperatureC, temperaturePerMinute, checked };
  }
  const end = finalValue(approach);
  const final = { ...end, sd: end.sd * (tail.caution ?? 1) };
  const sure = SURE * final.sd;
  // Near its end the reading is taken where it will stand; schools that go by the clock take what is there.
  const near = school.kind === 'statistical' && Math.abs(approach.stillToCome) < NEAR * limit;
  const still = school.kind === 'hand-count' ? stillFor(window) : 0;
  const toGo =
    school.kind === 'statistical'
      ? timeToReady(final.sd, window, limit, Math.max(0, school.dwellSeconds - seconds), tail)
      : exactly(school.seconds - (school.kind === 'hand-count' ? still : seconds));
  const temperatureStill = Math.abs(temperaturePerMinute) < TEMPERATURE_LIMIT_C_PER_MIN;
  const steady =
    school.kind === 'statistical'
      ? near && sure < limit && seconds >= school.dwellSeconds
      : (school.kind === 'hand-count' ? still : seconds) >= school.seconds;
  return {
    state: !steady ? 'settling' : temperatureStill ? 'ready' : 'temperature-moving',
    windowFrom,
    disturbed: noticed !== null,
    seconds,
    level: near ? final.mean : approach.level,
    levelUncertainty: near ? final.sd : Math.hypot(approach.levelSd, approach.stillToCome, approach.toComeSd),
    temperatureC: last.temperatureC,
    temperaturePerMinute,
    final: final.mean,
    finalSd: final.sd,
    bound: near ? sure : Math.abs(approach.stillToCome) + sure,
    limit,
    toGo,
    t90: t90Of(window, final.mean, approach.noise),
    ahead: bandsAhead(approach, toGo?.high ?? 30),
    noise: approach.noise,
    checked,
  };
}

/** The trace as it would be, had the liquid always had this temperature. */
const atTemperature = (window: readonly Sample[], perC: number, temperatureC: number) =>
  perC === 0 ? window : window.map((s) => ({ ...s, signal: s.signal - perC * (s.temperatureC - temperatureC) }));

const NOTHING_YET: Settling & { readonly state: 'waiting' } = {
  state: 'waiting',
  windowFrom: 0,
  disturbed: false,
  seconds: 0,
  level: 0,
  levelUncertainty: Infinity,
  temperatureC: null,
  temperaturePerMinute: 0,
  final: 0,
  finalSd: Infinity,
  bound: Infinity,
  limit: 0,
  toGo: null,
  t90: null,
  ahead: [],
  noise: 0,
  checked: { from: 0, end: 0, found: null },
};

/** How long no digit has moved, s: from the end backwards, the last stretch within one step of the display. */
function stillFor(window: readonly Sample[]): number {
  let low = Infinity;
  let high = -Infinity;
  const last = window.at(-1)?.t ?? 0;
  for (let i = window.length - 1; i >= 0; i--) {
    const { signal, t } = window[i]!;
    low = Math.min(low, signal);
    high = Math.max(high, signal);
    if (high - low > GLASS_STEP) return last - t;
  }
  return window.length ? last - window[0]!.t : 0;
}

/** A third of a pH unit. */
const MIN_STEP_MV = 20;

/** Time from the window's start until nine tenths of the way were gone; null when the trace holds no step to speak of. */
function t90Of(window: readonly Sample[], final: number, noise: number): number | null {
  const bins = binned(window, 240);
  const first = bins[0]!;
  const step = Math.abs(first.value - final);
  // A swirl in one cup is no step: only a change of liquid tells how fast the glass answers.
  if (step < 20 * noise || step < MIN_STEP_MV) return null;
  // From the end backwards: the last time at which a tenth of the way was still to go.
  const last = bins.findLastIndex((b) => Math.abs(b.value - final) >= 0.1 * step);
  const before = bins[last]!;
  const after = bins[last + 1];
  if (!after) return null;
  const [far, near] = [Math.abs(before.value - final), Math.abs(after.value - final)];
  const share = far > near ? (far - 0.1 * step) / (far - near) : 0;
  return before.t + Math.min(1, share) * (after.t - before.t) - window[0]!.t;
}

function bandsAhead(approach: Approach, horizon: number): Band[] {
  const until = Math.min(120, Math.max(20, horizon));
  return Array.from({ length: 13 }, (_, i) => {
    const ahead = (until * i) / 12;
    const { mean, sd } = expectedAt(approach, ahead);
    return { t: approach.now + ahead, mean, sd };
  });
}

/**
 * `settle` for a signal of any size: judged in steps that count for it (see `responseIn`), given back in its own unit.
 *
 * @param school its own limit is not used: the step is the limit
 */
export function settleIn(
  response: Response,
  samples: readonly Sample[],
  school: School,
  resolution: number,
  disturbedAt = Number.NEGATIVE_INFINITY,
  before?: Checked,
): Settling {
  const glass: School = school.kind === 'statistical' ? { ...school, limit: GLASS_STEP } : school;
  const up = GLASS_STEP / response.step;
  const inSteps = up === 1 ? samples : samples.map((s) => ({ ...s, signal: s.signal * up }));
  const made = settle(inSteps, glass, resolution * up, disturbedAt, before, {
    perC: response.perC * up,
    tail: response.tail,
  });
  if (up === 1) return made;
  const down = (value: number) => value / up;
  return {
    ...made,
    level: down(made.level),
    levelUncertainty: down(made.levelUncertainty),
    final: down(made.final),
    finalSd: down(made.finalSd),
    bound: down(made.bound),
    limit: down(made.limit),
    noise: down(made.noise),
    ahead: made.ahead.map((b) => ({ ...b, mean: down(b.mean), sd: down(b.sd) })),
  };
}
