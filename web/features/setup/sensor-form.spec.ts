import { describe, expect, it } from 'vitest';
import { familyOf } from '@frustum/core';
import { newSensorSchema } from '@frustum/contract';
import { settingsOf } from './settings-typed.ts';
import { resolver, sensorOf, USUAL_SENSOR, type SensorForm } from './sensor-form.ts';

const form: SensorForm = {
  ...USUAL_SENSOR,
  siteName: 'My house',
  loopName: 'Tank 1',
  workingValue: '8,1',
  fittedOn: '2026-11-01',
};
const errorsOf = async (part: Partial<SensorForm>) =>
  (await resolver({ ...form, ...part }, undefined, { fields: {}, shouldUseNativeValidation: false })).errors as Record<
    string,
    { message?: string }
  >;

describe('the form of a new sensor', () => {
  it('becomes what the server takes: commas as points, a name of its own, only settings of its family', async () => {
    const made = await newSensorSchema.validate(
      sensorOf({ ...form, settings: { cellConstant: '0.1' }, stocked: true }),
    );
    expect(made).toMatchObject({
      workingValue: 8.1,
      sensorName: 'Tank 1 probe',
      settings: {},
      surroundings: ['stocked'],
      pointSet: ['technical-7.00', 'technical-4.01'],
    });
  });

  it('settings are figures where the family has figures, and usual where nothing was typed', () => {
    expect(settingsOf(familyOf('conductivity'), { cellConstant: '0,1' })).toMatchObject({
      cellConstant: 0.1,
      alpha: 2,
    });
    expect(settingsOf(familyOf('orp'), { scale: 'hydrogen' })).toMatchObject({ scale: 'hydrogen' });
  });

  it('a working value that no such sensor has is refused at its field, in the family’s unit', async () => {
    expect((await errorsOf({ workingValue: '61' }))['workingValue']!.message).toMatch(
      /^Working value 61 pH is outside/,
    );
    expect(await errorsOf({ family: 'conductivity', workingValue: '1800', points: '' })).toEqual({});
    expect(
      (await errorsOf({ family: 'conductivity', workingValue: '-5', points: '' }))['workingValue']!.message,
    ).toContain('µS/cm');
  });

  it('limits of its own in percent and in the unit of the signal; empty ones are the usual', async () => {
    const limits = { zero: '25', sensitivityLow: '90', t90Seconds: '' };
    const made = await newSensorSchema.validate(sensorOf({ ...form, limits }));
    expect(made.limits).toEqual({ zero: 25, sensitivityLow: 0.9 });
    expect(await errorsOf({ limits: { sensitivityLow: 'ninety' } })).toMatchObject({
      limits: { sensitivityLow: { message: 'Lowest sensitivity is not a figure. Leave it empty for the usual one.' } },
    });
  });

  it('a cell constant that cannot be is refused before it is sent', async () => {
    const errors = await errorsOf({
      family: 'conductivity',
      workingValue: '1800',
      settings: { cellConstant: '5000' },
      points: '',
    });
    expect(errors['workingValue']!.message).toMatch(/cell constant 5000/i);
  });
});
