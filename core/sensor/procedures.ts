/** How a run goes. */
export const PROCEDURE_KINDS = [
  'calibrate',
  'check-first',
  'verify',
  'clean-and-test',
  'sample',
  'thermometers',
  'electrical',
] as const;
export type ProcedureKind = (typeof PROCEDURE_KINDS)[number];

/** A step of a team's own, after one of the usual ones. */
export interface ExtraStep {
  /** the step it follows: `hold`, `take-out`, `place`, `settle`, `clean`, `adjust`, `return` */
  readonly after: string;
  readonly title: string;
  readonly text: string;
}

/** Words of a team's own for a usual step. */
export interface OwnWords {
  readonly title?: string;
  readonly text?: string;
}

/** A procedure as a run keeps it: the built-in one, or a team's own in the version of the day. */
export interface Procedure {
  readonly kind: ProcedureKind;
  /** '' for the built-in one */
  readonly id: string;
  /** 0 for the built-in one */
  readonly version: number;
  readonly name: string;
  /** by step: `hold`, `take-out`, `place`, `settle`, `repeat`, `clean`, `adjust`, `read-back`, `return` */
  readonly words?: Readonly<Record<string, OwnWords>>;
  readonly extra?: readonly ExtraStep[];
}

/** What a procedure is for, in the words of the start page. */
export interface ProcedureInfo {
  readonly kind: ProcedureKind;
  readonly name: string;
  readonly text: string;
  /** may end in an adjustment */
  readonly adjusts: boolean;
  /** how many standards it takes, besides what the family says; 0 = its value comes from elsewhere */
  readonly points: 'family' | 'one' | 'none' | 'boxes';
}

/** Every kind of procedure. */
export const INFOS: Readonly<Record<ProcedureKind, ProcedureInfo>> = {
  calibrate: {
    kind: 'calibrate',
    name: 'Calibrate',
    text: 'As found in every standard, then leave or adjust as the numbers say.',
    adjusts: true,
    points: 'family',
  },
  'check-first': {
    kind: 'check-first',
    name: 'Check first',
    text: 'Only the first standard. Sound: it goes back into the water. Not sound: the run goes on to the others.',
    adjusts: true,
    points: 'family',
  },
  verify: {
    kind: 'verify',
    name: 'Verify only',
    text: 'As found, and nothing is adjusted, whatever it says.',
    adjusts: false,
    points: 'family',
  },
  'clean-and-test': {
    kind: 'clean-and-test',
    name: 'Clean and test',
    text: 'For cells that are calibrated at the factory: test, clean, test again in fresh standard. Never adjusted.',
    adjusts: false,
    points: 'family',
  },
  sample: {
    kind: 'sample',
    name: 'Grab sample',
    text: 'The sensor stays where it is. A sample is measured elsewhere and held against the reading at the moment it was drawn.',
    adjusts: true,
    points: 'none',
  },
  thermometers: {
    kind: 'thermometers',
    name: 'Two thermometers',
    text: 'Beside two independent thermometers, which must agree before they decide anything.',
    adjusts: true,
    points: 'none',
  },
  electrical: {
    kind: 'electrical',
    name: 'Electrical check',
    text: 'Simulator boxes instead of the sensor: what the transmitter itself makes of it, in % of span.',
    adjusts: true,
    points: 'boxes',
  },
};

/** The built-in procedure of a kind, as a run keeps it. */
export const builtIn = (kind: ProcedureKind): Procedure => ({ kind, id: '', version: 0, name: INFOS[kind].name });

/** Are standards poured for it? @example poursStandards('sample') // 'false' */
export const poursStandards = (kind: ProcedureKind): boolean => INFOS[kind].points === 'family';

/** May this end in an adjustment? @example mayAdjust('verify') // 'false' */
export const mayAdjust = (kind: ProcedureKind): boolean => INFOS[kind].adjusts;
