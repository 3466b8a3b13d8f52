import type { Margin } from '../drift/margin.ts';
import { decimalsOf, type Written } from '../sensor/written.ts';
import type { WaterFinding } from './water.ts';

/** What the water of a loop does, and how its figures are written. */
export interface WaterNow {
  readonly findings: readonly WaterFinding[];
  readonly written: Written;
  /** of its site, IANA name: times of day are given by its clock */
  readonly timeZone: string;
}

/** Day and time of day at the site. */
function clockOf(ms: number, timeZone: string): string {
  return new Intl.DateTimeFormat('en-GB', { timeZone, day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', hourCycle: 'h23' }).format(ms); // prettier-ignore
}

/**
 * What is told: value, ± from the cone, limit, since when. A ± is there once the sensor has a cone.
 *
 * @param margin of its sensor now
 */
export function waterWords(
  loopName: string,
  { kind, level, side, value, limit, sinceMs }: WaterFinding,
  { written, timeZone }: WaterNow,
  margin: Pick<Margin, 'expanded'>,
): string {
  const { unit, valueDigits, digits } = written;
  const since = `since ${clockOf(sinceMs, timeZone)}`;
  const print = (own: number) => (written.value(own) ?? NaN).toFixed(valueDigits).replace('-', '−');
  const shown = `${print(value)}${margin.expanded === null ? '' : ` ±${written.size(margin.expanded).toFixed(digits)}`} ${unit}`;
  if (kind === 'frozen')
    return `${loopName} has shown ${print(value)} ${unit} without moving for ${Math.round(limit)} min and more, ${since}. Look at its device and its cable: water is never that still.`;
  if (kind === 'rate') {
    const size = (own: number) =>
      written.size(Math.abs(own)).toFixed(Math.max(digits, written.step ? decimalsOf(written.step) : 0));
    return `${loopName} has ${rises(side, written) ? 'risen' : 'fallen'} by ${size(value)} ${unit} within an hour; the limit is ${size(limit)}. Look at what doses, heats or feeds it.`;
  }
  const beyond = rises(side, written) ? 'above' : 'below';
  const todo =
    level === 'act' ? 'Act now: look at the water, then at the probe.' : 'Look at the water and at the probe.';
  return `${loopName} shows ${shown}, ${beyond} its limit of ${print(limit)} ${unit} ${since}. ${todo}`;
}

/** Does "high" mean more of what is written? A resistivity that falls is a conductivity that rises. */
const rises = (side: WaterFinding['side'], { falls }: Written) => (side === 'high') !== falls;
