import { describe, expect, it } from 'vitest';
import type { SetUpLoop } from '@frustum/contract';
import { formOfLoop, loopChange, resolverFor, sensorChange } from './loop-form.ts';

const LOOP = {
  loopId: '00000000-0000-4000-8000-000000000001',
  name: 'Tank 1 pH',
  place: 'Hall',
  family: 'ph',
  settings: {},
  workingValue: 8.1,
  workingC: 25,
  tolerance: 0.1,
  shownAs: { scale: '', step: null },
  intervalDays: 30,
  dueBy: 'calendar',
  controls: '',
  holdMinutes: 60,
  controlAction: '',
  referenceGroup: '',
  body: '',
  water: '',
  backupOf: null,
  takes: {},
  surroundings: ['stocked'],
  limits: { zero: 25, sensitivityLow: 0.9 },
  pointSet: ['technical-7.00', 'technical-10.01'],
  version: 3,
  archivedAt: null,
  hasRuns: true,
  sensor: { sensorId: '00000000-0000-4000-8000-000000000002', name: 'Probe', serial: '', model: '', boughtOn: null, fittedOn: '2026-01-01', version: 1 }, // prettier-ignore
  channel: { kind: 'hand' },
} as unknown as SetUpLoop;
const FORM = formOfLoop(LOOP);
const errorsOf = async (part: Partial<typeof FORM>) =>
  (await resolverFor(LOOP)({ ...FORM, ...part }, undefined, { fields: {}, shouldUseNativeValidation: false })).errors;

describe('a loop that is changed', () => {
  it('that stays as it is changes nothing', () => {
    expect(loopChange(FORM, LOOP)).toEqual({});
    expect(sensorChange(FORM, LOOP)).toEqual({});
  });

  it('has every figure of its own: limits in percent, surroundings, standards, its model', () => {
    const typed = { ...FORM, limits: { ...FORM.limits, zero: '', sensitivityLow: '92,5' }, stocked: false, pressurised: true, points: 'technical-7.00 technical-4.01', model: 'gel' }; // prettier-ignore
    expect(loopChange(typed, LOOP)).toEqual({
      limits: { sensitivityLow: 0.925 },
      surroundings: ['pressurised'],
      pointSet: ['technical-7.00', 'technical-4.01'],
    });
    expect(sensorChange(typed, LOOP)).toEqual({ model: 'gel' });
  });

  it('has a field for each limit, also for those that are as usual: a form that is filled anew leaves none without a text', () => {
    expect(formOfLoop({ ...LOOP, limits: {} }).limits).toEqual({ zero: '', sensitivityLow: '', sensitivityHigh: '', t90Seconds: '', adjustAboveShare: '', guardShare: '' }); // prettier-ignore
  });

  it('is refused at the field of its slip', async () => {
    expect(await errorsOf({ tolerance: '0' })).toMatchObject({ tolerance: { message: expect.stringContaining('above 0') as string } }); // prettier-ignore
    expect(await errorsOf({ limits: { zero: 'much' } })).toMatchObject({ limits: { zero: { message: expect.stringContaining('is not a figure') as string } } }); // prettier-ignore
    expect(await errorsOf({ boughtOn: '2026-02-31' })).toHaveProperty('boughtOn');
  });
});
