import type { ConditionOfRun } from '../calibration/events.ts';
import { familyOf } from '../families/registry.ts';
import { readQuantity } from '../quantities/read-quantity.ts';
import { Refusal, requireWithin } from '../quantities/refusal.ts';
import { convertTo, kindOf, type Unit } from '../quantities/units.ts';
import { CONDITIONS, type ConditionName, type Surrounded } from '../sensor/conditions.ts';
import { conditionsFor, modelOf, surroundedBy } from '../sensor/sensor.ts';
import type { Fitted } from './fitted.ts';

/** What a loop shows just now, in the unit of its values. */
export type ShownNow = { readonly value: number } | { readonly because: string };

/**
 * Does a loop of this family, set up so, show that condition of others?
 *
 * @example showsCondition({ family: 'salinity', settings: {} }, 'salinity') // 'true'
 * @example showsCondition({ family: 'ph', settings: {} }, 'salinity') // 'false'
 */
export const showsCondition = (
  { family, settings }: Pick<Fitted['loop'], 'family' | 'settings'>,
  name: ConditionName,
): boolean => inConditionUnit(1, modelOf(familyOf(family), settings).valueUnit, name) !== null;

const inConditionUnit = (value: number, unit: Unit, name: ConditionName) =>
  convertTo(value, unit, CONDITIONS[name].unit);

/**
 * A loop's value as a condition of the loop that takes it; null where it cannot be used as that condition.
 *
 * @example conditionIn(995, 'hPa', 'pressureKPa') // 99.5
 */
export function conditionIn(value: number, unit: Unit, name: ConditionName): number | null {
  const own = inConditionUnit(value, unit, name);
  return own !== null && own >= CONDITIONS[name].low && own <= CONDITIONS[name].high ? own : null;
}

/**
 * The conditions of a run that begins now: what was typed for it, else what another loop shows, else what the set-up says.
 *
 * @param typed for this run, in the units of the conditions
 * @param shownBy what a loop shows just now
 * @throws Refusal `out-of-range` for a typed figure that cannot be
 */
export function conditionsOf(
  { loop }: Fitted,
  all: readonly Fitted[],
  typed: Surrounded,
  shownBy: (giver: Fitted) => ShownNow,
): ConditionOfRun[] {
  const family = familyOf(loop.family);
  const usual = surroundedBy(family, loop.settings);
  const asked = surroundedBy(family, { ...loop.settings, ...typed });
  return conditionsFor(family, loop.settings).map((name): ConditionOfRun => {
    const giver = all.find((f) => f.loop.id === loop.takes[name]);
    const loopName = giver?.loop.name ?? '';
    if (typed[name] !== undefined) return { name, value: asked[name]!, from: 'typed', loopName, because: '' };
    const setUp = (because: string): ConditionOfRun => ({
      name,
      value: usual[name]!,
      from: 'set-up',
      loopName,
      because,
    });
    if (!giver) return setUp('');
    const shown = shownBy(giver);
    if ('because' in shown) return setUp(shown.because);
    const { unit, low, high } = CONDITIONS[name];
    const theirs = modelOf(familyOf(giver.loop.family), giver.loop.settings).valueUnit;
    const value = conditionIn(shown.value, theirs, name);
    if (value === null)
      return setUp(`it shows ${Number(shown.value.toPrecision(4))} ${theirs}, and ${low} to ${high} ${unit} can be`);
    return { name, value, from: 'loop', loopName, because: '' };
  });
}

/** They as figures, to be put into settings. */
export const figuresOf = (conditions: readonly ConditionOfRun[]): Surrounded =>
  Object.fromEntries(conditions.map(({ name, value }) => [name, value]));

/**
 * A condition of a run in words, with where its figure comes from.
 *
 * @example conditionWords({ name: 'salinity', value: 34.62, from: 'loop', loopName: 'Tank salinity', because: '' }) // 'salinity 34.62 PSS-78, shown by Tank salinity'
 */
export function conditionWords({ name, value, from, loopName, because }: ConditionOfRun): string {
  const figure = `${CONDITIONS[name].name} ${Number(value.toPrecision(5))} ${CONDITIONS[name].unit}`;
  if (from === 'typed') return `${figure}, typed for this run`;
  if (from === 'loop') return `${figure}, shown by ${loopName}`;
  return because ? `${figure}, as set up: ${loopName} gives none, ${because}` : `${figure}, as set up`;
}

/**
 * A condition as somebody types it: a bare figure is in its unit, another unit of the kind is converted.
 *
 * @returns null for nothing typed
 * @throws Refusal `not-read`, `out-of-range`
 * @example typedCondition('1013 hPa', 'pressureKPa') // 101.3
 */
export function typedCondition(text: string, name: ConditionName): number | null {
  if (!text.trim()) return null;
  const { name: words, unit, low, high, hint } = CONDITIONS[name];
  const read = readQuantity(text, [kindOf(unit)], unit);
  if (!read.ok) throw new Refusal('not-read', read.message, { value: text });
  return requireWithin(
    convertTo(read.value, read.unit, unit)!,
    low,
    high,
    words,
    unit,
    hint || 'Check figure and unit.',
  );
}
