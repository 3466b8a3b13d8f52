import { eq } from 'drizzle-orm';
import type { ChannelConfig } from '@frustum/contract';
import { Refusal } from '@frustum/core';
import type { Transaction } from '../database.ts';
import { channels } from '../schema/index.ts';
import { changedFields, note, type SetUpChange } from './set-up.ts';

/**
 * Changes the settings of a channel.
 *
 * @param version that the change was made on
 * @returns the version that it has now
 * @throws Refusal `channel-unknown`; `channel-moved` with the version that is there, when somebody was faster
 */
export async function changeChannel(
  tx: Transaction,
  asked: {
    readonly id: string;
    readonly config: ChannelConfig;
    readonly resolution: number;
    readonly version: number;
    readonly change: SetUpChange;
  },
): Promise<number> {
  const { id, config, resolution, version } = asked;
  const [known] = await tx.select().from(channels).where(eq(channels.id, id)).for('update');
  if (!known) throw new Refusal('channel-unknown', 'There is no such channel. Go back to Margins.', { id });
  if (known.version !== version) {
    throw new Refusal(
      'channel-moved',
      'Somebody has changed this channel meanwhile. Look at it again, then change it.',
      {
        version: known.version,
      },
    );
  }
  await tx
    .update(channels)
    .set({ config, kind: config.kind, resolution, version: version + 1 })
    .where(eq(channels.id, id));
  await note(tx, 'channel', id, changedFields(known.config, config), asked.change);
  return version + 1;
}
