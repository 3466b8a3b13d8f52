import { linearRegression, linearRegressionLine } from 'simple-statistics';
import {
  MS_PER_DAY,
  buffer,
  cone,
  calibrationOf,
  familyOf,
  fitLine,
  modelOf,
  PH_PRIOR,
  settle,
  STATISTICAL,
  type Observation,
  type Sample,
} from '@frustum/core';
import { Body, phBodyAt, SOUND } from '@frustum/sim';
import { micro, time, type Figure } from './figure.ts';

/** Inner functions of the core, against a general library or the raw floor where there is one. */
export function benchCore(): Figure[] {
  const points = Array.from({ length: 200 }, (_, i) => [i, 2 * i + Math.sin(i)] as [number, number]);
  const line = time(() => fitLine(points), 2000);
  const general = time(() => linearRegressionLine(linearRegression(points))(3), 2000);
  const two = [
    { standard: buffer('technical-7.00'), lotId: 'a', temperatureC: 23, signal: -5, signalUncertainty: 0.2 },
    { standard: buffer('technical-4.01'), lotId: 'b', temperatureC: 23, signal: 165, signalUncertainty: 0.2 },
  ];
  const run = {
    family: 'ph',
    workingC: 25,
    inForce: { zero: 0, sensitivity: 1 },
    expected: { zero: 0, zeroSd: 5, sensitivity: 1, sensitivitySd: 0.03 },
    points: two.map(({ standard }) => ({ standard, lot: { id: '', label: '' } })),
  };
  const trace = captureTrace(240);
  const before = settle(trace, STATISTICAL, 0.1).checked;
  const history = Array.from({ length: 40 }, (_, i): Observation => ({
    atMs: i * 30 * MS_PER_DAY,
    kind: 'calibration',
    found: { zero: -i / 4, sensitivity: 0.98 - i / 2000 },
    covariance: [
      [0.3, 0],
      [0, 2e-5],
    ],
    inForceAfter: { zero: -i / 4, sensitivity: 0.98 - i / 2000 },
    cleaned: false,
  }));
  const horizon = 40 * 30 * MS_PER_DAY;
  const whole = time(() => settle(trace, STATISTICAL, 0.1), 3);
  return [
    {
      what: 'straight line with covariance through 200 points',
      value: micro(line),
      beside: `simple-statistics, slope and intercept only: ${micro(general)} (ratio ${(line / general).toFixed(2)})`,
    },
    {
      what: 'two-standard calibration with covariance',
      value: micro(time(() => calibrationOf(run, two), 500)),
      beside: '',
    },
    {
      what: 'settling, one more sample on a 240-sample trace',
      value: micro(time(() => settle(trace, STATISTICAL, 0.1, undefined, before), 50)),
      beside: `the whole trace at once: ${micro(whole)}; a frame at 60 Hz is 16.7 ms`,
    },
    {
      what: 'cone through 40 runs',
      value: micro(
        time(
          () => cone(history, PH_PRIOR, { model: modelOf(familyOf('ph')), value: 5.8, temperatureC: 22 }, horizon),
          10,
        ),
      ),
      beside: '',
    },
  ];
}

function captureTrace(count: number): Sample[] {
  const truth = phBodyAt(SOUND, 100, 1);
  const process = { ph: 5.8, dailySwing: 0, temperatureC: 22 };
  const body = new Body({ senses: { ph: { of: 'ph' } }, truth: () => truth, process, seed: 1, atMs: 0, roomC: 22 });
  body.moveTo('rinse');
  body.step(5, 0);
  body.moveTo('cup-7.00');
  return Array.from({ length: count }, (_, i) => {
    body.step(0.5, 0);
    const { electrodes, temperatureC } = body.shown();
    return { t: i / 2, signal: electrodes['ph']!, temperatureC };
  });
}
