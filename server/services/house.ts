import type { PastRun, RunOutcome, ServiceEvent, SensorId } from '@frustum/core';
import type { Context } from '../context.ts';
import type { FittedLoop } from '../store/commands/places.ts';
import type { DayBeside } from '../store/commands/readings.ts';
import { sharingWater } from './beside.ts';
import { bySensor, ofSensor, pastRunsOf, togetherOf, type Past } from './history.ts';

type Finished = { readonly sensorId: SensorId; readonly endedAt: string; readonly outcome: RunOutcome };

/** Sensors in the same water, and what they gave beside each other. */
interface Compared {
  readonly group: readonly FittedLoop[];
  readonly days: readonly DayBeside[];
}

/** All sensors that are fitted, with what they have been through. */
export class House {
  readonly all: readonly FittedLoop[];
  /** finished runs of every sensor, oldest first */
  readonly outcomes: readonly Finished[];
  private readonly runsOf: ReadonlyMap<string, readonly Finished[]>;
  private readonly servicesOf: ReadonlyMap<string, readonly ServiceEvent[]>;
  private readonly fleets: Context['fleets'];
  private readonly besideOf: ReadonlyMap<string, Compared>;
  private readonly standards = new Map<string, readonly PastRun[]>();

  constructor(
    all: readonly FittedLoop[],
    outcomes: readonly Finished[],
    services: readonly (ServiceEvent & { readonly sensorId: SensorId })[],
    fleets: Context['fleets'],
    besides: readonly Compared[] = [],
  ) {
    this.all = all;
    this.outcomes = outcomes;
    this.runsOf = bySensor(outcomes);
    this.servicesOf = bySensor(services);
    this.fleets = fleets;
    this.besideOf = new Map(besides.flatMap((c) => c.group.map((f) => [f.sensor.id, c] as const)));
  }

  static async read({
    store,
    fleets,
    beside,
    now,
  }: Pick<Context, 'store' | 'fleets' | 'beside' | 'now'>): Promise<House> {
    const [all, outcomes, services] = await Promise.all([
      store.readFittedLoops(),
      store.readOutcomes(),
      store.readAllServices(),
    ]);
    // One that has had no run is no yardstick, nor does it keep its fellows from being held beside each other.
    const ran = new Set(ofSensor(outcomes).map((r) => r.sensorId));
    const besides = await Promise.all(
      sharingWater(all.filter((f) => ran.has(f.sensor.id))).map(async (group) => ({
        group,
        days: await beside.daysOf(store, group, now()),
      })),
    );
    return new House(all, outcomes, services, fleets, besides);
  }

  finishedOf = (sensorId: SensorId): readonly Finished[] => this.runsOf.get(sensorId) ?? [];

  pastOf(fitted: FittedLoop): Past {
    const own = this.ownPastOf(fitted);
    const compared = this.besideOf.get(fitted.sensor.id);
    if (!compared?.days.length) return own;
    const members = compared.group.map((f) => ({ fitted: f, past: this.ownPastOf(f) }));
    return { ...own, together: togetherOf(fitted, members, compared.days) };
  }

  private ownPastOf({ sensor, loop }: FittedLoop): Past {
    return {
      finished: this.finishedOf(sensor.id),
      services: this.servicesOf.get(sensor.id) ?? [],
      fleet: this.fleets.of(loop.family),
    };
  }

  /** Its runs in standards, smoothed: a grab sample sees the junction as well, and stands apart from them. */
  inStandards(fitted: FittedLoop): readonly PastRun[] {
    const known = this.standards.get(fitted.sensor.id);
    if (known) return known;
    const past = this.pastOf(fitted);
    const made = pastRunsOf(fitted, {
      ...past,
      finished: past.finished.filter((r) => r.outcome.kind !== 'grab-sample'),
    });
    this.standards.set(fitted.sensor.id, made);
    return made;
  }

  /** All its runs, smoothed. */
  everyRunOf = (fitted: FittedLoop): readonly PastRun[] => pastRunsOf(fitted, this.pastOf(fitted));

  /** What shares a reference with it. */
  onReferenceOf({ loop, sensor }: FittedLoop): readonly FittedLoop[] {
    return loop.referenceGroup === ''
      ? []
      : this.all.filter((f) => f.loop.referenceGroup === loop.referenceGroup && f.sensor.id !== sensor.id);
  }
}
