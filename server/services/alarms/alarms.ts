import { alarmsByConsequence, MESSAGE_WAYS, Refusal, type MessageWay, type RunId } from '@frustum/core';
import type { AlarmRow, AlarmsView, AlarmWays, AlarmWaysView, Snooze } from '@frustum/contract';
import { notTellable } from '../../channels/reach.ts';
import { keepTelling, MQTT_PORT, portOf } from '../../config/telling.ts';
import type { Context } from '../../context.ts';
import type { AlarmRecord } from '../../store/commands/alarms.ts';

/** Past ones that are shown. */
const MAX_PAST = 50;

const rowOf = ({ key: _key, tellingSince: _since, ...row }: AlarmRecord, runId: RunId | null = null): AlarmRow => ({
  ...row,
  runId,
});

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

/** @throws Refusal `alarm-unknown` */
async function standingOne({ store }: Context, id: string): Promise<AlarmRecord> {
  const alarm = (await store.readStandingAlarms()).find((a) => a.id === id);
  if (alarm) return alarm;
  throw new Refusal('alarm-unknown', 'This alarm is over, or there is none. Look at the list again.', { id });
}

/** A person has seen it: it stays until its cause is gone, and says so no more. @throws Refusal `alarm-unknown` */
export async function acknowledge(context: Context, id: string, by: string): Promise<AlarmRow> {
  const { store, now, teller } = context;
  const at = new Date(now()).toISOString();
  const alarm = await standingOne(context, id);
  const { kind, level, text } = alarm;
  const told = teller.queued({ event: 'acknowledged', at, id, kind, level, text, by }, alarm.told);
  if (!(await store.acknowledgeAlarm(id, by, at, told))) return rowOf(alarm);
  teller.wake();
  context.changed();
  return rowOf({ ...alarm, acknowledgedAt: at, acknowledgedBy: by, snoozedUntil: null });
}

/** Quiet for a while, and told again on every way if it still stands then. @throws Refusal `alarm-unknown` */
export async function snooze(context: Context, id: string, { minutes }: Snooze, by: string): Promise<AlarmRow> {
  const { store, now, teller } = context;
  const at = new Date(now()).toISOString();
  const snoozedUntil = new Date(now() + 60_000 * minutes).toISOString();
  const alarm = await standingOne(context, id);
  const { kind, level, text } = alarm;
  await store.snoozeAlarm(id, snoozedUntil, teller.queued({ event: 'snoozed', at, id, kind, level, text, by }, alarm.told)); // prettier-ignore
  teller.wake();
  context.changed();
  return rowOf({ ...alarm, snoozedUntil, acknowledgedAt: null, acknowledgedBy: null });
}

/** Where alarms go, as the operator has said it. */
export const readWays = ({ teller }: Context): AlarmWaysView => teller.waysView();

/** Another way for alarms, from the next one on. What waits goes there, too. @throws Refusal `not-told` for an address of our own */
export function keepWays(context: Context, ways: AlarmWays): AlarmWaysView {
  requireTellable(ways, [context.config.port]);
  keepTelling(context.config.dataFolder, ways);
  context.teller.wake();
  context.changed();
  return context.teller.waysView();
}

function requireTellable({ webhook, mqtt, mail }: AlarmWays, ownPorts: readonly number[]): void {
  const url = webhook ? new URL(webhook) : null;
  const hosts = [
    ['webhook', url?.hostname, Number(url?.port) || (url?.protocol === 'https:' ? 443 : 80)],
    ['mqtt', mqtt?.host, mqtt?.port ?? MQTT_PORT],
    ['mail', mail?.host, mail ? portOf(mail) : 0],
  ] as const;
  for (const [way, host, port] of hosts) {
    const why = host ? notTellable(host, port, ownPorts) : null;
    if (why) throw new Refusal('not-told', `${host}:${port} is no place for alarms: ${why}. Name another.`, { way });
  }
}

/** Sends one message by a way, now, and says whether it was taken. @throws Refusal `not-told` with the reason */
export async function tryWay({ teller }: Context, way: string): Promise<null> {
  const known = MESSAGE_WAYS.find((w): w is MessageWay => w === way);
  if (!known) throw new Refusal('not-told', `There is no way “${way}”. One of ${MESSAGE_WAYS.join(', ')}.`, { way });
  await teller.test(known);
  return null;
}
