import request from 'supertest';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { LifeView, LoopRow, ReadingsView, RunView, SensorView, SetUpView } from '@frustum/contract';
import { testApplication, type TestApplication } from './testing/application.ts';
import { fromPhone, RESERVOIR } from './testing/cast.ts';
import { runInTwoBuffers } from './testing/in-two-buffers.ts';

let subject: TestApplication;
let n = 0;
let site = '';
let ids: { loopId: string; sensorId: string };
const NOW = Date.parse('2026-11-23T09:00:00Z');
const api = () => request(subject.app);
const setUp = async () => (await api().get('/api/set-up')).body as SetUpView;
const siteNow = async () => (await setUp()).sites.find((s) => s.name === site)!;
const loopNow = async (loopId = ids.loopId) => (await siteNow()).loops.find((l) => l.loopId === loopId)!;
const shelved = async (sensorId: string) => (await setUp()).shelf.find((s) => s.sensorId === sensorId)!;
const row = async (loopId = ids.loopId) =>
  ((await api().get('/api/margins')).body as { rows: LoopRow[] }).rows.find((r) => r.loopId === loopId);
const lifeOf = async (sensorId: string) => (await api().get(`/api/sensors/${sensorId}/life`)).body as LifeView;
const move = (sensorId: string, body: object) =>
  api()
    .put(`/api/sensors/${sensorId}/place`)
    .set('x-frustum-person', 'Operator%20B')
    .send({ version: 1, ...body });
const spare = async (part: object = {}) =>
  ((
      await api()
        .post('/api/spares')
        .send({
          name: `Spare of ${site}`,
          serial: 'S-2',
          family: 'ph',
          model: 'gel, 12 mm',
          boughtOn: '2026-06-01',
          ...part,
        })
    ).body as { sensorId: string } // prettier-ignore
  ).sensorId;

beforeAll(async () => {
  subject = await testApplication();
});
afterAll(() => subject.close());
beforeEach(async () => {
  subject.setNow('2026-11-23T09:00:00Z');
  site = `Hall ${++n}`;
  ids = (await api().post('/api/sensors').send({ ...RESERVOIR, siteName: site })).body as typeof ids; // prettier-ignore
});

const ran = (sensorId = ids.sensorId) => runInTwoBuffers(subject, sensorId, 'adjust');

describe('a sensor that is replaced', () => {
  it('leaves its figures in the instrument: the spare is due at once, reckoned with by them, and its own once it has run', async () => {
    const run = await ran();
    const adjusted = (await row())!.inForce;
    const spareId = await spare();
    subject.setNow('2026-11-24T09:00:00Z');
    const body = { to: 'loop', loopId: ids.loopId, displaced: 'retired', why: 'slope too low' };
    expect((await move(spareId, body)).body).toEqual({ version: 2 });
    const now = (await row())!;
    expect(now).toMatchObject({ sensorId: spareId, inForce: adjusted, inForceKnown: true, hasCone: false });
    expect(now.due).toEqual({ atMs: NOW + 86_400_000, reason: 'fitted here, and not calibrated since' });
    const started = (await ran(spareId)).events[0]!.body;
    expect(started).toMatchObject({ type: 'started', plan: { inForce: adjusted, inForceKnown: true } });
    expect((await row())!.due.reason).not.toContain('fitted here');

    // What was found before stays with the old one, on its own page, and its run can still be opened and printed.
    expect(await shelved(ids.sensorId)).toMatchObject({ retiredAt: '2026-11-24T09:00:00.000Z', storage: '' });
    const life = await lifeOf(ids.sensorId);
    expect(life.events.map((e) => [e.kind, e.loopName, e.why])).toEqual([
      ['fitted', RESERVOIR.loopName, ''],
      ['taken-out', RESERVOIR.loopName, 'slope too low'],
      ['retired', '', 'slope too low'],
    ]);
    expect(life).toMatchObject({ loop: null, daysFitted: 23, runs: [{ runId: run.runId }] });
    expect((await api().get(`/api/sensors/${ids.sensorId}`)).body).toMatchObject({ code: 'sensor-unknown' });
    expect((await api().get(`/api/runs/${run.runId}`)).body).toMatchObject({ runId: run.runId });
    expect((await api().get(`/api/runs/${run.runId}/record.pdf`)).status).toBe(200);
    const changes = (await api().get(`/api/changes?of=${ids.sensorId}`)).body as object[];
    expect(changes[0]).toMatchObject({ by: 'Operator B', why: 'slope too low', fields: [{ field: 'place', from: RESERVOIR.loopName, to: 'retired' }] }); // prettier-ignore
    const { runs } = (await api().get(`/api/sensors/${spareId}`)).body as SensorView;
    expect(runs).toHaveLength(1);
  });

  it('goes to another loop and leaves its place empty, which is said and can be filled again', async () => {
    const second = (await api().post('/api/sensors').send({ ...RESERVOIR, siteName: site, loopName: 'Reservoir 2 pH', sensorName: 'P-2' })).body as typeof ids; // prettier-ignore
    await ran();
    subject.setNow('2026-11-24T09:00:00Z');
    const taken = await move(ids.sensorId, { to: 'loop', loopId: second.loopId });
    expect(taken.body).toMatchObject({ code: 'place-taken', detail: expect.stringContaining('Say where it goes') as string }); // prettier-ignore
    await move(ids.sensorId, { to: 'loop', loopId: second.loopId, displaced: 'dry' });
    expect((await loopNow()).sensor).toBeNull();
    expect(await row()).toBeUndefined();
    expect((await row(second.loopId))!).toMatchObject({ sensorId: ids.sensorId, inForceKnown: false });
    // The one that had to go is dry: that is in its service log, for the drift engine.
    expect((await lifeOf(second.sensorId)).services).toMatchObject([{ kind: 'stored dry' }]);
    await move(second.sensorId, { version: 2, to: 'loop', loopId: ids.loopId });
    expect((await row())!.sensorId).toBe(second.sensorId);
  });

  it('what the channel gave before it came is another sensor’s: in its readings, at a sample, and as a condition of others', async () => {
    const post = async (part: object) =>
      (
        await api()
          .post('/api/sensors')
          .send({ ...RESERVOIR, siteName: site, ...part })
      ).body as typeof ids;
    const chlorine = await post({ loopName: 'Chlorine', family: 'chlorine', settings: { senses: 'acid', ph: 7 }, takes: { ph: ids.loopId }, workingValue: 0.5, tolerance: 0.1, pointSet: [], channel: { kind: 'hand', quantity: 'nA' } }); // prettier-ignore
    const channelOf = async (loopId: string) => (await row(loopId))!.channelId;
    const [ph, mg] = [await channelOf(ids.loopId), await channelOf(chlorine.loopId)];
    const minute = (channelId: string, at: string, mean: number) => ({ channelId, minute: `2026-11-24T${at}:00.000Z`, count: 60, mean, low: mean, high: mean, temperatureC: 25, onBench: false }); // prettier-ignore
    const inWater = (value: number) => -59.159 * (value - 7);
    await subject.context.store.keepMinutes([
      minute(ph, '08:50', inWater(8)),
      minute(ph, '09:10', inWater(7.4)),
      minute(mg, '08:50', 50),
      minute(mg, '09:10', 50),
    ]);
    subject.setNow('2026-11-24T09:00:00Z');
    const spareId = await spare();
    await move(spareId, { to: 'loop', loopId: ids.loopId, displaced: 'dry' });
    subject.setNow('2026-11-24T10:00:00Z');
    const shown = async (sensorId: string) =>
      ((await api().get(`/api/sensors/${sensorId}/readings?days=7`)).body as ReadingsView).buckets.map((b) => b.mean);
    expect(await shown(spareId)).toEqual([expect.closeTo(7.4, 2)]);
    const at = async (time: string) => (await api().get(`/api/sensors/${spareId}/reading?at=2026-11-24T${time}:00Z`)).body as { code?: string; at?: string }; // prettier-ignore
    expect(await at('08:52')).toMatchObject({ code: 'no-reading-then' });
    expect(await at('09:02')).toMatchObject({ at: '2026-11-24T09:10:00.000Z' });
    // The share of the acid at 25 °C, by its pK of 7.5366: before, the pH that was typed; then what the spare shows.
    const per = (value: number) => (0.5 * (1 + 10 ** (value - 7.5366))) / (1 + 10 ** (7 - 7.5366));
    expect(await shown(chlorine.sensorId)).toEqual([expect.closeTo(per(7), 3), expect.closeTo(per(7.4), 3)]);
  });

  it('whose head keeps its figures takes them along, with its date', async () => {
    const channel = { kind: 'hand', coefficientsIn: 'sensor' };
    const make = async (loopName: string) =>
      (await api().post('/api/sensors').send({ ...RESERVOIR, siteName: site, loopName, channel })).body as typeof ids; // prettier-ignore
    const [one, two] = [await make('Head 1 pH'), await make('Head 2 pH')];
    await ran(one.sensorId);
    const before = (await row(one.loopId))!;
    subject.setNow('2026-11-24T09:00:00Z');
    await move(one.sensorId, { to: 'loop', loopId: two.loopId, displaced: 'wet' });
    expect(await row(two.loopId)).toMatchObject({ sensorId: one.sensorId, inForce: before.inForce, due: before.due });
  });
});

describe('what cannot be', () => {
  it.each([
    ['a day before it was bought', { to: 'loop', displaced: 'wet', at: '2026-05-31T09:00:00Z' }, 'before-bought', 'bought on 2026-06-01'], // prettier-ignore
    ['a day to come', { to: 'loop', displaced: 'wet', at: '2026-12-31T09:00:00Z' }, 'not-yet', 'still to come'],
    ['a place that is taken', { to: 'loop' }, 'place-taken', 'Say where it goes'],
    ['an old picture', { to: 'dry', version: 7 }, 'set-up-moved', 'Look at it again'],
    ['no loop', { to: 'loop', loopId: '00000000-0000-4000-8000-000000000000' }, 'loop-unknown', 'Look at Set-up'],
    ['nowhere', { to: 'nowhere' }, 'not-valid', 'pick one'],
  ])('%s is refused in words, and everything is where it was', async (_, body, code, words) => {
    const spareId = await spare();
    const answer = await move(spareId, { loopId: ids.loopId, ...body });
    expect(answer.body).toMatchObject({ code, detail: expect.stringContaining(words) as string });
    expect(await shelved(spareId)).toMatchObject({ version: 1, storage: 'wet' });
    expect((await loopNow()).sensor!.sensorId).toBe(ids.sensorId);
  });

  it('a spare that soaks waits, unless it is said that it has soaked enough; another family, one out of use, a run that is open', async () => {
    const soaking = await spare({ soaking: true });
    const fit = (sensorId: string, part: object = {}) =>
      move(sensorId, { to: 'loop', loopId: ids.loopId, displaced: 'wet', ...part });
    expect((await fit(soaking)).body).toMatchObject({ code: 'still-soaking', detail: expect.stringContaining('2026-11-23 10:00 UTC') as string }); // prettier-ignore
    expect((await fit(await spare({ name: 'Cell', family: 'conductivity' }))).body).toMatchObject({ code: 'sensor-of-another-family' }); // prettier-ignore
    const gone = await spare({ name: 'Gone' });
    await move(gone, { to: 'retired' });
    expect((await fit(gone, { version: 2 })).body).toMatchObject({ code: 'retired' });
    await move(gone, { version: 2, to: 'dry' });
    expect(await shelved(gone)).toMatchObject({ storage: 'dry', retiredAt: null });
    expect((await lifeOf(gone)).events.map((e) => e.kind)).toEqual(['stored-wet', 'retired', 'brought-back', 'stored-dry']); // prettier-ignore
    const points = [{ standardId: 'technical-7.00' }, { standardId: 'technical-4.01' }];
    const { runId } = (await api().post('/api/runs').send({ sensorId: ids.sensorId, points, school: 'statistical' })).body as RunView; // prettier-ignore
    expect((await fit(soaking, { soaked: true })).body).toMatchObject({ code: 'run-open' });
    await api().post(`/api/runs/${runId}/events`).send({ events: [fromPhone(1, { type: 'abandoned', because: 'replaced' })] }); // prettier-ignore
    expect((await fit(soaking, { soaked: true })).body).toEqual({ version: 2 });
    expect(await shelved(ids.sensorId)).toMatchObject({ storage: 'wet' });
  });

  it('a sensor that came there meanwhile, from another device, is not displaced unseen', async () => {
    const [mine, theirs] = [await spare({ name: 'Mine' }), await spare({ name: 'Theirs' })];
    await move(theirs, { to: 'loop', loopId: ids.loopId, displaced: 'wet', instead: ids.sensorId });
    const late = await move(mine, { to: 'loop', loopId: ids.loopId, displaced: 'retired', instead: ids.sensorId });
    expect(late.body).toMatchObject({ code: 'set-up-moved', detail: expect.stringContaining('meanwhile') as string });
    expect((await loopNow()).sensor!.sensorId).toBe(theirs);
  });

  it('two sensors at one loop at one time, and another day for a move', async () => {
    subject.setNow('2026-11-24T09:00:00Z');
    await move(ids.sensorId, { to: 'wet' });
    const next = await spare({ name: 'Next' });
    const early = await move(next, { to: 'loop', loopId: ids.loopId, at: '2026-11-24T08:00:00Z' });
    expect(early.body).toMatchObject({ code: 'moved-later' });
    await move(ids.sensorId, { version: 2, to: 'loop', loopId: ids.loopId });
    const change = { version: 3, to: { fittedOn: '2026-11-02' }, why: '' };
    expect((await api().put(`/api/sensors/${ids.sensorId}`).send(change)).body).toMatchObject({ code: 'stands' });
  });

  it('two sensors of one name and serial, and a tip on a sensor that has none', async () => {
    await spare();
    const twin = await api()
      .post('/api/spares')
      .send({ name: `Spare of ${site}`, serial: 'S-2', family: 'ph' });
    expect(twin.body).toMatchObject({ code: 'sensor-exists' });
    const tip = await api().post(`/api/sensors/${ids.sensorId}/services`).send({ kind: 'tip replaced' });
    expect(tip.body).toMatchObject({ code: 'no-such-part', detail: expect.stringContaining('has no tip or cap') as string }); // prettier-ignore
  });
});

it('a day of fitting that is corrected is the first day of its life, on every page', async () => {
  const change = { version: 1, to: { fittedOn: '2026-10-24' }, why: 'the invoice says so' };
  await api().put(`/api/sensors/${ids.sensorId}`).send(change);
  const life = await lifeOf(ids.sensorId);
  expect(life).toMatchObject({ daysFitted: 30, sensor: { fittedOn: '2026-10-24' } });
  expect(life.events.map((e) => [e.kind, e.at.slice(0, 10), e.why])).toEqual([['fitted', '2026-10-24', 'the invoice says so']]); // prettier-ignore
});

describe('the life of a model', () => {
  it('is what its retired sensors were in use for', async () => {
    const model = 'glass, refillable';
    const { sensor } = await loopNow();
    await api().put(`/api/sensors/${ids.sensorId}`).send({ version: sensor!.version, to: { model, boughtOn: '2026-10-01' } }); // prettier-ignore
    const next = await spare({ model, boughtOn: null });
    await move(next, { to: 'loop', loopId: ids.loopId, displaced: 'retired' });
    // Fitted on 1 November: 22 days and nine hours.
    expect((await lifeOf(next)).others).toEqual([{ sensorId: ids.sensorId, name: RESERVOIR.sensorName, daysFitted: 22 }]); // prettier-ignore
  });
});
