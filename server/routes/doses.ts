import { dosesSchema, takeBackDosesSchema } from '@frustum/contract';
import { dosesTable, noteDoses, readDoses, takeBackDoses } from '../services/loops/doses.ts';
import { route, sends, type Route } from './route.ts';

export const DOSES: readonly Route[] = [
  route({
    method: 'get',
    path: '/loops/:loopId/doses',
    says: 'What was dosed at a loop.',
    gives: 'Doses',
    work: (context, { ids }) => readDoses(context, ids.loopId),
  }),
  sends({
    method: 'get',
    path: '/loops/:loopId/doses.csv',
    says: 'The same as a table.',
    gives: { type: 'text/csv', says: 'time, what, amount, unit' },
    work: (context, { ids }) => dosesTable(context, ids.loopId),
    send: (response, table) =>
      response
        .set({ 'content-type': 'text/csv; charset=utf-8', 'content-disposition': 'attachment; filename="doses.csv"' })
        .send(table),
  }),
  route({
    method: 'post',
    path: '/loops/:loopId/doses',
    says: 'Notes doses; those that are there already count once.',
    takes: dosesSchema,
    gives: 'KeptDoses',
    status: 201,
    refuses: ['not-yet', 'before-fitted'],
    work: (context, { ids, body }) => noteDoses(context, ids.loopId, body),
  }),
  route({
    method: 'delete',
    path: '/loops/:loopId/doses',
    says: 'Takes doses back that were noted together, within a day.',
    takes: takeBackDosesSchema,
    gives: 'Nothing',
    refuses: ['stands'],
    work: async (context, { ids, body }) => {
      await takeBackDoses(context, ids.loopId, body);
      return null;
    },
  }),
];
