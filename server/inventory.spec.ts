import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ChangeRow, InventoryView, MarginsView, SetUpView } from '@frustum/contract';
import { testApplication, type TestApplication } from './testing/application.ts';
import { RESERVOIR } from './testing/cast.ts';
import { runInTwoBuffers } from './testing/in-two-buffers.ts';

const houses: TestApplication[] = [];
const house = async () => {
  const made = await testApplication();
  houses.push(made);
  const post = async (path: string, body: object) => (await request(made.app).post(path).send(body)).body as InventoryView; // prettier-ignore
  return {
    made,
    api: () => request(made.app),
    rehearse: (text: string) => post('/api/inventory/rehearsal', { text }),
    take: (text: string) => post('/api/inventory', { text }),
    out: async (as: 'csv' | 'json') => (await request(made.app).get(`/api/inventory.${as}`)).text,
    setUp: async () => (await request(made.app).get('/api/set-up')).body as SetUpView,
  };
};
let first: Awaited<ReturnType<typeof house>>;
beforeAll(async () => {
  first = await house();
  const main = await first.api().post('/api/sensors').send({ ...RESERVOIR, loopName: 'Main pH', place: '=cmd', limits: { zero: 25 }, water: 'Reef' }); // prettier-ignore
  const { loopId } = main.body as { loopId: string };
  const second = await first.api().post('/api/sensors').send({ ...RESERVOIR, loopName: 'Backup pH', sensorName: 'Second', serial: 'B-2', backupOf: loopId, channel: { kind: 'mqtt', host: '127.0.0.1', port: 1883, topic: 'a/b', unit: 'mV', fixedC: 25, logIn: 'hall' } }); // prettier-ignore
  expect(second.status, second.text).toBe(201);
  const third = await first.api().post('/api/sensors').send({ ...RESERVOIR, loopName: 'Chlorine', sensorName: 'Amp', serial: '', family: 'chlorine', settings: { senses: 'acid' }, takes: { ph: loopId }, workingValue: 1, tolerance: 0.1, pointSet: [] }); // prettier-ignore
  expect(third.status, third.text).toBe(201);
  await first.api().post('/api/spares').send({ name: 'Spare', serial: 'S-9', family: 'ph', model: 'gel', boughtOn: '2026-05-01', storage: 'dry', soaking: false }); // prettier-ignore
});
afterAll(() => Promise.all(houses.map((h) => h.close())));

describe('an inventory', () => {
  it.each(['csv', 'json'] as const)('as %s makes an empty house the same, links and channels included', async (as) => {
    const text = await first.out(as);
    const second = await house();
    const rehearsed = await second.rehearse(text);
    expect(rehearsed).toMatchObject({ faultCount: 0, kept: false });
    expect(rehearsed.steps.map((s) => [s.name, s.what])).toEqual([
      ['Backup pH', 'added'],
      ['Chlorine', 'added'],
      ['Main pH', 'added'],
      ['Spare', 'added'],
    ]);
    expect((await second.setUp()).sites).toEqual([]);
    expect(await second.take(text)).toMatchObject({ kept: true });
    expect(await second.out(as)).toBe(text);
    // Once more: everything is there.
    expect((await second.take(text)).steps.map((s) => s.what)).toEqual(['same', 'same', 'same', 'same']);
    const { rows } = (await second.api().get('/api/margins')).body as MarginsView;
    const row = (name: string) => rows.find((r) => r.loopName === name)!;
    expect(row('Backup pH').backupOf).toBe(row('Main pH').loopId);
    expect(row('Chlorine').takes).toEqual({ ph: row('Main pH').loopId });
    expect(row('Backup pH').channel).toMatchObject({ kind: 'mqtt', topic: 'a/b', logIn: 'hall' });
    expect(row('Main pH').limits.zero).toBe(25);
  });

  it('changes what is there by the cells that say something, each with its record; an empty cell leaves what is there', async () => {
    const site = RESERVOIR.siteName;
    const text = `site;loop;tolerance;place;serial;model\n${site};Main pH;0,08;;A-77;gel\n${site};Backup pH;;;;`;
    const rehearsed = await first.rehearse(text);
    expect(rehearsed.steps).toEqual([
      { line: 2, name: 'Main pH', what: 'changed', of: 'loop', fields: ['tolerance', 'model', 'serial'] },
      { line: 3, name: 'Backup pH', what: 'same', of: 'loop', fields: [] },
    ]);
    await first.take(text);
    const main = (await first.setUp()).sites[0]!.loops.find((l) => l.name === 'Main pH')!;
    expect(main).toMatchObject({ tolerance: 0.08, place: '=cmd', sensor: { serial: 'A-77', model: 'gel' } });
    const [change] = (await first.api().get(`/api/changes?of=${main.loopId}`)).body as ChangeRow[];
    expect(change).toMatchObject({ why: 'from an inventory', fields: [{ field: 'tolerance', from: RESERVOIR.tolerance, to: 0.08 }] }); // prettier-ignore
  });

  it('every mistake is named with line, column, value and way out, and nothing is kept by halves', async () => {
    const { setUp, take, made } = first;
    const before = await setUp();
    const { sensor } = before.sites[0]!.loops.find((l) => l.name === 'Main pH')!;
    await runInTwoBuffers(made, sensor!.sensorId, 'leave');
    const site = RESERVOIR.siteName;
    const lines = [
      'site,loop,measures,works at,tolerance,standards,backup of,conditions from,settings,sensor,shelf,time zone',
      `${site},Good pH,pH,8.1,0.1,,,,,,,`,
      `${site},,pH,8.1,,,,,,,,`,
      `${site},Bad 1,pH,high,0,,,,,,,Mars/Phobos`,
      `${site},Bad 2,pHx,8.1,0.1,,,,,,,`,
      `${site},Bad 3,pH,81,0.1,,,,,,,`,
      `${site},Bad 4,pH,8.1,0.1,zobell,,,,,,`,
      `${site},Bad 5,pH,8.1,0.1,,Nobody,,,,,`,
      `${site},Bad 6,ORP,300,20,,Main pH,,,,,`,
      `${site},Bad 7,pH,8.1,0.1,,,"{""ph"": ""Main pH""}",,,,`,
      `${site},Bad 8,conductivity,1800,60,,,,alpha=2,,,`,
      `${site},Good pH,pH,8.1,0.1,,,,,,,`,
      `${site},Main pH,ORP,,,,,,,,,`,
      `${site},Main pH 2,pH,8.1,0.1,,,,,,wet,`,
      `${site},Backup pH,,,,,,,,Another,,`,
      `${site},Good pH 2,pH,8.1,,,,,,,,Europe/Paris`,
    ];
    const view = await take(lines.join('\n'));
    expect(view).toMatchObject({ kept: false, steps: [] });
    const at = view.faults.map(({ line, column, message }) => [line, column, message] as const);
    const has = (line: number, column: number, words: string) =>
      expect(at).toContainEqual([line, column, expect.stringContaining(words)]);
    has(3, 0, 'names neither a loop nor a sensor');
    has(4, 4, 'works at “high”: Working value is not a figure');
    has(4, 5, 'A tolerance is above 0');
    has(4, 12, 'goes by UTC');
    has(4, 12, 'There is no such time zone');
    has(5, 3, 'Pick one of the families');
    has(6, 4, '81');
    has(7, 6, 'no standard “zobell”');
    has(8, 7, 'has no loop “Nobody”');
    has(9, 7, 'pick another loop');
    has(10, 8, 'cannot come from');
    has(11, 9, '“alpha=2” is no JSON object');
    has(12, 2, 'in line 2 already');
    has(13, 3, 'Main pH measures pH');
    has(14, 11, 'not on the shelf');
    has(15, 10, 'Second is fitted there');
    has(16, 12, 'goes by UTC');
    expect(view.faultCount).toBe(17);
    expect(await setUp()).toEqual({ ...before, sites: [{ ...before.sites[0]!, loops: before.sites[0]!.loops.map((l) => (l.name === 'Main pH' ? { ...l, hasRuns: true } : l)) }] }); // prettier-ignore
  });

  it('of 2 000 rows is taken in, one more is refused in words; the same from two devices at once counts once', async () => {
    const { rehearse, take, setUp } = await house();
    const rows = (n: number) => ['site,loop,measures,works at', ...Array.from({ length: n }, (_, i) => `Big,Loop ${i},pH,7`)].join('\n'); // prettier-ignore
    expect((await rehearse(rows(2001))).faults[0]!.message).toContain('2001 rows; at most 2000 at once');
    const views = await Promise.all([take(rows(40)), take(rows(40))]);
    expect(views.map((v) => v.kept).sort()).toEqual([false, true]);
    expect((await setUp()).sites[0]!.loops).toHaveLength(40);
    expect((await rehearse(rows(2000))).steps.filter((s) => s.what === 'added')).toHaveLength(1960);
  });
});
