import { channelStep, eventsOf, familyOf, modelOf, USUAL_HOLD_MIN, type RunEvent, type Takes } from '@frustum/core';
import type { Bundle, BundleLoop } from '@frustum/formats';
import { channelSchema, stepsOf } from '@frustum/contract';
import type { Context } from '../../context.ts';
import type { FittedLoop } from '../../store/commands/places.ts';
import type { LotRecord } from '../../store/commands/shelf.ts';
import type { RunRecord } from '../../store/commands/runs.ts';
import { remadeRun } from './remade-run.ts';

/**
 * Reads a bundle into an empty application: every run is worked out anew from its traces, by the same core as at the
 * bench, and decided as its own verdict says.
 */
export async function loadBundle(context: Context, bundle: Bundle): Promise<void> {
  const { store, newId } = context;
  const loopIds = new Map(bundle.loops.map(({ key }) => [key, newId()]));
  for (const loop of bundle.loops) await addLoop(context, bundle, loop, loopIds);
  const shelf = await store.readStandards();
  const lots = new Map<string, LotRecord>();
  for (const { key, ...lot } of bundle.lots)
    lots.set(key, await store.addLot({ id: newId(), ...lot, table: null, plusMinus: null, usedUpOn: null }));
  const fitted = new Map((await store.readFittedLoops()).map((f) => [f.loop.name, f]));
  // The database has a thread of its own: it writes one loop's runs while the next one's are worked out here.
  const written: Promise<void>[] = [
    keepReadingsOf(context, bundle, fitted),
    keepServicesOf(context, bundle, fitted),
    keepDosesOf(context, bundle, fitted),
  ];
  for (const loop of bundle.loops) {
    // Lets the other thread's answers in between two loops.
    await new Promise(setImmediate);
    const at = fitted.get(loop.name)!;
    const mine = bundle.runs.filter((r) => r.loop === loop.key);
    const services = eventsOf((bundle.services ?? []).filter((s) => s.loop === loop.key));
    const made: { run: RunRecord; events: RunEvent[] }[] = [];
    for (const run of mine)
      made.push(remadeRun(newId, at, run, { lots, before: made.map((m) => m.run), shelf, services }));
    if (made.length) written.push(store.importRuns(made));
    const last = made.at(-1)?.run.outcome?.inForceAfter;
    // The transmitter remembers its last calibration; a stand-in has to be told once.
    if (last && at.channel.config.kind === 'modbus')
      await context.poller
        .writeCoefficients(at.channel.id, last)
        .catch((error: unknown) => context.log.warn({ error }, 'a transmitter did not take its coefficients'));
  }
  await Promise.all(written);
  context.changed();
}

/** A loop by the key that the bundle has for it. */
function byKey(bundle: Bundle, fitted: ReadonlyMap<string, FittedLoop>): (key: string) => FittedLoop | undefined {
  const names = new Map(bundle.loops.map((l) => [l.key, l.name]));
  return (key) => fitted.get(names.get(key) ?? '');
}

/** Readings between the runs, as minutes. */
async function keepReadingsOf(
  { store }: Context,
  bundle: Bundle,
  fitted: ReadonlyMap<string, FittedLoop>,
): Promise<void> {
  const loopOf = byKey(bundle, fitted);
  for (const { loop, from, stepSeconds, values } of bundle.readings ?? []) {
    const channelId = loopOf(loop)?.channel.id;
    if (!channelId) continue;
    const startMs = Date.parse(from);
    await store.keepMinutes(
      values.flatMap((value, i) => {
        if (!value) return [];
        const [signal, temperatureC] = value;
        const minute = new Date(startMs + 1000 * stepSeconds * i).toISOString();
        return [{ channelId, minute, count: 1, mean: signal, low: signal, high: signal, temperatureC, onBench: false }];
      }),
    );
  }
}

/** What was done to the sensors between the runs. */
async function keepServicesOf(
  { store, newId }: Context,
  bundle: Bundle,
  fitted: ReadonlyMap<string, FittedLoop>,
): Promise<void> {
  const loopOf = byKey(bundle, fitted);
  await store.keepServices(
    (bundle.services ?? []).flatMap(({ loop, at, kind, note, by }) => {
      const sensorId = loopOf(loop)?.sensor.id;
      return sensorId ? [{ id: newId(), sensorId, at, kind, note, by }] : [];
    }),
  );
}

/** What was dosed between the runs. */
async function keepDosesOf(
  { store, newId }: Context,
  bundle: Bundle,
  fitted: ReadonlyMap<string, FittedLoop>,
): Promise<void> {
  const loopOf = byKey(bundle, fitted);
  await store.keepDoses(
    (bundle.doses ?? []).flatMap(({ loop, what, unit, given }) => {
      const loopId = loopOf(loop)?.loop.id;
      return loopId
        ? given.map(([at, amount]) => ({ id: newId(), loopId, at, what, amount, unit, notedAt: null }))
        : [];
    }),
  );
}

async function addLoop(
  { store, newId, poller }: Context,
  bundle: Bundle,
  loop: BundleLoop,
  loopIds: ReadonlyMap<string, string>,
): Promise<void> {
  const ids = { site: newId(), loop: loopIds.get(loop.key)!, sensor: newId(), channel: newId(), event: newId() };
  const { name, place, workingValue, workingC, tolerance, intervalDays, controls, pointSet } = loop;
  await store.addSensor({
    ids,
    by: '',
    at: `${loop.sensor.fittedOn}T00:00:00Z`,
    siteName: bundle.site.name,
    timeZone: bundle.site.timeZone,
    loop: {
      name,
      place,
      family: loop.family,
      settings: { ...loop.settings },
      takes: takesOf(loop, loopIds),
      workingValue,
      workingC,
      tolerance,
      intervalDays,
      dueBy: loop.dueBy ?? 'calendar',
      controls,
      holdMinutes: loop.holdMinutes ?? USUAL_HOLD_MIN,
      controlAction: loop.controlAction ?? '',
      referenceGroup: loop.referenceGroup ?? '',
      body: '',
      water: '',
      backupOf: loop.backupOf === undefined ? null : (loopIds.get(loop.backupOf) ?? null),
      surroundings: [...(loop.surroundings ?? [])],
      limits: {},
      pointSet: [...pointSet],
    },
    sensor: loop.sensor,
    channel: channelSchema.cast(loop.channel),
    resolution: resolutionOf(loop),
  });
  poller.add(ids.channel, channelSchema.cast(loop.channel), loop.sensor.fittedOn);
}

/** The loops that show conditions of this one, as this house knows them. */
const takesOf = ({ takes = {} }: BundleLoop, loopIds: ReadonlyMap<string, string>): Takes =>
  Object.fromEntries(
    Object.entries(takes).flatMap(([name, key]) => (loopIds.has(key) ? [[name, loopIds.get(key)]] : [])),
  );

/** Smallest step of a channel of the bundle, in the unit of its signal. */
function resolutionOf({ family: id, settings, workingValue, workingC, channel }: BundleLoop): number {
  const family = familyOf(id);
  const model = modelOf(family, { ...settings });
  return channelStep(family, model, stepsOf(channelSchema.cast(channel)), {
    value: workingValue,
    temperatureC: workingC,
  });
}
