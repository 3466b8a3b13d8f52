import { useEffect } from 'react';
import { useFormContext } from 'react-hook-form';
import {
  CONDITIONS,
  conditionsFor,
  FAMILIES,
  familyOf,
  modelOf,
  showsCondition,
  usualSets,
  type ConditionName,
  type Family,
  type Settings,
  type Standard,
} from '@frustum/core';
import type { LoopRow } from '@frustum/contract';
import { unlessRefused, upper } from '../../format/in-family.ts';
import { typedNumber } from '../../format/typed.ts';
import { settingsOf, type SensorForm } from './sensor-form.ts';
import { Pick, Text } from '../../ui/text-field.tsx';

/** The family in the form, with the settings that were typed. */
function useFamily() {
  const [id, typed] = useFormContext<SensorForm>().watch(['family', 'settings']);
  const family = familyOf(id);
  const settings: Settings = settingsOf(family, typed);
  return { family, settings, model: unlessRefused(() => modelOf(family, settings)) ?? modelOf(family) };
}

/** What is measured, and where it works: the rest follows from these. */
export function FamilyFields() {
  const { family, model } = useFamily();
  return (
    <>
      <Pick<SensorForm> name="family" label="It measures" options={FAMILIES.map((f) => [f.id, f.name] as const)} />
      <Text<SensorForm>
        name="workingValue"
        label={`Works at, ${model.valueUnit}`}
        hint={family.typed.worksAt}
        decimal
      />
    </>
  );
}

/** Its tolerance, what its arithmetic must know, and its usual standards: as usual for the family and for where it works. */
export function MoreFamilyFields({
  standards,
  rows,
}: {
  standards: readonly Standard[];
  /** loops that there are: some of them may show its conditions */
  rows: readonly LoopRow[];
}) {
  const { watch, setValue, getFieldState } = useFormContext<SensorForm>();
  const { family, settings, model } = useFamily();
  const { id } = family;
  const [points, workingValue] = watch(['points', 'workingValue']);
  const sets = usualSets(id, settings).map((set) => set.join(' '));
  const nearest = setAround(sets, standards, Number(typedNumber(workingValue)));
  useEffect(() => {
    if (!sets.includes(points) || (!getFieldState('points').isDirty && points !== nearest)) setValue('points', nearest);
  });
  useEffect(() => {
    if (!getFieldState('tolerance').isDirty) setValue('tolerance', familyOf(id).typed.tolerance);
  }, [id, setValue, getFieldState]);
  const nameOf = (standard: string) => standards.find((s) => s.id === standard)?.name ?? standard;
  return (
    <>
      <Text<SensorForm> name="tolerance" label={`Tolerance, ± ${model.valueUnit}`} decimal />
      <SettingFields family={family} />
      {(unlessRefused(() => conditionsFor(family, settings)) ?? []).map((name) => (
        <ConditionFields key={`${id}.${name}`} name={name} rows={rows} />
      ))}
      {sets.length > 0 && (
        <Pick<SensorForm>
          name="points"
          label="Usual standards"
          options={sets.map((set) => [set, set.split(' ').map(nameOf).join(', then ')] as const)}
        />
      )}
    </>
  );
}

/** Of the usual sets the first that has the working value between its standards; the first of all where none has, or where one is enough. */
function setAround(sets: readonly string[], standards: readonly Standard[], value: number): string {
  const isAround = (set: string) => {
    const values = set.split(' ').map((id) => standards.find((s) => s.id === id)?.nominal ?? NaN);
    return Math.min(...values) <= value && value <= Math.max(...values);
  };
  const usual = sets[0] ?? '';
  return usual.includes(' ') ? (sets.find(isAround) ?? usual) : usual;
}

/** What a family's arithmetic must know beside its value. */
function SettingFields({ family }: { family: Family }) {
  const { id } = family;
  return (
    <>
      {Object.entries(family.settings).map(([key, field]) =>
        field.kind === 'choice' ? (
          <Pick<SensorForm>
            key={`${id}.${key}`}
            name={`settings.${key}`}
            label={upper(field.name)}
            options={[
              ...field.choices.filter((c) => c.id === field.usual),
              ...field.choices.filter((c) => c.id !== field.usual),
            ].map((c) => [c.id, c.name] as const)}
          />
        ) : (
          <Text<SensorForm>
            key={`${id}.${key}`}
            name={`settings.${key}`}
            label={`${upper(field.name)}, ${field.unit}`}
            hint={String(field.usual)}
            decimal
          />
        ),
      )}
    </>
  );
}

/** A condition: typed, or shown by another loop of the same site. */
function ConditionFields({ name, rows }: { name: ConditionName; rows: readonly LoopRow[] }) {
  const site = useFormContext<SensorForm>().watch('siteName').trim();
  const { name: words, unit, usual } = CONDITIONS[name];
  const givers = rows.filter((r) => r.siteName === site && showsCondition(r, name));
  return (
    <>
      <Text<SensorForm> name={`settings.${name}`} label={`${upper(words)}, ${unit}`} hint={String(usual)} />
      {givers.length > 0 && (
        <Pick<SensorForm>
          name={`takes.${name}`}
          label={`${upper(words)}, from`}
          options={[['', 'what is typed here'] as const, ...givers.map((r) => [r.loopId, r.loopName] as const)]}
        />
      )}
    </>
  );
}
