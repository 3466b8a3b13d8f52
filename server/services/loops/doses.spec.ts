import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { DosesView } from '@frustum/contract';
import { RESERVOIR } from '../../testing/cast.ts';
import { testApplication, type TestApplication } from '../../testing/application.ts';

const dose = (at: string | undefined, amount: number, what = 'acid', unit = 'mL') => ({
  ...(at ? { at } : {}),
  what,
  amount,
  unit,
});

describe('doses of a loop', () => {
  let subject: TestApplication;
  let loopId: string;
  const path = () => `/api/loops/${loopId}/doses`;
  const note = (...doses: object[]) => request(subject.app).post(path()).send({ doses });
  const read = async () => (await request(subject.app).get(path())).body as DosesView;
  beforeAll(async () => {
    subject = await testApplication();
    loopId = ((await request(subject.app).post('/api/sensors').send(RESERVOIR)).body as { loopId: string }).loopId;
  });
  afterAll(() => subject.close());

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
    expect((await request(subject.app).get('/api/loops/none/doses')).status).toBe(404);
  });

  it('go out as a table that no spreadsheet takes for formulas', async () => {
    await note(dose('2026-11-19T08:00:00.000Z', 1, '=HYPERLINK("x")'));
    const { text, headers } = await request(subject.app).get(`${path()}.csv`);
    expect(headers['content-type']).toContain('text/csv');
    expect(text.split('\r\n')[0]).toBe('time,what,amount,unit');
    expect(text).toContain(`"'=HYPERLINK(""x"")"`);
    expect(text).toContain('2026-11-20T08:00:00.000Z,acid,12.5,mL');
  });

  it('what two people write down within one millisecond is taken back each by itself', async () => {
    const before = (await read()).all;
    await Promise.all([note(dose('2026-11-22T10:00:00.000Z', 71)), note(dose('2026-11-22T11:00:00.000Z', 72))]);
    const one = (await read()).last.find((d) => d.amount === 72)!;
    await request(subject.app).delete(path()).send({ noted: one.noted });
    const { all, last } = await read();
    expect([all, last.filter((d) => d.amount > 70).map((d) => d.amount)]).toEqual([before + 1, [71]]);
    await request(subject.app)
      .delete(path())
      .send({ noted: last.find((d) => d.amount === 71)!.noted });
  });

  it('what was written down together is taken back together, within a day', async () => {
    subject.setNow('2026-11-23T10:00:00Z');
    await note(dose('2026-11-23T09:10:00.000Z', 1), dose('2026-11-23T09:20:00.000Z', 2));
    const { all, last } = await read();
    const { noted } = last[0]!;
    expect(last[1]!.noted).toBe(noted);
    const back = () => request(subject.app).delete(path()).send({ noted });
    subject.setNow('2026-11-24T11:00:00Z');
    expect((await back()).body).toMatchObject({ code: 'stands' });
    expect((await read()).last[0]!.noted).toBeNull();
    subject.setNow('2026-11-24T09:00:00Z');
    expect((await back()).status).toBe(200);
    expect((await read()).all).toBe(all - 2);
  });
});
