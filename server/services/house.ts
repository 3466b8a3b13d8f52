import type { PastRun, RunOutcome, ServiceEvent } from '@frustum/core';
import type { Context } from '../context.ts';
import type { FittedLoop } from '../store/commands/places.ts';
import { bySensor, pastRunsOf, type Past } from './history.ts';

type Finished = { readonly sensorId: string; readonly endedAt: string; readonly outcome: RunOutcome };

/** All sensors that are fitted, with what they have been through. */
export class House {
  readonly all: readonly FittedLoop[];
  /** finished runs of every sensor, oldest first */
  readonly outcomes: readonly Finished[];
  private readonly runsOf: ReadonlyMap<string, readonly Finished[]>;
  private readonly servicesOf: ReadonlyMap<string, readonly ServiceEvent[]>;
  private readonly fleets: Context['fleets'];
  private readonly standards = new Map<string, readonly PastRun[]>();

  constructor(
    all: readonly FittedLoop[],
    outcomes: readonly Finished[],
    services: readonly (ServiceEvent & { readonly sensorId: string })[],
    fleets: Context['fleets'],
  ) {
    this.all = all;
    this.outcomes = outcomes;
    this.runsOf = bySensor(outcomes);
    this.servicesOf = bySensor(services);
    this.fleets = fleets;
  }

  static async read({ store, fleets }: Pick<Context, 'store' | 'fleets'>): Promise<House> {
    const [all, outcomes, services] = await Promise.all([
      store.readFittedLoops(),
      store.readOutcomes(),
      store.readAllServices(),
    ]);
    return new House(all, outcomes, services, fleets);
  }

  finishedOf = (sensorId: string): readonly Finished[] => this.runsOf.get(sensorId) ?? [];

  pastOf({ sensor, loop }: FittedLoop): Past {
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
