import { logbookSchema } from '@frustum/contract';
import { logbookTable, rehearseLogbook, takeLogbook } from '../services/house/logbook.ts';
import { route, sends, type Route } from './route.ts';

/** Past runs from paper. */
export const LOGBOOK: readonly Route[] = [
  sends({
    method: 'get',
    path: '/logbook.csv',
    says: 'A sheet for past runs, to be filled in: the usual standards of every sensor.',
    gives: { type: 'text/csv', says: 'when, sensor, standard, value, as found, as left, temperature, by' },
    work: (context) => logbookTable(context),
    send: (response, table) =>
      response
        .set({ 'content-type': 'text/csv; charset=utf-8', 'content-disposition': 'attachment; filename="logbook.csv"' })
        .send(table),
  }),
  route({
    method: 'post',
    path: '/logbook/rehearsal',
    says: 'What past runs from paper would give, and what in them cannot be used. Nothing is kept.',
    takes: logbookSchema,
    gives: 'Logbook',
    costly: true,
    work: (context, { body, gone }) => rehearseLogbook(context, body.csv, gone),
  }),
  route({
    method: 'post',
    path: '/logbook',
    says: 'Takes past runs in, marked as from paper: all of them, or nothing where one line cannot be used.',
    takes: logbookSchema,
    gives: 'Logbook',
    costly: true,
    work: (context, { body, gone }) => takeLogbook(context, body.csv, gone),
  }),
];
