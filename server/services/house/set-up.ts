import {
  conditionsFor,
  familyOf,
  modelOf,
  MS_PER_DAY,
  Refusal,
  requireWithin,
  requireWritten,
  requireAlarmLimits,
  writtenIn,
  type AlarmLimits,
  type LoopId,
  type SensorId,
  type Settings,
  type SiteId,
  type Standard,
} from '@frustum/core';
import type {
  ChangeAlike,
  ChangeFittedSensor,
  ChangeLoop,
  ChangeRow,
  ChangeSite,
  Order,
  SetUpLoop,
  SetUpSensor,
  SetUpView,
} from '@frustum/contract';
import type { Context } from '../../context.ts';
import type { FittedLoop } from '../../store/commands/places.ts';
import type { SensorRecord } from '../../store/commands/life.ts';
import type { SetUpChange } from '../../store/commands/set-up.ts';
import { requireBackup, requireGivers, type Neighbour } from '../loops/neighbours.ts';
import { shelvedRow } from './shelved-row.ts';

type Kept = Awaited<ReturnType<Context['store']['readSetUp']>>;

/** Everything that is set up, also what is archived. */
export async function readSetUp({ store, now }: Context): Promise<SetUpView> {
  const { sites, loops, shelved } = await store.readSetUp();
  return {
    shelf: shelved.map((s) => shelvedRow(s, now())),
    sites: sites.map(({ id, createdAt: _, ...site }) => ({
      siteId: id,
      ...site,
      loops: loops.filter((l) => l.loop.siteId === id).map(loopRow),
    })),
  };
}

function loopRow({ loop, sensor, channel, hasRuns }: Kept['loops'][number]): SetUpLoop {
  const { id, siteId: _, createdAt: __, position: ___, ...figures } = loop;
  return {
    loopId: id,
    ...figures,
    hasRuns,
    sensor: sensor && sensorRow(sensor),
    channel: channel.config,
  };
}

const sensorRow = ({ id, name, serial, model, boughtOn, fittedOn, version }: SensorRecord): SetUpSensor => ({
  sensorId: id,
  name,
  serial,
  model,
  boughtOn,
  fittedOn,
  version,
});

/** Who changes it now, and why. */
export const changeBy = ({ newId, now }: Context, by: string, why = ''): SetUpChange => ({
  id: newId(),
  at: new Date(now()).toISOString(),
  by,
  why,
});

/** Only what was said. */
const said = <T extends object>(to: T): { [K in keyof T]?: NonNullable<T[K]> } =>
  Object.fromEntries(Object.entries(to).filter(([, value]) => value !== undefined)) as { [K in keyof T]?: NonNullable<T[K]> }; // prettier-ignore

const archived = ({ now }: Context, is: boolean | undefined) =>
  is === undefined ? {} : { archivedAt: is ? new Date(now()).toISOString() : null };

/**
 * Changes a loop; what it was, by whom and why stays in the record, and runs keep the figures that they were made with.
 *
 * @throws Refusal `loop-unknown`, `loop-exists`, `set-up-moved`, `run-open`, `out-of-range`, `unknown-standard`
 */
export async function changeLoop(
  context: Context,
  loopId: LoopId,
  { version, to, why }: ChangeLoop,
  by: string,
): Promise<{ version: number }> {
  const { store } = context;
  const { archived: is, ...figures } = to;
  const [setUp, all, standards] = await Promise.all([
    store.readSetUp(),
    store.readFittedLoops(),
    store.readStandards(),
  ]);
  const known = setUp.loops.find((l) => l.loop.id === loopId);
  if (!known) throw new Refusal('loop-unknown', 'There is no such loop. Look at Set-up again.', { loopId });
  const siteName = setUp.sites.find((s) => s.id === known.loop.siteId)!.name;
  const asked = loopToChange(known, figures, { siteName, standards, all });
  const change = changeBy(context, by, why);
  const kept = await store.changeLoop(loopId, { version, to: { ...asked, ...archived(context, is) }, change });
  await followChannels(context, is);
  context.changed();
  return { version: kept.version };
}

interface Around {
  readonly siteName: string;
  readonly standards: readonly Pick<Standard, 'id'>[];
  /** loops that it may lean on */
  readonly all: readonly Neighbour[];
}

/**
 * What becomes another of a loop, checked against its family, its runs and its neighbours; nothing is kept.
 *
 * @throws Refusal `out-of-range`, `unknown-standard`, `runs-rest-on-it`, `giver-unfit`, `backup-unfit`
 */
export function loopToChange(
  known: Kept['loops'][number],
  figures: Omit<ChangeLoop['to'], 'archived' | 'name'>,
  { siteName, standards, all }: Around,
) {
  const asked = toOf(figures);
  requireFit(standards, { ...known.loop, ...asked });
  if (asked.settings) requireUnrested(known, asked.settings);
  if (asked.alarmLimits) requireLimits({ ...known.loop, ...asked }, asked.alarmLimits);
  requireNeighbours(all, siteName, { ...known.loop, ...asked }, asked);
  return asked;
}

/** @throws Refusal `out-of-range`, `limits-turned` */
export function requireLimits(loop: FittedLoop['loop'], limits: Partial<AlarmLimits>): void {
  const family = familyOf(loop.family);
  const model = modelOf(family, loop.settings);
  requireAlarmLimits(model, limits, writtenIn(family, model, loop));
}

/** Figures of a loop as they are kept: only what was said, and no backup where that was said. */
export function toOf(figures: Omit<ChangeLoop['to'], 'archived'>) {
  const { backupOf, takes, settings, alarmLimits, ...rest } = figures;
  return {
    ...said(rest),
    ...(alarmLimits ? { alarmLimits: alarmLimits as Partial<AlarmLimits> } : {}),
    ...(takes ? { takes: said(takes) } : {}),
    ...(settings ? { settings: settings as Settings } : {}),
    ...(backupOf === undefined ? {} : { backupOf }),
  };
}

/** What the loop would lean on must fit it, as far as that was said. @throws Refusal `giver-unfit`, `backup-unfit` */
function requireNeighbours(
  all: readonly Neighbour[],
  siteName: string,
  loop: FittedLoop['loop'],
  asked: Pick<ReturnType<typeof toOf>, 'takes' | 'backupOf'>,
): void {
  if (asked.takes) requireGivers(all, siteName, loop.takes, conditionsFor(familyOf(loop.family), loop.settings));
  if (asked.backupOf !== undefined) requireBackup(all, siteName, loop);
}

/**
 * Coefficients of past runs are read by what the loop's arithmetic knew of its sensor: that stays. What surrounds the sensor may
 * become another.
 *
 * @throws Refusal `runs-rest-on-it`
 */
function requireUnrested({ loop, hasRuns }: Kept['loops'][number], settings: Settings): void {
  if (!hasRuns) return;
  const of = familyOf(loop.family);
  for (const [key, field] of Object.entries(of.settings))
    if (!field.mayChange && (settings[key] ?? field.usual) !== (loop.settings[key] ?? field.usual))
      throw new Refusal(
        'runs-rest-on-it',
        `Runs of ${loop.name} rest on its ${field.name}. Add another loop like this one with the other ${field.name}, and archive this one.`,
        { setting: key },
      );
}

/** A figure that its family has, and standards that there are. @throws Refusal `out-of-range`, `unknown-standard` */
export function requireFit(
  standards: readonly Pick<Standard, 'id'>[],
  loop: Pick<FittedLoop['loop'], 'family' | 'settings' | 'workingValue' | 'workingC' | 'pointSet' | 'shownAs'>,
) {
  const model = modelOf(familyOf(loop.family), loop.settings);
  const { range, valueUnit } = model;
  requireWithin(loop.workingValue, range.low, range.high, 'working value', valueUnit, 'Type where the loop is kept.');
  requireWritten(model, loop);
  // What cannot be a signal here, at the temperature of the water, is refused now and not at the bench.
  model.ideal(loop.workingValue, { temperatureC: loop.workingC });
  const unknown = loop.pointSet.find((id) => !standards.some((s) => s.id === id));
  if (unknown) throw new Refusal('unknown-standard', `There is no standard “${unknown}”. Pick one from the list.`);
}

/** Channels of what was archived are read no more; those of what came back are read again. */
export async function followChannels({ store, poller }: Context, is: boolean | undefined): Promise<void> {
  if (is === undefined) return;
  const inUse = new Map((await store.readFittedLoops()).map((f) => [f.channel.id, f]));
  for (const { channel } of (await store.readSetUp()).loops) {
    const fitted = inUse.get(channel.id);
    if (!fitted) poller.remove(channel.id);
    else poller.add(channel.id, fitted.channel.config, fitted.sensor.fittedOn);
  }
}

/** @throws Refusal `site-unknown`, `site-exists`, `set-up-moved`, `run-open` */
export async function changeSite(
  context: Context,
  siteId: SiteId,
  { version, to, why }: ChangeSite,
  by: string,
): Promise<{ version: number }> {
  const { archived: is, ...figures } = to;
  const change = changeBy(context, by, why);
  const kept = await context.store.changeSite(siteId, {
    version,
    to: { ...said(figures), ...archived(context, is) },
    change,
  });
  await followChannels(context, is);
  context.changed();
  return { version: kept.version };
}

/** @throws Refusal `sensor-unknown`, `set-up-moved`, `not-yet` for a day to come */
export async function changeFittedSensor(
  context: Context,
  sensorId: SensorId,
  { version, to, why }: ChangeFittedSensor,
  by: string,
): Promise<{ version: number }> {
  if (to.fittedOn && Date.parse(to.fittedOn) > context.now() + MS_PER_DAY)
    throw new Refusal('not-yet', 'That day is still to come. Give the day on which it was fitted.', {
      at: to.fittedOn,
    });
  const { soaking, ...figures } = to;
  const kept = await context.store.changeSensor(sensorId, {
    version,
    eventId: context.newId(),
    to: {
      ...said(figures),
      ...(to.boughtOn === null ? { boughtOn: null } : {}),
      ...(soaking === undefined ? {} : { soakingSince: soaking ? new Date(context.now()).toISOString() : null }),
    },
    change: changeBy(context, by, why),
  });
  context.changed();
  return { version: kept.version };
}

/** An order of one's own for loops. */
export async function orderLoops(context: Context, { loops }: Order): Promise<null> {
  await context.store.orderLoops(loops);
  context.changed();
  return null;
}

/** What was changed there, the last change first. */
export const readChanges = async ({ store }: Context, subjectId: string): Promise<ChangeRow[]> =>
  (await store.readChanges(subjectId)).map(({ id, seq: _, subjectId: __, ...change }) => ({ changeId: id, ...change }));

/**
 * One figure for several loops of a kind, in one: all of them, or none.
 *
 * @throws Refusal as `changeLoop`
 */
export async function changeAlike(context: Context, { loops, to, why }: ChangeAlike, by: string): Promise<null> {
  const { store } = context;
  const [setUp, all, standards] = await Promise.all([
    store.readSetUp(),
    store.readFittedLoops(),
    store.readStandards(),
  ]);
  const changeLoops = loops.map(({ loopId, version }) => {
    const known = setUp.loops.find((l) => l.loop.id === loopId);
    if (!known) throw new Refusal('loop-unknown', 'There is no such loop. Look at Set-up again.', { loopId });
    const siteName = setUp.sites.find((s) => s.id === known.loop.siteId)!.name;
    const asked = loopToChange(known, to, { siteName, standards, all });
    return { loopId, asked: { version, to: asked, change: changeBy(context, by, why) } };
  });
  await store.changeAtOnce({ add: [], changeLoops, changeSensors: [], spares: [], backups: [] });
  context.changed();
  return null;
}
