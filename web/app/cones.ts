import type { ConesView, ConeView } from '@frustum/contract';

/** As many as the server gives at once. */
const MOST = 60;

interface Wanted {
  readonly resolve: (cone: ConeView | null) => void;
  readonly reject: (error: unknown) => void;
}

/**
 * Cones for rows that are in sight: whatever is asked for in one go is one request.
 *
 * @param ask gets the cones of some sensors from the server
 */
export class ConesInSight {
  private readonly ask: (sensorIds: readonly string[]) => Promise<ConesView>;
  private wanted = new Map<string, Wanted[]>();

  constructor(ask: (sensorIds: readonly string[]) => Promise<ConesView>) {
    this.ask = ask;
  }

  of(sensorId: string): Promise<ConeView | null> {
    return new Promise((resolve, reject) => {
      if (!this.wanted.size) setTimeout(() => this.send());
      this.wanted.set(sensorId, [...(this.wanted.get(sensorId) ?? []), { resolve, reject }]);
    });
  }

  private send(): void {
    const all = [...this.wanted];
    this.wanted = new Map();
    for (let i = 0; i < all.length; i += MOST) void this.sendSome(all.slice(i, i + MOST));
  }

  private async sendSome(some: readonly (readonly [string, readonly Wanted[]])[]): Promise<void> {
    try {
      const { cones } = await this.ask(some.map(([id]) => id));
      for (const [id, waiting] of some) for (const { resolve } of waiting) resolve(cones[id] ?? null);
    } catch (error) {
      for (const [, waiting] of some) for (const { reject } of waiting) reject(error);
    }
  }
}
