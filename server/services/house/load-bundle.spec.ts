import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { chanceBeyond, coneOf, replay, type Odd } from '@frustum/core';
import { historyOf } from '../../../sim/fleets/history.ts';
import { TIDEWATER, truthOf } from '../../../sim/fleets/tidewater.ts';
import { foundInBuffers } from '../../../sim/physics/ageing.ts';
import { testApplication, type TestApplication } from '../../testing/application.ts';
import { loadBundle } from './load-bundle.ts';
import { readPictures } from './pictures.ts';
import { readReadings } from '../channels/readings.ts';
import { marginRows } from '../margins/margins.ts';
import { readSensor } from '../sensors/sensors.ts';

const TODAY = Date.UTC(2026, 10, 23, 9);
const SEED = 77;
const DAY_MS = 86_400_000;
/** The loop's key in the bundle. */
const MAIN = 'display-main';

/** The demo's history, worked out by the core from the simulator's traces: the simulator is the judge. */
describe('a year and a half of measured history', () => {
  let application: TestApplication;
  beforeAll(async () => {
    application = await testApplication();
    const bundle = historyOf(TODAY, SEED, { host: '127.0.0.1', port: 1 });
    // Nobody listens on a wire here: the channels are typed ones, the traces are the same.
    const loops = bundle.loops.map((l) => ({ ...l, channel: { kind: 'hand' } as const }));
    // In one run of one loop the cups were exchanged: what was measured in each is said of the other.
    const swapped = bundle.runs.filter((r) => r.loop === MAIN).at(-3)!;
    const runs = bundle.runs.map((r) =>
      r === swapped
        ? {
            ...r,
            passes: r.passes.map(([a, b, ...more]) => [
              { ...a!, samples: b!.samples },
              { ...b!, samples: a!.samples },
              ...more,
            ]),
          }
        : r,
    );
    await loadBundle(application.context, { ...bundle, loops, runs });
  });
  afterAll(() => application.close());

  it('has the seven loops, what is urgent first, the others by due date; one never calibrated and one overdue', async () => {
    const rows = await marginRows(application.context);
    expect(rows).toHaveLength(7);
    // One whose junction may be blocked, and one that is overdue.
    expect(rows.slice(0, 2).map((r) => r.loopName)).toEqual(['Display pH, backup', 'Rinse line pH']);
    expect(['near the edge', 'outside']).toContain(rows[0]!.margin.state);
    expect(rows[1]!.due.atMs!).toBeLessThan(TODAY);
    expect(rows.find((r) => r.loopName === 'Line 2 pH')!.margin.state).toBe('not known');
    const dated = rows.filter((r) => r.margin.state === 'inside').map((r) => r.due.atMs!);
    expect(dated).toEqual([...dated].sort((a, b) => a - b));
  });

  it('the error of every loop is what the hidden truth makes of it, or it is not known', async () => {
    const { house, of } = await readPictures(application.context);
    for (const row of await marginRows(application.context)) {
      const { margin, inForce, workingValue, workingC } = row;
      if (margin.error === null) continue;
      const body = truthOf(
        TIDEWATER.find((h) => h.name === row.loopName)!,
        SEED,
      );
      const { zeroMv, slope } = foundInBuffers(body, 'ph');
      // By hand, with the junction in this water: E = zero − slope·k(T)·(pH − 7), turned back with what is in force.
      const k = (1000 * Math.LN10 * 8.314463 * (workingC + 273.15)) / 96_485.33;
      const mv = zeroMv + body.reference.blockedMv - slope * k * (workingValue - 7);
      const error = 7 - (mv - inForce.zero) / (inForce.sensitivity * k) - workingValue;
      const fitted = house.all.find((f) => f.loop.name === row.loopName)!;
      const { pieces } = coneOf(fitted, of(fitted).past, TODAY).errorAt!(TODAY);
      // Further from the middle than it lies there is more than one in a thousand.
      const further = chanceBeyond(
        { mean: 0, pieces: pieces.map((p) => ({ ...p, mean: p.mean - margin.error! })) },
        Math.abs(error - margin.error),
      );
      expect(margin.state === 'not known' || further > 0.001, `${row.loopName}: ${error}`).toBe(true);
    }
    // And the sensor's own page says the same as its row on Margins.
    for (const row of await marginRows(application.context)) {
      const view = await readSensor(application.context, row.sensorId);
      expect([view.row.margin, view.row.due, view.row.restsOn]).toEqual([row.margin, row.due, row.restsOn]);
    }
  });

  it('has the readings of the last week and what was done to the sensors, which nobody typed in', async () => {
    const rows = await marginRows(application.context);
    const sensorOf = (name: string) => rows.find((r) => r.loopName === name)!.sensorId;
    const { buckets } = await readReadings(application.context, sensorOf('Display pH, main'), 7);
    expect(buckets.length).toBeGreaterThan(500);
    const means = buckets.map((b) => b.mean);
    // 8.05 with a day's swing of 0.14, shown by a calibrated channel.
    expect(Math.abs(means.reduce((s, v) => s + v, 0) / means.length - 8.05)).toBeLessThan(0.12);
    expect(Math.max(...means) - Math.min(...means)).toBeGreaterThan(0.24);
    const { services } = await readSensor(application.context, sensorOf('Remineralised line pH'));
    expect(services.map((s) => s.kind)).toEqual(['refilled']);
  });

  it(`finds zero and slope of the hidden truth in nearly every run (simulator's seed ${SEED})`, async () => {
    const rows = await marginRows(application.context);
    let runs = 0;
    let zeroHeld = 0;
    let slopeHeld = 0;
    for (const house of TIDEWATER) {
      const { runs: list } = await readSensor(
        application.context,
        rows.find((r) => r.loopName === house.name)!.sensorId,
      );
      for (const run of list) {
        if (!run.outcome) continue;
        const truth = foundInBuffers(truthOf(house, SEED, (TODAY - Date.parse(run.startedAt)) / DAY_MS), 'ph');
        const { coefficients, covariance } = run.outcome;
        runs++;
        // Three standard uncertainties, as each run states them itself.
        if (Math.abs(coefficients.zero - truth.zeroMv) < 3 * Math.sqrt(covariance[0][0])) zeroHeld++;
        if (Math.abs(coefficients.sensitivity - truth.slope) < 3 * Math.sqrt(covariance[1][1])) slopeHeld++;
      }
    }
    expect(runs).toBeGreaterThan(80);
    expect(zeroHeld / runs).toBeGreaterThan(0.95);
    expect(slopeHeld / runs).toBeGreaterThan(0.95);
  });

  it('tells its stories: the diluted reference goes negative, the aged glass loses slope, the sound one stays', async () => {
    const rows = await marginRows(application.context);
    const lastOf = async (name: string) =>
      (await readSensor(application.context, rows.find((r) => r.loopName === name)!.sensorId)).runs[0]!.outcome!
        .coefficients;
    expect((await lastOf('Multi-probe pH')).zero).toBeLessThan(-12);
    expect((await lastOf('Line 1 pH')).sensitivity).toBeLessThan(0.89);
    const sound = await lastOf('Display pH, main');
    expect(Math.abs(sound.zero)).toBeLessThan(8);
    expect(sound.sensitivity).toBeGreaterThan(0.95);
  });

  it('says which half is failing: the diluted reference and the aged glass by name, of the sound ones nothing', async () => {
    const said: Record<string, string | null> = {};
    for (const row of await marginRows(application.context)) {
      const { health } = await readSensor(application.context, row.sensorId);
      said[row.loopName] = health ? (health.named?.id ?? health.thin?.code ?? null) : 'no run';
    }
    expect(said).toEqual({
      // The run with exchanged cups, two before the last, is still felt.
      'Display pH, main': expect.toSatisfy((v) => v !== 'no run') as string,
      // Blocked, which buffers hardly show: it has become slow, and a grab sample would tell.
      'Display pH, backup': expect.stringMatching(/^no-leader|^junction-blocked/) as string,
      'Line 1 pH': 'glass-aged',
      'Line 2 pH': 'no run',
      'Multi-probe pH': 'electrolyte-diluted',
      'Remineralised line pH': null,
      'Rinse line pH': null,
    });
  });

  it('says of recorded traces what it would have said at the bench: of exchanged cups, and never of right ones', async () => {
    const exchanged: Odd[] = [];
    const others: Odd[] = [];
    let clean = 0;
    for (const row of await marginRows(application.context)) {
      const { runs } = await readSensor(application.context, row.sensorId);
      for (const [i, run] of runs.entries()) {
        const { warnings, captures } = replay(await application.context.store.readEvents([run.runId]));
        if (captures.length === 0) continue;
        const said = warnings.map((w) => w.odd);
        // The run with exchanged cups makes the later ones of this sensor look odd, and rightly so.
        if (row.loopName === 'Display pH, main') {
          if (i === 2) exchanged.push(...said);
        } else if (said.length === 0) clean++;
        else others.push(...said);
      }
    }
    // A cup of 10.01 where 7.00 is asked for, and the other way round.
    expect(exchanged.length).toBeGreaterThan(0);
    expect(exchanged[0]).toMatchObject({ id: 'wrong-cup', facts: { other: '10.01' } });
    expect(clean).toBeGreaterThan(45);
    // Cold cups, aged glass that two minutes were too short for, cups as warm as the water: all true. No cup is taken for another.
    for (const { id } of others) expect(['cup-cold', 'still-moving', 'thermometer-elsewhere']).toContain(id);
  });

  it('keeps each imported run as events that replay to the same end', async () => {
    const rows = await marginRows(application.context);
    const { runs } = await readSensor(application.context, rows.find((r) => r.loopName === 'Line 1 pH')!.sensorId);
    const events = await application.context.store.readEvents([runs[0]!.runId]);
    const state = replay(events);
    expect(state.status).toBe('closed');
    expect(state.captures.every((c) => c.method === 'trace' || c.purpose === 'read-back')).toBe(true);
    expect(state.hold).toMatchObject({ releasedAt: expect.any(String) as string });
  });
});
