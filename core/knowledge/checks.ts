import type { PastRun } from '../drift/past.ts';
import { familyOf } from '../families/registry.ts';
import type { PeerComparison, Checks, Figure } from '../health/evidence.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import type { Ended, Fitted } from './fitted.ts';
import { stepAt } from './history.ts';
import { signalOfReading } from '../sensor/channel-reading.ts';
import type { Coefficients } from '../sensor/coefficients.ts';
import { modelOf } from '../sensor/sensor.ts';
import { unlessRefused } from '../sensor/sources.ts';
import { median } from '../statistics/robust.ts';

/** A minute of a channel's readings, as it is kept. */
export interface Minute {
  /** ISO 8601 */
  readonly minute: string;
  readonly mean: number;
  readonly temperatureC: number;
  readonly onBench: boolean;
}

/** A sample that has just come. */
export interface Live {
  readonly signal: number;
  readonly temperatureC: number;
  readonly impedance?: { readonly membraneMohm: number; readonly referenceKohm: number } | null;
}

const HOUR_MS = 3_600_000;
/** What it reads now, and what it usually reads: the same hours of the days before. */
export const NOW_MS = HOUR_MS / 4;
/** After a run it stands in its water like this before its readings count. Common practice, no source. */
const SETTLES_MS = HOUR_MS / 12;
export const USUAL_DAYS = 7;
export const LIKE_HOURS = 3;
const MIN_NOW = 3;
/** So many samples that have just come say it without waiting for minutes. */
const MIN_LIVE = 10;
export const MAX_LIVE = 60;
const MIN_USUAL = 12;
/** Spread of a normal distribution over its median absolute deviation. */
const MAD = 1.4826;
/** Glass doubles its resistance for every 8 °C of cold. Common practice, no source. */
const DOUBLES_C = 8;

/**
 * By how much the last grab sample says something else than the standards, in steps that count.
 *
 * @param finished of one sensor, oldest first
 * @param past its runs in standards
 * @returns null without a sample, or without standards to hold it against
 */
export function sampleOffOf(finished: readonly Ended[], past: readonly PastRun[], step: number): Figure | null {
  // What was cleaned since is another junction.
  const cleaned = finished.findLastIndex((r) => r.outcome.cleaned);
  const sample = finished.slice(cleaned + 1).findLast((r) => r.outcome.kind === 'grab-sample');
  const known = sample && past.findLast((p) => p.atMs <= Date.parse(sample.endedAt))?.known;
  if (!sample || !known) return null;
  const { coefficients, covariance } = sample.outcome;
  return {
    value: (coefficients.zero - known.zero) / step,
    sd: Math.hypot(Math.sqrt(covariance[0][0]), known.zeroSd) / step,
  };
}

/** What a sensor gave in a bottle that was new in its last run, against what it gave in that standard the time before. */
interface InBottle {
  readonly lotId: string;
  readonly moved: Figure;
}

/** The bottles that came new with a sensor's last run, and how far what it gave in them has moved, in steps. */
function newBottlesOf(finished: readonly Ended[], step: number): InBottle[] {
  const [before, last] = finished.filter((r) => r.outcome.bottles?.length).slice(-2);
  return (last?.outcome.bottles ?? []).flatMap(({ lotId, standard, signal, sd }) => {
    const then = before?.outcome.bottles?.find((b) => b.standard === standard);
    if (!then || then.lotId === lotId) return [];
    return [{ lotId, moved: { value: (signal - then.signal) / step, sd: Math.hypot(sd, then.sd) / step } }];
  });
}

/**
 * Did what others gave in the same new bottle move as well? Of the bottles of the last run the one in which this sensor moved
 * most is asked about.
 */
export function fellowsOf(
  mine: readonly Ended[],
  others: readonly { readonly finished: readonly Ended[]; readonly step: number }[],
  step: number,
): PeerComparison | undefined {
  const [most] = newBottlesOf(mine, step).sort((a, b) => Math.abs(b.moved.value) - Math.abs(a.moved.value));
  if (!most) return undefined;
  const fellows = others.flatMap((o) => newBottlesOf(o.finished, o.step).filter((b) => b.lotId === most.lotId));
  return { mine: most.moved, others: fellows.map((f) => f.moved) };
}

/**
 * How far a channel's reading has left what it usually is at this hour, in steps.
 *
 * @param minutes of the last days, oldest first
 * @param live samples of the last moments, while it hangs in its water
 * @param backMs since when it hangs in its water
 * @param inForceAt what the channel reckoned with at a moment: one that shows values was turned back by it
 * @returns null with too few readings
 */
export function movedNow(
  { loop, channel }: Fitted,
  minutes: readonly Minute[],
  live: readonly Live[],
  backMs: number,
  inForceAt: (ms: number) => Coefficients,
  nowMs: number,
  step = stepAt({ loop }),
): Figure | null {
  const model = modelOf(familyOf(loop.family), loop.settings);
  const unit = channel.reads.unit;
  const signalOf = (reading: number, temperatureC: number, ms = nowMs) =>
    unlessRefused(() => signalOfReading(model, reading, unit, { temperatureC }, inForceAt(ms)));
  const signals = minutes.flatMap((m) => {
    const ms = Date.parse(m.minute);
    const signal = m.onBench ? null : signalOf(m.mean, m.temperatureC, ms);
    return signal === null ? [] : [{ ms, signal }];
  });
  const just = live.flatMap((l) => signalOf(l.signal, l.temperatureC) ?? []);
  const now =
    just.length >= MIN_LIVE
      ? just
      : signals.filter((s) => s.ms > Math.max(backMs, nowMs - NOW_MS)).map((s) => s.signal);
  const hour = (ms: number) => (ms % MS_PER_DAY) / HOUR_MS;
  const apart = (ms: number) => Math.abs(((hour(ms) - hour(nowMs) + 36) % 24) - 12);
  const usual = signals.filter((s) => s.ms < nowMs - MS_PER_DAY / 2 && apart(s.ms) < LIKE_HOURS).map((s) => s.signal);
  if (now.length < MIN_NOW || usual.length < MIN_USUAL) return null;
  const middle = median(usual);
  const spread = MAD * median(usual.map((s) => Math.abs(s - middle)));
  return { value: (median(now) - middle) / step, sd: Math.max(1, spread / step) };
}

/**
 * What the transmitter measures in the water, brought to 25 °C: the middle of the last moments since it is back there. Nothing
 * where it measures none; air and cups at the bench are not asked.
 */
export function impedanceOf(live: readonly Live[]): Checks {
  const seen = live.flatMap(({ impedance, temperatureC }) => (impedance ? [{ ...impedance, temperatureC }] : []));
  if (!seen.length) return {};
  return {
    membraneMohm: median(seen.map((s) => s.membraneMohm * 2 ** ((s.temperatureC - 25) / DOUBLES_C))),
    referenceKohm: median(seen.map((s) => s.referenceKohm)),
  };
}

/**
 * Since when a sensor hangs in its water again, epoch ms.
 *
 * @param endedAt when its last run at the bench ended; "now" while it is there; absent for one that was not there lately
 * @returns never (Infinity) for one that is at the bench
 */
export function backInWaterAt(endedAt: string | undefined): number {
  if (!endedAt) return -Infinity;
  return endedAt === 'now' ? Infinity : Date.parse(endedAt) + SETTLES_MS;
}
