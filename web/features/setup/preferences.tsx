import { FAMILIES, kindOf, modelOf, scalesOf } from '@frustum/core';
import { LabelledSelect } from '../../ui/labelled.tsx';
import { upper } from '../../format/in-family.ts';
import { preferred } from '../../app/settings.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';

/** What there is to choose between: one line for each thing that is measured and that has several scales. */
const KINDS = [
  ...new Map(
    FAMILIES.map((family) => {
      const model = modelOf(family);
      const scales = scalesOf(model).map((s) => s.id);
      return [kindOf(model.valueUnit), { kind: kindOf(model.valueUnit), scales }] as const;
    }),
  ).values(),
].filter(({ scales }) => scales.length > 1);

/** In which scales figures are written here, whatever the instruments show. What is kept is the same for everybody. */
function PreferredScaleFields() {
  const { scales } = useAppSelector((s) => s.settings);
  const dispatch = useAppDispatch();
  const prefer = (kind: string, scale: string) =>
    dispatch(preferred({ scales: { ...Object.fromEntries(Object.entries(scales).filter(([k]) => k !== kind)), ...(scale && { [kind]: scale }) } })); // prettier-ignore
  return (
    <details className="my-1">
      <summary className="cursor-pointer py-3">
        Figures are written {Object.keys(scales).length ? 'in units of your own' : 'as each instrument shows them'}
      </summary>
      <div className="grid sm:grid-cols-2 lg:grid-cols-3 gap-x-5 gap-y-3 max-w-4xl pb-3">
        {KINDS.map(({ kind, scales: offered }) => (
          <LabelledSelect
            key={kind}
            label={upper(kind)}
            value={scales[kind] ?? ''}
            options={[['', 'as its instrument shows it'], ...offered.map((scale) => [scale, scale] as const)]}
            onChange={(scale) => prefer(kind, scale)}
          />
        ))}
      </div>
    </details>
  );
}

/** What this person prefers on this device. */
export function Preferences() {
  const settings = useAppSelector((s) => s.settings);
  const dispatch = useAppDispatch();
  const box = (key: 'sound' | 'singleKeys', text: string) => (
    <label className="flex items-center gap-3 min-h-12 cursor-pointer">
      <input
        type="checkbox"
        className="toggle"
        checked={settings[key]}
        onChange={(e) => dispatch(preferred({ [key]: e.target.checked }))}
      />
      {text}
    </label>
  );
  return (
    <section aria-label="This device" className="border-t border-base-300 mt-8 pt-4">
      <h2>On this device</h2>
      <PreferredScaleFields />
      {box('sound', 'Sound and vibration when a reading is ready')}
      {box('singleKeys', 'Single keys (? shows them)')}
      <label className="flex items-center gap-3 min-h-12 cursor-pointer">
        <input
          type="checkbox"
          className="toggle"
          checked={settings.theme === 'night'}
          onChange={(e) => dispatch(preferred({ theme: e.target.checked ? 'night' : 'daylight' }))}
        />
        Night: for dark rooms
      </label>
    </section>
  );
}
