import { SOUND, type Life } from '../physics/ageing.ts';
import { chance, seedOf } from '../physics/chance.ts';
import type { HousePh } from './tidewater.ts';

/** What a probe of a fleet may suffer from; most are sound. */
const FATES = ['sound', 'sound', 'sound', 'worn', 'diluted', 'blocked'] as const;

/**
 * Any number of pH loops with hidden truths of their own: two waters, probes of every age, and three ways of going wrong.
 *
 * @param count how many
 * @param seed the same seed gives the same fleet
 */
export function fleetOf(count: number, seed: number): HousePh[] {
  return Array.from({ length: count }, (_, i) => {
    const dice = chance(seedOf(seed, `fleet ${i}`));
    const between = (low: number, high: number) => low + (high - low) * dice.uniform();
    const sea = dice.uniform() < 0.5;
    const ageDays = Math.round(between(40, 900));
    const fate = FATES[Math.floor(dice.uniform() * FATES.length)]!;
    const from = Math.round(between(0.2, 0.7) * ageDays);
    const life: Life = {
      ...SOUND,
      newZeroMv: 4 * dice.normal(),
      newSlope: between(0.965, 0.995),
      fastSeconds: between(3, 7),
      slowSeconds: between(15, 40),
      wanderMv: between(0.6, 2.2),
      ...(fate === 'worn' ? { wearPerDay: between(0.0001, 0.0004), wearFromDay: from } : {}),
      ...(fate === 'diluted' ? { dilutionDays: between(150, 600), dilutionFromDay: from } : {}),
      ...(fate === 'blocked' ? { blockedMvPerDay: between(0.03, 0.15), blockedFromDay: from } : {}),
    };
    return {
      key: `fleet-${i}`,
      name: `Loop ${i + 1} pH`,
      place: `Hall ${1 + Math.floor(i / 20)}`,
      serial: `TF-${String(i + 1).padStart(4, '0')}`,
      process: { ph: sea ? 8.1 : 5.9, dailySwing: between(0.02, 0.15), temperatureC: between(18, 27) },
      tolerancePh: sea ? 0.2 : 0.15,
      intervalDays: 30,
      controls: '',
      pointSet: ['technical-7.00', sea ? 'technical-10.01' : 'technical-4.01'],
      ageDays,
      habitDays: Math.round(between(20, 60)),
      lastRunDaysAgo: Math.round(between(1, 40)),
      life,
      truth: fate,
    };
  });
}
