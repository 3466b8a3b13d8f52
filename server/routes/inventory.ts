import { inventorySchema } from '@frustum/contract';
import type { Context } from '../context.ts';
import { rehearseInventory, takeInventory } from '../services/house/inventory-in.ts';
import { inventoryAsCsv, inventoryAsJson } from '../services/house/inventory-out.ts';
import { route, sends, type Route } from './route.ts';

const SAYS = 'every loop in use with its sensor and channel, and every sensor on the shelf';

const goesOut = (
  type: 'text/csv' | 'application/json',
  as: 'csv' | 'json',
  work: (context: Context) => Promise<string>,
) =>
  // prettier-ignore
  sends({
    method: 'get',
    path: `/inventory.${as}`,
    says: `The inventory of the house as ${as.toUpperCase()}.`,
    gives: { type, says: SAYS },
    work: (context) => work(context),
    send: (response, text) =>
      response
        .set({ 'content-type': `${type}; charset=utf-8`, 'content-disposition': `attachment; filename="inventory.${as}"` })
        .send(text),
  });

/** Loops and sensors as a file, out and in. */
export const INVENTORY: readonly Route[] = [
  goesOut('text/csv', 'csv', inventoryAsCsv),
  goesOut('application/json', 'json', inventoryAsJson),
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
