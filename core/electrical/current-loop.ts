import { Refusal, requireFinite, requireWithin } from '../quantities/refusal.ts';

/** What 4 and 20 mA stand for. The higher current may well be the lower value. */
export interface Span {
  readonly at4: number;
  readonly at20: number;
}

/** What a loop current says of its transmitter: NAMUR NE 43 (2003). */
export type LoopState = 'measuring' | 'saturated low' | 'saturated high' | 'fault low' | 'fault high';

function spanOf({ at4, at20 }: Span): number {
  requireFinite(at4, 'value at 4 mA');
  requireFinite(at20, 'value at 20 mA');
  const span = at20 - at4;
  if (span !== 0 && Number.isFinite(span)) return span;
  throw new Refusal('no-span', `A span from ${at4} to ${at20} has no width. Enter what 4 and 20 mA stand for.`, {
    value: at4,
    high: at20,
  });
}

/**
 * Current for a value.
 *
 * @param value may lie a little outside the span; NE 43 measures from 3.8 to 20.5 mA
 * @returns mA
 * @throws Refusal `no-span`, `out-of-range` beyond 3.8 to 20.5 mA
 * @example currentFor(7, { at4: 0, at20: 14 }) // 12
 */
export function currentFor(value: number, span: Span): number {
  requireFinite(value, 'value');
  const width = spanOf(span);
  const ma = 4 + (16 * (value - span.at4)) / width;
  if (ma >= 3.8 - 1e-9 && ma <= 20.5 + 1e-9) return ma;
  const at = (current: number) => Number((span.at4 + ((current - 4) / 16) * width).toPrecision(6));
  throw new Refusal(
    'out-of-range',
    `${value} would need ${ma.toFixed(2)} mA; a transmitter measures from 3.8 to 20.5 mA, here ${at(3.8)} to ${at(20.5)}. Check the span, or the unit of the value.`,
    { value, low: at(3.8), high: at(20.5) },
  );
}

/**
 * State of the transmitter behind a current, NAMUR NE 43: below 3.6 and from 21 mA a fault, 3.8 to 20.5 mA measuring,
 * saturated in between.
 *
 * @example loopState(3.5) // 'fault low'
 * @example loopState(20.7) // 'saturated high'
 */
export function loopState(currentMa: number): LoopState {
  if (currentMa <= 3.6) return 'fault low';
  if (currentMa >= 21) return 'fault high';
  if (currentMa < 3.8) return 'saturated low';
  return currentMa > 20.5 ? 'saturated high' : 'measuring';
}

/**
 * Value that a current stands for.
 *
 * @param currentMa 3.8 to 20.5 mA
 * @throws Refusal `loop-fault`, `loop-saturated`: such a current is no reading
 * @example valueOfCurrent(12, { at4: 0, at20: 14 }) // 7
 */
export function valueOfCurrent(currentMa: number, span: Span): number {
  requireWithin(currentMa, 0, 50, 'current', 'mA', 'Check meter and range.');
  const width = spanOf(span);
  const state = loopState(currentMa);
  if (state === 'measuring') return span.at4 + ((currentMa - 4) / 16) * width;
  const fault = state === 'fault low' || state === 'fault high';
  throw new Refusal(
    fault ? 'loop-fault' : 'loop-saturated',
    fault
      ? `${currentMa} mA says fault (NE 43: at most 3.6, or from 21 mA). Look at the transmitter’s own message.`
      : `${currentMa} mA is at the end of the transmitter’s range (it measures from 3.8 to 20.5 mA). Widen its span, or check the signal.`,
    { value: currentMa, low: 3.8, high: 20.5 },
  );
}
