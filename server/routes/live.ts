import type { RequestHandler } from 'express';
import { Refusal } from '@frustum/core';
import { LiveReader } from '../channels/live-reader.ts';
import type { Context } from '../context.ts';

const HEARTBEAT_MS = 10_000;
const LATEST_MS = 1000;
/** A browser that has not taken its bytes for so long is cut off; it comes back by itself and resumes by id. */
const MAX_WAITING_MS = 60_000;
/** Benches that one browser may watch at once. */
const MAX_WATCHED = 16;
const UUID = /^[0-9a-f-]{36}$/;

/** @throws Refusal `not-valid` */
function watchedOf(query: unknown): string[] {
  const ids = typeof query === 'string' && query ? query.split(',') : [];
  if (ids.length <= MAX_WATCHED && ids.every((id) => UUID.test(id))) return [...new Set(ids)];
  throw new Refusal('not-valid', `Watch at most ${MAX_WATCHED} channels, by their ids.`);
}

/**
 * One server-sent stream for a browser: states of all channels, every sample of those it watches (`?watch=id,id`), the
 * newest of all others once a second, and "changed" when records change. Resumes after a gap by the ids that it gives.
 */
export function live(context: Context): RequestHandler {
  /** names this life of the house in the ids of the stream */
  const life = Date.now().toString(36);
  return (request, response) => {
    const { hub, poller } = context;
    const watched = watchedOf(request.query['watch']);
    const [epoch, count] = (request.get('last-event-id') ?? '').split('-');
    // Ids of an earlier life of the server mean nothing now: begin with all that is kept.
    const lastId = epoch === life ? Number(count) || 0 : 0;
    response.set({
      'content-type': 'text/event-stream',
      'cache-control': 'no-store',
      connection: 'keep-alive',
      'x-accel-buffering': 'no',
    });
    response.flushHeaders();
    let late: NodeJS.Timeout | null = null;
    const write = (text: string) => {
      const more = response.write(text);
      if (!more) late ??= setTimeout(() => response.destroy(), MAX_WAITING_MS);
      return more;
    };
    const reader = new LiveReader(hub, watched, lastId, write, (id) => `${life}-${id}`);
    response.on('drain', () => {
      if (late) clearTimeout(late);
      late = null;
      reader.drained();
    });
    const timers = [setInterval(() => reader.note('beat'), HEARTBEAT_MS), setInterval(() => reader.tick(), LATEST_MS)];
    const stops = [
      hub.watch(watched),
      hub.listen((message) => reader.heard(message)),
      context.onChange(() => reader.note('changed')),
    ];
    reader.note('beat');
    reader.pump();
    reader.tick();
    for (const channelId of watched) poller.hurry(channelId);
    const end = () => response.end();
    context.over.addEventListener('abort', end);
    request.on('close', () => {
      context.over.removeEventListener('abort', end);
      if (late) clearTimeout(late);
      for (const timer of timers) clearInterval(timer);
      for (const stop of stops) stop();
    });
  };
}
