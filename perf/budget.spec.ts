import { expect, it } from 'vitest';
import { calibratedMany } from './budget-many.ts';
import { WORLDS } from './budget-worlds.ts';

/** Never used for tuning, and none of the report's. */
const SEED = 20_281;

// The report asks 20 000 of every case; a wrong row, sign or factor shows in far fewer.
it.each([
  'pH, two buffers, two settlings each',
  'pH shown only, two buffers',
  'ion, four points, 20 and 26 °C, water 31 °C',
  'conductivity, one standard, the loop’s thermometer',
  'salinity, the loop’s thermometer',
  'resistivity, 1 MΩ·cm at 10 °C',
  'oxygen, membrane, moist air',
])(`%s: what is stated is what is found (seed ${SEED})`, (name) => {
  const { rms, stated, covered, refused } = calibratedMany(
    WORLDS.find((w) => w.name === name)!,
    1200,
    SEED,
  );
  expect(refused).toBe(0);
  // 1200 draws know a root mean square to 2 %, and a share of 95 % to 0.6 points.
  expect(Math.abs(stated / rms - 1)).toBeLessThan(0.09);
  expect(Math.abs(covered - 0.955)).toBeLessThan(0.025);
});
