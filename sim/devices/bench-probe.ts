import type { Liquid, Process } from '../physics/liquids.ts';
import { LIQUIDS } from '../physics/liquids.ts';
import { PhProbe, type ProbeTruth } from '../physics/ph-probe.ts';
import type { ProbePort } from './transmitter.ts';

/** Longest step of the physics, s: well below the fastest time constant. */
const STEP_S = 0.25;
/** A probe that nobody reads does not have to be caught up for longer than this, s. */
const MOST_CATCH_UP_S = 600;

/** A probe on the stand-in's bench: the physics, a clock that may run faster than life, and a transmitter's memory. */
export class BenchProbe implements ProbePort {
  readonly memory: { zeroMv: number; slope: number };
  rate: number;
  private readonly probe: PhProbe;
  private readonly nowMs: () => number;
  private readonly onWritten: () => void;
  private lastMs: number;
  private clock = 0;

  constructor(
    truth: ProbeTruth,
    process: Process,
    seed: number,
    options: { memory: { zeroMv: number; slope: number }; rate: number; nowMs: () => number; onWritten: () => void },
  ) {
    this.probe = new PhProbe(truth, process, seed);
    this.memory = options.memory;
    this.rate = options.rate;
    this.nowMs = options.nowMs;
    this.onWritten = options.onWritten;
    this.lastMs = this.nowMs();
  }

  read() {
    this.catchUp();
    return { potentialMv: this.probe.potentialMv(), temperatureC: this.probe.temperatureC(), clockSeconds: this.clock };
  }

  written(): void {
    this.onWritten();
  }

  /** @throws RangeError for a liquid that is not on the bench */
  hands(order: { action: string; liquid?: string; rate?: number }) {
    this.catchUp();
    if (order.action === 'wiggle') this.probe.wiggle();
    else if (order.action === 'clock') this.rate = Math.min(30, Math.max(1, Number(order.rate) || 1));
    else if (order.action === 'move' && LIQUIDS.includes(order.liquid as Liquid))
      this.probe.moveTo(order.liquid as Liquid, this.lastMs);
    else throw new RangeError(`the hands cannot ${order.action} ${order.liquid ?? ''}`);
    return this.view();
  }

  view() {
    return { liquid: this.probe.liquid, liquids: LIQUIDS, clockRate: this.rate };
  }

  private catchUp(): void {
    const now = this.nowMs();
    let left = Math.min(MOST_CATCH_UP_S, ((now - this.lastMs) / 1000) * this.rate);
    this.lastMs = now;
    while (left > 1e-6) {
      const step = Math.min(STEP_S, left);
      this.probe.step(step, now);
      this.clock += step;
      left -= step;
    }
  }
}
