import { changeScheduleSchema, newSensorSchema, serviceSchema, takeBackSchema } from '@frustum/contract';
import { readingAt, readReadings } from '../services/channels/readings.ts';
import { addSensor, changeSchedule } from '../services/loops/set-up.ts';
import { noteService, readSensor, takeBackService } from '../services/sensors/sensors.ts';
import { route, type Route } from './route.ts';

const USUAL_DAYS = '7';

export const SENSORS: readonly Route[] = [
  route({
    method: 'post',
    path: '/sensors',
    says: 'Adds a loop with its sensor and its channel.',
    takes: newSensorSchema,
    gives: 'AddedSensor',
    status: 201,
    refuses: ['loop-exists', 'unknown-standard', 'giver-unfit', 'channel-of-another-kind', 'out-of-range', 'setting-unknown', 'choice-unknown'], // prettier-ignore
    work: (context, { body, by }) => addSensor(context, body, by),
  }),
  route({
    method: 'get',
    path: '/sensors/:sensorId',
    says: 'One sensor: its cone, its runs, its health, what was done to it, and what a run would begin with now.',
    gives: 'Sensor',
    work: (context, { ids }) => readSensor(context, ids.sensorId),
  }),
  route({
    method: 'get',
    path: '/sensors/:sensorId/readings',
    says: 'What its channel showed over the last days, as its coefficients were at the time.',
    asks: [
      { name: 'days', says: '1 to 400; 7 if not said', example: '1' },
      { name: 'as', says: '“written”: in the unit and scale of its instrument; else in the own unit of the family', example: 'written' }, // prettier-ignore
    ],
    gives: 'Readings',
    costly: true,
    refuses: ['out-of-range'],
    work: (context, { ids, query, gone }) =>
      readReadings(context, ids.sensorId, Number(query('days') || USUAL_DAYS), query('as') === 'written', gone),
  }),
  route({
    method: 'get',
    path: '/sensors/:sensorId/reading',
    says: 'The reading at the moment of a sample, from the minutes that were kept.',
    asks: [{ name: 'at', says: 'ISO 8601, UTC', example: '2026-11-23T09:00:00Z' }],
    gives: 'ReadingAt',
    refuses: ['no-reading-then'],
    work: (context, { ids, query }) => readingAt(context, ids.sensorId, query('at')),
  }),
  route({
    method: 'post',
    path: '/sensors/:sensorId/services',
    says: 'Notes what was done to it between its runs.',
    takes: serviceSchema,
    gives: 'Service',
    status: 201,
    refuses: ['no-such-part', 'not-yet', 'before-fitted'],
    work: (context, { ids, body, by }) => noteService(context, ids.sensorId, body, by),
  }),
  route({
    method: 'delete',
    path: '/sensors/:sensorId/services',
    says: 'Takes such a note back, within a day.',
    takes: takeBackSchema,
    gives: 'Nothing',
    refuses: ['stands'],
    work: async (context, { ids, body }) => {
      await takeBackService(context, ids.sensorId, body);
      return null;
    },
  }),
  route({
    method: 'put',
    path: '/sensors/:sensorId/schedule',
    says: 'Another schedule for its loop.',
    takes: changeScheduleSchema,
    gives: 'Schedule',
    refuses: ['schedule-moved'],
    work: (context, { ids, body, by }) => changeSchedule(context, ids.sensorId, body, by),
  }),
];
