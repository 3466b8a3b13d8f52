import { CONDITIONS, Refusal, showsCondition, type ConditionName, type LoopId } from '@frustum/core';
import type { FittedLoop } from '../../store/commands/places.ts';

/** A loop that is in use, as far as another leans on it. */
export type Neighbour = Pick<FittedLoop, 'siteName'> & {
  readonly loop: Pick<FittedLoop['loop'], 'id' | 'name' | 'family' | 'settings'>;
};

/** A condition comes from a loop of the same site that shows it. @throws Refusal `giver-unfit` */
export function requireGivers(
  all: readonly Neighbour[],
  siteName: string,
  takes: Readonly<Partial<Record<ConditionName, LoopId | undefined>>>,
  asked: readonly ConditionName[],
): void {
  for (const [key, loopId] of Object.entries(takes)) {
    if (loopId === undefined) continue;
    const name = key as ConditionName;
    const giver = all.find((f) => f.loop.id === loopId);
    const fits = giver?.siteName === siteName && showsCondition(giver.loop, name);
    if (fits && asked.includes(name)) continue;
    throw new Refusal(
      'giver-unfit',
      `The ${CONDITIONS[name].name} cannot come from ${giver ? giver.loop.name : 'there'}: pick a loop of ${siteName} that shows it, or type the figure.`,
      { condition: name },
    );
  }
}

/** A backup stands in for another loop of its site that measures the same. @throws Refusal `backup-unfit` */
export function requireBackup(
  all: readonly Neighbour[],
  siteName: string,
  { id, family, backupOf }: { readonly id: LoopId | null; readonly family: string; readonly backupOf: LoopId | null },
): void {
  if (backupOf === null) return;
  const main = all.find((f) => f.loop.id === backupOf);
  if (main && main.loop.id !== id && main.siteName === siteName && main.loop.family === family) return;
  throw new Refusal(
    'backup-unfit',
    `It cannot be the backup of ${main ? main.loop.name : 'that loop'}: pick another loop of ${siteName} that measures the same, or none.`,
    { loopId: backupOf },
  );
}
