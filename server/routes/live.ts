import type { RequestHandler } from 'express';
import type { Numbered } from '../channels/live-hub.ts';
import type { Context } from '../context.ts';

/** Names this life of the server in the ids of the stream. */
const EPOCH = Date.now().toString(36);
const HEARTBEAT_MS = 10_000;
/** A browser that does not take its bytes is cut off; it comes back by itself and resumes by id. */
const MOST_WAITING_BYTES = 1_000_000;

/**
 * One server-sent stream: samples and states of the channel asked for, and "changed" when records change.
 * Resumes after a gap by the ids that it gives.
 */
export function live(context: Context): RequestHandler {
  return (request, response) => {
    const channelId = typeof request.query['channel'] === 'string' ? request.query['channel'] : null;
    const [epoch, count] = (request.get('last-event-id') ?? '').split('-');
    // Ids of an earlier life of the server mean nothing now: begin with all that is kept.
    const lastId = epoch === EPOCH ? Number(count) || 0 : 0;
    response.set({
      'content-type': 'text/event-stream',
      'cache-control': 'no-store',
      connection: 'keep-alive',
      'x-accel-buffering': 'no',
    });
    response.flushHeaders();
    const send = ({ id, message }: Numbered) => {
      if (response.writableLength > MOST_WAITING_BYTES) response.destroy();
      else response.write(`id: ${EPOCH}-${id}\nevent: ${message.event}\ndata: ${JSON.stringify(message.data)}\n\n`);
    };
    const stops = [context.onChange(() => response.write('event: changed\ndata: {}\n\n'))];
    const beat = setInterval(() => response.write('event: beat\ndata: {}\n\n'), HEARTBEAT_MS);
    response.write('event: beat\ndata: {}\n\n');
    if (channelId) {
      for (const numbered of context.hub.since(channelId, lastId)) send(numbered);
      stops.push(context.hub.listen(channelId, send));
      context.poller.hurry(channelId);
    }
    request.on('close', () => {
      clearInterval(beat);
      for (const stop of stops) stop();
    });
  };
}
