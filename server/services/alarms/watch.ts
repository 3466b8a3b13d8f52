import {
  beyondLimits,
  causesNow,
  type AlarmCause,
  type HandsOn,
  type ChannelId,
  type LoopNow,
  isAtLeast,
  waysNow,
  type MessageWay,
} from '@frustum/core';
import type { Context } from '../../context.ts';
import { Slices } from '../../slices.ts';
import type { AlarmRecord } from '../../store/commands/alarms.ts';
import type { AlarmMessage } from '../../store/schema/index.ts';
import { hearSome } from '../house/heard.ts';
import { readPictures } from '../house/pictures.ts';
import { readMargins } from '../margins/margins.ts';
import { handsOn, runsUnderWay } from '../runs/runs.ts';
import { watersNow } from './waters.ts';

/** Looked at so often, and after every change, ms. */
const EVERY_MS = 30_000;
const AFTER_CHANGE_MS = 2000;

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
    const { store, now } = this.context;
    const standing = await store.readStandingAlarms();
    const causes = new Map((await this.causes(standing)).map((c) => [c.key, c]));
    const over = standing.filter((a) => !causes.has(a.key));
    const lasting = standing.filter((a) => causes.has(a.key));
    const known = new Set(standing.map((a) => a.key));
    const nowMs = now();
    const raised = [...causes.values()].filter((c) => !known.has(c.key)).map((c) => this.raise(c, nowMs));
    const changed = lasting.flatMap((a) => this.anew(a, causes.get(a.key)!, nowMs) ?? []);
    const told = [...raised, ...lasting.map((a) => changed.find((c) => c.id === a.id) ?? a)].map((a) =>
      this.travel(a, nowMs),
    );
    const moved = told.filter(({ ways, alarm }) => ways.length > 0 || changed.includes(alarm));
    if (!over.length && !raised.length && !moved.length) return false;
    const { teller } = this.context;
    const at = new Date(nowMs).toISOString();
    const ids = new Set(raised.map((r) => r.id));
    const after = (alarm: AlarmRecord, ways: readonly MessageWay[]) => ({ ...alarm, told: [...alarm.told, ...ways] });
    await store.changeAlarms({
      raised: told.filter(({ alarm }) => ids.has(alarm.id)).map(({ alarm, ways }) => after(alarm, ways)),
      changed: moved
        .filter(({ alarm }) => !ids.has(alarm.id))
        .map(({ alarm, ways }) => ({ ...after(alarm, ways), anew: changed.includes(alarm) })),
      over: over.map((a) => a.id),
      at,
      messages: [
        ...moved.flatMap(({ alarm, ways }) =>
          teller.queued(messageOf(alarm, alarm.tellingSince ? 'again' : 'raised', at), ways),
        ),
        ...over.flatMap((a) => teller.queued(messageOf(a, 'over', at), a.told)),
      ],
    });
    teller.wake();
    this.context.changed();
    return true;
  }

  private raise({ key, kind, level, sensorId, text }: AlarmCause, nowMs: number): AlarmRecord {
    return {
      id: this.context.newId(),
      key,
      kind,
      level,
      sensorId: sensorId,
      text,
      raisedAt: new Date(nowMs).toISOString(),
      acknowledgedAt: null,
      acknowledgedBy: null,
      clearedAt: null,
      told: [],
      snoozedUntil: null,
      tellingSince: null,
    };
  }

  /** The alarm to tell anew, when it has become more urgent or its snooze is over; null when it stays as it is. */
  private anew(alarm: AlarmRecord, cause: AlarmCause, nowMs: number): AlarmRecord | null {
    const worse = cause.level !== alarm.level && isAtLeast(cause.level, alarm.level);
    const awake = alarm.snoozedUntil !== null && Date.parse(alarm.snoozedUntil) <= nowMs;
    if (!worse && !awake) return null;
    const tellingSince = worse ? new Date(nowMs).toISOString() : alarm.snoozedUntil;
    return {
      ...alarm,
      ...(worse ? { level: cause.level } : {}),
      text: cause.text,
      acknowledgedAt: null,
      acknowledgedBy: null,
      told: [],
      snoozedUntil: null,
      tellingSince,
    };
  }

  /** On which ways it goes now. */
  private travel(
    alarm: AlarmRecord,
    nowMs: number,
  ): { readonly alarm: AlarmRecord; readonly ways: readonly MessageWay[] } {
    const { teller } = this.context;
    const travelling = {
      level: alarm.level,
      sinceMs: Date.parse(alarm.tellingSince ?? alarm.raisedAt),
      quiet: alarm.acknowledgedAt !== null || alarm.snoozedUntil !== null,
      told: alarm.told,
    };
    const named = teller.named();
    return { alarm, ways: waysNow(travelling, teller.rules(), nowMs).filter((way) => named.includes(way)) };
  }

  private async causes(standing: readonly AlarmRecord[]): Promise<readonly AlarmCause[]> {
    const known = new Set(standing.map((a) => a.key));
    const waters = await watersNow(this.context, standing);
    return [...causesNow(await this.loopsNow(waters.of), known), ...waters.kept];
  }

  private async loopsNow(waterOf: Awaited<ReturnType<typeof watersNow>>['of']): Promise<LoopNow[]> {
    const { house, of } = await readPictures(this.context);
    if (await hearSome(this.context, house)) this.context.heard();
    const rows = new Map((await readMargins(this.context)).rows.map((r) => [r.sensorId, r]));
    const nowMs = this.context.now();
    const underWay = new Map((await runsUnderWay(this.context)).map((r) => [r.run.sensorId, r]));
    const loops: LoopNow[] = [];
    const slices = new Slices();
    for (const fitted of house.all) {
      const { loop, sensor, channel } = fitted;
      const row = rows.get(sensor.id);
      if (!row) continue;
      const run = underWay.get(sensor.id);
      const water = waterOf(sensor.id);
      const { silentMinutes = null } = loop.alarmLimits;
      loops.push({
        sensorId: sensor.id,
        loopName: loop.name,
        siteId: loop.siteId,
        referenceGroup: loop.referenceGroup,
        margin: row.margin,
        health: of(fitted).health,
        beyond: beyondLimits(fitted, of(fitted).past),
        silentSeconds: channel.config.kind === 'hand' ? (water?.unreadSeconds ?? 0) : this.silence(channel.id),
        ...(silentMinutes === null ? {} : { silentLimitSeconds: 60 * silentMinutes }),
        hands: handsAt(run && handsOn(run, loop.holdMinutes, nowMs), water?.leftIn ?? null),
        ...(water ? { water } : {}),
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

/** Hands that have left: what controls may still be on hold, and a probe that nobody is at may hang in a cup. */
function handsAt(
  hands: HandsOn | undefined,
  left: { readonly cup: string; readonly seconds: number } | null,
): HandsOn | undefined {
  if (!left) return hands;
  const none = { controls: '', heldSeconds: 0, holdMinutes: 0 };
  return { ...none, ...hands, cup: left.cup, idleSeconds: left.seconds };
}

const messageOf = ({ id, kind, level, text }: AlarmRecord, event: AlarmMessage['event'], at: string): AlarmMessage => ({
  event,
  at,
  id,
  kind,
  level,
  text,
  by: '',
});
