/** A density of one piece of evidence: normal, about a mean. */
export interface Expected {
  readonly mean: number;
  readonly sd: number;
}

/** The pieces of evidence that a hypothesis may have an opinion of. */
export type Piece =
  'zeroMoved' | 'sensitivityLost' | 'sensitivity' | 'slower' | 'sampleOff' | 'readingMoved' | 'membrane' | 'reference';

/** What somebody does about it. */
export type ActionGroup =
  | 'nothing'
  | 'service the reference'
  | 'clean'
  | 'replace the sensor'
  | 'replace the standard'
  | 'look at the process'
  | 'look at the wiring';

/**
 * One cause. What it says of a piece of evidence is a normal density; of what it does not name it says what a sound sensor
 * says. All figures are common practice without a source.
 */
export interface Cause {
  readonly id: string;
  readonly name: string;
  readonly prior: number;
  readonly group: ActionGroup;
  readonly expects: Partial<Record<Piece, Expected>>;
  /**
   * it moves others alike: those on the same reference (`siblings`), those that were in the same bottle (`fellows`), those in
   * the same water (`twins`)
   */
  readonly moves?: 'siblings' | 'fellows' | 'twins';
  /** families that it befalls; absent = every electrode */
  readonly families?: readonly string[];
  /** without this piece nobody would think of it */
  readonly needs?: Piece;
  /** it comes from one run to the next */
  readonly sudden?: boolean;
  /** another bottle undoes it */
  readonly undone?: boolean;
}

/** What a sound electrode shows. */
export const SOUND: Readonly<Record<Piece, Expected>> = {
  zeroMoved: { mean: 0, sd: 3.5 },
  sensitivityLost: { mean: 0.7, sd: 1.2 },
  sensitivity: { mean: 96, sd: 3 },
  slower: { mean: 0.1, sd: 0.2 },
  sampleOff: { mean: 0, sd: 3 },
  readingMoved: { mean: 0, sd: 5 },
  // ln of MΩ and kΩ: membranes of 60 to 240 MΩ, references of 3 to 20 kΩ.
  membrane: { mean: 4.8, sd: 0.45 },
  reference: { mean: 2, sd: 0.5 },
};

/** What may befall electrodes of a family. */
export const causesOf = (family: string): readonly Cause[] =>
  OF_ELECTRODES.filter((c) => !c.families || c.families.includes(family));

/**
 * What befalls electrodes with a reference: four in five troubles of pH are the reference. A zero that falls by 27 mV is an
 * electrolyte of 3 mol/kg that has become one of 1 mol/kg.
 */
export const OF_ELECTRODES: readonly Cause[] = [
  {
    id: 'electrolyte-diluted',
    name: 'the reference electrolyte is diluted',
    prior: 0.12,
    group: 'service the reference',
    expects: { zeroMoved: { mean: -15, sd: 8 }, reference: { mean: 2.8, sd: 0.6 } },
    moves: 'siblings',
  },
  {
    id: 'reference-contaminated',
    name: 'the reference is contaminated',
    prior: 0.06,
    group: 'service the reference',
    expects: { zeroMoved: { mean: 6, sd: 17 }, slower: { mean: 0.2, sd: 0.3 } },
    moves: 'siblings',
  },
  {
    id: 'junction-blocked',
    name: 'the junction is blocked',
    prior: 0.1,
    group: 'clean',
    expects: {
      sampleOff: { mean: 0, sd: 22 },
      slower: { mean: 0.3, sd: 0.3 },
      readingMoved: { mean: 0, sd: 12 },
      reference: { mean: 4.3, sd: 0.9 },
    },
  },
  {
    id: 'glass-aged',
    families: ['ph'],
    name: 'the glass has aged',
    prior: 0.06,
    group: 'replace the sensor',
    expects: {
      sensitivityLost: { mean: 8, sd: 4 },
      sensitivity: { mean: 87, sd: 5 },
      slower: { mean: 0.8, sd: 0.4 },
      membrane: { mean: 5.7, sd: 0.5 },
    },
  },
  {
    id: 'tip-worn',
    families: ['ion'],
    name: 'the ion tip is worn',
    prior: 0.1,
    group: 'replace the sensor',
    expects: { sensitivityLost: { mean: 12, sd: 8 }, slower: { mean: 0.5, sd: 0.4 } },
  },
  {
    id: 'platinum-dirty',
    families: ['orp'],
    name: 'the platinum is dirty',
    prior: 0.1,
    group: 'clean',
    expects: { zeroMoved: { mean: 0, sd: 9 }, slower: { mean: 0.8, sd: 0.4 } },
  },
  {
    id: 'connector-moist',
    families: ['ph'],
    name: 'moisture at the connector',
    prior: 0.03,
    group: 'look at the wiring',
    expects: {
      sensitivityLost: { mean: 12, sd: 8 },
      sensitivity: { mean: 82, sd: 10 },
      membrane: { mean: 3.9, sd: 0.7 },
    },
  },
  {
    id: 'glass-cracked',
    families: ['ph'],
    name: 'the glass is cracked, or the input is shorted',
    prior: 0.01,
    group: 'replace the sensor',
    expects: {
      sensitivityLost: { mean: 85, sd: 15 },
      sensitivity: { mean: 5, sd: 12 },
      membrane: { mean: 0, sd: 1.2 },
    },
    sudden: true,
  },
  {
    id: 'standard-wrong',
    name: 'a bottle was wrong',
    prior: 0.05,
    group: 'replace the standard',
    // 0.2 pH in one of two buffers is 12 mV of zero or 7 % of slope.
    expects: {
      zeroMoved: { mean: 0, sd: 12 },
      sensitivityLost: { mean: 0.7, sd: 4 },
      sensitivity: { mean: 96, sd: 4.5 },
    },
    sudden: true,
    undone: true,
    moves: 'fellows',
  },
  {
    id: 'process-moved',
    name: 'the water has moved, not the sensor',
    prior: 0.05,
    group: 'look at the process',
    expects: { readingMoved: { mean: 0, sd: 40 } },
    moves: 'twins',
    needs: 'readingMoved',
  },
];
