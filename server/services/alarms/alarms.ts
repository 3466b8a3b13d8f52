import {
  alarmsByConsequence,
  causesNow,
  Refusal,
  type LoopNow,
  type ChannelId,
  type RunId,
  impedanceOf,
  healthOf,
} from '@frustum/core';
import type { AlarmRow, AlarmsView } from '@frustum/contract';
import type { Context } from '../../context.ts';
import type { AlarmRecord } from '../../store/commands/alarms.ts';
import { handsOn, runsUnderWay } from '../runs/runs.ts';
import { readMargins } from '../margins/margins.ts';
import { readHouse } from '../house/read-house.ts';
import { backInWater, livelyOf } from '../sensors/readings-say.ts';
import { Slices } from '../../slices.ts';

/** Past ones that are shown. */
const MAX_PAST = 50;
/** Looked at so often, and after every change, ms. */
const EVERY_MS = 30_000;
const AFTER_CHANGE_MS = 2000;

const rowOf = ({ key: _key, ...row }: AlarmRecord, runId: RunId | null = null): AlarmRow => ({ ...row, runId });

export async function readAlarms({ store, teller }: Context): Promise<AlarmsView> {
  const [standing, past, fitted, open, told] = await Promise.all([
    store.readStandingAlarms(),
    store.readPastAlarms(MAX_PAST),
    store.readFittedLoops(),
    store.readOpenRuns(),
    teller.where(),
  ]);
  const controls = new Map(fitted.map((f) => [f.sensor.id, f.loop.controls]));
  const runOf = ({ kind, sensorId }: AlarmRecord) =>
    kind === 'hold' || kind === 'in-cup' ? (open.find((r) => r.sensorId === sensorId)?.id ?? null) : null;
  const worst = alarmsByConsequence((sensorId) => controls.get(sensorId ?? '') ?? '');
  return {
    standing: [...standing].sort(worst).map((a) => rowOf(a, runOf(a))),
    past: past.map((a) => rowOf(a)),
    told,
  };
}

/** A person has seen it: it stays until its cause is gone, and says so no more. @throws Refusal `alarm-unknown` */
export async function acknowledge(context: Context, id: string, by: string): Promise<AlarmRow> {
  const { store, now, teller } = context;
  const at = new Date(now()).toISOString();
  const alarm = (await store.readStandingAlarms()).find((a) => a.id === id);
  if (!alarm)
    throw new Refusal('alarm-unknown', 'This alarm is over, or there is none. Look at the list again.', { id });
  const { kind, text } = alarm;
  const told = teller.queued([{ event: 'acknowledged', at, id, kind, text, by }]);
  if (!(await store.acknowledgeAlarm(id, by, at, told))) return rowOf(alarm);
  teller.wake();
  context.changed();
  return rowOf({ ...alarm, acknowledgedAt: at, acknowledgedBy: by });
}

/** Raises an alarm once for each cause, and ends it when its cause is gone. */
export class AlarmWatch {
  private readonly context: Context;
  /** since when a channel is not heard, epoch ms */
  private readonly silentSince = new Map<string, number>();
  private looking: Promise<boolean> | null = null;
  private soon: NodeJS.Timeout | null = null;

  constructor(context: Context) {
    this.context = context;
  }

  /** Looks now and from now on. Returns how to stop. */
  start(): () => void {
    const look = () =>
      void this.look().catch((error: unknown) => this.context.log.warn({ error }, 'alarms could not be looked at'));
    const later = () => {
      this.soon ??= setTimeout(() => {
        this.soon = null;
        look();
      }, AFTER_CHANGE_MS);
    };
    const timer = setInterval(look, EVERY_MS);
    const stopListening = this.context.onChange(later);
    look();
    return () => {
      clearInterval(timer);
      if (this.soon) clearTimeout(this.soon);
      stopListening();
    };
  }

  /** @returns whether anything was raised or is over */
  look(): Promise<boolean> {
    this.looking ??= this.lookNow().finally(() => (this.looking = null));
    return this.looking;
  }

  private async lookNow(): Promise<boolean> {
    // By a clock that cannot be believed nothing is too long ago, and nothing is over.
    if (this.context.clock.doubt) return false;
    const { store, now, newId, teller } = this.context;
    const standing = await store.readStandingAlarms();
    const known = new Set(standing.map((a) => a.key));
    const causes = causesNow(await this.loopsNow(), known);
    const lasting = new Set(causes.map((c) => c.key));
    const at = new Date(now()).toISOString();
    const over = standing.filter((a) => !lasting.has(a.key));
    const raised = causes
      .filter((c) => !known.has(c.key))
      .map((c): AlarmRecord => ({
        id: newId(),
        ...c,
        raisedAt: at,
        acknowledgedAt: null,
        acknowledgedBy: null,
        clearedAt: null,
      }));
    if (!over.length && !raised.length) return false;
    const told = teller.queued([
      ...raised.map(({ id, kind, text }) => ({ event: 'raised' as const, at, id, kind, text, by: '' })),
      ...over.map(({ id, kind, text }) => ({ event: 'over' as const, at, id, kind, text, by: '' })),
    ]);
    const ended = over.map((a) => a.id);
    await store.changeAlarms(raised, ended, at, told);
    teller.wake();
    this.context.changed();
    return true;
  }

  private async loopsNow(): Promise<LoopNow[]> {
    const rows = new Map((await readMargins(this.context)).rows.map((r) => [r.sensorId, r]));
    const house = await readHouse(this.context);
    const backMs = await backInWater(this.context);
    const nowMs = this.context.now();
    const underWay = new Map((await runsUnderWay(this.context)).map((r) => [r.run.sensorId, r]));
    const loops: LoopNow[] = [];
    const slices = new Slices();
    for (const fitted of house.all) {
      const { loop, sensor, channel } = fitted;
      const row = rows.get(sensor.id);
      if (!row) continue;
      const run = underWay.get(sensor.id);
      loops.push({
        sensorId: sensor.id,
        loopName: loop.name,
        siteId: loop.siteId,
        referenceGroup: loop.referenceGroup,
        margin: row.margin,
        // What readings say moves with the hour: an alarm rests on runs, and on impedances in the water.
        health: healthOf(fitted, house, impedanceOf(livelyOf(this.context.hub, fitted, backMs(sensor.id)))),
        silentSeconds: channel.config.kind === 'hand' ? 0 : this.silence(channel.id),
        hands: run && handsOn(run, loop.holdMinutes, nowMs),
      });
      if (slices.isOver) await slices.next();
    }
    return loops;
  }

  private silence(channelId: ChannelId): number {
    const state = this.context.hub.stateOf(channelId)?.state;
    const nowMs = this.context.now();
    if (state !== 'stale' && state !== 'fault') {
      this.silentSince.delete(channelId);
      return 0;
    }
    const since = this.silentSince.get(channelId) ?? nowMs;
    this.silentSince.set(channelId, since);
    return (nowMs - since) / 1000;
  }
}
