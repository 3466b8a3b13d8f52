import { expectedIn, modelOf } from '../sensor/sensor.ts';
import { unlessRefused } from '../sensor/sources.ts';
import { familyOf } from '../families/registry.ts';
import type { Settings } from '../sensor/family.ts';
import { Refusal } from '../quantities/refusal.ts';
import { serves, usualSets } from '../families/catalogue.ts';
import type { Standard } from '../solutions/standard.ts';
import { mayAdjust, type ProcedureKind } from '../sensor/procedures.ts';
import { ZERO_PLUG } from '../solutions/without-liquid.ts';

/** A loop, as far as its standards depend on it. */
export interface PouredFor {
  readonly family: string;
  readonly settings?: Settings;
  readonly workingValue: number;
  readonly workingC: number;
}

/** A figure with its unit: pH stands before it. */
const inUnit = (value: number, unit: string) =>
  unit === 'pH' ? `pH ${value.toFixed(2)}` : `${value.toFixed(2)} ${unit}`;

/** The standards that say something of the sensor: a shorting plug says what the instrument adds. */
const ofSensor = (standards: readonly Standard[]) => standards.filter((s) => s.id !== ZERO_PLUG.id);

/** What the loop shows in each of its standards, where they have a value there; rising. */
function shownIn({ family: id, settings = {}, workingC }: PouredFor, standards: readonly Standard[]): number[] {
  const model = modelOf(familyOf(id), settings);
  return ofSensor(standards)
    .flatMap((standard) => unlessRefused(() => expectedIn(model, { standard, temperatureC: workingC })) ?? [])
    .sort((a, b) => a - b);
}

/**
 * Why no run can be made of these standards, in a sentence with the way out; null where one can. For every family, on the
 * server and on the page alike.
 *
 * @param standards in the order in which they are poured
 */
export function pointsTrouble(loop: PouredFor, kind: ProcedureKind, standards: readonly Standard[]): string | null {
  const family = familyOf(loop.family);
  const settings = loop.settings ?? {};
  const wrong = standards.find((s) => !serves(loop.family, settings, s));
  if (wrong) return `“${wrong.name}” is no standard for ${family.standards.usedBy(settings)}. Pick one of its own.`;
  const most = family.standards.cupsOfOne;
  const twice = standards.find((s) => standards.filter((o) => o.id === s.id).length > most);
  if (twice)
    return `“${twice.name}” stands in the list twice. A second cup of the same buffer adds nothing: take one out, or pick another buffer.`;
  const sensor = ofSensor(standards);
  if (!sensor.length) return 'Pick a standard: without one there is nothing to compare with.';
  if (sensor.length > family.points.most)
    return `${sensor.length} standards are chosen; ${family.name} takes at most ${family.points.most}. Take out the ones you trust least.`;
  const least = Math.max(family.points.least, family.frees(shownIn(loop, standards)) === 'both' ? 2 : 1);
  if (mayAdjust(kind) && kind !== 'check-first' && sensor.length < least)
    return `${family.name} needs ${least} standards to be calibrated, and ${sensor.length === 1 ? 'one is' : `${sensor.length} are`} chosen. Add a standard, or verify only.`;
  return null;
}

/** @throws Refusal `standards-no-use`, `no-standards` */
export function requirePoints(loop: PouredFor, kind: ProcedureKind, standards: readonly Standard[]): void {
  const trouble = pointsTrouble(loop, kind, standards);
  if (trouble) throw new Refusal(ofSensor(standards).length ? 'standards-no-use' : 'no-standards', trouble);
}

/**
 * Where standards do not stand about what the loop works at, in families in which they should: two that are near each other, or a working value
 * outside them. Each is a reason to pick others, or to say why not.
 *
 * @example farFromWork({ family: 'ph', workingValue: 8.1, workingC: 25 }, [buffer('technical-7.00'), buffer('technical-4.01')])[0].id // 'working-outside'
 */
export function farFromWork(
  loop: PouredFor,
  standards: readonly Standard[],
): readonly { readonly id: string; readonly text: string; readonly reason: string }[] {
  const { about } = familyOf(loop.family).standards;
  const shown = about ? shownIn(loop, standards) : [];
  if (!about || shown.length < 2) return [];
  const unit = modelOf(familyOf(loop.family), loop.settings).valueUnit;
  const [low, high] = [shown[0]!, shown.at(-1)!];
  const near = high - low < about.leastApart;
  const outside = loop.workingValue < low - about.mostOutside || loop.workingValue > high + about.mostOutside;
  const at = `${loop.workingC.toFixed(0)} °C`;
  return [
    ...(near
      ? [
          {
            id: 'standards-near',
            text: `The standards lie ${(high - low).toFixed(2)} ${unit} apart at ${at}.`,
            reason: `Less than ${about.leastApart} ${unit} says little of a slope: a small error in one cup turns it. Pick two that are further apart.`,
          },
        ]
      : []),
    ...(outside
      ? [
          {
            id: 'working-outside',
            text: `This loop works at ${inUnit(loop.workingValue, unit)}; the standards go from ${low.toFixed(2)} to ${high.toFixed(2)}.`,
            reason: 'What is right between them may be wrong where it works. Pick standards on both sides.',
          },
        ]
      : []),
  ];
}

/**
 * The usual set that stands about where a loop works; the first usual one where none does, or where any does as well.
 *
 * @param shelf where the standards of the sets are looked up
 * @example suggestedSet({ family: 'ph', workingValue: 8.1, workingC: 25 }, CATALOGUE).join() // 'technical-7.00,technical-10.01'
 */
export function suggestedSet(loop: PouredFor, shelf: readonly Standard[]): readonly string[] {
  const sets = usualSets(loop.family, loop.settings ?? {});
  const of = (set: readonly string[]) => set.flatMap((id) => shelf.find((s) => s.id === id) ?? []);
  return sets.find((set) => farFromWork(loop, of(set)).length === 0) ?? sets[0] ?? [];
}
