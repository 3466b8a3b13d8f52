import { MS_PER_DAY, Refusal, type SensorId } from '@frustum/core';
import type { LifeView, MoveSensor, NewSpare } from '@frustum/contract';
import type { Context } from '../../context.ts';
import type { Destination } from '../../store/commands/life.ts';
import { serviceRowOf } from '../sensors/service-rows.ts';
import { changeBy, followChannels } from './set-up.ts';

type Life = NonNullable<Awaited<ReturnType<Context['store']['readLife']>>>;

/** A sensor for the shelf. @throws Refusal `sensor-exists` */
export async function addSpare(context: Context, spare: NewSpare, by: string): Promise<{ sensorId: SensorId }> {
  const { store, newId, now } = context;
  const at = new Date(now()).toISOString();
  const { soaking, ...figures } = spare;
  const record = { ...figures, id: newId() as SensorId, soakingSince: soaking ? at : null };
  const sensorId = await store.addSpare(record, { eventId: newId(), by, at });
  context.changed();
  return { sensorId };
}

/**
 * Moves a sensor: to a loop, onto the shelf, out of use or back from there; what was fitted there goes where it is said.
 *
 * @throws Refusal `sensor-unknown`, `set-up-moved`, `run-open`, `loop-unknown`, `place-taken`, `retired`,
 * `sensor-of-another-family`, `still-soaking`, `not-yet`, `before-bought`, `moved-later`
 */
export async function moveSensor(
  context: Context,
  sensorId: SensorId,
  { version, to, loopId, displaced, instead, soaked, at, why }: MoveSensor,
  by: string,
): Promise<{ version: number }> {
  const { store, newId } = context;
  const change = changeBy(context, by, why);
  const destination: Destination = to === 'loop' ? { to, loopId: loopId! } : { to };
  const moved = await store.moveSensor({
    sensorId,
    version,
    at: at ? new Date(at).toISOString() : change.at,
    destination,
    displaced: displaced ?? null,
    instead: instead ?? null,
    soaked,
    change,
    // Lines of two lives, and what became another of both.
    ids: Array.from({ length: 10 }, () => newId()),
  });
  await followChannels(context, true);
  context.changed();
  return { version: moved };
}

/** Of two lines about one fitting the later one counts: its day was corrected. */
const correctedOf = <T extends { readonly kind: string }>(events: readonly T[]): T[] =>
  events.filter((e, i) => !(e.kind === 'fitted' && events[i + 1]?.kind === 'fitted'));

/** Days for which a sensor was fitted, wherever, by the events of its life. */
export function daysFitted(events: readonly Pick<Life['events'][number], 'kind' | 'at'>[], nowMs: number): number {
  let sinceMs: number | null = null;
  let ms = 0;
  for (const { kind, at } of correctedOf(events)) {
    if (sinceMs !== null) ms += Date.parse(at) - sinceMs;
    sinceMs = kind === 'fitted' ? Date.parse(at) : null;
  }
  if (sinceMs !== null) ms += Math.max(0, nowMs - sinceMs);
  return ms / MS_PER_DAY;
}

/** A sensor from its first day on, wherever it is now. @throws Refusal `sensor-unknown` */
export async function readLife({ store, now }: Context, sensorId: SensorId): Promise<LifeView> {
  const [life, services, runs, setUp] = await Promise.all([
    store.readLife(sensorId),
    store.readServices(sensorId),
    store.readRunsOf(sensorId),
    store.readSetUp(),
  ]);
  if (!life) throw new Refusal('sensor-unknown', 'There is no such sensor. Look at Set-up again.', { sensorId });
  const nowMs = now();
  const { sensor, events } = life;
  const nameOf = new Map(setUp.loops.map(({ loop }) => [loop.id, loop.name]));
  const ended = setUp.shelved.filter(
    ({ sensor: s }) => s.retiredAt !== null && s.id !== sensorId && s.model !== '' && s.model === sensor.model && s.family === sensor.family, // prettier-ignore
  );
  const others = await Promise.all(
    ended.map(async ({ sensor: { id, name } }) => {
      const other = await store.readLife(id);
      return { sensorId: id, name, daysFitted: Math.round(daysFitted(other?.events ?? [], nowMs)) };
    }),
  );
  const { id, name, serial, model, boughtOn, fittedOn, version, family, storage, retiredAt, loopId } = sensor;
  return {
    nowMs,
    sensor: { sensorId: id, name, serial, model, boughtOn, fittedOn, version, family },
    loop: loopId === null ? null : { loopId, name: nameOf.get(loopId) ?? '' },
    storage,
    retiredAt,
    daysFitted: Math.round(daysFitted(events, nowMs)),
    events: correctedOf(events).map(({ at, kind, loopId: of, loopName, by, why }) => ({
      at,
      kind,
      loopId: of,
      loopName,
      by,
      why,
    })),
    services: services.map((row) => serviceRowOf(row, nowMs)),
    runs: runs.map((r) => ({
      runId: r.id,
      loopName: nameOf.get(r.loopId) ?? '',
      endedAt: r.endedAt,
      status: r.status,
      outcome: r.outcome,
    })),
    others,
  };
}
