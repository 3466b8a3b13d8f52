import type { Notice } from '../alarms/notices.ts';
import type { ServiceEvent } from '../drift/history.ts';
import type { AtFit } from '../drift/cone.ts';
import { type PastRun } from '../drift/past.ts';
import type { Fleet } from '../drift/pool.ts';
import type { DayBeside } from './beside.ts';
import type { Finished, Fitted } from './fitted.ts';
import { byKey, bySensor, ofSensor, pastRunsOf } from './history.ts';
import { shareReference } from './links.ts';
import type { Past } from './past.ts';
import { togetherOf } from './together.ts';
import type { SensorId } from '../quantities/ids.ts';

/** Sensors in the same water, and what they gave beside each other. */
export interface Compared {
  readonly group: readonly Fitted[];
  readonly days: readonly DayBeside[];
}

/** How sensors of a family, and of a model, drift in this house. */
export interface Fleets {
  /** @param model the house's own name for a kind of sensor; '' = not said */
  of(family: string, model: string): Fleet;
}

/** All sensors that are fitted, with what they have been through. */
export class HouseKnowledge<F extends Fitted = Fitted> {
  readonly all: readonly F[];
  /** finished runs of every sensor, oldest first */
  readonly outcomes: readonly Finished[];
  private readonly runsOf: ReadonlyMap<string, readonly Finished[]>;
  private readonly runsAt: ReadonlyMap<string, readonly Finished[]>;
  private readonly servicesOf: ReadonlyMap<string, readonly ServiceEvent[]>;
  private readonly noticesOf: ReadonlyMap<string, readonly Notice[]>;
  private readonly fleets: Fleets;
  private readonly besideOf: ReadonlyMap<string, Compared>;
  private readonly standards = new Map<string, readonly PastRun[]>();

  constructor(
    all: readonly F[],
    outcomes: readonly Finished[],
    services: readonly (ServiceEvent & { readonly sensorId: SensorId })[],
    fleets: Fleets,
    besides: readonly Compared[] = [],
    notices: readonly (Notice & { readonly sensorId: SensorId })[] = [],
  ) {
    this.all = all;
    this.outcomes = outcomes;
    this.runsOf = bySensor(outcomes);
    this.runsAt = byKey(outcomes, (r) => r.loopId);
    this.servicesOf = bySensor(services);
    this.noticesOf = bySensor(notices);
    this.fleets = fleets;
    this.besideOf = new Map(besides.flatMap((c) => c.group.map((f) => [f.sensor.id, c] as const)));
  }

  finishedOf = (sensorId: SensorId): readonly Finished[] => this.runsOf.get(sensorId) ?? [];

  pastOf(fitted: Fitted): Past {
    const own = this.ownPastOf(fitted);
    const compared = this.besideOf.get(fitted.sensor.id);
    if (!compared?.days.length) return own;
    const members = compared.group.map((f) => ({ fitted: f, past: this.ownPastOf(f) }));
    return { ...own, together: togetherOf(fitted, members, compared.days) };
  }

  private ownPastOf(fitted: Fitted): Past {
    const { sensor, loop } = fitted;
    const atFit = this.atFitOf(fitted);
    return {
      ...(atFit ? { atFit } : {}),
      finished: this.finishedOf(sensor.id),
      services: this.servicesOf.get(sensor.id) ?? [],
      notices: this.noticesOf.get(sensor.id) ?? [],
      fleet: this.fleets.of(loop.family, sensor.model),
    };
  }

  /**
   * Where a sensor found an instrument that reckons with another sensor's coefficients: an instrument keeps what it was told last.
   * A head that keeps them itself brings its own, and an instrument on which the sensor had its last run still has them.
   */
  private atFitOf({ sensor, loop, channel }: Fitted): AtFit | null {
    const { fittedMs } = sensor;
    if (fittedMs === null || channel.reads.coefficientsIn === 'sensor') return null;
    const lastOf = (runs: readonly Finished[]) => ofSensor(runs).findLast((r) => Date.parse(r.endedAt) <= fittedMs);
    const last = lastOf(this.runsAt.get(loop.id) ?? []);
    if (last && last === lastOf(this.finishedOf(sensor.id))) return null;
    return { atMs: fittedMs, inForce: last?.outcome.inForceAfter ?? null };
  }

  /** Its runs in standards, smoothed: a grab sample sees the junction as well, and stands apart from them. */
  inStandards(fitted: Fitted): readonly PastRun[] {
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
  everyRunOf = (fitted: Fitted): readonly PastRun[] => pastRunsOf(fitted, this.pastOf(fitted));

  /** What shares a reference with it. */
  onReferenceOf({ loop, sensor }: Fitted): readonly F[] {
    return this.all.filter((f) => f.sensor.id !== sensor.id && shareReference(f.loop, loop));
  }
}
