import { inventorySchema } from '@frustum/contract';
import { rehearseInventory, takeInventory } from '../services/house/inventory-in.ts';
import { inventoryAsCsv, inventoryAsJson } from '../services/house/inventory-out.ts';
import { route, sends, type Route } from './route.ts';

const SAYS = 'every loop in use with its sensor and channel, and every sensor on the shelf';

/** Loops and sensors as a file, out and in. */
export const INVENTORY: readonly Route[] = [
  sends({
    method: 'get',
    path: '/inventory.csv',
    says: 'The inventory of the house as CSV.',
    gives: { type: 'text/csv', says: SAYS },
    work: (context) => inventoryAsCsv(context),
    send: (response, table) =>
      response
        .set({
          'content-type': 'text/csv; charset=utf-8',
          'content-disposition': 'attachment; filename="inventory.csv"',
        })
        .send(table),
  }),
  sends({
    method: 'get',
    path: '/inventory.json',
    says: 'The inventory of the house as JSON.',
    gives: { type: 'application/json', says: SAYS },
    work: (context) => inventoryAsJson(context),
    send: (response, json) =>
      response
        .set({ 'content-type': 'application/json', 'content-disposition': 'attachment; filename="inventory.json"' })
        .send(json),
  }),
  route({
    method: 'post',
    path: '/inventory/rehearsal',
    says: 'What an inventory would make of the house, and what in it cannot be used. Nothing is kept.',
    takes: inventorySchema,
    gives: 'Inventory',
    costly: true,
    work: (context, { body, by }) => rehearseInventory(context, body.text, by),
  }),
  route({
    method: 'post',
    path: '/inventory',
    says: 'Takes an inventory in, CSV or JSON: all of it, or nothing where one row cannot be used.',
    takes: inventorySchema,
    gives: 'Inventory',
    costly: true,
    work: (context, { body, by }) => takeInventory(context, body.text, by),
  }),
];
