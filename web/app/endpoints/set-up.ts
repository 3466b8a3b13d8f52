import type {
  ChangeAlike,
  ChangeFittedSensor,
  ChangeLoop,
  ChangePerson,
  ChangeRow,
  ChangeSite,
  PersonRow,
  SetUpView,
  WouldBe,
  WouldBeView,
  LifeView,
  MoveSensor,
  NewSpare,
} from '@frustum/contract';
import type { Build } from './build.ts';

/** What is set up, and what became another of it. */
export const setUpEndpoints = (build: Build) => ({
  setUp: build.query<SetUpView, void>({ query: () => '/set-up', providesTags: ['set-up'] }),
  changes: build.query<ChangeRow[], string>({ query: (of) => `/changes?of=${of}`, providesTags: ['set-up'] }),
  changeLoop: build.mutation<{ version: number }, { loopId: string; body: ChangeLoop }>({
    query: ({ loopId, body }) => ({ url: `/loops/${loopId}`, method: 'PUT', body }),
    invalidatesTags: ['set-up', 'margins', 'sensor'],
  }),
  changeAlike: build.mutation<null, ChangeAlike>({
    query: (body) => ({ url: '/set-up/alike', method: 'PUT', body }),
    invalidatesTags: ['set-up', 'margins', 'sensor'],
  }),
  changeSite: build.mutation<{ version: number }, { siteId: string; body: ChangeSite }>({
    query: ({ siteId, body }) => ({ url: `/sites/${siteId}`, method: 'PUT', body }),
    invalidatesTags: ['set-up', 'margins', 'sensor'],
  }),
  changeFittedSensor: build.mutation<{ version: number }, { sensorId: string; body: ChangeFittedSensor }>({
    query: ({ sensorId, body }) => ({ url: `/sensors/${sensorId}`, method: 'PUT', body }),
    invalidatesTags: ['set-up', 'margins', 'sensor'],
  }),
  addSpare: build.mutation<{ sensorId: string }, NewSpare>({
    query: (body) => ({ url: '/spares', method: 'POST', body }),
    invalidatesTags: ['set-up'],
  }),
  moveSensor: build.mutation<{ version: number }, { sensorId: string; body: Partial<MoveSensor> }>({
    query: ({ sensorId, body }) => ({ url: `/sensors/${sensorId}/place`, method: 'PUT', body }),
    invalidatesTags: ['set-up', 'margins', 'sensor'],
  }),
  life: build.query<LifeView, string>({
    query: (sensorId) => `/sensors/${sensorId}/life`,
    providesTags: ['set-up', 'sensor'],
  }),
  orderLoops: build.mutation<null, readonly string[]>({
    query: (loops) => ({ url: '/set-up/order', method: 'PUT', body: { loops } }),
    invalidatesTags: ['set-up', 'margins'],
  }),
  wouldBe: build.query<WouldBeView, { loopId: string } & WouldBe>({
    query: ({ loopId, ...body }) => ({ url: `/loops/${loopId}/would-be`, method: 'POST', body }),
  }),
  people: build.query<PersonRow[], void>({ query: () => '/people', providesTags: ['people'] }),
  addPerson: build.mutation<PersonRow, string>({
    query: (name) => ({ url: '/people', method: 'POST', body: { name } }),
    invalidatesTags: ['people'],
  }),
  changePerson: build.mutation<PersonRow, { personId: string; body: ChangePerson }>({
    query: ({ personId, body }) => ({ url: `/people/${personId}`, method: 'PUT', body }),
    invalidatesTags: ['people'],
  }),
});
