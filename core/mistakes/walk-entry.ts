import { familyOf } from '../families/registry.ts';
import { figure } from '../quantities/figure.ts';
import type { Settings } from '../sensor/family.ts';
import { scaleOf, scalesOf } from '../sensor/scale.ts';
import { modelOf } from '../sensor/sensor.ts';
import { unlessRefused } from '../sensor/sources.ts';
import type { Warning } from './hypothesis.ts';
import { slipIn } from './typed.ts';

/** A display on a walk, and what it usually shows at this hour, in its family's own unit. */
export interface Display {
  readonly family: string;
  readonly settings: Settings;
  readonly workingC: number;
  readonly usual: { readonly value: number; readonly sd: number } | null;
}

/** Units of one kind that hang side by side on displays: one for the other is a slip that people make. */
const SIDE_BY_SIDE: readonly (readonly string[])[] = [
  ['µS/cm', 'mS/cm', 'CF', 'ppm×500', 'ppm×640', 'ppm×700'],
  ['°C', '°F'],
  ['PSS-78', 'SG 25/25'],
  ['mg/L O2', '% sat'],
  ['MΩ·cm', 'µS/cm'],
];

/**
 * Does what was read off a display look like a slip: a lost comma, two digits exchanged, another scale, another unit?
 *
 * @param typed as it was typed, in `unit`
 * @returns null where it does not, or where nothing can be expected
 * @example walkDoubt({ family: 'ph', settings: {}, workingC: 22, usual: { value: 5.8, sd: 0.05 } }, '58', 'pH')?.id // 'tenfold'
 * @example walkDoubt({ family: 'temperature', settings: {}, workingC: 22, usual: { value: 25, sd: 0.5 } }, '77', '°C')?.id // 'other-unit'
 * @example walkDoubt({ family: 'ph', settings: {}, workingC: 22, usual: { value: 5.8, sd: 0.05 } }, '5,83', 'pH') === null // 'true'
 */
export function walkDoubt(
  { family: id, settings, workingC, usual }: Display,
  typed: string,
  unit: string,
): Warning | null {
  const value = figure(typed.trim());
  if (value === null || usual === null) return null;
  const family = familyOf(id);
  const model = modelOf(family, settings);
  const at = { temperatureC: workingC };
  const about = (scale: string) => {
    const { of } = scaleOf(model, scale);
    const [expected, above, below] = [usual.value, usual.value + usual.sd, usual.value - usual.sd].map((x) =>
      unlessRefused(() => of(x, at)),
    );
    if (expected == null || (above == null && below == null)) return null;
    return { expected, sd: Math.max(...[above, below].flatMap((x) => (x == null ? [] : Math.abs(x - expected)))) };
  };
  const known = about(unit);
  if (!known || !(known.sd > 0)) return null;
  const there = scalesOf(model).map((s) => s.id);
  const beside = (SIDE_BY_SIDE.find((units) => units.includes(unit) && units.includes(model.valueUnit)) ?? []).filter(
    (u) => u !== unit && there.includes(u),
  );
  const elsewhere = beside.flatMap((u) => {
    const shown = about(u);
    return shown ? [{ unit: u, ...shown }] : [];
  });
  return slipIn({ text: typed.trim(), value, unit, ...known, others: [], scales: family.scales, elsewhere }).warning;
}
