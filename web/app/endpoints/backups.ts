import type { BackupsView } from '@frustum/contract';
import { EVERYTHING, type Build } from './build.ts';

/** Snapshots, backups, and houses built from them. */
export const backupEndpoints = (build: Build) => ({
  backups: build.query<BackupsView, void>({ query: () => '/backups', providesTags: ['backups'] }),
  makeSnapshot: build.mutation<{ name: string }, void>({
    query: () => ({ url: '/backups', method: 'POST' }),
    invalidatesTags: ['backups'],
  }),
  prepareSnapshot: build.mutation<BackupsView, string>({
    query: (snapshot) => ({ url: '/backups/prepared', method: 'POST', body: { snapshot } }),
    invalidatesTags: ['backups'],
  }),
  prepareFile: build.mutation<BackupsView, File>({
    query: (file) => ({
      url: '/backups/prepared/file',
      method: 'POST',
      body: file,
      headers: { 'content-type': 'application/x-tar' },
    }),
    invalidatesTags: ['backups'],
  }),
  discardPrepared: build.mutation<null, void>({
    query: () => ({ url: '/backups/prepared', method: 'DELETE' }),
    invalidatesTags: ['backups'],
  }),
  // Another house: whatever is known of the one before is asked for again.
  switchHouse: build.mutation<{ restored: true }, void>({
    query: () => ({ url: '/backups/switch', method: 'POST' }),
    invalidatesTags: [...EVERYTHING],
  }),
  bringBack: build.mutation<{ restored: true }, string>({
    query: (name) => ({ url: '/backups/set-aside/bring-back', method: 'POST', body: { name } }),
    invalidatesTags: [...EVERYTHING],
  }),
  removeAside: build.mutation<null, string>({
    query: (name) => ({ url: '/backups/set-aside', method: 'DELETE', body: { name } }),
    invalidatesTags: ['backups'],
  }),
});
