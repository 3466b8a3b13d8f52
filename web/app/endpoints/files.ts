import type { InventoryView, KeepLogIn, LogbookView, LogInRow } from '@frustum/contract';
import type { Build } from './build.ts';

/** What comes in from files, and what is kept in one. */
export const fileEndpoints = (build: Build) => ({
  rehearseLogbook: build.mutation<LogbookView, string>({
    query: (csv) => ({ url: '/logbook/rehearsal', method: 'POST', body: { csv } }),
  }),
  takeLogbook: build.mutation<LogbookView, string>({
    query: (csv) => ({ url: '/logbook', method: 'POST', body: { csv } }),
    invalidatesTags: ['margins', 'sensor', 'set-up'],
  }),
  rehearseInventory: build.mutation<InventoryView, string>({
    query: (text) => ({ url: '/inventory/rehearsal', method: 'POST', body: { text } }),
  }),
  takeInventory: build.mutation<InventoryView, string>({
    query: (text) => ({ url: '/inventory', method: 'POST', body: { text } }),
    invalidatesTags: ['margins', 'sensor', 'set-up'],
  }),
  logIns: build.query<LogInRow[], void>({ query: () => '/log-ins', providesTags: ['log-ins'] }),
  keepLogIn: build.mutation<LogInRow[], KeepLogIn>({
    query: (body) => ({ url: '/log-ins', method: 'PUT', body }),
    invalidatesTags: ['log-ins'],
  }),
  dropLogIn: build.mutation<LogInRow[], string>({
    query: (name) => ({ url: '/log-ins/dropped', method: 'POST', body: { name } }),
    invalidatesTags: ['log-ins'],
  }),
});
