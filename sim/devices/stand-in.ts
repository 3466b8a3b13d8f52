import { FAULTS, faulty, type Switched } from '../faults/index.ts';
import { Body, PLACES } from '../physics/body.ts';
import { DEEDS } from '../physics/deeds.ts';
import type { Sense } from '../physics/electrode.ts';
import type { Process } from '../physics/process.ts';
import type { BodyTruth } from '../physics/truth.ts';
import type { ProbePort, Reading } from './ports.ts';

/** Longest step of the physics, s: well below the fastest time constant. */
const STEP_S = 0.25;
/** A probe that nobody reads does not have to be caught up for longer than this, s. */
const MAX_CATCH_UP_S = 600;
const FASTEST = 30;

/** An order to the hands, as it comes over the wire: nothing of it is trusted. */
export interface Order {
  readonly action: string;
  readonly place?: string;
  /** into the same cup once more, not into a fresh one */
  readonly again?: boolean;
  readonly rate?: number;
  /** what a box plugs in: mV for an electrode, µS for a cell */
  readonly value?: number;
  readonly fault?: string;
  readonly severity?: number;
  readonly seconds?: number;
}

/** Parts of a stand-in. */
export interface Made {
  readonly senses: Readonly<Record<string, Sense>>;
  readonly truth: BodyTruth;
  readonly process: Process;
  readonly seed: number;
  /** cups that are worth offering on its bench */
  readonly cups: readonly string[];
}

/** A body on the stand-in's bench: the physics, a clock that may run faster than life, faults, and a transmitter's memory. */
export class StandIn implements ProbePort {
  readonly memory: { zeroMv: number; slope: number };
  readonly body: Body;
  private rate: number;
  private readonly made: Made;
  private readonly nowMs: () => number;
  private readonly onWritten: () => void;
  private readonly onMoved: (place: string) => void;
  private readonly changes: Switched[] = [];
  private lastMs: number;
  private clock = 0;
  private jumped = 0;
  private status = 0;

  constructor(
    made: Made,
    options: {
      memory?: { zeroMv: number; slope: number };
      rate?: number;
      nowMs: () => number;
      onWritten?: () => void;
      onMoved?: (place: string) => void;
    },
  ) {
    this.made = made;
    this.memory = options.memory ?? { zeroMv: 0, slope: 1 };
    this.rate = options.rate ?? 1;
    this.nowMs = options.nowMs;
    this.onWritten = options.onWritten ?? (() => undefined);
    this.onMoved = options.onMoved ?? (() => undefined);
    this.lastMs = this.nowMs();
    this.body = new Body({ ...made, truth: (s) => faulty(made.truth, this.changes, s), atMs: this.lastMs });
  }

  read(): Reading {
    this.catchUp();
    const shown = this.body.shown();
    const first = Object.keys(this.made.senses)[0];
    return {
      ...shown,
      potentialMv: first ? shown.electrodes[first]! : 0,
      clockSeconds: this.clock + this.jumped,
      status: this.status,
      has: {
        cell: !!this.made.truth.cell,
        chlorine: !!this.made.truth.chlorine,
        optics: !!this.made.truth.optics,
        oxygen: this.made.truth.oxygen?.kind ?? null,
      },
    };
  }

  written(): void {
    this.onWritten();
  }

  /** @throws RangeError for what hands cannot do */
  hands(order: Order) {
    this.catchUp();
    const before = this.body.place;
    const deed = DEEDS[order.action as keyof typeof DEEDS];
    if (deed) this.switch(deed, 1, deed.name === 'soak' ? 'storage' : null);
    else this.obey(order);
    if (this.body.place !== before) this.onMoved(this.body.place);
    return this.view();
  }

  view() {
    return {
      place: this.body.place,
      places: ['process', ...this.made.cups, 'rinse', 'storage', 'air'],
      clockRate: this.rate,
      plugged: this.body.plugged,
      faults: FAULTS.map(({ name, shows }) => ({ name, shows, severity: this.severityOf(name) })),
    };
  }

  private obey({ action, place = '', again, rate, value, fault, severity, seconds }: Order): void {
    if (action === 'move' && PLACES.includes(place)) this.body.moveTo(place, again === true);
    else if (action === 'wiggle') this.body.wiggle();
    else if (action === 'blot') this.body.blot();
    else if (action === 'tap') this.body.tap();
    else if (action === 'clock') this.rate = Math.min(FASTEST, Math.max(1, Number(rate) || 1));
    else if (action === 'plug' && Number.isFinite(value)) this.body.plugged = { mv: value!, us: value! };
    else if (action === 'unplug') this.body.plugged = null;
    else if (action === 'fault' && FAULTS.some((f) => f.name === fault) && Number.isFinite(severity))
      this.fault(fault!, Math.min(1, Math.max(0, severity!)));
    else if (action === 'clock-jump' && Number.isFinite(seconds)) this.jumped += seconds!;
    else if (action === 'status' && Number.isInteger(value)) this.status = Math.min(65_535, Math.max(0, value!));
    else throw new RangeError(`the hands cannot ${action} ${fault ?? place}`.trim());
  }

  /** Switches a fault on from now, or off with severity 0. */
  private fault(name: string, severity: number): void {
    const at = this.changes.findIndex((c) => c.fault.name === name);
    if (at >= 0) this.changes.splice(at, 1);
    if (severity > 0)
      this.switch(
        FAULTS.find((f) => f.name === name)!,
        severity,
        null,
      );
  }

  private switch(fault: Switched['fault'], severity: number, place: string | null): void {
    this.changes.push({ fault, severity, from: this.clock });
    if (place) this.body.moveTo(place);
  }

  private severityOf(name: string): number {
    return this.changes.find((c) => c.fault.name === name)?.severity ?? 0;
  }

  private catchUp(): void {
    const now = this.nowMs();
    let left = Math.min(MAX_CATCH_UP_S, Math.max(0, ((now - this.lastMs) / 1000) * this.rate));
    this.lastMs = now;
    while (left > 1e-6) {
      const step = Math.min(STEP_S, left);
      this.body.step(step, now);
      this.clock += step;
      left -= step;
    }
  }
}
