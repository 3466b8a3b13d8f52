import { fetchBaseQuery, type EndpointBuilder } from '@reduxjs/toolkit/query/react';
import type { Settings } from '../settings.ts';

/** Whatever may have become another by what somebody did. */
export const EVERYTHING = [
  'margins',
  'sensor',
  'runs',
  'run',
  'shelf',
  'procedures',
  'alarms',
  'doses',
  'backups',
  'set-up',
  'people',
  'log-ins',
  'walk',
] as const;

export const baseQuery = fetchBaseQuery({
  baseUrl: '/api',
  prepareHeaders: (headers, { getState }) => {
    // A name may have any letter; a header may not.
    const { settings } = getState() as { settings?: Settings };
    if (settings?.person) headers.set('x-frustum-person', encodeURIComponent(settings.person));
  },
});
export type Build = EndpointBuilder<typeof baseQuery, (typeof EVERYTHING)[number], 'api'>;
