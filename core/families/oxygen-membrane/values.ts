import type { ConditionName, Conditions } from '../../sensor/conditions.ts';
import type { Model, SettingField, Settings, WorkingPoint, WorkingRow } from '../../sensor/family.ts';
import { inChannelUnit } from '../../sensor/value-of-standard.ts';
import { requireWithin } from '../../quantities/refusal.ts';
import { kindOf, type Unit } from '../../quantities/units.ts';
import type { Scale } from '../../sensor/scale.ts';
import { oxygenPressure, oxygenSaturation } from '../../solutions/oxygen.ts';
import type { Standard } from '../../solutions/standard.ts';

/**
 * What membranes and caps have in common: both answer to the partial pressure of oxygen, and people write it in mg/L, in % of
 * what water holds under the air of the moment, or as the pressure itself.
 */

/** The units in which its values are written. */
export type OxygenUnit = Extract<Unit, 'mg/L O2' | '% sat' | 'kPa O2'>;

/** What an operator chooses. */
export const WRITTEN_IN: SettingField = {
  kind: 'choice',
  name: 'written in',
  usual: 'mg/L O2',
  choices: [
    { id: 'mg/L O2', name: 'mg/L' },
    { id: '% sat', name: '% of saturation' },
    { id: 'kPa O2', name: 'kPa, the partial pressure' },
  ],
};
export const unitIn = (settings: Settings) => settings['writtenIn'] as OxygenUnit;

/** Every one of them stands in air at some time; salt only changes how many mg that are. */
export const oxygenConditions = ({ writtenIn }: Settings): readonly ConditionName[] =>
  writtenIn === 'mg/L O2' ? ['pressureKPa', 'salinity'] : ['pressureKPa'];

/** Values that can be a reading; a zero that has moved shows a little less than nothing. */
export const OXYGEN_RANGE: Readonly<Record<OxygenUnit, Model['range']>> = {
  'mg/L O2': { low: -2, high: 80 },
  '% sat': { low: -20, high: 500 },
  'kPa O2': { low: -4, high: 110 },
};

/** kPa of oxygen for one unit of the value. How much water holds goes with its pressure, so that mg/L asks for none. */
function kPaOfOne(unit: OxygenUnit, at: Conditions): number {
  requireWithin(at.temperatureC, 0, 40, 'temperature', '°C', 'What water holds is known from 0 to 40 °C.');
  if (unit === 'kPa O2') return 1;
  if (unit === '% sat') return oxygenPressure(at) / 100;
  const { temperatureC, salinity = 0 } = at;
  return oxygenPressure({ temperatureC }) / oxygenSaturation({ temperatureC, salinity });
}

/**
 * Partial pressure of oxygen behind a value.
 *
 * @returns kPa
 * @throws Refusal `out-of-range` outside 0 to 40 °C, salinity 0 to 40, 50 to 112 kPa
 * @example pressureOf(9.092, 'mg/L O2', { temperatureC: 20 }) // 20.73
 * @example pressureOf(100, '% sat', { temperatureC: 25, pressureKPa: 95 }) // 19.24
 */
export const pressureOf = (value: number, unit: OxygenUnit, at: Conditions): number => value * kPaOfOne(unit, at);

/**
 * The value of a partial pressure: the other way round.
 *
 * @param kPa of oxygen
 * @example valueOfPressure(20.73, '% sat', { temperatureC: 20 }) // 100
 */
export const valueOfPressure = (kPa: number, unit: OxygenUnit, at: Conditions): number => kPa / kPaOfOne(unit, at);

const isOxygenUnit = (unit: Unit | undefined): unit is OxygenUnit => unit !== undefined && unit in OXYGEN_RANGE;

/** What a right channel shows in a standard: water under air holds what it holds, whatever the channel writes. */
export function oxygenShown(unit: OxygenUnit) {
  return (standard: Standard, value: number, at: Conditions): number =>
    isOxygenUnit(standard.unit)
      ? valueOfPressure(pressureOf(value, standard.unit, at), unit, at)
      : inChannelUnit(standard, value, unit);
}

/** The same oxygen as the other displays write it, under the conditions of the moment. */
export const oxygenScales = (unit: OxygenUnit): readonly Scale[] =>
  (['mg/L O2', '% sat', 'kPa O2', 'hPa O2'] as const)
    .filter((other) => kindOf(other) !== kindOf(unit))
    .map((other) => {
      const [base, factor] = other === 'hPa O2' ? (['kPa O2', 10] as const) : ([other, 1] as const);
      return {
        id: other,
        of: (own, at) => factor * valueOfPressure(pressureOf(own, unit, at), base, at),
        own: (written, at) => valueOfPressure(pressureOf(written / factor, base, at), unit, at),
      };
    });

/** The barometer, hPa, k = 1; a salinity that is typed or comes from another loop, k = 1. Common practice, no source. */
const PRESSURE_SHARE = 0.1 / 101.325;
const SALINITY_SD = 0.3;
const NO_SOURCE = 'common practice, no source';

/**
 * What no standard takes away.
 *
 * @param share what is left of flow or film before the membrane, of the value
 */
export function oxygenRows(unit: OxygenUnit, before: string, share: number) {
  return (at: WorkingPoint): readonly WorkingRow[] => {
    const row = (name: string, uncertainty: number) => ({
      name,
      uncertainty: Math.abs(uncertainty),
      because: NO_SOURCE,
    });
    // Calibrated in air, a wrong pressure is in every value; where % is shown, it goes out again.
    const pressure = unit === '% sat' ? [] : [row('pressure of the air at the calibration', at.value * PRESSURE_SHARE)];
    if (unit !== 'mg/L O2') return [row(before, at.value * share), ...pressure];
    const { temperatureC, salinity = 0 } = at;
    // ln C falls by so much for each unit of salinity, at any salinity: the equation is linear in it.
    const perUnit = Math.log(
      oxygenSaturation({ temperatureC, salinity: 0 }) / oxygenSaturation({ temperatureC, salinity: 1 }),
    );
    const salt = salinity > 0 ? [row('salinity of the water', at.value * perUnit * SALINITY_SD)] : [];
    return [row(before, at.value * share), ...pressure, ...salt];
  };
}
