import { useEffect, useMemo, useRef, useState } from 'react';
import type { Coefficients, LiveTraceSample, TraceMoment } from '@frustum/core';
import type { ChannelState, LiveSample, RunView } from '@frustum/contract';
import { live, useLiveState } from '../../app/live.ts';
import { serverClock } from '../../app/server-clock.ts';
import type { InFamily } from '../../format/in-family.ts';

export interface LiveTrace {
  /** of one epoch, oldest first */
  readonly samples: readonly LiveTraceSample[];
  /** '' before there is one */
  readonly epoch: string;
  /** `stale` also when the newest sample is older than a live one may be */
  readonly state: ChannelState;
  readonly message: string;
}

/** Samples kept on the screen: as many as the server keeps. */
const MOST = 7200;
const REPAINT_MS = 400;
const NONE: readonly LiveSample[] = [];

/**
 * Readings as the sensor's signal: a channel that shows values is turned back by what it believes while it shows them.
 * Readings that no sensor of this family gives are left out.
 */
export function asSignals(
  samples: readonly LiveSample[],
  of: InFamily,
  inForce: Coefficients,
  known: Turned = new WeakMap(),
): readonly LiveTraceSample[] {
  if (samples[0]?.unit === of.signalUnit) return samples;
  return samples.flatMap((sample) => {
    let turned = known.get(sample);
    if (turned === undefined) {
      const { t, atMs, signal: reading, unit, temperatureC } = sample;
      const signal = of.signalOf(reading, unit, temperatureC, inForce);
      turned = signal === null ? null : { t, atMs, signal, temperatureC };
      known.set(sample, turned);
    }
    return turned ?? [];
  });
}

/** Readings that were turned back already: a salinity costs an iteration, and a trace is painted again and again. */
type Turned = WeakMap<LiveSample, LiveTraceSample | null>;

/**
 * A channel's samples as they arrive; after a gap or a reload the server sends what was missed. A clock that began anew
 * begins another trace: nothing of the one before is left.
 */
export function useLiveTrace(view: RunView | null, of: InFamily, inForce: Coefficients): LiveTrace {
  const channelId = view?.channelId ?? null;
  const staleMs = 1000 * (view?.staleSeconds ?? Infinity);
  const [heard, setHeard] = useState(NONE);
  const kept = useRef<LiveSample[]>([]);
  useEffect(() => {
    kept.current = [];
    setHeard(NONE);
    if (!channelId) return;
    // A gap is filled by hundreds of samples at once, and some channels give ten a second: eyes need fewer pictures.
    let waiting: ReturnType<typeof setTimeout> | undefined;
    let painted = 0;
    const paint = () => {
      waiting = undefined;
      painted = performance.now();
      setHeard([...kept.current]);
    };
    const stop = live.watch(channelId, (sample) => {
      const list = kept.current;
      const last = list.at(-1);
      const anew = last !== undefined && last.epoch !== sample.epoch;
      if (anew) list.length = 0;
      else if (last && sample.t <= last.t) return;
      list.push(sample);
      if (list.length > MOST) list.splice(0, list.length - MOST);
      if (anew) {
        // Not one moment longer on screen: it could be captured.
        clearTimeout(waiting);
        paint();
      } else waiting ??= setTimeout(paint, Math.max(0, painted + REPAINT_MS - performance.now()));
    });
    return () => {
      stop();
      clearTimeout(waiting);
    };
  }, [channelId]);
  // What was turned back under other settings or coefficients counts no longer: these two begin a new memory.
  const turned = useMemo((): Turned => (void of, void inForce, new WeakMap()), [of, inForce]);
  const samples = useMemo(() => asSignals(heard, of, inForce, turned), [heard, of, inForce, turned]);
  const newest = heard.at(-1);
  const late = useLate(newest?.atMs ?? null, staleMs);
  const said = useLiveState(channelId ?? '');
  const state = late && said.state === 'live' ? 'stale' : said.state;
  const message =
    state === said.state ? said.message : `No reading for more than ${staleMs / 1000} s. Check plug and address.`;
  const epoch = newest?.epoch ?? '';
  return useMemo(() => ({ samples, epoch, state, message }), [samples, epoch, state, message]);
}

/** Whether a reading is older than a live one may be; turns true by itself. */
function useLate(atMs: number | null, staleMs: number): boolean {
  const [lateAt, setLateAt] = useState<number | null>(null);
  useEffect(() => {
    if (atMs === null || !Number.isFinite(staleMs)) return;
    const timer = setTimeout(() => setLateAt(atMs), Math.max(0, atMs + staleMs - serverClock.now()));
    return () => clearTimeout(timer);
  }, [atMs, staleMs]);
  return atMs !== null && lateAt === atMs;
}

const NOWHERE: TraceMoment = { traceSeconds: null, traceEpoch: null };

/** This moment on the channel's own clock; none where nothing is live: when it happened is then known by the clock alone. */
export function momentOn(trace: LiveTrace | null): TraceMoment {
  const last = trace?.samples.at(-1);
  return trace && last && trace.state === 'live' ? { traceSeconds: last.t, traceEpoch: trace.epoch } : NOWHERE;
}
