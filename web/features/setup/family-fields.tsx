import { useEffect } from 'react';
import { useFormContext } from 'react-hook-form';
import { FAMILIES, familyOf, modelOf, usualSets, type Settings, type Standard } from '@frustum/core';
import type { LoopRow } from '@frustum/contract';
import { unlessRefused } from '../../format/in-family.ts';
import { ScaleFields, scaleOfForm, useScales } from './scale-fields.tsx';
import type { SensorForm } from './sensor-form.ts';
import { ConditionFields, SettingFields } from './setting-fields.tsx';
import { askedBy, settingsOf } from './settings-typed.ts';
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
  const { unit } = useScales();
  return (
    <>
      <Pick<SensorForm> name="family" label="It measures" options={FAMILIES.map((f) => [f.id, f.name] as const)} />
      <ScaleFields />
      <Text<SensorForm>
        name="workingValue"
        label={`Works at, ${unit}`}
        hint={unit === model.valueUnit ? family.typed.worksAt : ''}
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
  const { family, settings } = useFamily();
  const { unit } = useScales();
  const { id } = family;
  const [points, site] = watch(['points', 'siteName']);
  const sets = usualSets(id, settings).map((set) => set.join(' '));
  const nearest = setAround(sets, standards, Number(scaleOfForm(watch(), null).workingValue));
  useEffect(() => {
    if (!sets.includes(points) || (!getFieldState('points').isDirty && points !== nearest)) setValue('points', nearest);
  });
  useEffect(() => {
    if (!getFieldState('tolerance').isDirty) setValue('tolerance', familyOf(id).typed.tolerance);
  }, [id, setValue, getFieldState]);
  const nameOf = (standard: string) => standards.find((s) => s.id === standard)?.name ?? standard;
  return (
    <>
      <Text<SensorForm> name="tolerance" label={`Tolerance, ± ${unit}`} decimal />
      <SettingFields family={family} />
      {askedBy(family, settings).map((name) => (
        <ConditionFields key={`${id}.${name}`} name={name} site={site.trim()} rows={rows} />
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
