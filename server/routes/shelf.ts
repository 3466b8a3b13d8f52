import { newLotSchema, procedureSchema } from '@frustum/contract';
import { readProcedures, saveProcedure } from '../services/house/procedures.ts';
import { addLot, endLot, readShelf } from '../services/loops/set-up.ts';
import { route, type Route } from './route.ts';

/** What a run is made of: bottles, and procedures of one's own. */
export const SHELF: readonly Route[] = [
  route({
    method: 'get',
    path: '/shelf',
    says: 'Every standard, and every bottle.',
    gives: 'Shelf',
    work: (context) => readShelf(context),
  }),
  route({
    method: 'post',
    path: '/lots',
    says: 'Adds a bottle, with the table that its label prints.',
    takes: newLotSchema,
    gives: 'Lot',
    status: 201,
    refuses: ['lot-exists', 'out-of-range', 'unknown-standard', 'table-unusable', 'table-of-another-standard'],
    work: (context, { body }) => addLot(context, body),
  }),
  route({
    method: 'post',
    path: '/lots/:lotId/used-up',
    says: 'A bottle is empty, or withdrawn, from today on.',
    gives: 'Lot',
    work: (context, { ids }) => endLot(context, ids.lotId),
  }),
  route({
    method: 'get',
    path: '/procedures',
    says: 'Procedures of one’s own.',
    gives: 'Procedures',
    work: (context) => readProcedures(context),
  }),
  route({
    method: 'post',
    path: '/procedures',
    says: 'Adds one.',
    takes: procedureSchema,
    gives: 'Procedure',
    status: 201,
    refuses: ['procedure-exists', 'procedure-unfit'],
    work: (context, { body }) => saveProcedure(context, null, body),
  }),
  route({
    method: 'put',
    path: '/procedures/:procedureId',
    says: 'A new version of one; runs keep the version that they began with.',
    takes: procedureSchema,
    gives: 'Procedure',
    refuses: ['procedure-exists', 'procedure-moved', 'procedure-unfit'],
    work: (context, { ids, body }) => saveProcedure(context, ids.procedureId, body),
  }),
];
