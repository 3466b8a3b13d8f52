import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { seededChance } from '@frustum/core';
import type { ConeView, LogbookView, RunView, SensorView } from '@frustum/contract';
import { testApplication, type TestApplication } from './testing/application.ts';
import { RESERVOIR } from './testing/cast.ts';

let subject: TestApplication;
const api = () => request(subject.app);
const SEED = 20_261_130;
const NOW = '2026-11-23T09:00:00Z';
const DAY_MS = 86_400_000;
const setUp = async (loopName: string, part: object = {}) =>
  ((
      await api()
        .post('/api/sensors')
        .send({ ...RESERVOIR, loopName, sensorName: `${loopName} probe`, serial: '', fittedOn: '2023-01-01', ...part })
    ).body as { sensorId: string; loopId: string } // prettier-ignore
  ).sensorId;
const rehearse = async (csv: string) => (await api().post('/api/logbook/rehearsal').send({ csv })).body as LogbookView;
const take = async (csv: string) => (await api().post('/api/logbook').send({ csv })).body as LogbookView;
const sensor = async (id: string) => (await api().get(`/api/sensors/${id}`)).body as SensorView;

beforeAll(async () => {
  subject = await testApplication();
  subject.setNow(NOW);
});
afterAll(() => subject.close());

/** mV that a pH electrode gives at 25 °C; worked by hand, nothing of the core in it. */
const given = (ph: number, zero: number, slope: number) => zero - slope * 59.159 * (ph - 7);
/** What a display shows that believes in a zero and a slope. */
const shown = (mv: number, zero: number, slope: number) => 7 - (mv - zero) / (slope * 59.159);

/** What two cones say at the same moments since `fromMs`; runs fell on the same ones, so their places do too. */
function conesBeside(paper: ConeView, bench: ConeView, fromMs: number) {
  const flat = ({ segments }: ConeView) => segments.flatMap((s) => s.points).filter(([t]) => t >= fromMs);
  const others = flat(bench);
  return flat(paper).map(([t, error, , expanded], i) => {
    const [u, otherError, , otherExpanded] = others[i]!;
    expect(Math.abs(u - t)).toBeLessThan(DAY_MS / 2);
    return { t, paper: { error, expanded }, bench: { error: otherError, expanded: otherExpanded } };
  });
}

/** A year and a half on paper. */
const MONTHS = 18;

describe('a year and a half of a paper logbook for six sensors', () => {
  // Each sensor drifts in its own way; each month it is adjusted to what was found.
  const dice = seededChance(SEED);
  const sensors = Array.from({ length: 6 }, (_, i) => ({
    name: `Paper ${i + 1} pH`,
    bench: `Bench ${i + 1} pH`,
    perMonth: -0.25 - 0.1 * i,
    start: 3 * dice.normal(),
  }));
  const months = Array.from(
    { length: MONTHS },
    (_, m) => new Date(Date.parse('2025-05-04T08:00:00Z') + 30 * m * DAY_MS),
  );
  const lives = sensors.map(({ start, perMonth }) => {
    let [zero, slope] = [0, 1];
    return months.map((at, m) => {
      const [is, gain] = [start + perMonth * m + 0.4 * dice.normal(), 0.985 - 0.0004 * m];
      const asFound = [7, 4.01].map((ph) => Number(shown(given(ph, is, gain), zero, slope).toFixed(2)));
      [zero, slope] = [is, gain];
      return { at, asFound, is, gain };
    });
  });
  const csv = (of: 'name' | 'bench', from: number, to: number) =>
    [
      'when;sensor;standard;as found;as left;temperature;by',
      ...sensors.flatMap((s, i) =>
        lives[i]!.slice(from, to).flatMap(({ at, asFound }) =>
          ['7,00', '4,01'].map(
            (standard, k) =>
            [at.toISOString().slice(0, 16).replace('T', ' '), s[of], standard, String(asFound[k]).replace('.', ','), standard, '25', 'Operator A'].join(';'), // prettier-ignore
          ),
        ),
      ),
    ].join('\n');

  it(`is rehearsed, taken in once, marked, and draws the cones of the same runs at the bench, wider (seed ${SEED})`, async () => {
    const paper: string[] = [];
    const bench: string[] = [];
    for (const s of sensors) {
      paper.push(await setUp(s.name));
      bench.push(await setUp(s.bench));
    }
    const rehearsal = await rehearse(csv('name', 0, MONTHS));
    expect(rehearsal).toMatchObject({ faultCount: 0, kept: false });
    expect(rehearsal.runs).toHaveLength(6 * MONTHS);
    expect((await sensor(paper[0]!)).runs).toEqual([]);
    expect(await take(csv('name', 0, MONTHS))).toMatchObject({ faultCount: 0, kept: true });

    // The same runs at the bench: typed in its cups, month by month, as they stood on the display.
    for (const [m] of months.entries()) {
      subject.setNow(months[m]!.toISOString());
      for (const [i, id] of bench.entries()) await atTheBench(id, lives[i]![m]!);
    }
    subject.setNow(NOW);
    for (const [i, id] of paper.entries()) {
      const [a, b] = [await sensor(id), await sensor(bench[i]!)];
      const where = `${sensors[i]!.name} (seed ${SEED})`;
      expect(a.row.cone.marks, where).toHaveLength(MONTHS);
      const [last, benched] = [a.runs[0]!.outcome!, b.runs[0]!.outcome!];
      expect(last.fromPaper).toBe(true);
      expect(benched.fromPaper).toBeUndefined();
      // The display rounds to 0.01 pH, which is 0.6 mV.
      expect(Math.abs(last.coefficients.zero - lives[i]!.at(-1)!.is), where).toBeLessThan(1.5);
      expect(Math.abs(last.coefficients.zero - benched.coefficients.zero), where).toBeLessThan(2);
      expect(last.asFound.uncertainty, where).toBeGreaterThan(1.3 * benched.asFound.uncertainty);
      // Their cones agree from the third run on, wherever one looks, within the wider of the two bands.
      const looked = conesBeside(a.row.cone, b.row.cone, months[2]!.getTime());
      expect(looked.length, where).toBeGreaterThan(100);
      for (const { t, paper: p, bench: q } of looked) {
        const at = `${where}, ${new Date(t).toISOString()}`;
        expect(Math.abs(p.error - q.error), at).toBeLessThan(p.expanded);
        expect(p.expanded, at).toBeGreaterThan(q.expanded);
      }
    }
    const a = await sensor(paper[2]!);
    const run = (await api().get(`/api/runs/${a.runs[0]!.runId}`)).body as RunView;
    expect(run.events[0]).toMatchObject({ by: 'Operator A', body: { plan: { fromPaper: true } } });

    // Once more: every line is named, and nothing comes twice.
    const again = await take(csv('name', 0, MONTHS));
    expect(again).toMatchObject({ kept: false, faultCount: 6 * MONTHS });
    expect(again.faults[0]).toMatchObject({ line: 2, column: 1, message: 'This run is here already. Leave its lines out.' }); // prettier-ignore
    expect((await sensor(paper[2]!)).runs).toHaveLength(MONTHS);
  });

  /** One run typed at the bench in two cups and adjusted. */
  async function atTheBench(sensorId: string, { at, is, gain }: { at: Date; is: number; gain: number }) {
    const points = [{ standardId: 'technical-7.00' }, { standardId: 'technical-4.01' }];
    const begun = await api().post('/api/runs').send({ sensorId, points, school: 'statistical' });
    const { runId, events } = begun.body as RunView;
    const done = (stepId: string) => ({ type: 'step-done', stepId, traceSeconds: null });
    const cups = [7, 4.01].flatMap((ph, i) => {
      const capture = { pointIndex: i, purpose: 'as-found', method: 'typed', signal: given(ph, is, gain), signalUncertainty: 0.3, temperatureC: 25, settledSeconds: null, t90: null, trace: [] }; // prettier-ignore
      return [done(`p1.place.${i}`), { type: 'captured', stepId: `p1.settle.${i}`, traceSeconds: null, capture }];
    });
    const bodies = [
      ...['hold', 'take-out'].map(done),
      ...cups,
      { type: 'decided', action: 'adjust', because: 'monthly' },
      { type: 'adjusted', coefficients: { zero: is, sensitivity: gain }, how: 'entered-by-hand' },
      { type: 'skipped', stepId: 'read-back', because: 'later', traceSeconds: null },
      done('return'),
      { type: 'closed' },
    ];
    const sent = bodies.map((body, i) => {
      const counter = events.length + i;
      return { device: 'phone-at-the-bench', counter, at: at.toISOString(), onSeq: counter, body };
    });
    const answer = await api().post(`/api/runs/${runId}/events`).send({ events: sent });
    expect(answer.status, JSON.stringify(answer.body)).toBe(200);
  }
});

describe('a logbook with mistakes', () => {
  const HEAD = 'when,sensor,standard,value,as found,as left,temperature,by';
  it.each([
    ['no heading', '2024-01-01,Slips pH,7.00', 1, 0, 'The heading has no “when”'],
    ['no line', HEAD, 1, 0, 'There is no run in the file'],
    ['a day that is none', `${HEAD}\n2024-02-31,Slips pH,7.00,,7.05,,,`, 2, 1, '“2024-02-31” is no day. Write it like'],
    ['a day that can be read two ways', `${HEAD}\n11/10/24,Slips pH,7.00,,7.05,,,`, 2, 1, '“11/10/24” is no day'],
    ['a day to come', `${HEAD}\n2027-02-01,Slips pH,7.00,,7.05,,,`, 2, 1, 'still to come'],
    ['a day before it was fitted', `${HEAD}\n2022-12-31,Slips pH,7.00,,7.05,,,`, 2, 1, 'was fitted on 2023-01-01'],
    ['a sensor that is not there', `${HEAD}\n2024-01-01,Sips pH,7.00,,7.05,,,`, 2, 2, 'no loop or sensor “Sips pH”'],
    ['a standard that is not there', `${HEAD}\n2024-01-01,Slips pH,8.88,,7.05,,,`, 2, 3, 'no standard “8.88” for Slips pH. There are: '], // prettier-ignore
    ['a word for a figure', `${HEAD}\n2024-01-01,Slips pH,7.00,,about 7,,,`, 2, 5, '“about 7” is not a figure. Write it like 7.06'], // prettier-ignore
    ['a reading that pH has not', `${HEAD}\n2024-01-01,Slips pH,7.00,,705,,,`, 2, 5, '705'],
    ['a standard twice', `${HEAD}\n2024-01-01,Slips pH,7.00,,7.05,,,\n2024-01-01,Slips pH,7,,7.06,,,`, 3, 3, 'has 7.00 already'], // prettier-ignore
    ['a sample without its value', `${HEAD}\n2024-01-01,Slips pH,sample,,7.05,,,`, 2, 4, 'needs the value that the lab has found'], // prettier-ignore
  ])('%s is named with line, column, value and the way out; nothing is kept', async (_, csv, line, column, words) => {
    const id = slips ?? (slips = await setUp('Slips pH'));
    const view = await take(csv);
    expect(view).toMatchObject({ kept: false });
    expect(view.faults).toContainEqual({ line, column, message: expect.stringContaining(words) as string }); // prettier-ignore
    expect((await sensor(id)).runs).toEqual([]);
  });
  let slips: string | undefined;

  it('ten thousand lines with every mistake: the first are shown, all are counted, and the server goes on', async () => {
    const bad = ['2024-02-31,Slips pH,7.00,,7.05,,,', '2024-01-01,Nobody,7.00,,7.05,,,', '2024-01-01,Slips pH,x,,y,z,w,']; // prettier-ignore
    const lines = Array.from({ length: 10_000 }, (_, i) => bad[i % bad.length]);
    const view = await take([HEAD, ...lines].join('\n'));
    expect(view.faults).toHaveLength(200);
    expect(view).toMatchObject({ kept: false, runs: [] });
    expect(view.faultCount).toBeGreaterThan(9_999);
    const tooMany = await take([HEAD, ...lines, bad[0]].join('\n'));
    expect(tooMany.faults[0]!.message).toContain('10001 lines; at most 10000 at once');
  });

  it('a sample is held against the reading of its day; a place in another zone goes by its own clock', async () => {
    const id = await setUp('Sample pH', { siteName: 'Far site' });
    const { sites } = (await api().get('/api/set-up')).body as { sites: { name: string; siteId: string; version: number }[] }; // prettier-ignore
    const far = sites.find((s) => s.name === 'Far site')!;
    await api()
      .put(`/api/sites/${far.siteId}`)
      .send({ version: far.version, to: { timeZone: 'America/New_York' } });
    const view = await take(`${HEAD}\n2024-07-01 08:30,Sample pH,sample,5.90,5.80,,22,Lab`);
    expect(view).toMatchObject({ kept: true, runs: [{ at: '2024-07-01T12:30:00.000Z', standards: ['sample'], by: 'Lab' }] }); // prettier-ignore
    const { runs } = await sensor(id);
    expect(runs[0]!.outcome).toMatchObject({ kind: 'grab-sample', fromPaper: true });
    expect(runs[0]!.outcome!.asFound.error).toBeCloseTo(-0.1, 3);
  });

  it('the same file from two devices at once counts once', async () => {
    const id = await setUp('Twice pH');
    const csv = `${HEAD}\n2024-01-01,Twice pH,7.00,,7.05,,,\n2024-01-01,Twice pH,4.01,,4.05,,,`;
    const views = await Promise.all([take(csv), take(csv)]);
    expect(views.map((v) => v.kept).sort()).toEqual([false, true]);
    expect((await sensor(id)).runs).toHaveLength(1);
  });

  it('gives a sheet to fill in', async () => {
    const { text } = await api().get('/api/logbook.csv');
    expect(text.split('\r\n')[0]).toBe('when,sensor,standard,value,as found,as left,temperature,by');
    expect(text).toContain('Slips pH');
  });
});
