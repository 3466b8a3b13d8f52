import { useEffect, useMemo, useRef, useState } from 'react';
import type { Coefficients, Sample } from '@frustum/core';
import type { ChannelState, LiveSample } from '@frustum/contract';
import { live, useLiveState } from '../../app/live.ts';
import type { InFamily } from '../../format/in-family.ts';

export interface LiveTrace {
  readonly samples: readonly Sample[];
  readonly state: ChannelState;
  readonly message: string;
}

/** Samples kept on the screen: as many as the server keeps. */
const MOST = 7200;
const REPAINT_MS = 200;
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
): readonly Sample[] {
  if (samples[0]?.unit === of.signalUnit) return samples;
  return samples.flatMap((sample) => {
    let turned = known.get(sample);
    if (turned === undefined) {
      const { t, signal: reading, unit, temperatureC } = sample;
      const signal = of.signalOf(reading, unit, temperatureC, inForce);
      turned = signal === null ? null : { t, signal, temperatureC };
      known.set(sample, turned);
    }
    return turned ?? [];
  });
}

/** Readings that were turned back already: a salinity costs an iteration, and a trace is painted five times a second. */
type Turned = WeakMap<LiveSample, Sample | null>;

/** A channel's samples as they arrive; after a gap or a reload the server sends what was missed. */
export function useLiveTrace(channelId: string | null, of: InFamily, inForce: Coefficients): LiveTrace {
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
      if (list.length && sample.t <= list[list.length - 1]!.t) return;
      list.push(sample);
      if (list.length > MOST) list.splice(0, list.length - MOST);
      waiting ??= setTimeout(paint, Math.max(0, painted + REPAINT_MS - performance.now()));
    });
    return () => {
      stop();
      clearTimeout(waiting);
    };
  }, [channelId]);
  // What was turned back under other settings or coefficients counts no longer: these two begin a new memory.
  const turned = useMemo((): Turned => (void of, void inForce, new WeakMap()), [of, inForce]);
  const samples = useMemo(() => asSignals(heard, of, inForce, turned), [heard, of, inForce, turned]);
  const { state, message } = useLiveState(channelId ?? '');
  return useMemo(() => ({ samples, state, message }), [samples, state, message]);
}
