import {
  DRIFT_VERSION,
  NO_FLEET,
  pooling,
  type Fleet,
  type Member,
  driftOf,
  bySensor,
  observationsOf,
  ofSensor,
} from '@frustum/core';
import type { Store } from '../store/commands/index.ts';
import { Slices } from '../slices.ts';

/** It is learned anew when this share of runs has come on top. */
const REFRESH_SHARE = 0.1;
/** Shorter slices than usual: one step of the search takes some ms. */
const SLICE_MS = 8;

/**
 * What this house's own sensors say of how sensors of a family drift. Learned rarely and in slices, so that no request
 * waits for it, and kept for the next start; until then a family is taken as it is known.
 */
export class Fleets {
  private readonly learned = new Map<string, Fleet>();
  private running: Promise<boolean> | null = null;
  private runs = 0;
  private readonly now: () => number;

  /** @param now epoch milliseconds */
  constructor(now: () => number = Date.now) {
    this.now = now;
  }

  of(family: string): Fleet {
    return this.learned.get(family) ?? NO_FLEET;
  }

  /** Takes up what was learned before the last stop; what another engine has learned means something else. */
  async recall(store: Pick<Store, 'readFleets'>): Promise<void> {
    const kept = (await store.readFleets()).filter((f) => f.version === DRIFT_VERSION);
    for (const { family, fleet } of kept) this.learned.set(family, fleet);
    this.runs = Math.max(0, ...kept.map((f) => f.houseRuns));
  }

  /**
   * Learns if there is enough that is new.
   *
   * @returns whether anything has changed
   */
  learn(store: Store): Promise<boolean> {
    this.running ??= this.learnNow(store).finally(() => (this.running = null));
    return this.running;
  }

  private async learnNow(store: Store): Promise<boolean> {
    const [fitted, outcomes, services] = await Promise.all([
      store.readFittedLoops(),
      store.readOutcomes(),
      store.readAllServices(),
    ]);
    if (outcomes.length <= this.runs * (1 + REFRESH_SHARE)) return false;
    const runsOf = bySensor(outcomes);
    const servicesOf = bySensor(services);
    const families = new Map<string, Member[]>();
    for (const f of fitted) {
      const mine = ofSensor(runsOf.get(f.sensor.id) ?? []);
      const member = {
        prior: driftOf(f, NO_FLEET).prior,
        history: observationsOf(mine),
        services: servicesOf.get(f.sensor.id) ?? [],
      };
      families.set(f.loop.family, [...(families.get(f.loop.family) ?? []), member]);
    }
    for (const [family, members] of families) this.learned.set(family, await inSlices(pooling(members)));
    this.runs = outcomes.length;
    await store.keepFleets(
      [...this.learned].map(([family, fleet]) => ({
        family,
        version: DRIFT_VERSION,
        fleet,
        houseRuns: this.runs,
        learnedAt: new Date(this.now()).toISOString(),
      })),
    );
    return true;
  }
}

/** Runs a search to its end, and lets everybody else have the thread in between. */
async function inSlices(search: ReturnType<typeof pooling>): Promise<Fleet> {
  const slices = new Slices(SLICE_MS);
  for (;;) {
    const { done, value } = search.next();
    if (done) return value;
    if (slices.isOver) await slices.next();
  }
}
