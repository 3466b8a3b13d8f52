import { useEffect, useRef, useState } from 'react';
import type { Sample } from '@frustum/core';
import type { ChannelState, LiveSample, LiveState } from '@frustum/contract';

export interface LiveTrace {
  readonly samples: readonly Sample[];
  readonly state: ChannelState;
  readonly message: string;
}

/** Samples kept on the screen: as many as the server keeps. */
const MOST = 7200;
const OFF: LiveTrace = { samples: [], state: 'off', message: '' };
const AWAY = 'No connection to Frustum’s server. The trace goes on when it is back.';

/** A channel's samples as they arrive; after a gap or a reload the server sends what was missed. */
export function useLiveTrace(channelId: string | null): LiveTrace {
  const [trace, setTrace] = useState<LiveTrace>(OFF);
  const kept = useRef<Sample[]>([]);
  useEffect(() => {
    kept.current = [];
    setTrace(OFF);
    if (!channelId) return;
    const stream = new EventSource(`/api/live?channel=${channelId}`);
    // A gap is filled by hundreds of samples at once: one picture a frame is enough.
    let frame = 0;
    const show = (change: (before: LiveTrace) => LiveTrace) => setTrace(change);
    const paint = () => {
      frame = 0;
      const samples = [...kept.current];
      show((before) => ({ ...before, samples }));
    };
    stream.addEventListener('sample', (event: MessageEvent<string>) => {
      const { t, signal, temperatureC } = JSON.parse(event.data) as LiveSample;
      const list = kept.current;
      if (list.length && t <= list[list.length - 1]!.t) return;
      list.push({ t, signal, temperatureC });
      if (list.length > MOST) list.splice(0, list.length - MOST);
      frame ||= requestAnimationFrame(paint);
    });
    stream.addEventListener('state', (event: MessageEvent<string>) => {
      const { state, message } = JSON.parse(event.data) as LiveState;
      show((before) => ({ ...before, state, message }));
    });
    stream.addEventListener('error', () => show((before) => ({ ...before, state: 'stale', message: AWAY })));
    stream.addEventListener('open', () =>
      show((before) => (before.message === AWAY ? { ...before, state: 'live', message: '' } : before)),
    );
    return () => {
      stream.close();
      if (frame) cancelAnimationFrame(frame);
    };
  }, [channelId]);
  return trace;
}
