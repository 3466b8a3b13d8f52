import { compile, unit } from 'mathjs';
import {
  budgetOf,
  buffer,
  conductivityOfSeawater,
  convertTo,
  daviesCoefficient,
  density68,
  EMPTY,
  familyOf,
  fitSensor,
  modelOf,
  readQuantity,
  salinity,
  simulateBudget,
  solve,
  SUMS,
  valueAt,
} from '@frustum/core';
import { micro, time, type Figure } from './figure.ts';

const perSecond = (us: number) =>
  `${Math.round(1e6 / us)
    .toLocaleString('en-GB')
    .replaceAll(',', ' ')} a second`;

/** EOS-80 at the surface as one formula, for a general-purpose expression engine. */
const EOS_80 = compile(
  '999.842594+t*(6.793952e-2+t*(-9.09529e-3+t*(1.001685e-4+t*(-1.120083e-6+t*6.536332e-9))))' +
    '+s*(8.24493e-1+t*(-4.0899e-3+t*(7.6438e-5+t*(-8.2467e-7+t*5.3875e-9))))' +
    '+s*sqrt(s)*(-5.72466e-3+t*(1.0227e-4+t*-1.6546e-6))+4.8314e-4*s*s',
);

const line = (what: string, us: number, beside = ''): Figure => ({ what, value: perSecond(us), beside });

/** Sums that have no general library to be held beside. @param t a temperature, a new one each time */
function innerSums(t: () => number): Figure[] {
  const seven = buffer('technical-7.00');
  const reckoner = time(() => SUMS.map((s) => solve(s, EMPTY)), 20) / SUMS.length;
  return [
    line(
      'buffer value at a temperature',
      time(() => valueAt(seven, t()), 5000),
    ),
    line(
      'practical salinity from conductivity',
      time(() => salinity({ conductivityUsPerCm: 40_000, temperatureC: t() }), 5000),
    ),
    line(
      'conductivity from salinity (iterated)',
      time(() => conductivityOfSeawater(35, t()), 1000),
    ),
    line(
      'activity coefficient, Davies',
      time(() => daviesCoefficient(-1, 0.01, t()), 5000),
    ),
    line(
      'a typed quantity read, “1.41 mS/cm”',
      time(() => readQuantity('1.41 mS/cm', ['conductivity'], 'mS/cm'), 2000),
    ),
    line(
      'a sum of the Reckoner, mean over all',
      reckoner,
      `${SUMS.length} sums; one keystroke solves one, and draws 61 more for its curve`,
    ),
  ];
}

/** Sums a second of the inner functions, two of them beside a general-purpose library in the same run. */
export function benchSums(): Figure[] {
  // Inputs that change, so that nothing can be computed once and kept.
  let n = 0;
  const t = () => 10 + ((n += 0.37) % 24);
  const seven = buffer('technical-7.00');
  const ourDensity = time(() => density68(35, t()), 20_000);
  const theirDensity = time(() => EOS_80.evaluate({ s: 35, t: t() }) as number, 2000);
  const ourUnit = time(() => convertTo(t(), '°F', '°C'), 20_000);
  const theirUnit = time(() => unit(t(), 'degF').toNumber('degC'), 2000);
  const family = familyOf('ph');
  const model = modelOf(family);
  const points = [seven, buffer('technical-10.01')].map((standard, i) => ({
    standard,
    lotId: standard.id,
    temperatureC: 24.6,
    signal: [-8.4, -176.9][i]!,
    signalUncertainty: 0.2,
  }));
  const fit = fitSensor(family, model, points);
  if (!fit.ok) throw new Error(fit.message);
  const at = { value: 8.2, temperatureC: 26, calibrationC: 24.6 };
  return [
    line(
      'density of seawater, EOS-80',
      ourDensity,
      `mathjs, the same formula compiled: ${perSecond(theirDensity)} (ours ${(theirDensity / ourDensity).toFixed(0)} times)`,
    ),
    line(
      '°F to °C by unit table',
      ourUnit,
      `mathjs units: ${perSecond(theirUnit)} (ours ${(theirUnit / ourUnit).toFixed(0)} times)`,
    ),
    ...innerSums(t),
    line(
      'uncertainty budget of a two-standard calibration',
      time(() => budgetOf(model, fit, at), 200),
    ),
    {
      what: 'Monte Carlo twin of it, 100 000 draws',
      value: micro(time(() => simulateBudget(model, fit, at, 100_000, 1), 1)),
      beside: 'in a web worker when somebody asks for it',
    },
  ];
}
