import { requireFinite, requireWithin } from '../../quantities/refusal.ts';
import type { Standard } from '../../solutions/standard.ts';

/** A thermometer's reading and its accuracy, °C: the ± of its data sheet (k = 2). */
export interface ThermometerReading {
  readonly temperatureC: number;
  readonly plusMinusC: number;
}

export type Agreement =
  | { readonly ok: true; readonly standard: Standard; readonly apartC: number }
  | { readonly ok: false; readonly apartC: number; readonly limitC: number; readonly message: string };

/**
 * Two independent thermometers as one standard; when they disagree by more than their accuracy, no standard at all.
 *
 * @returns the weighted mean as a standard, or how far apart they are
 * @throws Refusal `not-a-number`, `out-of-range`
 * @example agree({ temperatureC: 25.1, plusMinusC: 0.2 }, { temperatureC: 25.3, plusMinusC: 0.2 }).standard.nominal // 25.2
 * @example agree({ temperatureC: 25.1, plusMinusC: 0.2 }, { temperatureC: 26.3, plusMinusC: 0.2 }).ok // 'false'
 */
export function agree(a: ThermometerReading, b: ThermometerReading): Agreement {
  for (const r of [a, b]) {
    requireFinite(r.temperatureC, 'temperature');
    requireWithin(r.plusMinusC, 0.001, 10, 'accuracy of the thermometer', '°C', 'It is on the data sheet.');
  }
  const apartC = Math.abs(a.temperatureC - b.temperatureC);
  const limitC = Math.hypot(a.plusMinusC, b.plusMinusC);
  if (apartC > limitC) {
    const message = `The two thermometers are ${apartC.toFixed(2)} °C apart; their accuracy allows ${limitC.toFixed(2)}. Find out which is wrong before anything is adjusted: wait longer, or fetch a third.`;
    return { ok: false, apartC, limitC, message };
  }
  const wa = 1 / a.plusMinusC ** 2;
  const wb = 1 / b.plusMinusC ** 2;
  const mean = (wa * a.temperatureC + wb * b.temperatureC) / (wa + wb);
  const standard: Standard = {
    id: 'two-thermometers',
    name: 'two thermometers',
    family: 'temperature',
    unit: '°C',
    nominal: mean,
    nominalAtC: mean,
    // The bath is its own standard: whatever the channel says of its temperature, this is its value.
    table: [
      [-100, mean],
      [300, mean],
    ],
    uncertainty: 1 / Math.sqrt(wa + wb) / 2,
    tableStep: 0,
    source: 'two independent thermometers, weighted by their accuracy',
  };
  return { ok: true, standard, apartC };
}

/**
 * An offset in the whole steps that a display takes, and what remains.
 *
 * @param offset wanted, in the unit of the display
 * @param step smallest step of the display, above 0
 * @example offsetInSteps(0.37, 0.5) // { entered: 0.5, remains: -0.13 }
 */
export function offsetInSteps(offset: number, step: number): { readonly entered: number; readonly remains: number } {
  requireFinite(offset, 'offset');
  requireWithin(step, 1e-6, 100, 'step of the display', '', 'Enter the smallest change that the display can show.');
  const entered = Number((Math.round(offset / step) * step).toPrecision(12));
  return { entered, remains: offset - entered };
}
