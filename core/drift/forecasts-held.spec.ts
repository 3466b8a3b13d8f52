import { describe, expect, it } from 'vitest';
import { familyOf } from '../families/registry.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { seededChance } from '../statistics/chance.ts';
import { withFigures } from '../testing/with-figures.ts';
import { filtered } from './course.ts';
import { forecastsHeld } from './forecasts-held.ts';
import type { Observation } from './history.ts';
import { pastOf } from './past.ts';

const SEED = Number(process.env['FRUSTUM_HELD_SEED'] ?? 20_261_201);

describe('past forecasts, scored', () => {
  it(`hold in 19 of 20 runs of sensors that live as the engine believes, and in few where they jump (seed ${SEED})`, () => {
    const dice = seededChance(SEED);
    // A walk of zero and slope, drawn here; no rates, no jumps.
    const still = { rateSd: 0, firstRateSd: 0, jumpsPerYear: 0 };
    const prior = { ...withFigures(familyOf('ph').prior(0.59), still, still), paceSd: 0 };
    const [sdZero, sdSlope] = [0.5, 0.004];
    let [held, of] = [0, 0];
    let [heldOfJumping, ofJumping] = [0, 0];
    for (let sensor = 0; sensor < 250; sensor++) {
      const jumps = sensor % 5 === 0;
      let zero = prior.zero.value + prior.zero.sd * dice.normal();
      let slope = prior.sensitivity.value + prior.sensitivity.sd * dice.normal();
      const history = Array.from({ length: 9 }, (_, i): Observation => {
        if (i) {
          zero += prior.zero.walk * Math.sqrt(30) * dice.normal() + (jumps ? 25 * dice.normal() : 0);
          slope += prior.sensitivity.walk * Math.sqrt(30) * dice.normal();
        }
        const found = { zero: zero + sdZero * dice.normal(), sensitivity: slope + sdSlope * dice.normal() };
        return { atMs: 30 * i * MS_PER_DAY, kind: 'calibration', found, covariance: [[sdZero ** 2, 0], [0, sdSlope ** 2]], inForceAfter: found, cleaned: false }; // prettier-ignore
      });
      const score = forecastsHeld(pastOf(filtered(history, prior), prior));
      if (jumps) [heldOfJumping, ofJumping] = [heldOfJumping + score.held, ofJumping + score.of];
      else [held, of] = [held + score.held, of + score.of];
    }
    expect(of).toBe(1600);
    // 1600 of 95 %: ±0.55 % one standard deviation.
    expect(Math.abs(held / of - 0.95), `${held} of ${of}`).toBeLessThan(0.02);
    expect(heldOfJumping / ofJumping).toBeLessThan(0.5);
  });

  it('the first run has nothing to be compared with; one figure alone has a bound of its own', () => {
    const run = (zero: number, sensitivity: number, sensitivitySd: number) => ({ atMs: 0, found: { zero: 0, zeroSd: 1, sensitivity: 1, sensitivitySd }, known: { zero: 0, zeroSd: 1, sensitivity: 1, sensitivitySd }, standardised: [zero, sensitivity] as const, jumped: 0 }); // prettier-ignore
    const held = (...of: Parameters<typeof run>) => forecastsHeld([run(9, 9, 1), run(...of)]);
    expect(held(1.97, 0, 0)).toEqual({ held: 0, of: 1 });
    expect(held(1.95, 0, 0)).toEqual({ held: 1, of: 1 });
    expect(held(2.4, 0.4, 0.1)).toEqual({ held: 1, of: 1 });
    expect(held(2.4, -0.6, 0.1)).toEqual({ held: 0, of: 1 });
    expect(forecastsHeld([run(9, 9, 1)])).toEqual({ held: 0, of: 0 });
  });
});
