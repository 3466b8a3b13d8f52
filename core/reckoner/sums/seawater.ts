import { density, DENSITY_UNCERTAINTY, salinityOfGravity, specificGravity } from '../../solutions/seawater/density.ts';
import { conductivityOfSeawater, salinity, SALINITY_UNCERTAINTY } from '../../solutions/seawater/practical-salinity.ts';
import { shown } from '../figures.ts';
import type { Answer, Sum, SumField, Direction } from '../sum.ts';

const SEA_FIELDS: readonly SumField[] = [
  { id: 'k', name: 'Conductivity, as measured', unit: 'mS/cm', usual: 51.2, decimals: 3, nudge: 0.1 },
  { id: 't', name: 'Temperature', unit: '°C', usual: 24, decimals: 2, nudge: 1 },
  { id: 's', name: 'Practical salinity', unit: 'PSS-78', usual: 35, decimals: 3, nudge: 1 },
  { id: 'g25', name: 'Specific gravity 25/25 °C', unit: 'SG 25/25', usual: 1.02637, decimals: 5, nudge: 0.001 },
  { id: 'g20', name: 'Specific gravity 20/20 °C', unit: 'SG 20/20', usual: 1.0266, decimals: 5, nudge: 0.001 },
];

/** Everything that one salinity is, at the temperature of the water. */
function sea(
  s: number,
  t: number,
  finds: readonly string[],
  formula: string,
  plusMinus: number,
  because: string,
): Answer {
  const all: Record<string, number> = {
    s,
    k: conductivityOfSeawater(s, t) / 1000,
    g25: specificGravity(s, 25),
    g20: specificGravity(s, 20),
  };
  return {
    found: Object.fromEntries(finds.map((id) => [id, all[id]!])),
    plusMinus,
    plusMinusBecause: because,
    formula,
    more: [{ name: 'Density at this temperature', value: density(s, t), unit: 'kg/m³', decimals: 3 }],
    note: 'Salinity has no unit of its own: it is a ratio of conductivities. Gravity is a ratio of densities, and means nothing without its two temperatures.',
  };
}

/** One salinity, read from conductivity or from either gravity. */
export const SEAWATER_SUM: Sum = {
  id: 'salinity',
  group: 'Conductivity and salinity',
  title: 'Salinity and specific gravity of seawater',
  words: 'salt psu ppt gravity hydrometer refractometer density reef marine 53 sg eos pss',
  choices: [],
  fields: SEA_FIELDS,
  ways: [
    {
      finds: ['s', 'g25', 'g20'],
      work: ({ k, t }) => {
        const s = salinity({ conductivityUsPerCm: k! * 1000, temperatureC: t! });
        return sea(
          s,
          t!,
          ['s', 'g25', 'g20'],
          `S(${shown(k!, 3)} / 42.914, ${shown(t!, 2)} °C) = ${shown(s, 3)}`,
          2 * SALINITY_UNCERTAINTY,
          'of the scale’s equations; your meter adds its own',
        );
      },
    },
    {
      finds: ['k', 'g25', 'g20'],
      work: ({ s, t }) => {
        const k = conductivityOfSeawater(s!, t!) / 1000;
        return sea(
          s!,
          t!,
          ['k', 'g25', 'g20'],
          `42.914 · R(S ${shown(s!, 3)}, ${shown(t!, 2)} °C) = ${shown(k, 3)} mS/cm`,
          (2 * SALINITY_UNCERTAINTY * k) / s!,
          'of the scale’s equations',
        );
      },
    },
    ...([25, 20] as const).map((at): Direction => {
      const given = `g${at}`;
      const finds = ['s', 'k', at === 25 ? 'g20' : 'g25'];
      return {
        finds,
        work: (figures) => {
          const s = salinityOfGravity(figures[given]!, at);
          const words = `S with ρ(S, ${at} °C) / ρ(0, ${at} °C) = ${shown(figures[given]!, 5)} is ${shown(s, 3)}`;
          // About 0.00075 of gravity for one of salinity.
          const plusMinus = (2 * DENSITY_UNCERTAINTY) / 1000 / 0.00075;
          return sea(
            s,
            figures['t']!,
            finds,
            words,
            plusMinus,
            'of the equation of state; your hydrometer adds its own',
          );
        },
      };
    }),
  ],
  formula: 'S = Σ aᵢ Rᵗ^(i/2) + (t−15)/(1+0.0162 (t−15)) Σ bᵢ Rᵗ^(i/2);  gravity = ρ(S,t)/ρ(0,t)',
  source: 'PSS-78 and EOS-80: UNESCO Technical Papers in Marine Science 44 (1983), t68 = 1.00024 t90',
  validity: 'salinity 0 to 42 (below 2 by Hill, Dauphinee & Woods 1986), −2 to 35 °C, at the surface',
  curve: { along: 'k', low: 5, high: 65 },
};
