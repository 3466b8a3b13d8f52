import { Refusal, type ChannelId } from '@frustum/core';
import type { Hands, HandsView } from '@frustum/contract';
import type { Context } from '../../context.ts';

/** A stand-in that has just begun ages its probes up to today first: on a busy machine that takes a while. */
const TIMEOUT_MS = 20_000;
const asJson = (body: unknown): RequestInit => ({
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(body),
});

/** Asks the stand-in. @throws Refusal `hands-unreachable`, `hands-refused` with its own words */
async function ask<T>(base: string, path: string, init?: RequestInit): Promise<T> {
  const response = await fetch(new URL(path, base), { ...init, signal: AbortSignal.timeout(TIMEOUT_MS) }).catch(
    (error: unknown) => {
      const why = (error as Error).message;
      throw new Refusal(
        'hands-unreachable',
        `The stand-in’s hands do not answer (${why}). Press again, or restart npm run demo.`,
      );
    },
  );
  const body = (await response.json().catch(() => null)) as (T & { error?: string }) | null;
  if (response.ok && body !== null) return body;
  if (response.status === 404) throw new Refusal('no-stand-in', 'No stand-in hangs on this channel: move the probe.');
  throw new Refusal('hands-refused', `The stand-in refused: ${body?.error ?? response.status}. Try something else.`);
}

/** The URL path that moves the probe of a channel's stand-in. @throws Refusal `no-stand-in`, `channel-unknown` */
async function pathOf({ config, store }: Context, channelId: ChannelId): Promise<readonly [string, string]> {
  if (!config.handsUrl)
    throw new Refusal('no-stand-in', 'There is no stand-in here: move the real probe. (npm run demo has one.)');
  const channel = (await store.readFittedLoops()).find((f) => f.channel.id === channelId)?.channel;
  if (!channel) throw new Refusal('channel-unknown', 'There is no such channel. Go back to Margins.', { channelId });
  const { key } = await ask<{ key: string }>(config.handsUrl, '/find', asJson(channel.config));
  return [config.handsUrl, `/probes/${encodeURIComponent(key)}`];
}

export async function readHands(context: Context, channelId: ChannelId): Promise<HandsView> {
  return ask(...(await pathOf(context, channelId)));
}

export async function moveHands(context: Context, channelId: ChannelId, hands: Hands): Promise<HandsView> {
  return ask(...(await pathOf(context, channelId)), asJson(hands));
}
