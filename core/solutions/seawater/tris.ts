import { requireWithin } from '../../quantities/refusal.ts';
import { kelvin } from '../../quantities/temperature.ts';

/** Said wherever the total scale is shown. Common practice, no source. */
export const TOTAL_SCALE_NOTE = 'In seawater an NBS-type reading stands about 0.10 to 0.15 above the total scale.';

/**
 * pH of the equimolal tris buffer in synthetic seawater, total hydrogen ion scale.
 *
 * @param s salinity, 20 to 40
 * @param temperatureC 0 to 45 °C
 * @throws Refusal `out-of-range`
 * @see DelValls & Dickson, Deep-Sea Res. I 45 (1998) 1541; Dickson, Sabine & Christian (2007), SOP 6a
 * @example trisPh(35, 25) // 8.0935
 */
export function trisPh(s: number, temperatureC: number): number {
  requireWithin(s, 20, 40, 'salinity', '', 'The tris equation holds from 20 to 40.');
  requireWithin(temperatureC, 0, 45, 'temperature', '°C', 'Bring the cup into that range.');
  const t = kelvin(temperatureC);
  return (
    (11911.08 - 18.2499 * s - 0.039336 * s * s) / t -
    366.27059 +
    0.53993607 * s +
    0.00016329 * s * s +
    (64.52243 - 0.084041 * s) * Math.log(t) -
    0.11149858 * t
  );
}
