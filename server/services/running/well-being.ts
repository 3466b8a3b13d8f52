import { Refusal } from '@frustum/core';
import { WRITERS, type Store } from '../../store/commands/index.ts';

/** Refusals that say that nothing is kept just now, whatever is sent; and what every page says then. */
const KEEPS_NOTHING: Readonly<Record<string, string>> = {
  'disk-full':
    'The disk of Frustum’s computer is full, and nothing is kept on it. Make room there; what waits on the devices is then sent by itself.',
  'read-only':
    'Frustum may not write to its data folder, and nothing is kept in it. Give it back the right to write; what waits on the devices is then sent by itself.',
  'store-away':
    'Frustum’s database has just ended and is opened again. What waits on the devices is then sent by itself.',
  'store-gone':
    'Frustum’s database does not open any more, and nothing is kept. Start Frustum anew, and look at what it says; what waits on the devices stays there.',
};

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
    const trouble = refusal ? (KEEPS_NOTHING[refusal.code] ?? refusal.message) : null;
    if (this.trouble === trouble) return;
    this.trouble = trouble;
    this.changed();
  }

  /** An error went by: does it say that nothing is kept? */
  note(error: unknown): void {
    if (error instanceof Refusal && Object.hasOwn(KEEPS_NOTHING, error.code)) this.heard(error);
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
