import { describe, expect, it } from 'vitest';
import {
  builtIn,
  CATALOGUE,
  familyOf,
  NO_FLEET,
  replay,
  STATISTICAL,
  type RunEvent,
  type RunEventBody,
  type RunPlan,
} from '@frustum/core';
import { eventWords } from './event-words.ts';
import { recordOf } from './record.ts';

const standard = (id: string) => CATALOGUE.find((s) => s.id === id)!;
const plan: RunPlan = {
  family: 'ph',
  settings: {},
  loopName: 'Reservoir 1 pH',
  sensorName: 'Reservoir probe',
  points: ['technical-7.00', 'technical-4.01'].map((id) => ({
    standard: standard(id),
    lot: { id, label: `K-${id.slice(-4)}` },
  })),
  school: STATISTICAL,
  controls: 'acid dosing',
  workingValue: 5.8,
  workingC: 22,
  tolerance: 0.15,
  limits: familyOf('ph').limits,
  inForce: { zero: 0, sensitivity: 1 },
  inForceKnown: true,
  expected: { zero: 0, zeroSd: 5, sensitivity: 1, sensitivitySd: 0.03 },
  expectedBy: { version: 3, fleet: { ...NO_FLEET, sensors: 6, runs: 51 } },
  channelKind: 'wired',
  resolution: 0.1,
  procedure: { ...builtIn('calibrate'), id: 'own', version: 3, name: 'Our way' },
  gates: [
    { id: 'lot-expired:7.00', text: 'Lot K-7.00 was good until 2026-11-01.', because: 'the new one is on its way' },
  ],
  surroundings: ['stocked'],
};

function events(more: readonly RunEventBody[] = []): RunEvent[] {
  const capture = (pointIndex: number, purpose: 'as-found' | 'repeat' | 'read-back', signal: number): RunEventBody => ({
    type: 'captured',
    stepId: purpose === 'read-back' ? 'read-back' : `p1.${purpose === 'as-found' ? 'settle' : 'repeat'}.${pointIndex}`,
    traceSeconds: null,
    capture: {
      pointIndex,
      purpose,
      method: 'live',
      signal,
      signalUncertainty: 0.2,
      temperatureC: 22,
      settledSeconds: 61,
      t90: 14,
      trace: [0, 30, 61].map((t) => ({ t, signal: signal + 20 * Math.exp(-t / 10), temperatureC: 22 })),
    },
  });
  const bodies: RunEventBody[] = [
    { type: 'started', plan },
    { type: 'step-done', stepId: 'hold', traceSeconds: null },
    { type: 'step-done', stepId: 'take-out', traceSeconds: null },
    { type: 'step-done', stepId: 'p1.place.0', traceSeconds: null },
    capture(0, 'as-found', -9.1),
    capture(0, 'repeat', -9),
    { type: 'step-done', stepId: 'p1.place.1', traceSeconds: null },
    capture(1, 'as-found', 156.3),
    capture(1, 'repeat', 156.2),
    { type: 'photographed', photoId: 'a-photo', stepId: 'p1.repeat.1', typed: '4.12' },
    { type: 'noted', text: 'Growth on the glass.' },
    ...more,
  ];
  return bodies.map((body, i) => ({
    seq: i + 1,
    device: 'paper-device',
    counter: i + 1,
    at: new Date(Date.UTC(2026, 10, 25, 9, i)).toISOString(),
    by: 'Operator A',
    body,
  }));
}

const printed = (list: readonly RunEvent[], photos: Record<string, string> = {}) => {
  const document = recordOf({
    runId: 'run-1',
    siteName: 'My house',
    place: 'Sump',
    serial: 'X-1',
    state: replay(list),
    events: list,
    photos,
  });
  return { document, text: JSON.stringify(document) };
};

describe('the record of a run', () => {
  it('holds plan, gates, captures with lots, verdict with its reasons, budget and every event', () => {
    const { document, text } = printed(events());
    for (const part of [
      'Reservoir 1 pH',
      'Our way, version 3',
      'Begun all the same: the new one is on its way',
      '0.0 ±10.0 mV, 100.0 ±6.0 % (drift engine 3, learned from 51 runs of 6 sensors)',
      'lot K-7.00',
      '−9.1 ±0.40',
      'Adjust it: 0.22 pH off at 5.8',
      'liquid junction, buffer to sample',
      'Growth on the glass.',
      'picture kept at p1.repeat.1, read as 4.12',
    ])
      expect(text, part).toContain(part);
    expect(text).toContain('NOT RELEASED');
    const foot = document.footer as (page: number, pages: number) => unknown;
    expect(JSON.stringify(foot(1, 2))).toMatch(/replayed from 11 events\. Local codes, site rules.*1 of 2/);
  });

  it('draws each trace as a line that ends where it was captured', () => {
    const { text } = printed(events());
    expect(text.match(/"polyline"/g)).toHaveLength(4);
  });

  it('is in the unit and steps of its instrument, with unit and scale at every figure', () => {
    const point = { standard: standard('kcl-0.01'), lot: { id: '', label: '' } };
    const other: RunPlan = { ...plan, family: 'conductivity', settings: { alpha: 2 }, points: [point], workingValue: 1900, tolerance: 60, limits: familyOf('conductivity').limits, shownAs: { scale: 'ppm×700', step: 10 }, expected: { zero: 0, zeroSd: 1, sensitivity: 1, sensitivitySd: 0.05 }, gates: [], surroundings: [] }; // prettier-ignore
    const list = events().slice(0, 6).map((e): RunEvent => (e.body.type === 'started' ? { ...e, body: { type: 'started', plan: other } } : e.body.type === 'captured' ? { ...e, body: { ...e.body, capture: { ...e.body.capture, signal: 1480, temperatureC: 25 } } } : e)); // prettier-ignore
    const { text } = printed(list);
    // 1480 µS for 1413: 1.036, and 1900 of that are 1330 ppm in steps of ten; 1411.8 is the standard at 25 °C by its table.
    for (const part of ['1330 ppm×700 ±42, 22 °C', 'shown, ppm×700', '1040 for 990', ' ppm×700 at 1330 (k = 2)', 'What the ± at 1330 ppm×700 is made of', 'gives, ppm×700', 'captured 1480 µS at 25 °C']) expect(text, part).toContain(part); // prettier-ignore
    expect(text).toMatch(/Adjust it: \d\d ppm×700 off at 1330, tolerance 42/);
  });

  it('takes pictures that are there, and leaves out one that is gone', () => {
    expect(printed(events(), { 'a-photo': 'data:image/png;base64,AAAA' }).text).toContain('data:image/png;base64,AAAA');
    expect(printed(events()).text).not.toContain('data:image');
  });

  it('as left follows the adjustment, and the hold is released', () => {
    const list = events([
      { type: 'decided', action: 'adjust', because: '' },
      { type: 'adjusted', coefficients: { zero: -9, sensitivity: 0.94 }, how: 'entered-by-hand' },
      { type: 'skipped', stepId: 'read-back', because: 'no time', traceSeconds: null },
      { type: 'step-done', stepId: 'return', traceSeconds: null },
      { type: 'closed' },
    ]);
    const { text } = printed(list);
    expect(text).toContain('−9.0 mV, 94.0 %, entered by hand');
    expect(text).toMatch(/error as left","[+−]0\.0\d\d ±0\.\d\d\d pH at 5\.8/);
    expect(text).toContain('Passed over: Read back in 4.01. no time');
    expect(text).not.toContain('NOT RELEASED');
  });

  it('a run that was abandoned before anything is a record too', () => {
    const { text } = printed([
      ...events().slice(0, 2),
      { ...events()[2]!, body: { type: 'abandoned', because: 'leak' } },
    ]);
    expect(text).toContain('Nothing was captured.');
    expect(text).toContain('leak');
  });

  it('says every kind of event in a line', () => {
    expect(
      eventWords({
        type: 'entered',
        stepId: 's',
        traceSeconds: null,
        entry: { kind: 'sample', value: 0.5, unit: 'mg/L', plusMinus: 0.03, temperatureC: 19 },
      }),
    ).toBe('entered: sample 0.5 ±0.03 mg/L at 19 °C');
    expect(eventWords({ type: 'decided', action: 'leave', because: 'close enough' })).toBe(
      'decided: leave, because close enough',
    );
    expect(eventWords({ type: 'hold-released' })).toBe('hold released');
  });
});
