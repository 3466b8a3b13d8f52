import { Refusal } from '@frustum/core';
import type { Hands, HandsView } from '@frustum/contract';
import type { Context } from '../context.ts';

/** Where the stand-in of a channel listens for hands. @throws Refusal `no-stand-in`, `channel-unknown` */
async function urlOf({ config, store }: Context, channelId: string): Promise<URL> {
  if (!config.handsUrl)
    throw new Refusal('no-stand-in', 'There is no stand-in here: move the real probe. (npm run demo has one.)');
  const channel = (await store.readFittedLoops()).find((f) => f.channel.id === channelId)?.channel;
  if (channel?.config.kind !== 'modbus')
    throw new Refusal('channel-unknown', 'No stand-in hangs on this channel.', { channelId });
  return new URL(`/probes/${channel.config.baseAddress}`, config.handsUrl);
}

async function ask(url: URL, init?: RequestInit): Promise<HandsView> {
  try {
    const response = await fetch(url, { ...init, signal: AbortSignal.timeout(3000) });
    if (response.ok) return (await response.json()) as HandsView;
    throw new Error(`${response.status} ${await response.text()}`);
  } catch (error) {
    throw new Refusal(
      'hands-unreachable',
      `The stand-in’s hands do not answer (${(error as Error).message}). Restart npm run demo.`,
    );
  }
}

export async function readHands(context: Context, channelId: string): Promise<HandsView> {
  return ask(await urlOf(context, channelId));
}

export async function moveHands(context: Context, channelId: string, hands: Hands): Promise<HandsView> {
  const headers = { 'content-type': 'application/json' };
  return ask(await urlOf(context, channelId), { method: 'POST', headers, body: JSON.stringify(hands) });
}
