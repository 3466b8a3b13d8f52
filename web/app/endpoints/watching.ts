import type {
  AlarmRow,
  AlarmWays,
  AlarmWaysView,
  KeepLimits,
  LimitsView,
  NewNotice,
  NewWalkReading,
  NoticeRow,
  TakeBackNotice,
  WalkView,
} from '@frustum/contract';
import type { Build } from './build.ts';

type Way = 'webhook' | 'mqtt' | 'mail';

/** Limits, how alarms travel, walks along the displays, and what people notice. */
export const watchingEndpoints = (build: Build) => ({
  snooze: build.mutation<AlarmRow, { alarmId: string; minutes: number }>({
    query: ({ alarmId, minutes }) => ({ url: `/alarms/${alarmId}/snooze`, method: 'POST', body: { minutes } }),
    invalidatesTags: ['alarms'],
  }),
  alarmWays: build.query<AlarmWaysView, void>({ query: () => '/alarm-ways', providesTags: ['alarms'] }),
  keepAlarmWays: build.mutation<AlarmWaysView, Partial<AlarmWays>>({
    query: (body) => ({ url: '/alarm-ways', method: 'PUT', body }),
    invalidatesTags: ['alarms'],
  }),
  tryAlarmWay: build.mutation<null, Way>({ query: (way) => ({ url: `/alarm-ways/${way}/test`, method: 'POST' }) }),
  alarmLimits: build.query<LimitsView, string>({
    query: (loopId) => `/loops/${loopId}/alarm-limits`,
    providesTags: ['set-up'],
  }),
  keepAlarmLimits: build.mutation<null, KeepLimits>({
    query: (body) => ({ url: '/alarm-limits', method: 'PUT', body }),
    invalidatesTags: ['set-up', 'margins', 'alarms'],
  }),
  walk: build.query<WalkView, void>({ query: () => '/walk', providesTags: ['walk'] }),
  beginWalk: build.mutation<WalkView, void>({
    query: () => ({ url: '/walk', method: 'POST' }),
    invalidatesTags: ['walk'],
  }),
  endWalk: build.mutation<WalkView, string>({
    query: (walkId) => ({ url: `/walks/${walkId}/end`, method: 'POST' }),
    invalidatesTags: ['walk'],
  }),
  keepWalkReading: build.mutation<WalkView, { walkId: string; body: NewWalkReading }>({
    query: ({ walkId, body }) => ({ url: `/walks/${walkId}/readings`, method: 'POST', body }),
    invalidatesTags: ['alarms'],
  }),
  notices: build.query<NoticeRow[], { loopId: string; days: number }>({
    query: ({ loopId, days }) => `/loops/${loopId}/notices?days=${days}`,
    providesTags: ['sensor'],
  }),
  noteNotice: build.mutation<NoticeRow, { loopId: string; body: NewNotice }>({
    query: ({ loopId, body }) => ({ url: `/loops/${loopId}/notices`, method: 'POST', body }),
    invalidatesTags: ['sensor', 'margins'],
  }),
  takeBackNotice: build.mutation<null, { loopId: string; body: TakeBackNotice }>({
    query: ({ loopId, body }) => ({ url: `/loops/${loopId}/notices`, method: 'DELETE', body }),
    invalidatesTags: ['sensor', 'margins'],
  }),
});
