import { ComparisonCache } from './caches/comparison-cache.ts';
import { randomUUID } from 'node:crypto';
import { pino, type Logger } from 'pino';
import { LiveHub } from './channels/live-hub.ts';
import { Poller } from './channels/poller.ts';
import type { Config } from './config/config.ts';
import { Fleets } from './caches/fleets.ts';
import type { Backups } from './services/backups/backups.ts';
import { WellBeing } from './services/running/well-being.ts';
import { SystemClock } from './services/running/system-clock.ts';
import { Teller } from './services/alarms/tell.ts';
import { ConeCache } from './caches/cone-cache.ts';
import { PerHouseState, Marks } from './caches/per-house-state.ts';
import type { MadeMargins } from './caches/margins.ts';
import type { FittedLoop } from './store/commands/places.ts';
import type { HouseKnowledge } from '@frustum/core';
import { logInsIn } from './config/log-ins.ts';
import type { Store } from './store/commands/index.ts';
import { keeping } from './store/kept.ts';

/** Everything that services and routes need, joined here and nowhere else. */
export interface Context {
  readonly config: Config;
  readonly log: Logger;
  readonly store: Store;
  /** whether what is sent can be kept */
  readonly wellBeing: WellBeing;
  /** snapshots and restoring; null on a database that passes */
  readonly backups: Backups | null;
  /** aborted when this house closes: open streams end then */
  readonly over: AbortSignal;
  readonly hub: LiveHub;
  readonly poller: Poller;
  /** how sensors of a family drift in this house */
  readonly fleets: Fleets;
  /** what sensors in the same water gave beside each other */
  readonly beside: ComparisonCache;
  /** the cones of Margins, as they were made last */
  readonly cones: ConeCache;
  /** Margins as they were worked out last */
  readonly margins: PerHouseState<MadeMargins>;
  /** all that is known of its sensors, as it was read last */
  readonly house: PerHouseState<HouseKnowledge<FittedLoop>>;
  /** names the states of the house */
  readonly marks: Marks;
  /** tells alarms beyond the screen */
  readonly teller: Teller;
  /** whether the computer's time can be believed */
  readonly clock: SystemClock;
  /** epoch milliseconds, by that clock */
  readonly now: () => number;
  readonly newId: () => string;
  /** tells every open screen that sensors or runs have changed */
  readonly changed: () => void;
  /** tells them that a transmitter or a reading says another thing than before */
  readonly heard: () => void;
  readonly onChange: (listener: () => void) => () => void;
}

/** Joins the parts; a test hands in its own clock, ids or store. */
export function makeContext(config: Config, store: Store, overrides: Partial<Context> = {}): Context {
  const listeners = new Set<() => void>();
  const marks = new Marks();
  const clock = overrides.clock ?? new SystemClock(null);
  const { now = clock.now, newId = randomUUID } = overrides;
  const hub = overrides.hub ?? new LiveHub(now);
  const tell = () => listeners.forEach((l) => l());
  const changed = () => {
    marks.changed();
    tell();
  };
  const heard = () => {
    marks.heard();
    tell();
  };
  const wellBeing = new WellBeing(changed);
  return {
    config,
    log: pino({ level: config.logLevel }, pino.destination(2)),
    store: keeping(wellBeing.watching(store)),
    wellBeing,
    backups: null,
    over: new AbortController().signal,
    hub,
    poller: new Poller(hub, {
      logIns: logInsIn(config.dataFolder),
      reach: { allowed: config.allowed, ownPorts: [config.port] },
      watchedMs: config.watchedMs,
      now,
    }),
    fleets: new Fleets(now),
    beside: new ComparisonCache(),
    cones: new ConeCache(),
    margins: new PerHouseState(),
    house: new PerHouseState(),
    marks,
    teller: new Teller({ store, folder: config.dataFolder, now, newId }),
    clock,
    now,
    newId,
    changed,
    heard,
    onChange: (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    ...overrides,
  };
}
