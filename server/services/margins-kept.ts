import { randomUUID } from 'node:crypto';
import type { ConesView, ConeView, LoopRow, MarginsView } from '@frustum/contract';
import type { Context } from '../context.ts';
import { marginRows } from './margins.ts';

/** Without a change a row is good for so long, ms: an error moves by less than its last digit meanwhile. */
const GOOD_FOR_MS = 60_000;

/** Margins as they were worked out last, ready to be sent. */
interface Made {
  readonly rows: readonly LoopRow[];
  readonly cones: ReadonlyMap<string, ConeView>;
  /** the answer, as it goes out: encoded once for all */
  readonly json: Buffer;
}

/**
 * Margins for everybody who asks: worked out once for each state of the house, however many ask at once, and not again for
 * whoever has that state already.
 */
export class KeptMargins {
  /** names this life of the house in marks: numbers of another one, before a restore, mean nothing */
  private readonly life = randomUUID();
  private changes = 0;
  private made: { readonly mark: string; readonly promise: Promise<Made> } | null = null;

  /** Something has changed that Margins may rest on. */
  forget(): void {
    this.changes++;
  }

  /** Names what `read` would give now: two equal marks, two equal answers. */
  markOf({ now, clock }: Context): string {
    return `W/"${this.life}-${this.changes}-${Math.floor(now() / GOOD_FOR_MS)}${clock.doubt ? '-doubt' : ''}"`;
  }

  /** The rows, their cones, and the answer. */
  read(context: Context): Promise<Made> {
    const mark = this.markOf(context);
    if (this.made?.mark === mark) return this.made.promise;
    const promise = make(context);
    // What could not be read is read anew the next time.
    promise.catch(() => (this.made = null));
    this.made = { mark, promise };
    return promise;
  }

  /** Cones of some rows; a sensor that there is not has none. */
  async cones(context: Context, sensorIds: readonly string[]): Promise<ConesView> {
    const { cones } = await this.read(context);
    return { cones: Object.fromEntries(sensorIds.map((id) => [id, cones.get(id) ?? null])) };
  }
}

async function make(context: Context): Promise<Made> {
  const nowMs = context.now();
  const { poller, config, clock, wellBeing } = context;
  const made = await marginRows(context);
  const rows = made.map(({ cone: _cone, ...row }): LoopRow => row);
  const demo = config.demoBundle !== null;
  const view: MarginsView = { nowMs, demo, held: poller.held, clock: clock.doubt, trouble: wellBeing.trouble, rows };
  const json = Buffer.from(JSON.stringify(view));
  return { rows, cones: new Map(made.map((r) => [r.sensorId, r.cone])), json };
}
