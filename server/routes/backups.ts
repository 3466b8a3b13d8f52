import { Router } from 'express';
import { pipeline } from 'node:stream/promises';
import { asideSchema, prepareSchema } from '@frustum/contract';
import { Refusal } from '@frustum/core';
import type { Context } from '../context.ts';
import { answer, param } from './answer.ts';

const STRICT = { abortEarly: false, stripUnknown: false } as const;
const NAME = /^\d{8}T\d{6}Z(-\d+)?$/;

/** Snapshots, backup files, and restoring. */
export function backups(context: Context): Router {
  const routes = Router();
  const all = () => {
    if (context.backups) return context.backups;
    throw new Refusal('route-unknown', 'This house is in memory only, and has no backups.');
  };
  routes.get(
    '/',
    answer(() => all().read()),
  );
  routes.post(
    '/',
    answer(async () => ({ name: await all().make() }), 201),
  );
  routes.get('/:name/backup.tar', async (request, response) => {
    const name = param(request, 'name');
    if (!NAME.test(name)) throw new Refusal('snapshot-unknown', 'There is no such snapshot. Look at the list again.');
    const { stream, done } = await all().file(name, await context.store.readPhotoIds());
    response.set({
      'content-type': 'application/x-tar',
      'content-disposition': `attachment; filename="frustum-${name}.tar"`,
    });
    try {
      await pipeline(stream, response);
    } catch {
      // The browser has gone. Its file is shorter than announced, and so is known to be broken.
      response.destroy();
    } finally {
      await done();
    }
  });
  routes.post(
    '/prepared',
    answer(async (r) => {
      all().prepare((await prepareSchema.validate(r.body, STRICT)).snapshot);
      return all().read();
    }, 202),
  );
  routes.post(
    '/prepared/file',
    answer(async (r) => {
      if (!r.is('application/x-tar')) throw new Refusal('not-valid', 'Send a backup file: a tar archive.');
      await all().takeIn(r);
      return all().read();
    }, 202),
  );
  routes.delete(
    '/prepared',
    answer(async () => {
      await all().discard();
      return null;
    }),
  );
  routes.post(
    '/switch',
    answer(async () => {
      await all().switch();
      return { restored: true };
    }),
  );
  routes.post(
    '/set-aside/bring-back',
    answer(async (r) => {
      await all().bringBack((await asideSchema.validate(r.body, STRICT)).name);
      return { restored: true };
    }),
  );
  routes.delete(
    '/set-aside',
    answer(async (r) => {
      all().removeAside((await asideSchema.validate(r.body, STRICT)).name);
      return null;
    }),
  );
  return routes;
}
