import {
  DRIFT_VERSION,
  NO_FLEET,
  pooling,
  poolingModel,
  type Finished,
  type Fitted,
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

const keyOf = (family: string, model: string) => `${family}\n${model}`;
const ofKey = (key: string) => {
  const [family = '', model = ''] = key.split('\n');
  return { family, model };
};

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

  /** Of its model, where that has taught something; else of its family. */
  of(family: string, model = ''): Fleet {
    return this.learned.get(keyOf(family, model)) ?? this.learned.get(keyOf(family, '')) ?? NO_FLEET;
  }

  /** Takes up what was learned before the last stop; what another engine has learned means something else. */
  async recall(store: Pick<Store, 'readFleets'>): Promise<void> {
    const kept = (await store.readFleets()).filter((f) => f.version === DRIFT_VERSION);
    for (const { family, model, fleet } of kept) this.learned.set(keyOf(family, model), fleet);
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
    const [setUp, outcomes, services] = await Promise.all([
      store.readSetUp(),
      store.readOutcomes(),
      store.readAllServices(),
    ]);
    if (outcomes.length <= this.runs * (1 + REFRESH_SHARE)) return false;
    const runsOf = bySensor(outcomes);
    const servicesOf = bySensor(services);
    const families = new Map<string, (Member & { readonly model: string })[]>();
    // Also sensors that are on the shelf, retired or archived: what they have lived tells as much.
    for (const { sensor, loop } of everySensor(setUp, outcomes)) {
      const mine = ofSensor(runsOf.get(sensor.id) ?? []);
      const member = {
        prior: driftOf({ loop }, NO_FLEET).prior,
        history: observationsOf(mine),
        services: servicesOf.get(sensor.id) ?? [],
        model: sensor.model,
      };
      families.set(loop.family, [...(families.get(loop.family) ?? []), member]);
    }
    this.learned.clear();
    for (const [family, members] of families) {
      const house = await inSlices(pooling(members));
      this.learned.set(keyOf(family, ''), house);
      // A model that all of them are of has nothing on top.
      const models = new Set(members.map((m) => m.model));
      for (const model of models.size > 1 ? models : []) {
        const own =
          model &&
          (await inSlices(
            poolingModel(
              members.filter((m) => m.model === model),
              house,
            ),
          ));
        if (own) this.learned.set(keyOf(family, model), own);
      }
    }
    this.runs = outcomes.length;
    await store.keepFleets(
      [...this.learned].map(([key, fleet]) => ({
        ...ofKey(key),
        version: DRIFT_VERSION,
        fleet,
        houseRuns: this.runs,
        learnedAt: new Date(this.now()).toISOString(),
      })),
    );
    return true;
  }
}

/** Every sensor with the loop that it is fitted at, or was at its last run. */
function everySensor(
  { loops, shelved }: Awaited<ReturnType<Store['readSetUp']>>,
  outcomes: readonly Finished[],
): { readonly sensor: { readonly id: string; readonly model: string }; readonly loop: Fitted['loop'] }[] {
  const byId = new Map(loops.map(({ loop }) => [loop.id, loop]));
  const lastLoop = new Map(outcomes.map((o) => [o.sensorId, o.loopId]));
  return [
    ...loops.flatMap(({ sensor, loop }) => (sensor ? [{ sensor, loop }] : [])),
    ...shelved.flatMap(({ sensor }) => {
      const loop = byId.get(lastLoop.get(sensor.id) ?? '');
      return loop ? [{ sensor, loop }] : [];
    }),
  ];
}

/** Runs a search to its end, and lets everybody else have the thread in between. */
async function inSlices<F extends Fleet | null>(search: Generator<unknown, F>): Promise<F> {
  const slices = new Slices(SLICE_MS);
  for (;;) {
    const { done, value } = search.next();
    if (done) return value;
    if (slices.isOver) await slices.next();
  }
}
