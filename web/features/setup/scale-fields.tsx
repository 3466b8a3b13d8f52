import { useEffect, useRef } from 'react';
import { useFormContext } from 'react-hook-form';
import { familyOf, figuresIn, figuresOut, modelOf, Refusal, scalesOf, shownAsIn, type ShownAs } from '@frustum/core';
import { unlessRefused, upper } from '../../format/in-family.ts';
import { typedNumber } from '../../format/typed.ts';
import { Pick, Text } from '../../ui/text-field.tsx';
import { settingsOf, type SettingsForm } from './settings-typed.ts';

/** How the instrument of a loop writes, and the figures that are typed in its scale. */
export interface ScaleForm extends SettingsForm {
  workingValue: string;
  workingC: string;
  tolerance: string;
  /** a scale of the family, by its id */
  scale: string;
  step: string;
}

type Kept = Parameters<typeof figuresOut>[0];

/** A loop's figures as its form has them: in its scale. */
export function scaleTyped(loop: Kept): Pick<ScaleForm, 'workingValue' | 'tolerance' | 'scale' | 'step'> {
  const { workingValue, tolerance, unit } = figuresOut(loop);
  const { step } = loop.shownAs;
  return {
    workingValue: String(workingValue),
    tolerance: String(tolerance),
    scale: unit,
    step: step === null ? '' : String(step),
  };
}

function ofFamily(form: ScaleForm) {
  const family = familyOf(form.family);
  const settings = settingsOf(family, form.settings);
  const model = unlessRefused(() => modelOf(family, settings)) ?? modelOf(family);
  const scales = scalesOf(model).map((s) => s.id);
  // Another family has other scales.
  return { settings, scales, own: model.valueUnit, unit: scales.includes(form.scale) ? form.scale : model.valueUnit };
}

/** What was typed, in the family's own unit. @throws Refusal what the scale refuses */
function ownFigures(form: ScaleForm, kept: Kept | null) {
  const { settings, unit } = ofFamily(form);
  return figuresIn(
    { family: form.family, settings, workingC: typedNumber(form.workingC), scale: unit },
    { workingValue: typedNumber(form.workingValue), tolerance: typedNumber(form.tolerance) },
    kept,
  );
}

/**
 * What was typed, in the family's own unit; no figure where the scale has none for it.
 *
 * @param kept the loop that is there: figures that say the same are its own
 */
export function scaleOfForm(form: ScaleForm, kept: Kept | null) {
  const { settings, unit } = ofFamily(form);
  const typed = { workingValue: typedNumber(form.workingValue), tolerance: typedNumber(form.tolerance) };
  // Settings that cannot be are named where they stand.
  const hasModel = unlessRefused(() => modelOf(familyOf(form.family), settings)) !== null;
  const own = (hasModel ? unlessRefused(() => ownFigures(form, kept)) : typed) ?? { workingValue: form.workingValue || undefined, tolerance: typedNumber(form.tolerance) }; // prettier-ignore
  return {
    ...own,
    workingValue: typeof own.workingValue === 'string' ? `“${own.workingValue}”` : own.workingValue,
    shownAs: shownAsIn(form.family, settings, unit, typedNumber(form.step)) as ShownAs,
  };
}

/** Why the scale has no such working value, to stand at its field; null where it has. */
export function scaleTrouble(form: ScaleForm): string | null {
  try {
    ownFigures(form, null);
    return null;
  } catch (error) {
    if (error instanceof Refusal) return upper(error.message);
    throw error;
  }
}

/** The scale of the form, as long as its family has it; else the family's own unit. */
export function useScales() {
  const { watch, getValues } = useFormContext<ScaleForm>();
  watch(['family', 'settings', 'scale']);
  const { scales, unit, own } = ofFamily(getValues());
  return { scales, unit, own };
}

/** In which unit and steps the instrument shows it. Another unit carries the figures that stand in the form along. */
export function ScaleFields() {
  const { getValues, setValue, watch } = useFormContext<ScaleForm>();
  const { scales, unit, own } = useScales();
  const scale = watch('scale');
  // Another family has other scales; and where its settings say that it is written otherwise, so is its instrument.
  const before = useRef(own);
  useEffect(() => {
    const follows = scale === before.current ? own : unit;
    before.current = own;
    if (scale !== follows) setValue('scale', follows);
  }, [scale, unit, own, setValue]);
  const carry = (to: string) => {
    const form = getValues();
    const own = scaleOfForm({ ...form, scale: unit }, null);
    const settings = settingsOf(familyOf(form.family), form.settings);
    const { workingValue, tolerance, shownAs } = own;
    const figures = {
      family: form.family,
      settings,
      workingC: Number(typedNumber(form.workingC)),
      shownAs: { ...shownAs, scale: to },
    };
    const texts = unlessRefused(() =>
      figuresOut({ ...figures, workingValue: Number(workingValue), tolerance: Number(tolerance) }),
    );
    if (typeof workingValue === 'number' && texts && Number.isFinite(texts.workingValue))
      setValue('workingValue', tidy(texts.workingValue), { shouldDirty: true });
    if (typeof workingValue === 'number' && typeof tolerance === 'number' && texts && Number.isFinite(texts.tolerance))
      setValue('tolerance', tidy(texts.tolerance), { shouldDirty: true });
    setValue('step', '', { shouldDirty: true });
  };
  return (
    <>
      <Pick<ScaleForm>
        name={'scale'}
        label="The instrument shows"
        options={scales.map((s) => [s, s] as const)}
        onPicked={carry}
      />
      <Text<ScaleForm> name="step" label={`In steps of, ${unit}`} hint="optional, like 0.01" decimal />
    </>
  );
}

/** No digits of arithmetic in a field that somebody reads. */
const tidy = (value: number) => String(Number(value.toPrecision(6)));
