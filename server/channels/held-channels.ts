import type { ChannelConfig } from '@frustum/contract';

/** Channels that wait for somebody's word before they are read: one of them may have ended the server twice. */
export class HeldChannels {
  private readonly waiting = new Map<string, { readonly config: ChannelConfig; readonly fittedOn: string | null }>();

  /** @returns what is said of it meanwhile */
  hold(channelId: string, config: ChannelConfig, fittedOn: string | null): string {
    this.waiting.set(channelId, { config, fittedOn });
    return 'Not read since the start, because the two starts before died soon. Read it again when you are ready.';
  }

  get ids(): readonly string[] {
    return [...this.waiting.keys()];
  }

  /** One that waits no longer; null when it did not. */
  take(channelId: string): { readonly config: ChannelConfig; readonly fittedOn: string | null } | null {
    const held = this.waiting.get(channelId) ?? null;
    this.waiting.delete(channelId);
    return held;
  }
}
