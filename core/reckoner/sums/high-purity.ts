import { Refusal } from '../../quantities/refusal.ts';
import { courseFactor, courseOf, type Compensation } from '../../solutions/compensation.ts';
import { pureCompensationUncertainty, pureFrom25, pureTo25, pureWater } from '../../solutions/pure-water.ts';
import { shown } from '../figures.ts';
import type { Answer, Sum } from '../sum.ts';
import { alpha, COURSE, GROUP } from './conductivity-fields.ts';
import { temperatureOf } from './fields.ts';

export const HIGH_PURITY_SUM: Sum = {
  id: 'pure-water',
  group: GROUP,
  title: 'High-purity water: resistivity at 25 °C',
  words: 'resistivity ultrapure ro di megohm 18 compensated reverse osmosis',
  choices: [
    { ...COURSE, name: 'What is dissolved goes', options: COURSE.options.filter((o) => o.id !== 'natural water') },
  ],
  fields: [
    { id: 'k', name: 'Conductivity, as measured', unit: 'µS/cm', usual: 0.06 },
    temperatureOf(20),
    alpha,
    { id: 'r', name: 'Resistivity at 25 °C', unit: 'MΩ·cm', usual: 18, nudge: 0.1 },
  ],
  ways: [
    {
      finds: ['r'],
      work: ({ k, t, a }, { course }) => {
        const by = courseOf(course, a!);
        const k25 = pureTo25(k!, t!, by);
        return purity(
          1 / k25,
          'r',
          `1 / (${shown(pureWater(25))} + (${shown(k!)} − ${shown(pureWater(t!))}) / ${shown(courseFactor(t!, by))}) = ${shown(1 / k25)} MΩ·cm`,
          t!,
          pureUnknown(k25, t!, by) / k25 ** 2,
        );
      },
    },
    {
      finds: ['k'],
      work: ({ r, t, a }, { course }) => {
        const by = courseOf(course, a!);
        if (!(r! > 0))
          throw new Refusal('out-of-range', `A resistivity of ${r} MΩ·cm is none. Enter a figure above 0.`);
        const k = pureFrom25(1 / r!, t!, by);
        return purity(
          k,
          'k',
          `${shown(pureWater(t!))} + (1/${shown(r!)} − ${shown(pureWater(25))}) · ${shown(courseFactor(t!, by))} = ${shown(k)} µS/cm`,
          t!,
          pureUnknown(1 / r!, t!, by) * courseFactor(t!, by),
        );
      },
    },
  ],
  formula: 'κ25 = κw(25) + (κT − κw(T)) / f(T),  ρ25 = 1/κ25',
  source: 'Kw and limiting ionic conductivities; table of pure water from memory, ±2 %, ±4 % at 0 °C',
  validity: '0 to 50 °C; not below pure water itself, 0.055 µS/cm or 18.18 MΩ·cm at 25 °C',
  curve: { along: 't', low: 0, high: 50 },
};

/** ± at 25 °C, k = 2, µS/cm. */
function pureUnknown(at25: number, t: number, by: Compensation): number {
  const { table, coefficient } = pureCompensationUncertainty(at25, t, by);
  return 2 * Math.hypot(table, coefficient);
}

function purity(value: number, id: string, formula: string, t: number, plusMinus: number): Answer {
  return {
    found: { [id]: value },
    plusMinus,
    plusMinusBecause: 'of the table of pure water, and of the salts’ coefficient within ±0.2 %/°C',
    formula,
    more: [{ name: 'Pure water has, at this temperature', value: 1 / pureWater(t), unit: 'MΩ·cm', decimals: 2 }],
  };
}
