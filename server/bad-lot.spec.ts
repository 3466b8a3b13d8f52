import request from 'supertest';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { LotRow } from '@frustum/contract';
import type { Bundle } from '@frustum/formats';
import { OTHERS } from '../sim/fleets/others.ts';
import { othersOf } from '../sim/fleets/others-history.ts';
import { loadBundle } from './services/house/load-bundle.ts';
import { marginRows } from './services/margins/margins.ts';
import { readSensor } from './services/sensors/sensors.ts';
import { testApplication, type TestApplication } from './testing/application.ts';
import { AtTheBench } from './testing/at-the-bench.ts';

/**
 * Two probes of the house (seed 4870) that were always sound meet the same new bottles, which are 0.2 pH off. The simulator's
 * fault is the judge: neither probe has changed.
 */
let subject: TestApplication;
beforeAll(async () => {
  subject = await testApplication();
});
afterAll(() => subject.close());

const STANDARDS = ['technical-7.00', 'technical-10.01'];

async function bottles(label: string): Promise<{ standardId: string; lotId: string }[]> {
  const made: { standardId: string; lotId: string }[] = [];
  for (const standardId of STANDARDS) {
    const lot = { standardId, label: `${label} ${standardId}`, expiresOn: '2027-12-31' };
    const answer = await request(subject.app).post('/api/lots').send(lot);
    made.push({ standardId, lotId: (answer.body as LotRow).lotId });
  }
  return made;
}

/** Three runs a month apart in the old bottles, the fourth in the new ones. */
async function lives(
  body: string,
  workingValue: number,
  old: object[],
  fresh: object[],
  off: number,
): Promise<AtTheBench> {
  const probe = await new AtTheBench(subject, {
    name: `${body} pH`,
    family: 'ph',
    workingValue,
    workingC: 25,
    tolerance: 0.2,
    pointSet: STANDARDS,
    body,
    quantity: 'mV',
    read: (r) => r.electrodes['ph']!,
  }).setsUp();
  for (const points of [old, old, old]) await runs(probe, points, 0);
  await runs(probe, fresh, off);
  return probe;
}

/** One run, in bottles that are so many pH off, and a month of rest. */
async function runs(probe: AtTheBench, points: object[], offPh: number): Promise<void> {
  probe.stand.hands({ action: 'fault', fault: 'bad lot', severity: offPh / 0.5 });
  expect(await probe.starts({ procedure: 'calibrate', points })).toBeNull();
  await probe.toDecision();
  await probe.decides(offPh === 0 && probe.verdict.action === 'adjust' ? 'adjust' : 'leave', 'as it was');
  await probe.toDecision();
  probe.rests(30);
}

it('a bad lot: two sound probes that moved alike in the same new bottles, and it says the bottle', async () => {
  const [old, fresh] = [await bottles('old'), await bottles('new')];
  const alone = await lives('display-main', 8.1, old, fresh, 0.2);
  const before = (await alone.page()).health!;
  const chance = (health: typeof before) => health.causes.find((c) => c.cause.id === 'standard-wrong')!.chance;
  await lives('remineralised', 7.6, old, fresh, 0.2);
  const { health } = await alone.page();
  expect(chance(health!)).toBeGreaterThan(chance(before));
  expect(health!.named?.id).toBe('standard-wrong');
  expect(health!.named?.group).toBe('replace the standard');
  expect(health!.test?.what).toContain('another bottle');
  // 0.2 pH are 11.6 mV at 20 °C, some 20 steps of 0.59 mV, less the slope.
  const fellow = health!.evidence.find((e) => e.piece === 'fellows')!;
  expect(fellow.push).toBeGreaterThan(1);
  expect(Math.abs(fellow.figure.value)).toBeGreaterThan(15);
  expect(Math.abs(fellow.figure.value)).toBeLessThan(24);

  // Back in the right bottles it goes back: the bottle was wrong, and that is not forgotten for the sensor's sake.
  await runs(alone, old, 0);
  const after = (await alone.page()).health!;
  expect(after.named?.id).toBe('standard-wrong');
  expect(after.evidence.find((e) => e.piece === 'cameBack')!.push).toBeGreaterThan(3);
});

it('the demo’s own history has one: both ORP electrodes moved alike in the bottle that was opened a week ago', async () => {
  const house = await testApplication();
  try {
    const stands = { host: '127.0.0.1', port: 1 };
    const electrodes = OTHERS.filter((l) => l.family === 'orp');
    const { loops, lots, runs } = othersOf(Date.UTC(2026, 10, 23, 9), 77, stands, electrodes);
    const site = { name: 'Tidewater House', timeZone: 'UTC' };
    const byHand = loops.map((l) => ({ ...l, channel: { kind: 'hand' } as const }));
    expect(byHand).toHaveLength(2);
    const bundle: Bundle = { format: 'frustum-bundle', version: 2, site, lots, loops: byHand, runs };
    await loadBundle(house.context, bundle);
    const rows = await marginRows(house.context);
    for (const { sensorId, loopName } of rows) {
      const { health } = await readSensor(house.context, sensorId);
      expect(health?.named?.id, loopName).toBe('standard-wrong');
      // The hidden bottle is 18 mV off.
      const fellows = health!.evidence.find((e) => e.piece === 'fellows')!;
      expect(fellows.push, loopName).toBeGreaterThan(1);
    }
  } finally {
    await house.close();
  }
});
