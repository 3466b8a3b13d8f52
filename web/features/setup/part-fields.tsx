import { useFormContext } from 'react-hook-form';
import { familyOf, inSameWater, type LoopId, type SiteId } from '@frustum/core';
import { Pick, Text, Tick } from '../../ui/text-field.tsx';
import type { PartsForm } from './loop-parts.ts';

/** Limits of a loop's own, where they differ from what practice has for its family. */
export function LimitFields() {
  const id = useFormContext<PartsForm>().watch('family');
  const { limits, zero, sensitivity } = familyOf(id);
  const usual = (value: number, factor = 1) => (Number.isFinite(value) ? String(Math.round(value * factor)) : 'any');
  return (
    <details className="sm:col-span-2 lg:col-span-3">
      <summary className="cursor-pointer py-3 sub">Limits of its own</summary>
      <div className="grid sm:grid-cols-2 lg:grid-cols-3 gap-x-5 gap-y-3">
        <Text<PartsForm>
          name="limits.zero"
          label={`Largest ${zero.name}, ± ${zero.unit}`}
          hint={usual(limits.zero)}
          decimal
        />
        <Text<PartsForm>
          name="limits.sensitivityLow"
          label={`Lowest ${sensitivity.name}, %`}
          hint={usual(limits.sensitivityLow, 100)}
          decimal
        />
        <Text<PartsForm>
          name="limits.sensitivityHigh"
          label={`Highest ${sensitivity.name}, %`}
          hint={usual(limits.sensitivityHigh, 100)}
          decimal
        />
        <Text<PartsForm>
          name="limits.t90Seconds"
          label="Longest response (t90), s"
          hint={usual(limits.t90Seconds)}
          decimal
        />
        <Text<PartsForm>
          name="limits.adjustAboveShare"
          label="Left alone up to, % of the tolerance"
          hint={usual(limits.adjustAboveShare, 100)}
          decimal
        />
        <Text<PartsForm>
          name="limits.guardShare"
          label="Guard band, % of the ±: 0 accepts simply"
          hint={usual(limits.guardShare ?? 1, 100)}
          decimal
        />
      </div>
    </details>
  );
}

/** What there is around the loop that a procedure must mind; folded away, since most loops have none of it. */
export function SurroundingFields() {
  return (
    <details className="sm:col-span-2 lg:col-span-3">
      <summary className="cursor-pointer py-3 sub">Surroundings</summary>
      <div className="grid sm:grid-cols-2 lg:grid-cols-3 gap-x-5 gap-y-3">
        <Tick<PartsForm> name="pressurised" label="Pressurised line" />
        <Tick<PartsForm> name="stocked" label="Stocked water: animals or plants" />
        <Tick<PartsForm> name="highPurity" label="High-purity water" />
      </div>
    </details>
  );
}

/** A loop as far as another hangs together with it. */
export interface Neighbour {
  readonly loopId: string;
  readonly name: string;
  readonly family: string;
  readonly place: string;
  readonly workingValue: number;
  readonly workingC: number;
  readonly referenceGroup: string;
  readonly body: string;
  readonly water: string;
}

/** What hangs together with the loop: set, or denied, by names that several carry. */
export function LinkFields({ others, self }: { others: readonly Neighbour[]; self: Neighbour | null }) {
  const { watch, setValue } = useFormContext<PartsForm>();
  const [family, water] = watch(['family', 'water']);
  const fellows = others.filter((o) => o.family === family);
  const byPlace = self && water === '' ? fellows.filter((o) => inSameWater(asPlaced(self), asPlaced(o))) : [];
  const known = (key: 'referenceGroup' | 'body' | 'water') => [...new Set(others.map((o) => o[key]).filter(Boolean))];
  return (
    <details className="sm:col-span-2 lg:col-span-3">
      <summary className="cursor-pointer py-3 sub">Same water, body or reference; backup of</summary>
      <div className="grid sm:grid-cols-2 lg:grid-cols-3 gap-x-5 gap-y-3">
        <Text<PartsForm> name="water" label="Its water" hint="a name that all in it carry" list="known-water" />
        <Text<PartsForm> name="body" label="On the body" hint="with those on its reference" list="known-body" />
        <Text<PartsForm>
          name="referenceGroup"
          label="Shares its reference with"
          hint="a name that all of them carry"
          list="known-referenceGroup"
        />
        {(['water', 'body', 'referenceGroup'] as const).map((key) => (
          <datalist key={key} id={`known-${key}`}>
            {known(key).map((name) => (
              <option key={name} value={name} />
            ))}
          </datalist>
        ))}
        <Pick<PartsForm>
          name="backupOf"
          label="Backup of"
          options={[['', 'none'] as const, ...fellows.map((o) => [o.loopId, o.name] as const)]}
        />
        {self && byPlace.length > 0 && (
          <p className="sm:col-span-2 text-[15px] self-end" role="status">
            In the same water, by place and value: {byPlace.map((o) => o.name).join(', ')}.{' '}
            <button
              type="button"
              className="btn btn-sm h-11"
              onClick={() => setValue('water', self.name, { shouldDirty: true })}
            >
              It is not
            </button>
          </p>
        )}
      </div>
    </details>
  );
}

/** All of them are of one site. */
const asPlaced = ({ loopId, ...loop }: Neighbour) => ({ ...loop, id: loopId as LoopId, siteId: '' as SiteId });
