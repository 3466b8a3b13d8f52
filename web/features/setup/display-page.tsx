import { useState } from 'react';
import { FormProvider, useForm, useFormContext } from 'react-hook-form';
import { Link } from 'react-router';
import { FAMILIES, familyOf, modelOf, scalesOf, usualSets } from '@frustum/core';
import type { NewSensor } from '@frustum/contract';
import { useAddSensorMutation, useMarginsQuery, useSetUpQuery } from '../../app/api.ts';
import { upper } from '../../format/in-family.ts';
import { problemOf } from '../../format/problem.ts';
import { Notice } from '../../ui/notice.tsx';
import { LabelledSelect } from '../../ui/labelled.tsx';
import { Text } from '../../ui/text-field.tsx';
import { formOf } from '../../wires/wire-forms.ts';
import { WIDE } from '../../wires/wire-form.ts';
import { fieldDay } from '../../format/dates.ts';
import { resolver, sensorOf, USUAL_SENSOR, type SensorForm } from './sensor-form.ts';

/** What a display can show: a family with one of its scales. */
const SHOWN = FAMILIES.flatMap((family) =>
  scalesOf(modelOf(family)).map(({ id }) => [`${family.id} ${id}`, `${upper(family.name)}: ${id}`] as const),
);

/** A closed instrument in four fields: its name, what it shows, in which steps, and what it shows now. */
export function Page() {
  const { data: setUp } = useSetUpQuery();
  const { data: margins } = useMarginsQuery();
  const sites = (setUp?.sites ?? []).filter((s) => s.archivedAt === null);
  const today = fieldDay(margins?.nowMs ?? Date.now());
  const last = sites.at(-1)?.name ?? '';
  if (!setUp || !margins) return <p className="p-6 sub">Opening …</p>;
  return <AddDisplay siteName={last} sites={sites.map((s) => s.name)} today={today} />;
}

function AddDisplay({ siteName, sites, today }: { siteName: string; sites: readonly string[]; today: string }) {
  const form = useForm<SensorForm>({
    resolver,
    defaultValues: {
      ...USUAL_SENSOR,
      siteName,
      fittedOn: today,
      channel: formOf({ kind: 'hand' } as never),
      ...asShown('ph', 'pH'),
    },
  });
  const [add, { error, isLoading }] = useAddSensorMutation();
  const [added, setAdded] = useState<{ readonly name: string; readonly sensorId: string } | null>(null);
  const submit = form.handleSubmit(async (filled) => {
    // The usual tolerance is in the family's own unit, whatever the display shows.
    const tolerance = Number(familyOf(filled.family).typed.tolerance);
    const answer = await add({ ...(sensorOf(filled) as NewSensor), tolerance });
    if (!answer.data) return;
    setAdded({ name: filled.loopName.trim(), sensorId: answer.data.sensorId });
    // The next one hangs at the same site, and often shows the same.
    form.setValue('loopName', '');
    form.setValue('workingValue', '');
    form.setFocus('loopName');
  });
  return (
    <main className="px-4 lg:px-7 py-5 max-w-3xl w-full">
      <h1>Add a display</h1>
      <p className="sub mt-1 max-w-prose">
        For an instrument that no wire reads: somebody looks at it and types. Everything else is as usual for what it
        shows, and can be changed in Set-up.
      </p>
      <FormProvider {...form}>
        <form
          noValidate
          aria-label="Add a display"
          onSubmit={(e) => void submit(e)}
          className="grid sm:grid-cols-2 gap-x-5 gap-y-3 mt-3"
        >
          <NameAndSite sites={sites} />
          <Shows />
          {error !== undefined && (
            <div className={WIDE}>
              <Notice kind="trouble" role="alert">
                {problemOf(error).detail}
              </Notice>
            </div>
          )}
          <div className={`flex flex-wrap gap-3 mt-2 ${WIDE}`}>
            <button className="btn btn-primary h-14 text-lg w-48" disabled={isLoading}>
              Add it
            </button>
            <Link className="btn btn-ghost h-14 text-lg font-normal" to="/walk">
              To the walk
            </Link>
          </div>
        </form>
      </FormProvider>
      <Added added={added} />
    </main>
  );
}

const Added = ({ added }: { added: { readonly name: string; readonly sensorId: string } | null }) => (
  <p role="status" className="mt-3">
    {added && (
      <>
        {added.name} is added.{' '}
        <Link className="underline" to={`/sensors/${added.sensorId}`}>
          Look at it
        </Link>
        , or add the next one.
      </>
    )}
  </p>
);

/** A family and its scale, with what follows from them. */
const asShown = (family: string, scale: string) => ({
  family,
  scale,
  settings: {},
  step: '',
  tolerance: familyOf(family).typed.tolerance,
  points: (usualSets(family)[0] ?? []).join(' '),
});

const NameAndSite = ({ sites }: { sites: readonly string[] }) => (
  <>
    <Text<SensorForm> name="loopName" label="Its name" hint="Tank 3 pH" />
    <Text<SensorForm> name="siteName" label="Site" list="known-sites" hint="where it hangs" />
    <datalist id="known-sites">
      {sites.map((s) => (
        <option key={s} value={s} />
      ))}
    </datalist>
  </>
);

function Shows() {
  const { watch, setValue } = useFormContext<SensorForm>();
  const [family, scale] = watch(['family', 'scale']);
  const pick = (shown: string) => {
    const [id = 'ph-shown', ...unit] = shown.split(' ');
    for (const [key, value] of Object.entries(asShown(id, unit.join(' '))))
      setValue(key as keyof SensorForm, value as never);
  };
  return (
    <>
      <LabelledSelect label="It shows" value={`${family} ${scale}`} options={SHOWN} onChange={pick} />
      <Text<SensorForm> name="step" label={`In steps of, ${scale}`} hint="0.01" decimal />
      <Text<SensorForm>
        name="workingValue"
        label={`It shows now, ${scale}`}
        hint={familyOf(family).typed.worksAt}
        decimal
      />
    </>
  );
}
