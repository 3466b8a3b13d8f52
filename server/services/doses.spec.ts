import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { DosesView } from '@frustum/contract';
import { MS_PER_DAY, type RunOutcome } from '@frustum/core';
import type { DoseRecord } from '../store/commands/doses.ts';
import type { FittedLoop } from '../store/commands/places.ts';
import { RESERVOIR } from '../testing/cast.ts';
import { testApplication, type TestApplication } from '../testing/application.ts';
import { Fleets } from './fleet.ts';
import { House } from './house.ts';
import { lookBackOf } from './look-back.ts';

const dose = (at: string | undefined, amount: number, what = 'acid', unit = 'mL') => ({
  ...(at ? { at } : {}),
  what,
  amount,
  unit,
});

describe('doses of a loop', () => {
  let it_: TestApplication;
  let loopId: string;
  const path = () => `/api/loops/${loopId}/doses`;
  const note = (...doses: object[]) => request(it_.app).post(path()).send({ doses });
  const read = async () => (await request(it_.app).get(path())).body as DosesView;
  beforeAll(async () => {
    it_ = await testApplication();
    loopId = ((await request(it_.app).post('/api/sensors').send(RESERVOIR)).body as { loopId: string }).loopId;
  });
  afterAll(() => it_.close());

  it('are kept, newest first, each once', async () => {
    expect(await read()).toEqual({ all: 0, last: [] });
    const first = await note(dose('2026-11-20T08:00:00.000Z', 12.5), dose('2026-11-21T08:00:00.000Z', 20));
    expect([first.status, first.body]).toEqual([201, { kept: 2 }]);
    const again = await note(dose('2026-11-21T08:00:00.000Z', 20), dose(undefined, 5));
    expect(again.body).toEqual({ kept: 1 });
    const { all, last } = await read();
    expect(all).toBe(3);
    expect(last.map((d) => d.amount)).toEqual([5, 20, 12.5]);
    expect(last[0]!.at).toBe('2026-11-23T09:00:00.000Z');
  });

  it('nonsense is refused with its way out, and nothing of it is kept', async () => {
    for (const [wrong, words] of [
      [dose('2026-11-24T08:00:00.000Z', 3), 'still to come'],
      [dose(undefined, 0), 'more than 0'],
      [dose(undefined, 3, 'acid', 'buckets'), 'one of mL'],
      [dose('yesterday', 3), 'day and time'],
      [dose(undefined, 3, ''), 'what was dosed'],
    ] as const) {
      const answer = await note(dose('2026-11-22T08:00:00.000Z', 1), wrong);
      expect(answer.status, words).toBeGreaterThanOrEqual(400);
      expect(JSON.stringify(answer.body)).toContain(words);
    }
    expect((await read()).all).toBe(3);
    expect((await request(it_.app).get('/api/loops/none/doses')).status).toBe(404);
  });

  it('go out as a table that no spreadsheet takes for formulas', async () => {
    await note(dose('2026-11-19T08:00:00.000Z', 1, '=HYPERLINK("x")'));
    const { text, headers } = await request(it_.app).get(`${path()}.csv`);
    expect(headers['content-type']).toContain('text/csv');
    expect(text.split('\r\n')[0]).toBe('time,what,amount,unit');
    expect(text).toContain(`"'=HYPERLINK(""x"")"`);
    expect(text).toContain('2026-11-20T08:00:00.000Z,acid,12.5,mL');
  });

  it('what two people write down within one millisecond is taken back each by itself', async () => {
    const before = (await read()).all;
    await Promise.all([note(dose('2026-11-22T10:00:00.000Z', 71)), note(dose('2026-11-22T11:00:00.000Z', 72))]);
    const one = (await read()).last.find((d) => d.amount === 72)!;
    await request(it_.app).delete(path()).send({ noted: one.noted });
    const { all, last } = await read();
    expect([all, last.filter((d) => d.amount > 70).map((d) => d.amount)]).toEqual([before + 1, [71]]);
    await request(it_.app)
      .delete(path())
      .send({ noted: last.find((d) => d.amount === 71)!.noted });
  });

  it('what was written down together is taken back together, within a day', async () => {
    it_.setNow('2026-11-23T10:00:00Z');
    await note(dose('2026-11-23T09:10:00.000Z', 1), dose('2026-11-23T09:20:00.000Z', 2));
    const { all, last } = await read();
    const { noted } = last[0]!;
    expect(last[1]!.noted).toBe(noted);
    const back = () => request(it_.app).delete(path()).send({ noted });
    it_.setNow('2026-11-24T11:00:00Z');
    expect((await back()).body).toMatchObject({ code: 'stands' });
    expect((await read()).last[0]!.noted).toBeNull();
    it_.setNow('2026-11-24T09:00:00Z');
    expect((await back()).status).toBe(200);
    expect((await read()).all).toBe(all - 2);
  });
});

describe('a look-back', () => {
  it('counts the doses of the time in which the reading behind them was probably wrong, by substance', async () => {
    const loop = { id: 'l', name: 'Line', family: 'ph', settings: {}, workingValue: 6, workingC: 25, tolerance: 0.1, controls: 'acid dosing', siteId: 'x', referenceGroup: '' }; // prettier-ignore
    const fitted = {
      loop,
      sensor: { id: 's' },
      channel: { id: 'c', config: {} },
      siteName: '',
    } as unknown as FittedLoop;
    // 12 mV are 0.2 pH: found outside on day 60, somewhere before it became so.
    const outcomes = [0, 0, 12].map((zero, i) => ({
      sensorId: 's',
      endedAt: new Date(30 * i * MS_PER_DAY).toISOString(),
      outcome: { kind: 'calibration', coefficients: { zero, sensitivity: 0.97 }, covariance: [[0.2, 0], [0, 1e-5]], inForceAfter: { zero, sensitivity: 0.97 }, cleaned: false } as unknown as RunOutcome, // prettier-ignore
    }));
    const asked: [number, number][] = [];
    const given = (day: number, what: string, amount: number) =>
      ({ at: new Date(day * MS_PER_DAY).toISOString(), what, amount, unit: 'mL' }) as DoseRecord;
    const dosesOf = async (fromMs: number, toMs: number) => {
      asked.push([fromMs, toMs]);
      return [given(50, 'acid', 10.25), given(52, 'base', 3), given(55, 'acid', 30)];
    };
    const house = new House([fitted], outcomes, [], new Fleets());
    const [period] = await lookBackOf(fitted, house, [], dosesOf, 61 * MS_PER_DAY);
    expect(asked).toEqual([[period!.fromMs, period!.toMs]]);
    expect(period!.fromMs).toBeGreaterThan(30 * MS_PER_DAY);
    expect(period!.leaned.filter((l) => l.kind === 'dose')).toEqual([
      { kind: 'dose', atMs: 50 * MS_PER_DAY, untilMs: 55 * MS_PER_DAY, what: '2 doses of acid, 40.25 mL in all', sensorId: 's' }, // prettier-ignore
      { kind: 'dose', atMs: 52 * MS_PER_DAY, what: 'one dose of base, 3 mL', sensorId: 's' },
    ]);
  });
});
