import { Refusal } from '@frustum/core';
import { WRITERS, type Store } from '../store/commands/index.ts';

/** Refusals that say that nothing is kept just now, whatever is sent. */
const KEEPS_NOTHING: readonly string[] = ['disk-full', 'read-only', 'store-away', 'store-gone'];

/** Whether what is sent can be kept: every page says it when it cannot. */
export class WellBeing {
  /** in words; null when all is well */
  trouble: string | null = null;
  private readonly changed: () => void;

  constructor(changed: () => void) {
    this.changed = changed;
  }

  /** Something was kept, or could not be. */
  heard(refusal: Refusal | null): void {
    const trouble = refusal?.message ?? null;
    if (this.trouble === trouble) return;
    this.trouble = trouble;
    this.changed();
  }

  /** An error went by: does it say that nothing is kept? */
  note(error: unknown): void {
    if (error instanceof Refusal && KEEPS_NOTHING.includes(error.code)) this.heard(error);
  }

  /** Watches what becomes of everything that is written. */
  watching(store: Store): Store {
    return new Proxy(store, {
      get: (target, name) => {
        const there = Reflect.get(target, name) as (...args: unknown[]) => Promise<unknown>;
        if (typeof name !== 'string' || !(name in WRITERS)) return there;
        return async (...args: unknown[]) => {
          try {
            const value = await there(...args);
            this.heard(null);
            return value;
          } catch (error) {
            this.note(error);
            throw error;
          }
        };
      },
    });
  }
}
