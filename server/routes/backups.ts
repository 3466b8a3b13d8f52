import { pipeline } from 'node:stream/promises';
import { asideSchema, prepareSchema } from '@frustum/contract';
import { Refusal } from '@frustum/core';
import type { Context } from '../context.ts';
import { route, sends, type Route } from './route.ts';

const NAME = /^\d{8}T\d{6}Z(-\d+)?$/;

const backupsOf = ({ backups }: Context) => {
  if (backups) return backups;
  throw new Refusal('route-unknown', 'This house is kept nowhere, and has no backups.');
};

const ON_A_DISK: readonly Route[] = [
  route({
    method: 'get',
    path: '/backups',
    says: 'Snapshots, what is prepared to be restored, and houses that were set aside.',
    gives: 'Backups',
    work: (context) => backupsOf(context).read(),
  }),
  route({
    method: 'post',
    path: '/backups',
    says: 'Makes a snapshot.',
    gives: 'Snapshot',
    status: 201,
    refuses: ['no-room', 'preparing'],
    work: async (context) => ({ name: await backupsOf(context).make() }),
  }),
  sends({
    method: 'get',
    path: '/backups/:name/backup.tar',
    says: 'A snapshot with its pictures as one file.',
    gives: { type: 'application/x-tar', says: 'see docs/backup-format.md' },
    refuses: ['snapshot-unknown'],
    work: async (context, { request }) => {
      const name = String(request.params['name'] ?? '');
      if (!NAME.test(name)) throw new Refusal('snapshot-unknown', 'There is no such snapshot. Look at the list again.');
      return { name, ...(await backupsOf(context).file(name, await context.store.readPhotoIds())) };
    },
    send: async (response, { name, stream, done }) => {
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
    },
  }),
  route({
    method: 'post',
    path: '/backups/prepared',
    says: 'Builds a house from a snapshot, beside the present one.',
    takes: prepareSchema,
    gives: 'Backups',
    status: 202,
    refuses: ['snapshot-unknown', 'preparing', 'no-room'],
    work: (context, { body }) => {
      backupsOf(context).prepare(body.snapshot);
      return backupsOf(context).read();
    },
  }),
  route({
    method: 'post',
    path: '/backups/prepared/file',
    says: 'The same from a backup file.',
    takesBytes: 'application/x-tar',
    gives: 'Backups',
    status: 202,
    refuses: ['tar-wanted', 'preparing', 'no-room', 'backup-broken', 'backup-of-newer'],
    work: async (context, { request }) => {
      if (!request.is('application/x-tar')) throw new Refusal('tar-wanted', 'Send a backup file: a tar archive.');
      await backupsOf(context).takeIn(request);
      return backupsOf(context).read();
    },
  }),
  route({
    method: 'delete',
    path: '/backups/prepared',
    says: 'Removes the house that was prepared.',
    gives: 'Nothing',
    work: async (context) => {
      await backupsOf(context).discard();
      return null;
    },
  }),
  route({
    method: 'post',
    path: '/backups/switch',
    says: 'Puts the prepared house in the place of the present one, which is set aside.',
    gives: 'Restored',
    refuses: ['not-prepared'],
    work: async (context) => {
      await backupsOf(context).switch();
      return { restored: true };
    },
  }),
  route({
    method: 'post',
    path: '/backups/set-aside/bring-back',
    says: 'Brings a house back that was set aside.',
    takes: asideSchema,
    gives: 'Restored',
    refuses: ['aside-unknown'],
    work: async (context, { body }) => {
      await backupsOf(context).bringBack(body.name);
      return { restored: true };
    },
  }),
  route({
    method: 'delete',
    path: '/backups/set-aside',
    says: 'Removes one for good.',
    takes: asideSchema,
    gives: 'Nothing',
    refuses: ['aside-unknown'],
    work: (context, { body }) => {
      backupsOf(context).removeAside(body.name);
      return Promise.resolve(null);
    },
  }),
];

/** Snapshots, backup files, and restoring: a house that is kept nowhere has none of them. */
export const BACKUPS: readonly Route[] = ON_A_DISK.map((r) => ({ ...r, refuses: [...r.refuses, 'route-unknown'] }));
