import { describe, expect, it } from 'vitest';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { familyOf } from '../families/registry.ts';
import { modelOf } from '../sensor/sensor.ts';
import { type Observation } from '../drift/history.ts';
import { adjustingLooksWorse, dosedBy, outlookOf } from './outlook.ts';
import { gatesOf, type GateFacts } from './gates.ts';
import { PH_PRIOR } from '../families/ph/prior.ts';

const NOW = Date.UTC(2026, 10, 25);
const seen = (zero: number): Observation => ({
  atMs: NOW,
  kind: 'verification',
  found: { zero, sensitivity: 0.97 },
  covariance: [
    [0.25, 0],
    [0, 1e-5],
  ],
  inForceAfter: { zero: 0, sensitivity: 0.97 },
  cleaned: false,
});
const working = { model: modelOf(familyOf('ph')), value: 5.8, temperatureC: 25 };
const ahead = NOW + 30 * MS_PER_DAY;

describe('what if nothing is done', () => {
  it('a zero of 8 mV left in place is likely outside at the next visit, adjusted it is not', () => {
    const { leave, adjust } = outlookOf([], seen(-8), PH_PRIOR, working, 0.1, ahead);
    // 8 mV over 57.4 mV a pH is 0.139 shown too high.
    expect(leave.error).toBeCloseTo(0.139, 2);
    expect(adjust.error).toBeCloseTo(0, 2);
    expect(leave.sd).toBeCloseTo(adjust.sd, 9);
    expect(leave.chanceOutside).toBeGreaterThan(0.75);
    expect(adjust.chanceOutside).toBeLessThan(0.2);
  });

  it('a careless run after a year of quiet ones: adjusting on it alone looks worse than leaving it', () => {
    const quiet = Array.from({ length: 12 }, (_, i) => ({ ...seen(0), atMs: NOW - (12 - i) * 30 * MS_PER_DAY }));
    const careless: Observation = {
      ...seen(-12),
      covariance: [
        [64, 0],
        [0, 1e-5],
      ],
    };
    expect(adjustingLooksWorse(outlookOf(quiet, careless, PH_PRIOR, working, 0.15, ahead))).toBe(true);
    expect(adjustingLooksWorse(outlookOf(quiet, seen(-12), PH_PRIOR, working, 0.15, ahead))).toBe(false);
  });

  it('the later the visit, the less is known of either', () => {
    const soon = outlookOf([], seen(-2), PH_PRIOR, working, 0.1, NOW + 5 * MS_PER_DAY);
    const late = outlookOf([], seen(-2), PH_PRIOR, working, 0.1, NOW + 90 * MS_PER_DAY);
    expect(late.leave.sd).toBeGreaterThan(1.5 * soon.leave.sd);
  });

  it('dosed too much or too little, by the sign of the error and what the output does', () => {
    const of = { value: 5.8, digits: 2, unit: 'pH', controls: 'acid dosing' };
    expect(dosedBy({ ...of, error: 0.2, action: 'lowers' })).toMatch(
      /stands at 5\.60 pH, 0\.20 below: acid dosing gives too much\.$/,
    );
    expect(dosedBy({ ...of, error: -0.2, action: 'lowers' })).toMatch(
      /6\.00 pH, 0\.20 above: acid dosing gives too little\.$/,
    );
    expect(dosedBy({ ...of, error: 0.2, action: 'raises' })).toMatch(/too little\.$/);
    expect(dosedBy({ ...of, error: 0.2, action: '' })).toMatch(/acts on that\.$/);
  });
});

describe('gates before a run', () => {
  const lot = { label: 'K-1', standardName: '7.00', expiresOn: '2027-01-01', openedOn: '2026-11-01', usedUpOn: null };
  const facts: GateFacts = { nowMs: NOW, timeZone: 'UTC', family: 'ph', lots: [lot], leansOn: [] };
  const ids = (part: Partial<GateFacts>) => gatesOf({ ...facts, ...part }).map((g) => g.id);

  it('stand shut when all is well', () => expect(ids({})).toEqual([]));

  it.each([
    ['used up wins over expired', { usedUpOn: '2026-11-20', expiresOn: '2026-01-01' }, 'lot-used-up:7.00'],
    ['good through its last day, not beyond', { expiresOn: '2026-11-24' }, 'lot-expired:7.00'],
    ['open for 91 days', { openedOn: '2026-08-26' }, 'lot-open-long:7.00'],
  ])('lot: %s', (_, change, id) => expect(ids({ lots: [{ ...lot, ...change }] })).toEqual([id]));

  it('a lot is good on its last day and on its ninetieth', () => {
    expect(ids({ lots: [{ ...lot, expiresOn: '2026-11-25', openedOn: '2026-08-27' }] })).toEqual([]);
    expect(gatesOf({ ...facts, lots: [{ ...lot, openedOn: '2026-08-20' }] })[0]!.text).toBe(
      'Lot K-1 of 7.00 has been open for 97 days; usual are 90 at most.',
    );
  });

  it('a lot is good until its last day has ended at the site', () => {
    // 23:30 in Honolulu is the next morning elsewhere.
    const nowMs = Date.parse('2026-11-25T09:30:00Z');
    const lots = [{ ...lot, expiresOn: '2026-11-24' }];
    expect(ids({ nowMs, lots, timeZone: 'Pacific/Honolulu' })).toEqual([]);
    expect(ids({ nowMs, lots, timeZone: 'Europe/Paris' })).toEqual(['lot-expired:7.00']);
    expect(ids({ nowMs: nowMs + 1_800_000, lots, timeZone: 'Pacific/Honolulu' })).toEqual(['lot-expired:7.00']);
  });

  it('an overdue thermometer, what comes first on a reference, and what shows a condition stand before it', () => {
    const thermometer = {
      loopName: 'Sump temperature',
      family: 'temperature',
      gives: [],
      dueMs: NOW - 3 * MS_PER_DAY,
      outside: false,
    };
    const ph = { loopName: 'Sump pH', family: 'ph', gives: [], dueMs: null, outside: false };
    expect(ids({ leansOn: [thermometer, ph] })).toEqual(['thermometer:Sump temperature', 'prerequisite:Sump pH']);
    expect(ids({ leansOn: [{ ...ph, dueMs: NOW + 1 }] })).toEqual([]);
    const reasons = [ph, { ...ph, gives: ['ph' as const] }].map((p) => gatesOf({ ...facts, leansOn: [p] })[0]!.reason);
    expect(reasons[0]).toMatch(/hangs on the same reference/);
    expect(reasons[1]).toMatch(/This run takes the pH of the water from it/);
    // Outside is due now, whatever the date says.
    expect(gatesOf({ ...facts, family: 'ion', leansOn: [{ ...ph, dueMs: NOW + 1, outside: true }] })[0]).toMatchObject({
      id: 'prerequisite:Sump pH',
      text: 'Sump pH is probably outside its tolerance.',
    });
    expect(gatesOf({ ...facts, leansOn: [thermometer] })[0]!.text).toBe('Sump temperature has been due for 3 days.');
  });
});
