import {
  conditionsFor,
  familyOf,
  typedCondition,
  type ConditionName,
  type Family,
  type LoopId,
  type Settings,
  type Takes,
} from '@frustum/core';
import { unlessRefused } from '../../format/in-family.ts';
import { typedNumber } from '../../format/typed.ts';

/** What a family's arithmetic must know, as it is typed. */
export interface SettingsForm {
  family: string;
  /** by field of the family, as typed; a field that is not there is as usual */
  settings: Record<string, string>;
  /** by condition, the loop that shows it; '' = what is typed */
  takes: Record<string, string>;
}

/** Settings as the core takes them: only those of this family, figures as figures, conditions in their unit. */
export function settingsOf(family: Family, typed: Readonly<Record<string, string>>): Settings {
  const own = Object.entries(family.settings).map(([key, field]): [string, number | string] => {
    const text = typed[key];
    if (text === undefined || text.trim() === '') return [key, field.usual];
    return [key, field.kind === 'figure' ? (typedNumber(text) ?? field.usual) : text];
  });
  const settings = Object.fromEntries(own);
  return { ...settings, ...surroundedOf(askedBy(family, settings), typed) };
}

/** The conditions that a family asks for; none while its settings are no settings yet. */
export const askedBy = (family: Family, settings: Settings): readonly ConditionName[] =>
  unlessRefused(() => conditionsFor(family, settings)) ?? [];

/** Conditions that were typed, in their units; what cannot be read stays as it is, so that the core can name it. */
function surroundedOf(asked: readonly ConditionName[], typed: Readonly<Record<string, string>>): Settings {
  const said = asked.flatMap((name): [string, number | string][] => {
    const text = typed[name] ?? '';
    const value = unlessRefused(() => typedCondition(text, name));
    return text.trim() ? [[name, value ?? text]] : [];
  });
  return Object.fromEntries(said);
}

/** Loops that show its conditions, as far as one was picked. */
export const takesOf = ({ family: id, takes }: SettingsForm, settings: Settings): Takes =>
  Object.fromEntries(
    askedBy(familyOf(id), settings).flatMap((name) => (takes[name] ? [[name, takes[name] as LoopId]] : [])),
  );

/** As kept settings and takes are typed. */
export const settingsTyped = (
  family: string,
  { settings, takes }: { readonly settings: Settings; readonly takes: Takes },
): SettingsForm => ({ family, settings: texts(settings), takes: texts(takes) });

const texts = (values: object): Record<string, string> =>
  Object.fromEntries(Object.entries(values).map(([key, value]) => [key, String(value)]));
