import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { replay, type RunEvent, type RunOutcome } from '@frustum/core';

const FOLDER = join(import.meta.dirname, 'migrations');
const files = readdirSync(FOLDER)
  .filter((f) => f.endsWith('.sql'))
  .sort();
const UUID = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;

/** A database as an older Frustum left it: every migration up to one, then records in the words of that time. */
describe('records of an older Frustum', () => {
  let db: PGlite;
  const migrate = async (from: string, to: string) => {
    for (const file of files.filter((f) => f >= from && f <= to))
      for (const statement of readFileSync(join(FOLDER, file), 'utf8').split('--> statement-breakpoint'))
        await db.exec(statement);
  };

  beforeAll(async () => {
    db = await PGlite.create('memory://');
    await migrate('0000', '0002_z');
    const insert = (table: string, row: Record<string, unknown>) => {
      const names = Object.keys(row);
      const values = names.map((_, i) => `$${i + 1}`).join(', ');
      return db.query(`INSERT INTO ${table} (${names.join(', ')}) VALUES (${values})`, Object.values(row));
    };
    const standard = (id: string, value: number) => ({
      id,
      name: id,
      family: 'ph',
      nominal: value,
      nominalAtC: 25,
      table: [
        [0, value],
        [50, value],
      ],
      uncertainty: 0.01,
      tableStep: 0.01,
      source: 'test',
    });
    const plan = {
      family: 'ph',
      loopName: 'Old loop',
      sensorName: 'Old probe',
      points: [standard('a', 7), standard('b', 4)].map((s) => ({ standard: s, lot: { id: '', label: '' } })),
      school: { kind: 'fixed-time', seconds: 120 },
      controls: '',
      workingPh: 5.8,
      workingC: 22,
      tolerancePh: 0.15,
      limits: { zeroMv: 30, slopeLow: 0.85, slopeHigh: 1.02, t90Seconds: 180, slopeDead: 0.2, adjustAboveShare: 0.5 },
      inForce: { zeroMv: -2, slope: 0.97 },
      inForceKnown: true,
      expected: { zeroMv: 0, zeroSd: 5, slope: 0.97, slopeSd: 0.02 },
      channelKind: 'hand',
      resolutionMv: 0.1,
    };
    const capture = {
      pointIndex: 0,
      purpose: 'as-found',
      method: 'typed',
      potentialMv: -3.5,
      potentialUncertaintyMv: 0.3,
      temperatureC: 25,
      settledSeconds: null,
      t90: null,
      trace: [{ t: 0, potentialMv: -3.4, temperatureC: 25 }],
    };
    await insert('sites', { id: UUID(1), name: 'Old house' });
    await insert('loops', {
      id: UUID(2),
      site_id: UUID(1),
      name: 'Old loop',
      family: 'ph',
      working_ph: 5.8,
      working_c: 22,
      tolerance_ph: 0.15,
      interval_days: 30,
      point_set: JSON.stringify(['a', 'b']),
    });
    await insert('sensors', {
      id: UUID(3),
      loop_id: UUID(2),
      name: 'Old probe',
      family: 'ph',
      fitted_on: '2025-01-01',
    });
    await insert('channels', {
      id: UUID(4),
      loop_id: UUID(2),
      kind: 'modbus-map',
      config: JSON.stringify({ kind: 'modbus-map', host: 'h', register: 0, quantity: 'mA', mvAt4: -400, mvAt20: 400 }),
      resolution_mv: 0.1,
    });
    const outcome = {
      coefficients: { zeroMv: -3, slope: 0.96 },
      inForceAfter: { zeroMv: -2, slope: 0.97 },
      readBackPh: 4.02,
    };
    await insert('runs', {
      id: UUID(5),
      sensor_id: UUID(3),
      loop_id: UUID(2),
      status: 'open',
      started_at: '2026-01-01T09:00:00Z',
      outcome: JSON.stringify(outcome),
    });
    const bodies = [
      { type: 'started', plan },
      { type: 'step-done', stepId: 'take-out', traceSeconds: null },
      { type: 'step-done', stepId: 'p1.place.0', traceSeconds: null },
      { type: 'captured', stepId: 'p1.settle.0', traceSeconds: null, capture },
      { type: 'noted', text: 'the “slope”: was written down as zeroMv' },
    ];
    for (const [i, body] of bodies.entries())
      await insert('run_events', {
        run_id: UUID(5),
        seq: i + 1,
        device: 'old-phone',
        counter: i + 1,
        at: '2026-01-01T09:00:00Z',
        by: 'Operator A',
        body: JSON.stringify(body),
      });
    await migrate('0003', '9');
  });
  afterAll(() => db.close());

  const rows = async <T>(sql: string) => (await db.query<T>(sql)).rows;

  it('are read in today’s words: loop, channel, and the run goes on where it stood', async () => {
    const [loop] = await rows<Record<string, unknown>>('SELECT working_value, tolerance, settings FROM loops');
    expect(loop).toEqual({ working_value: 5.8, tolerance: 0.15, settings: {} });
    const [channel] = await rows<{ config: object; version: number }>('SELECT config, version FROM channels');
    expect(channel).toEqual({
      version: 1,
      config: { kind: 'modbus-map', host: 'h', register: 0, quantity: 'mA', at4: -400, at20: 400 },
    });
    const events = await rows<RunEvent>('SELECT seq, device, counter, at::text, by, body FROM run_events ORDER BY seq');
    const state = replay(events);
    expect(state.plan).toMatchObject({
      workingValue: 5.8,
      tolerance: 0.15,
      resolution: 0.1,
      inForce: { zero: -2, sensitivity: 0.97 },
      expected: { zero: 0, zeroSd: 5, sensitivity: 0.97, sensitivitySd: 0.02 },
      limits: { zero: 30, sensitivityLow: 0.85, sensitivityHigh: 1.02, sensitivityDead: 0.2 },
    });
    expect(state.captures[0]).toMatchObject({ signal: -3.5, signalUncertainty: 0.3, trace: [{ signal: -3.4 }] });
    expect(state.current!.id).toBe('p1.place.1');
    const [run] = await rows<{ outcome: RunOutcome }>('SELECT outcome FROM runs');
    expect(run!.outcome).toMatchObject({ coefficients: { zero: -3, sensitivity: 0.96 }, readBackShown: 4.02 });
  });

  it('what people wrote stays as they wrote it, and events are append-only again', async () => {
    const [note] = await rows<{ body: { text: string } }>(`SELECT body FROM run_events WHERE body->>'type' = 'noted'`);
    expect(note!.body.text).toBe('the “slope”: was written down as zeroMv');
    await expect(db.query(`UPDATE run_events SET by = 'somebody'`)).rejects.toThrow(/append-only/);
  });
});
