import { array, number, object, string, type InferType } from 'yup';
import { moment, words } from './fields.ts';

/** What a dose may be counted in: a pump's minutes are a dose as well. */
export const DOSE_UNITS = ['mL', 'L', 'mg', 'g', 'kg', 's', 'min'] as const;
/** Doses that may be written down at once. */
export const MAX_DOSES = 5000;
const MAX_AMOUNT = 1e6;

export const dosesSchema = object({
  doses: array(
    object({
      /** when, if not just now */
      at: moment('Give day and time.').optional(),
      what: words(60).required('Say what was dosed.'),
      amount: number()
        .typeError('Type a figure.')
        .required('Say how much.')
        .moreThan(0, 'A dose is more than 0.')
        .max(MAX_AMOUNT, `A dose is at most ${MAX_AMOUNT}. Check the unit.`),
      unit: string<(typeof DOSE_UNITS)[number]>()
        .oneOf(DOSE_UNITS, `The unit is one of ${DOSE_UNITS.join(', ')}.`)
        .required(`The unit is one of ${DOSE_UNITS.join(', ')}.`),
    }).noUnknown(),
  )
    .min(1, 'There is no dose in it.')
    .max(MAX_DOSES, `At most ${MAX_DOSES} doses at once. Cut the file into parts.`)
    .required(),
}).noUnknown();
export type NewDoses = InferType<typeof dosesSchema>;

/** Doses that are taken back: all that was written down at that moment. */
export const takeBackDosesSchema = object({ noted: moment('Give day and time.').required() }).noUnknown();
export type TakeBackDoses = InferType<typeof takeBackDosesSchema>;

/** What was dosed into the water of a loop. */
export interface DoseRow {
  readonly at: string;
  readonly what: string;
  readonly amount: number;
  readonly unit: (typeof DOSE_UNITS)[number];
  /** when it was written down, while it can be taken back; what came in one file has the same */
  readonly noted: string | null;
}

export interface DosesView {
  /** how many there are */
  readonly all: number;
  /** newest first */
  readonly last: readonly DoseRow[];
}
