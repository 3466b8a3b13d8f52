import { useEffect, useMemo, useRef, useState } from 'react';
import { millivolts, type Coefficients, type Sample } from '@frustum/core';
import type { ChannelState, LiveSample } from '@frustum/contract';
import { live, useLiveChannel } from '../../app/live.ts';

export interface LiveTrace {
  readonly samples: readonly Sample[];
  readonly state: ChannelState;
  readonly message: string;
}

/** Samples kept on the screen: as many as the server keeps. */
const MOST = 7200;
const NONE: readonly LiveSample[] = [];

/** A channel that shows pH is turned back into mV by what it believes while it shows it. */
export function inMillivolts(samples: readonly LiveSample[], inForce: Coefficients): readonly Sample[] {
  if (samples[0]?.unit !== 'pH') return samples;
  return samples.map(({ t, signal, temperatureC }) => ({
    t,
    signal: millivolts(signal, temperatureC, inForce),
    temperatureC,
  }));
}

/** A channel's samples as they arrive; after a gap or a reload the server sends what was missed. */
export function useLiveTrace(channelId: string | null, inForce: Coefficients): LiveTrace {
  const [heard, setHeard] = useState(NONE);
  const kept = useRef<LiveSample[]>([]);
  useEffect(() => {
    kept.current = [];
    setHeard(NONE);
    if (!channelId) return;
    // A gap is filled by hundreds of samples at once: one picture a frame is enough.
    let frame = 0;
    const paint = () => {
      frame = 0;
      setHeard([...kept.current]);
    };
    const stop = live.watch(channelId, (sample) => {
      const list = kept.current;
      if (list.length && sample.t <= list[list.length - 1]!.t) return;
      list.push(sample);
      if (list.length > MOST) list.splice(0, list.length - MOST);
      frame ||= requestAnimationFrame(paint);
    });
    return () => {
      stop();
      if (frame) cancelAnimationFrame(frame);
    };
  }, [channelId]);
  const samples = useMemo(() => inMillivolts(heard, inForce), [heard, inForce]);
  const { state, message } = useLiveChannel(channelId ?? '');
  return { samples, state, message };
}
