import type { Standard } from '../solutions/standard.ts';

export interface Words {
  readonly title: string;
  readonly text: string;
  readonly caution?: string;
}

export const SITE_FIRST = 'Local codes, site rules and the maker’s data sheets come first.';

/** What a sensor is put into: as much of a standard as words are made of. */
export type Stand = Pick<Standard, 'name' | 'nominal' | 'inAir'>;

/** What a membrane waits for that is new, or stood dry. */
export interface Soak {
  readonly seconds: number;
  words(dry: boolean): Words;
}

/** What a step sheet says, family by family. */
export interface BenchWords {
  hold(controls: string): Words;
  readonly takeOut: Words;
  place(into: Stand, previous?: Stand): Words;
  settle(into: Stand): Words;
  /** settling once more after a disturbance, and again where the last two did not agree; null where nothing is to be disturbed */
  readonly repeat: { readonly first: Words; readonly again: Words } | null;
  readonly verdict: Words;
  readonly clean: Words;
  readonly adjust: Words;
  readBack(name: string): Words;
  back(controls: string): Words;
}
