import { useFormContext } from 'react-hook-form';
import { familyOf } from '@frustum/core';
import { Text, Tick } from '../../ui/text-field.tsx';
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
      </div>
    </details>
  );
}

/** What there is around the loop that a procedure must mind; folded away, since most loops have none of it. */
export function SurroundingFields() {
  return (
    <details className="sm:col-span-2 lg:col-span-3">
      <summary className="cursor-pointer py-3 sub">Surroundings, shared reference</summary>
      <div className="grid sm:grid-cols-2 lg:grid-cols-3 gap-x-5 gap-y-3">
        <Tick<PartsForm> name="pressurised" label="Pressurised line" />
        <Tick<PartsForm> name="stocked" label="Stocked water: animals or plants" />
        <Tick<PartsForm> name="highPurity" label="High-purity water" />
        <Text<PartsForm> name="referenceGroup" label="Shares its reference with" hint="a name that all of them carry" />
      </div>
    </details>
  );
}
