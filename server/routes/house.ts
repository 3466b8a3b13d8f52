import { Refusal } from '@frustum/core';
import { readCones, readMargins } from '../services/margins/margins.ts';
import { isUuid, route, sends, type Route } from './route.ts';

/** More rows are on no screen. */
const MAX_CONES = 60;
const ID_LENGTH = 37;

/** The house as a whole. */
export const HOUSE: readonly Route[] = [
  route({
    method: 'get',
    path: '/health',
    says: 'Whether everything is kept, and whether this is the demo.',
    gives: 'Health',
    work: ({ wellBeing: { trouble }, config }) =>
      Promise.resolve({ ok: trouble === null, demo: config.demoBundle !== null, ...(trouble ? { trouble } : {}) }),
  }),
  sends({
    method: 'get',
    path: '/margins',
    says: 'Every loop: its margin now, when its next run is due, its channel and its set-up.',
    gives: 'Margins',
    marked: true,
    work: (context) => readMargins(context),
    send: (response, { json }) => response.type('application/json').send(json),
  }),
  route({
    method: 'get',
    path: '/cones',
    says: 'The error of some sensors over time, as it is drawn in Margins.',
    asks: [{ name: 'sensors', says: `ids of 1 to ${MAX_CONES} sensors, with commas between`, example: '' }],
    gives: 'Cones',
    marked: true,
    refuses: ['ids-wanted'],
    work: async (context, { query }) => {
      const sensors = query('sensors', MAX_CONES * ID_LENGTH).split(',');
      if (sensors.length > MAX_CONES || !sensors.every(isUuid))
        throw new Refusal('ids-wanted', `Ask for the cones of 1 to ${MAX_CONES} sensors, by their ids.`);
      return readCones(context, sensors);
    },
  }),
  route({
    method: 'post',
    path: '/clock/confirm',
    says: 'The time of the server’s computer is right, although it jumped.',
    gives: 'Clock',
    work: (context) => {
      context.clock.confirm();
      context.changed();
      return Promise.resolve({ nowMs: context.now() });
    },
  }),
];
