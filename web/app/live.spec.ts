import { describe, expect, it, vi } from 'vitest';
import type { LiveSample } from '@frustum/contract';
import { LiveConnection, type Stream } from './live.ts';

/** A stream that a test speaks on. */
class Spoken implements Stream {
  readonly url: string;
  closed = false;
  readyState = 1;
  private readonly listeners = new Map<string, ((event: MessageEvent<string>) => void)[]>();

  constructor(url: string) {
    this.url = url;
  }
  addEventListener(event: string, listener: (event: MessageEvent<string>) => void): void {
    this.listeners.set(event, [...(this.listeners.get(event) ?? []), listener]);
  }
  close(): void {
    this.closed = true;
  }
  says(event: string, data: unknown = {}): void {
    for (const listener of this.listeners.get(event) ?? [])
      listener({ data: JSON.stringify(data) } as MessageEvent<string>);
  }
}

function connection() {
  const streams: Spoken[] = [];
  const live = new LiveConnection((url) => {
    const stream = new Spoken(url);
    streams.push(stream);
    return stream;
  });
  return { live, streams, last: () => streams.at(-1)! };
}
const sample = (channelId: string, t: number): LiveSample => ({
  channelId,
  t,
  epoch: 'e',
  atMs: 1000 * t,
  signal: t,
  unit: 'mV',
  temperatureC: 25,
});
const turn = () => Promise.resolve();

describe('the one stream of a tab', () => {
  it('opens once for all that ask in one moment, and anew when a bench opens or closes', async () => {
    const { live, streams, last } = connection();
    live.subscribe(() => undefined);
    live.changes(() => undefined);
    await turn();
    expect(streams.map((s) => s.url)).toEqual(['/api/live?watch=']);
    const stopB = live.watch('b', () => undefined);
    live.watch('a', () => undefined);
    await turn();
    expect(streams).toHaveLength(2);
    expect(streams[0]!.closed).toBe(true);
    expect(last().url).toBe('/api/live?watch=a,b');
    stopB();
    await turn();
    expect(last().url).toBe('/api/live?watch=a');
  });

  it('samples go to the bench that watches, the newest of the others beside their state', async () => {
    const { live, last } = connection();
    const heard: number[] = [];
    let told = 0;
    live.subscribe(() => told++);
    live.watch('a', (s) => heard.push(s.t));
    await turn();
    last().says('sample', sample('a', 1));
    last().says('latest', { samples: [sample('b', 7), sample('c', 8)] });
    last().says('state', { channelId: 'b', state: 'stale', message: 'time out' });
    expect(heard).toEqual([1]);
    expect(live.of('b')).toEqual({ state: 'stale', message: 'time out', sample: sample('b', 7) });
    expect(live.of('nobody')).toEqual({ state: 'off', message: '', sample: null });
    expect(told).toBeGreaterThan(3);
  });

  it('without its server nothing is live; back again, nothing is live before the server says so, and stale stays stale', async () => {
    const { live, last } = connection();
    let changes = 0;
    live.changes(() => changes++);
    await turn();
    last().says('open');
    last().says('state', { channelId: 'a', state: 'live', message: '' });
    last().says('state', { channelId: 'b', state: 'stale', message: 'time out' });
    expect(changes).toBe(0);
    last().says('error');
    last().says('error');
    expect(live.of('a')).toMatchObject({ state: 'stale' });
    expect(live.of('a').message).toMatch(/No connection to Frustum’s server/);
    last().says('open');
    // Its newest value may be from another life of server and device.
    expect(live.of('a')).toMatchObject({ state: 'stale', message: expect.stringMatching(/is back/) as string });
    last().says('state', { channelId: 'a', state: 'live', message: '' });
    expect(live.of('a')).toMatchObject({ state: 'live', message: '' });
    expect(live.of('b')).toMatchObject({ state: 'stale', message: 'time out' });
    // Something may have happened meanwhile: what is on screen is asked for again.
    expect(changes).toBe(1);
    last().says('changed', { nowMs: 1 });
    expect(changes).toBe(2);
  });

  it('a stream that has given up, or has been silent for too long, is opened anew', async () => {
    vi.useFakeTimers();
    const { live, streams, last } = connection();
    live.subscribe(() => undefined);
    await turn();
    last().says('state', { channelId: 'a', state: 'live', message: '' });
    // The server came back with an error page: a browser does not try again after that.
    last().readyState = 2;
    last().says('error');
    expect(live.of('a').state).toBe('stale');
    await vi.advanceTimersByTimeAsync(2000);
    expect(streams).toHaveLength(2);
    last().says('open');
    last().says('state', { channelId: 'a', state: 'live', message: '' });
    expect(live.of('a').state).toBe('live');
    // The line is dead and nobody has said so: beats keep it, silence does not.
    for (let i = 0; i < 6; i++) {
      await vi.advanceTimersByTimeAsync(10_000);
      last().says('beat', { nowMs: 1 });
    }
    expect(streams).toHaveLength(2);
    await vi.advanceTimersByTimeAsync(25_000);
    expect(streams).toHaveLength(3);
    expect(live.of('a').state).toBe('stale');
    vi.useRealTimers();
  });

  it('a page that watches again gets the kept samples again: the stream begins anew', async () => {
    const { live, streams } = connection();
    const stop = live.watch('a', () => undefined);
    await turn();
    stop();
    live.watch('a', () => undefined);
    await turn();
    expect(streams.map((s) => s.url)).toEqual(['/api/live?watch=a', '/api/live?watch=a']);
  });
});
