import request from 'supertest';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { ChangeRow, LoopRow, PersonRow, RunView, SetUpView, WouldBeView } from '@frustum/contract';
import { testApplication, type TestApplication } from './testing/application.ts';
import { fromPhone, RESERVOIR } from './testing/cast.ts';
import { runInTwoBuffers } from './testing/in-two-buffers.ts';

let subject: TestApplication;
let n = 0;
let site = '';
let ids: { loopId: string; sensorId: string };
const api = () => request(subject.app);
/** Each test has a site of its own in one house. */
const mine = () => ({ ...RESERVOIR, siteName: site });
const siteNow = async () => ((await api().get('/api/set-up')).body as SetUpView).sites.find((s) => s.name === site)!;
const only = async () => (await siteNow()).loops.find((l) => l.loopId === ids.loopId)!;
const rows = async () =>
  ((await api().get('/api/margins')).body as { rows: LoopRow[] }).rows.filter((r) => r.siteName === site);
const changesOf = async (id: string) => (await api().get(`/api/changes?of=${id}`)).body as ChangeRow[];
beforeAll(async () => {
  subject = await testApplication();
});
afterAll(() => subject.close());
beforeEach(async () => {
  site = `Hall ${++n}`;
  ids = (await api().post('/api/sensors').send(mine())).body as typeof ids;
});

const change = (body: object, by = 'Operator B') =>
  api().put(`/api/loops/${ids.loopId}`).set('x-frustum-person', encodeURIComponent(by)).send(body);

/** A run in which nothing was adjusted. */
const verified = () => runInTwoBuffers(subject, ids.sensorId, 'leave');

describe('what is set up', () => {
  it('is changed with from, to, why and a name; the second one on an old version is told, and undo is a change like any other', async () => {
    const { loops, ...here } = await siteNow();
    expect(loops).toHaveLength(1);
    const { version, tolerance } = loops[0]!;
    const answer = await change(
      { version, to: { tolerance: 0.08, name: 'Reservoir one pH' }, why: 'seedlings' },
      'Zoë',
    );
    expect(answer.body).toEqual({ version: version + 1 });
    expect((await change({ version, to: { tolerance: 0.2 } })).body).toMatchObject({ code: 'set-up-moved' });
    await change({ version: version + 1, to: { tolerance }, why: 'undone' });
    expect((await only()).tolerance).toBe(tolerance);
    const [undone, first] = await changesOf(ids.loopId);
    expect(first).toMatchObject({
      by: 'Zoë',
      why: 'seedlings',
      fields: [
        { field: 'name', from: RESERVOIR.loopName, to: 'Reservoir one pH' },
        { field: 'tolerance', from: tolerance, to: 0.08 },
      ],
    });
    expect(undone).toMatchObject({ by: 'Operator B', fields: [{ field: 'tolerance', from: 0.08, to: tolerance }] });
    // What stays as it is leaves no trace.
    await change({ version: version + 2, to: { tolerance } });
    expect(await changesOf(ids.loopId)).toHaveLength(2);
    const zone = { version: here.version, to: { timeZone: 'Mars/Olympus' } };
    expect((await api().put(`/api/sites/${here.siteId}`).send(zone)).body).toMatchObject({
      detail: expect.stringContaining('There is no such time zone') as string,
    });
  });

  it.each([
    ['a tolerance of 0', { tolerance: 0 }, 'A tolerance is above 0'],
    ['a value that pH has not', { workingValue: 61 }, 'Working value 61 pH is outside'],
    ['a standard that nobody has', { pointSet: ['lemonade'] }, 'There is no standard'],
    ['no name at all', { name: '  ' }, 'Loop is missing'],
  ])('refuses %s in words, and stays as it was', async (_, to, words) => {
    const before = await only();
    const answer = await change({ version: before.version, to });
    expect((answer.body as { detail: string }).detail.toLowerCase()).toContain(words.toLowerCase());
    expect(await only()).toEqual(before);
  });

  it('two loops of one name are refused, also when one of them is archived', async () => {
    await api()
      .post('/api/sensors')
      .send({ ...mine(), loopName: 'Other pH' });
    const other = (await siteNow()).loops.find((l) => l.name === 'Other pH')!;
    const archive = { version: other.version, to: { archived: true } };
    await api().put(`/api/loops/${other.loopId}`).send(archive);
    const answer = await change({ version: 1, to: { name: 'Other pH' } });
    expect(answer.body).toMatchObject({ code: 'loop-exists', detail: expect.stringContaining('archived') as string });
  });

  it('a loop under a run is not archived; without one it goes with all it has been through, and comes back with it', async () => {
    const points = [{ standardId: 'technical-7.00' }, { standardId: 'technical-4.01' }];
    const order = { sensorId: ids.sensorId, points, school: 'statistical' };
    const { runId } = (await api().post('/api/runs').send(order)).body as RunView;
    const { version } = await only();
    expect((await change({ version, to: { archived: true } })).body).toMatchObject({ code: 'run-open' });
    const abandoned = [fromPhone(1, { type: 'abandoned', because: 'tea' })];
    await api().post(`/api/runs/${runId}/events`).send({ events: abandoned });
    expect((await change({ version, to: { archived: true }, why: 'winter' })).status).toBe(200);
    expect(await rows()).toEqual([]);
    expect((await only()).archivedAt).not.toBeNull();
    expect((await change({ version: version + 1, to: { archived: false } })).status).toBe(200);
    expect((await rows())[0]).toMatchObject({ loopId: ids.loopId, sensorId: ids.sensorId });
    const { runs } = (await api().get(`/api/sensors/${ids.sensorId}`)).body as { runs: unknown[] };
    expect(runs).toHaveLength(1);
  });

  it('a site is put away with its loops, and comes back with them', async () => {
    const { siteId, version } = await siteNow();
    await api()
      .put(`/api/sites/${siteId}`)
      .send({ version, to: { archived: true } });
    expect(await rows()).toEqual([]);
    await api()
      .put(`/api/sites/${siteId}`)
      .send({ version: version + 1, to: { archived: false } });
    expect(await rows()).toHaveLength(1);
  });

  it('says what other figures would mean: the margin, and verdicts that keep what they were', async () => {
    await verified();
    const ask = async (to: object) =>
      (await api().post(`/api/loops/${ids.loopId}/would-be`).send({ to })).body as WouldBeView;
    // The first run of a channel that nobody has said anything of wants adjusting, whatever the tolerance.
    const tight = await ask({ tolerance: 0.001 });
    expect(tight.verdicts).toBe(1);
    expect(tight.otherwise).toEqual({});
    expect(tight.then.state).toBe('outside');
    expect((await ask({ tolerance: 3 })).then.state).toBe('inside');
    // The error is that of where it works: at 4.01 it differs from the one at 5.8.
    const { row } = (await api().get(`/api/sensors/${ids.sensorId}`)).body as { row: LoopRow };
    expect(tight.now.state).toBe(row.margin.state);
    expect((await ask({ tolerance: 3, intervalDays: 10 })).then.dueMs).toBe(
      Date.parse('2026-11-23T09:00:00Z') + 10 * 86_400_000,
    );
    expect((await only()).tolerance).toBe(RESERVOIR.tolerance);
    const { runs } = (await api().get(`/api/sensors/${ids.sensorId}`)).body as { runs: { sentence: string }[] };
    const { version } = await only();
    await change({ version, to: { tolerance: 0.001 } });
    const after = (await api().get(`/api/sensors/${ids.sensorId}`)).body as { runs: { sentence: string }[] };
    expect(after.runs).toEqual(runs);
  });

  it('says what hangs together: the water by place and value, until a name denies it; a backup is another of its kind', async () => {
    const add = async (part: object) =>
      (
        (
          await api()
            .post('/api/sensors')
            .send({ ...mine(), ...part })
        ).body as typeof ids
      ).loopId;
    const backup = await add({ loopName: 'Reservoir 1 pH, backup', backupOf: ids.loopId });
    const orp = await add({ loopName: 'Reservoir 1 ORP', family: 'orp', workingValue: 300, tolerance: 20, pointSet: [] }); // prettier-ignore
    const waters = async () => Object.fromEntries((await rows()).map((r) => [r.loopId, r.water]));
    const by = await waters();
    expect(by[ids.loopId]).toBe(by[backup]);
    expect((await rows()).find((r) => r.loopId === backup)!.backupOf).toBe(ids.loopId);
    const { version } = await only();
    await change({ version, to: { water: 'the small tank' }, why: 'moved' });
    const denied = await waters();
    expect(denied[ids.loopId]).not.toBe(denied[backup]);
    expect((await changesOf(ids.loopId))[0]!.fields).toEqual([{ field: 'water', from: '', to: 'the small tank' }]);
    for (const unfit of [ids.loopId, orp, crypto.randomUUID()]) {
      const answer = await change({ version: version + 1, to: { backupOf: unfit } });
      expect(answer.body, unfit).toMatchObject({ code: 'backup-unfit' });
    }
    await change({ version: version + 1, to: { backupOf: backup } });
    await change({ version: version + 2, to: { backupOf: null } });
    expect((await only()).backupOf).toBeNull();
  });

  it('has settings of its own, until runs rest on them; what surrounds it may always become another', async () => {
    const cell = { loopName: 'Feed', family: 'conductivity', settings: { cellConstant: 1, alpha: 2 }, workingValue: 1800, tolerance: 60, pointSet: ['kcl-0.01'] }; // prettier-ignore
    const tank = ids;
    ids = (
      await api()
        .post('/api/sensors')
        .send({ ...mine(), ...cell })
    ).body as typeof ids;
    const settings = { cellConstant: 0.1, alpha: 1.9 };
    expect((await change({ version: 1, to: { settings } })).status).toBe(200);
    expect((await only()).settings).toEqual(settings);
    expect((await change({ version: 2, to: { settings: { cellConstant: -1 } } })).status).toBe(422);
    ids = tank;
    const { loopId } = tank;
    await verified();
    // A loop of pH has none, and says nothing of what it does not know.
    expect((await api().put(`/api/loops/${loopId}`).send({ version: 1, to: { settings: { ion: 'nitrate' } } })).status).toBe(422); // prettier-ignore
    expect((await change({ version: 1, to: { takes: { ph: loopId } } })).body).toMatchObject({ code: 'giver-unfit' });
  });

  it('goes by the clock of its site: the next run is due at the same hour there, over a change of clocks', async () => {
    await verified();
    const { siteId, version } = await siteNow();
    await api()
      .put(`/api/sites/${siteId}`)
      .send({ version, to: { timeZone: 'Europe/Paris' } });
    await change({ version: (await only()).version, to: { intervalDays: 200, tolerance: 3, dueBy: 'calendar' } });
    const [row] = await rows();
    expect(row!.timeZone).toBe('Europe/Paris');
    expect(new Date(row!.due.atMs!).toISOString()).toBe('2027-06-11T08:00:00.000Z');
  });

  it('one figure goes for several loops of a kind, weighed before: all of them, or none', async () => {
    await verified();
    const second = (
      await api()
        .post('/api/sensors')
        .send({ ...mine(), loopName: 'Reservoir 2 pH' })
    ).body as typeof ids;
    const also = [second.loopId];
    const weighed = (await api().post(`/api/loops/${ids.loopId}/would-be`).send({ to: { tolerance: 0.001 }, also })).body as WouldBeView; // prettier-ignore
    // The second one has no run: it is not known to be outside.
    expect(weighed).toMatchObject({ loops: 2, verdicts: 1, outside: { then: 1 } });
    const loops = async () => (await siteNow()).loops.map(({ loopId, version }) => ({ loopId, version }));
    const put = async (body: object) => (await api().put('/api/set-up/alike').send(body)).body as { code?: string };
    const stale = (await loops()).map((l) => (l.loopId === second.loopId ? { ...l, version: 7 } : l));
    expect(await put({ loops: stale, to: { tolerance: 0.05 } })).toMatchObject({ code: 'set-up-moved' });
    expect((await siteNow()).loops.map((l) => l.tolerance)).toEqual([RESERVOIR.tolerance, RESERVOIR.tolerance]);
    await put({ loops: await loops(), to: { tolerance: 0.05 }, why: 'seedlings' });
    expect((await siteNow()).loops.map((l) => l.tolerance)).toEqual([0.05, 0.05]);
    expect((await changesOf(second.loopId))[0]).toMatchObject({ why: 'seedlings', fields: [{ field: 'tolerance', to: 0.05 }] }); // prettier-ignore
  });

  it('has an order of one’s own', async () => {
    const second = (
      await api()
        .post('/api/sensors')
        .send({ ...mine(), loopName: 'Zinc tank pH' })
    ).body as typeof ids;
    const names = async () => (await siteNow()).loops.map((l) => l.name);
    expect(await names()).toEqual([RESERVOIR.loopName, 'Zinc tank pH']);
    await api()
      .put('/api/set-up/order')
      .send({ loops: [second.loopId, ids.loopId] });
    expect(await names()).toEqual(['Zinc tank pH', RESERVOIR.loopName]);
  });
});

describe('names of people', () => {
  it('are a list; the chosen one is stored with what is done, in any letters, and one who has left keeps what was done', async () => {
    const added = await api().post('/api/people').send({ name: 'Ægir Ørn' });
    const { personId } = added.body as PersonRow;
    expect((await api().post('/api/people').send({ name: 'Ægir Ørn' })).body).toMatchObject({ code: 'person-exists' });
    const noted = await api()
      .post(`/api/sensors/${ids.sensorId}/services`)
      .set('x-frustum-person', encodeURIComponent('Ægir Ørn'))
      .send({ kind: 'cleaned', note: '' });
    expect(noted.body).toMatchObject({ by: 'Ægir Ørn' });
    expect((await api().put(`/api/people/${personId}`).send({ left: true })).body).toMatchObject({ left: true });
    const { services } = (await api().get(`/api/sensors/${ids.sensorId}`)).body as { services: { by: string }[] };
    expect(services.map((s) => s.by)).toEqual(['Ægir Ørn']);
  });

  it('an event keeps who did it, not who sends it; a name that cannot be read keeps nothing from being done', async () => {
    const points = [{ standardId: 'technical-7.00' }, { standardId: 'technical-4.01' }];
    const order = { sensorId: ids.sensorId, points, school: 'statistical' };
    const started = await api().post('/api/runs').set('x-frustum-person', '%E0%A4%A').send(order);
    const { runId, events } = started.body as RunView;
    expect(events[0]!.by).toBe('Operator A');
    const said = { ...fromPhone(1, { type: 'noted', text: 'cold hall' }), by: 'Operator D' };
    const answer = await api()
      .post(`/api/runs/${runId}/events`)
      .set('x-frustum-person', 'Operator E')
      .send({ events: [said] });
    expect((answer.body as RunView).events.at(-1)).toMatchObject({ by: 'Operator D' });
  });
});
