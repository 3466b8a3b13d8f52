import { describe, expect, it } from 'vitest';
import { appendEventsSchema, epochIn, epochText, handsSchema, newSensorSchema, startRunSchema } from './index.ts';

const event = (body: object) => ({
  events: [{ device: 'phone-in-the-sump', counter: 1, at: '2026-11-23T09:00:00Z', body }],
});
const sensor = {
  siteName: ' My tank room ',
  loopName: 'Tank 1 pH',
  family: 'ph',
  settings: {},
  workingValue: 8.1,
  workingC: 25,
  tolerance: 0.1,
  intervalDays: 30,
  pointSet: ['technical-7.00', 'technical-10.01'],
  sensorName: 'Probe',
  fittedOn: '2026-11-01',
  channel: { kind: 'hand' },
};

describe('what a client may send', () => {
  it('fills in what is usual and trims names', async () => {
    const made = await newSensorSchema.validate(sensor);
    expect(made).toMatchObject({ siteName: 'My tank room', place: '', controls: '', serial: '' });
  });

  it.each([
    ['interval of half a day', { intervalDays: 0.5 }, /Interval/],
    ['tolerance of NaN', { tolerance: NaN }, /Tolerance is not a figure/],
    ['endless name', { loopName: 'x'.repeat(61) }, /more than 60/],
    ['a name that turns its direction', { loopName: 'Tank \u202e1 Hp' }, /cannot be seen/],
    ['a name with a bell', { sensorName: 'Probe\u0007' }, /cannot be seen/],
    ['a name in two lines', { siteName: 'My\ntank' }, /cannot be seen/],
    ['six standards', { pointSet: ['a', 'b', 'c', 'd', 'e', 'f'] }, /Five standards at most/],
    ['a family that there is not', { family: 'taste' }, /Pick one of the families/],
    ['no channel', { channel: undefined }, /how the reading reaches/],
    [
      'port 70000',
      { channel: { kind: 'modbus', host: 'h', port: 70_000, unitId: 1, baseAddress: 0 } },
      /Port is above 65535/,
    ],
  ])('%s is refused in words', async (_, change, words) => {
    await expect(newSensorSchema.validate({ ...sensor, ...change })).rejects.toThrow(words);
  });

  it.each([
    ['a step without a name', { type: 'step-done' }],
    ['a verdict of its own making', { type: 'decided', action: 'ignore' }],
    [
      'an endless potential',
      {
        type: 'captured',
        stepId: 's',
        capture: {
          pointIndex: 0,
          purpose: 'as-found',
          method: 'live',
          signal: Infinity,
          signalUncertainty: 1,
          temperatureC: 20,
        },
      },
    ],
    [
      'degrees Fahrenheit',
      {
        type: 'captured',
        stepId: 's',
        capture: {
          pointIndex: 0,
          purpose: 'as-found',
          method: 'typed',
          signal: 0,
          signalUncertainty: 1,
          temperatureC: 176,
        },
      },
    ],
    ['a slope of nothing', { type: 'adjusted', how: 'written', coefficients: { zero: 0, sensitivity: 0 } }],
    ['the start of a run', { type: 'started', plan: {} }],
    ['a word of the language itself', { type: 'constructor' }],
    ['more than it should', { type: 'closed', outcome: {} }],
  ])('%s is no event', async (_, body) => {
    await expect(appendEventsSchema.validate(event(body), { stripUnknown: false })).rejects.toThrow();
  });

  it('takes what the bench sends', async () => {
    const body = { type: 'disturbed', stepId: 'p1.settle.0', traceSeconds: 12.5, noticed: true };
    const { events } = await appendEventsSchema.validate(event(body));
    expect(events[0]).toMatchObject({ onSeq: null, body });
  });

  it('a run has a known school and a known procedure, and five standards at most', async () => {
    const order = {
      sensorId: '00000000-0000-4000-8000-000000000000',
      points: [{ standardId: 'a' }, { standardId: 'b' }],
      school: 'statistical',
    };
    expect((await startRunSchema.validate(order)).fixedSeconds).toBe(120);
    await expect(startRunSchema.validate({ ...order, school: 'by feel' })).rejects.toThrow();
    await expect(startRunSchema.validate({ ...order, procedure: 'guess' })).rejects.toThrow();
    const six = Array.from({ length: 6 }, () => ({ standardId: 'a' }));
    await expect(startRunSchema.validate({ ...order, points: six })).rejects.toThrow(/Five standards at most/);
    await expect(
      startRunSchema.validate({ ...order, overrides: [{ id: 'lot-expired:7.00', because: ' ' }] }),
    ).rejects.toThrow(/Say why/);
  });

  it('an epoch says why and since when; what is none is none', () => {
    const epoch = { because: 'clock-jumped', atMs: 1_764_412_345_678 } as const;
    expect(epochIn(epochText(epoch))).toEqual(epoch);
    for (const none of ['', 'clock-jumped', 'clock-jumped@', 'clock-jumped@soon', '<b>@1'])
      expect(epochIn(none)).toBeNull();
  });

  it('hands move to a place, wiggle, plug in a box of a stated value, switch a fault on, or set a clock of 1 to 30', async () => {
    await expect(handsSchema.validate({ action: 'plug' })).rejects.toThrow(/Say what the box is set to/);
    await expect(handsSchema.validate({ action: 'plug', value: -4000 })).rejects.toThrow(/down to −3000/);
    await expect(handsSchema.validate({ action: 'fault', fault: 'bubble', severity: 1.2 })).rejects.toThrow();
    await expect(handsSchema.validate({ action: 'juggle' })).rejects.toThrow();
    await expect(handsSchema.validate({ action: 'move' })).rejects.toThrow();
    await expect(handsSchema.validate({ action: 'clock', rate: 1000 })).rejects.toThrow();
    expect(await handsSchema.validate({ action: 'wiggle' })).toMatchObject({ action: 'wiggle' });
  });
});
