import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { historyOf } from '../../../sim/fleets/history.ts';
import { TIDEWATER } from '../../../sim/fleets/tidewater.ts';
import type { Context } from '../../context.ts';
import { testApplication, type TestApplication } from '../../testing/application.ts';
import { hearReadings, heardInWater } from './heard.ts';
import { loadBundle } from './load-bundle.ts';
import { readPictures } from './pictures.ts';

const TODAY = Date.UTC(2026, 10, 23, 9);
const SEED = 4870;
/** The junction of this one clogs: its buffers agree, and its reference has a hundred kΩ. */
const BACKUP = TIDEWATER[1]!;

describe('what is believed of a sensor', () => {
  let application: TestApplication;
  beforeAll(async () => {
    application = await testApplication();
    const bundle = historyOf(TODAY, SEED, { host: '127.0.0.1', port: 1 }, [BACKUP]);
    await loadBundle(application.context, {
      ...bundle,
      loops: bundle.loops.map((l) => ({ ...l, channel: { kind: 'hand' } as const })),
    });
  });
  afterAll(() => application.close());

  it('is what its transmitter measures as soon as it does, also after a start, and no other for a while of silence', async () => {
    let referenceKohm: number | null = null;
    const lately = () => referenceKohm === null ? [] : [{ signal: 0, temperatureC: 25, impedance: { membraneMohm: 120, referenceKohm } }]; // prettier-ignore
    const context = { ...application.context, hub: { lately } } as unknown as Context;
    const { house, of } = await readPictures(context);
    const fitted = house.all[0]!;
    const blocked = () => of(fitted).health!.causes.find((c) => c.cause.id === 'junction-blocked')!.chance;
    expect(blocked()).toBeLessThan(0.9);
    referenceKohm = 110;
    expect(blocked()).toBeGreaterThan(0.99);
    const picture = of(fitted);
    // Asked again, by another page: the same, though the last digit has moved, and though it is silent.
    referenceKohm = 115;
    expect((await readPictures(context)).of(fitted)).toBe(picture);
    referenceKohm = null;
    expect(of(fitted)).toBe(picture);
    // Cleaned: another figure, another picture.
    referenceKohm = 8;
    expect(blocked()).toBeLessThan(0.5);
  });

  it('stays what it was while it is at the bench or silent, through all that changes in the house, until hands come', async () => {
    let referenceKohm: number | null = 110;
    const lately = () => referenceKohm === null ? [] : [{ signal: 0, temperatureC: 25, impedance: { membraneMohm: 120, referenceKohm } }]; // prettier-ignore
    const context = { ...application.context, hub: { lately } } as unknown as Context;
    const blocked = async () => {
      const { house, of } = await readPictures(context);
      const fitted = house.all[0]!;
      const kohm = heardInWater(context, fitted, house.pastOf(fitted), -Infinity).referenceKohm;
      return [of(fitted).health!.causes.find((c) => c.cause.id === 'junction-blocked')!.chance, kohm];
    };
    const noted = async (kind: 'other' | 'cleaned', iso: string) => {
      application.setNow(iso);
      const { sensor } = (await readPictures(context)).house.all[0]!;
      const done = await request(application.app)
        .post(`/api/sensors/${sensor.id}/services`)
        .send({ kind, note: 'seen' });
      expect(done.status).toBe(201);
    };
    await noted('other', '2026-11-23T09:30:00Z');
    const [chance] = await blocked();
    expect(chance).toBeGreaterThan(0.99);
    referenceKohm = null;
    await noted('other', '2026-11-23T10:00:00Z');
    expect(await blocked()).toEqual([expect.closeTo(chance!, 3), 110]);
    await noted('cleaned', '2026-11-23T11:00:00Z');
    expect(await blocked()).toEqual([expect.toSatisfy((c: number) => c < 0.9), undefined]);
  });

  it('hears what the readings say, holds it while they are silent, and changes only when they say something else', async () => {
    application.setNow('2026-11-23T12:00:00Z');
    const now = Date.parse('2026-11-23T12:00:00Z');
    let moved = 0;
    const minute = (ms: number, mean: number) => ({ minute: new Date(ms).toISOString(), mean, temperatureC: 25, onBench: false }); // prettier-ignore
    const minutes = () => [
      ...Array.from({ length: 60 }, (_, i) => minute(now - 2 * 86_400_000 + i * 60_000, -60)),
      ...(moved === Infinity ? [] : Array.from({ length: 10 }, (_, i) => minute(now - (10 - i) * 60_000, -60 + moved))),
    ];
    const store = Object.assign(Object.create(application.context.store) as Context['store'], {
      readMinutesAlike: () => Promise.resolve(minutes()),
    });
    let clock = now;
    const context = {
      ...application.context,
      store,
      now: () => clock,
      hub: { lately: () => [] },
    } as unknown as Context;
    const asked = async (by: number) => {
      moved = by;
      // Half a minute later: the page asks again.
      clock += 30_000;
      const { house, of } = await readPictures(context);
      const other = await hearReadings(context, house.all[0]!, house);
      const { health } = of(house.all[0]!);
      return [
        other,
        health!.evidence.some((e) => e.piece === 'readingMoved' && Math.abs(e.figure.value) > 20),
      ] as const;
    };
    expect(await asked(0)).toEqual([true, false]);
    expect(await asked(0.4)).toEqual([false, false]);
    // 18 mV is some 30 steps.
    expect(await asked(18)).toEqual([true, true]);
    expect(await asked(18.5)).toEqual([false, true]);
    // Silent for a while: what was heard stands.
    expect(await asked(Infinity)).toEqual([false, true]);
    expect(await asked(0)).toEqual([true, false]);
  });
});
