import { unlessRefused, type AlarmLimits } from '@frustum/core';
import { typedNumber } from '../../format/typed.ts';
import type { InFamily } from '../../format/in-family.ts';

/** Limits as they are typed, in the scale of the loop; '' = none. */
export interface LimitTexts {
  readonly actLow: string;
  readonly warnLow: string;
  readonly warnHigh: string;
  readonly actHigh: string;
  readonly forMinutes: string;
  readonly perHour: string;
  readonly frozenMinutes: string;
  readonly silentMinutes: string;
  readonly daily: boolean;
}

const VALUES = ['actLow', 'warnLow', 'warnHigh', 'actHigh'] as const;
const NAMES: Readonly<
  Record<(typeof VALUES)[number] | 'forMinutes' | 'frozenMinutes' | 'silentMinutes' | 'perHour', string>
> = {
  actLow: 'Act below',
  warnLow: 'Warn below',
  warnHigh: 'Warn above',
  actHigh: 'Act above',
  forMinutes: 'Beyond for',
  perHour: 'Within an hour',
  frozenMinutes: 'Without moving for',
  silentMinutes: 'Silent for',
};
const USUAL_MINUTES = '10';

/** Kept limits as they are typed. Where the scale falls, what is low there is high in the family's own unit. */
export function textsOf(limits: Partial<AlarmLimits>, { written }: InFamily): LimitTexts {
  const digits = Math.max(written.digits, written.valueDigits);
  const value = (own: number | null | undefined) => {
    const made = own == null ? null : written.exact(own);
    return made === null ? '' : String(Number(made.toFixed(digits)));
  };
  const own = written.falls
    ? { actLow: limits.actHigh, warnLow: limits.warnHigh, warnHigh: limits.warnLow, actHigh: limits.actLow }
    : limits;
  const minutes = (m: number | null | undefined) => (m == null ? '' : String(m));
  return {
    actLow: value(own.actLow),
    warnLow: value(own.warnLow),
    warnHigh: value(own.warnHigh),
    actHigh: value(own.actHigh),
    forMinutes: minutes(limits.forMinutes) || USUAL_MINUTES,
    perHour: limits.perHour == null ? '' : String(Number(written.size(limits.perHour).toFixed(digits))),
    frozenMinutes: minutes(limits.frozenMinutes),
    silentMinutes: minutes(limits.silentMinutes),
    daily: limits.daily ?? false,
  };
}

/** What was typed, in the family's own unit, and what is wrong with it: '' for nothing. */
export function limitsFrom(
  texts: LimitTexts,
  { written }: InFamily,
): { readonly limits: Partial<AlarmLimits>; readonly trouble: string } {
  let trouble = '';
  const read = (key: keyof typeof NAMES, own: (value: number) => number) => {
    const typed = typedNumber(texts[key]);
    if (typed === undefined) return null;
    const made = typeof typed === 'number' ? unlessRefused(() => own(typed)) : null;
    if (made === null)
      trouble ||= `${NAMES[key]}: “${texts[key].trim()}” is no figure in ${written.unit}. Type another, or leave it empty.`;
    return made;
  };
  const value = (key: (typeof VALUES)[number]) => read(key, (v) => written.ownValue(v));
  const same = (v: number) => v;
  const [actLow, warnLow, warnHigh, actHigh] = VALUES.map(value) as [number | null, number | null, number | null, number | null]; // prettier-ignore
  const ends = written.falls
    ? { actLow: actHigh, warnLow: warnHigh, warnHigh: warnLow, actHigh: actLow }
    : { actLow, warnLow, warnHigh, actHigh };
  return {
    limits: {
      ...ends,
      forMinutes: read('forMinutes', same) ?? 0,
      daily: texts.daily,
      perHour: read('perHour', (v) => written.ownSize(v)),
      frozenMinutes: read('frozenMinutes', same),
      silentMinutes: read('silentMinutes', same),
    },
    trouble,
  };
}
