import { describe, expect, it } from 'vitest';
import { fitSensor } from '../../sensor/fit.ts';
import { modelOf, shownValue, signalOf } from '../../sensor/sensor.ts';
import type { Settings } from '../../sensor/family.ts';
import { conditionsFor } from '../../sensor/sensor.ts';
import { grabSample } from '../../solutions/sample.ts';
import { OXYGEN_OPTICAL } from '../oxygen-optical/family.ts';
import { OXYGEN_MEMBRANE } from './family.ts';
import { IN_OXYGEN } from './standards.ts';
import { oxygenShown } from './values.ts';

const BOTH = [OXYGEN_MEMBRANE, OXYGEN_OPTICAL];
const IDEAL = { zero: 0, sensitivity: 1 };
const AIR = IN_OXYGEN.all.find((s) => s.id === 'moist-air')!;
const ZERO = IN_OXYGEN.all.find((s) => s.id === 'zero-oxygen')!;

describe('dissolved oxygen, as people write it', () => {
  // The same check values as of `oxygenSaturation`: by arithmetic from APHA 4500-O, coefficients from memory.
  it.each([
    [{ temperatureC: 20 }, 9.092],
    [{ temperatureC: 25, salinity: 35 }, 6.772],
    [{ temperatureC: 25, pressureKPa: 0.9 * 101.325 }, 7.411],
    [{ temperatureC: 20, pressureKPa: 95 }, 8.512],
  ])('full water under %o holds %s mg/L, which is 100 %%, whichever of them a channel shows', (at, mgPerL) => {
    expect(oxygenShown('mg/L O2')(AIR, 100, at)).toBeCloseTo(mgPerL, 2);
    expect(oxygenShown('% sat')(grabSample('oxygen-optical', mgPerL, 'mg/L O2', 0.1, 20), mgPerL, at)).toBeCloseTo(
      100,
      1,
    );
    for (const family of BOTH) {
      const [inMg, inShare] = (['mg/L O2', '% sat'] as const).map((writtenIn) => modelOf(family, { writtenIn }));
      const signal = signalOf(inMg!, mgPerL, at, IDEAL);
      expect(shownValue(inShare!, signal, at, IDEAL)).toBeCloseTo(100, 1);
    }
  });

  it('mg/L asks for salinity, % does not; the pressure of the air is asked of all, since all are calibrated in it', () => {
    const asked = (settings: Settings) => conditionsFor(OXYGEN_OPTICAL, settings);
    expect(asked({})).toEqual(['pressureKPa', 'salinity']);
    expect([asked({ writtenIn: '% sat' }), asked({ writtenIn: 'kPa O2' })]).toEqual([['pressureKPa'], ['pressureKPa']]);
  });

  it('current and quenching are those of the data sheet in full air at 25 °C and sea level', () => {
    const at = { temperatureC: 25 };
    expect(signalOf(modelOf(OXYGEN_MEMBRANE, { writtenIn: '% sat', inAir: 48 }), 100, at, IDEAL)).toBeCloseTo(48, 9);
    expect(signalOf(modelOf(OXYGEN_OPTICAL, { writtenIn: '% sat', inAir: 4.2 }), 100, at, IDEAL)).toBeCloseTo(4.2, 9);
    expect(signalOf(modelOf(OXYGEN_OPTICAL), 0, at, IDEAL)).toBe(1);
  });

  it.each(BOTH.map((f) => [f.id, f] as const))(
    '%s: salt of the water is nothing to its calibration, the pressure of the air is',
    (_, family) => {
      const truth = { zero: 0.004, sensitivity: 0.9 };
      const air = 96.2;
      const at = { temperatureC: 22, pressureKPa: air };
      const right = modelOf(family, { writtenIn: 'kPa O2' });
      // 0.20946 · (96.2 − 2.645) kPa; vapour pressure of water at 22 °C: 2.645 kPa, handbook figure from memory.
      const full = 0.20946 * (air - 2.645);
      const points = [ZERO, AIR].map((standard, i) => ({
        standard,
        lotId: standard.id,
        temperatureC: 22,
        signal: signalOf(right, i * full, at, truth),
        signalUncertainty: 0.001,
      }));
      const found = (settings: Settings) => {
        const fit = fitSensor(family, modelOf(family, settings), points);
        if (!fit.ok) throw new Error(fit.message);
        return fit.coefficients;
      };
      const there = found({ pressureKPa: air, salinity: 0 });
      expect(there.sensitivity).toBeCloseTo(0.9, 3);
      expect(there.zero).toBeCloseTo(0.004, 9);
      expect(found({ pressureKPa: air, salinity: 35 })).toEqual(there);
      // Taken for sea level, all values come out high by what the air lacks.
      expect(found({}).sensitivity / there.sensitivity).toBeCloseTo((air - 2.645) / (101.325 - 2.645), 4);
    },
  );

  it.each([
    [{ temperatureC: 41 }, /0 to 40/],
    [{ temperatureC: 20, pressureKPa: 1013 }, /where you stand/],
    [{ temperatureC: 20, salinity: 50 }, /0 to 40/],
  ])('what the equation does not know is refused: %o', (at, words) => {
    for (const family of BOTH) expect(() => modelOf(family).shows(AIR, 100, at)).toThrow(words);
  });
});
