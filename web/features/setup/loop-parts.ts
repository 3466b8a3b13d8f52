import type { Surrounding } from '@frustum/core';
import type { ChangeLoop } from '@frustum/contract';
import type { SettingsForm } from './settings-typed.ts';
import { typedNumber } from '../../format/typed.ts';

/** Parts of a loop that two forms have alike: as they are typed, and as they are kept. */
export interface PartsForm extends SettingsForm {
  /** limits of its own, as typed; sensitivities and share in % */
  limits: Record<string, string>;
  pressurised: boolean;
  stocked: boolean;
  highPurity: boolean;
  referenceGroup: string;
  /** names that several loops carry; '' = as usual */
  body: string;
  water: string;
  /** the loop that it stands in for; '' = none */
  backupOf: string;
  /** ids of the usual standards in their order, with blanks between */
  points: string;
}

type Limits = NonNullable<ChangeLoop['to']['limits']>;

/** Limits that people say in percent. */
const IN_PERCENT = ['sensitivityLow', 'sensitivityHigh', 'adjustAboveShare', 'guardShare'];

/** Typed limits: an empty field means the usual limit; text that is not a figure is kept, so that the schema can name it. */
export const limitsOf = (typed: Readonly<Record<string, string>>): Limits =>
  Object.fromEntries(
    Object.entries(typed).flatMap(([key, text]) => {
      const value = typedNumber(text);
      if (value === undefined) return [];
      return [[key, typeof value === 'number' && IN_PERCENT.includes(key) ? value / 100 : value]];
    }),
  );

const LIMITS = ['zero', 'sensitivityLow', 'sensitivityHigh', 't90Seconds', 'adjustAboveShare', 'guardShare'] as const;

/** Limits as they are typed, each with a field of its own: '' = as usual. */
export const limitsTyped = (limits: Readonly<Partial<Record<string, number>>>): Record<string, string> =>
  Object.fromEntries(
    LIMITS.map((key) => {
      const value = limits[key];
      const typed = value === undefined ? '' : IN_PERCENT.includes(key) ? Number((100 * value).toFixed(6)) : value;
      return [key, String(typed)];
    }),
  );

const SURROUNDINGS = { pressurised: 'pressurised', stocked: 'stocked', highPurity: 'high-purity' } as const;

export const surroundingsOf = (form: Pick<PartsForm, keyof typeof SURROUNDINGS>): Surrounding[] =>
  (Object.keys(SURROUNDINGS) as (keyof typeof SURROUNDINGS)[]).flatMap((key) => (form[key] ? [SURROUNDINGS[key]] : []));

export const surroundingsTyped = (list: readonly Surrounding[]) => ({
  pressurised: list.includes('pressurised'),
  stocked: list.includes('stocked'),
  highPurity: list.includes('high-purity'),
});

export const pointsOf = (typed: string): string[] => typed.split(' ').filter(Boolean);
