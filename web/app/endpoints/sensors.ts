import type {
  ChangeChannel,
  ChangeSchedule,
  ChannelTest,
  DosesView,
  NewDoses,
  NewSensor,
  NewService,
  ReadingAt,
  ReadingsView,
  SensorView,
  ServiceRow,
  TakeBack,
  TakeBackDoses,
  SurveyView,
} from '@frustum/contract';
import type { Build } from './build.ts';

/** Sensors, their channels, and what is noted about them. */
export const sensorEndpoints = (build: Build) => ({
  sensor: build.query<SensorView, string>({ query: (id) => `/sensors/${id}`, providesTags: ['sensor'] }),
  addSensor: build.mutation<{ loopId: string; sensorId: string }, NewSensor>({
    query: (body) => ({ url: '/sensors', method: 'POST', body }),
    invalidatesTags: ['margins', 'set-up'],
  }),
  survey: build.mutation<SurveyView, { channel: unknown; shows: number | null }>({
    query: (body) => ({ url: '/channels/survey', method: 'POST', body }),
  }),
  testChannel: build.mutation<ChannelTest, { channel: unknown }>({
    query: (body) => ({ url: '/channels/test', method: 'POST', body }),
  }),
  readChannel: build.mutation<{ held: readonly string[] }, string>({
    query: (channelId) => ({ url: `/channels/${channelId}/read`, method: 'POST' }),
    invalidatesTags: ['margins'],
  }),
  changeChannel: build.mutation<{ version: number }, { channelId: string; body: ChangeChannel }>({
    query: ({ channelId, body }) => ({ url: `/channels/${channelId}`, method: 'PUT', body }),
    invalidatesTags: ['margins', 'sensor'],
  }),
  changeSchedule: build.mutation<ChangeSchedule['was'], { sensorId: string; body: ChangeSchedule }>({
    query: ({ sensorId, body }) => ({ url: `/sensors/${sensorId}/schedule`, method: 'PUT', body }),
    invalidatesTags: ['margins', 'sensor'],
  }),
  readings: build.query<ReadingsView, { sensorId: string; days: number }>({
    query: ({ sensorId, days }) => `/sensors/${sensorId}/readings?days=${days}`,
  }),
  readingAt: build.query<ReadingAt, { sensorId: string; at: string }>({
    query: ({ sensorId, at }) => `/sensors/${sensorId}/reading?at=${encodeURIComponent(at)}`,
  }),
  noteService: build.mutation<ServiceRow, { sensorId: string; body: NewService }>({
    query: ({ sensorId, body }) => ({ url: `/sensors/${sensorId}/services`, method: 'POST', body }),
    invalidatesTags: ['margins', 'sensor'],
  }),
  takeBackService: build.mutation<null, { sensorId: string; body: TakeBack }>({
    query: ({ sensorId, body }) => ({ url: `/sensors/${sensorId}/services`, method: 'DELETE', body }),
    invalidatesTags: ['margins', 'sensor'],
  }),
  doses: build.query<DosesView, string>({ query: (loopId) => `/loops/${loopId}/doses`, providesTags: ['doses'] }),
  noteDoses: build.mutation<{ kept: number }, { loopId: string; body: NewDoses }>({
    query: ({ loopId, body }) => ({ url: `/loops/${loopId}/doses`, method: 'POST', body }),
    invalidatesTags: ['doses', 'sensor'],
  }),
  takeBackDoses: build.mutation<null, { loopId: string; body: TakeBackDoses }>({
    query: ({ loopId, body }) => ({ url: `/loops/${loopId}/doses`, method: 'DELETE', body }),
    invalidatesTags: ['doses', 'sensor'],
  }),
});
