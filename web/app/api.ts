import { createApi, fetchBaseQuery, type EndpointBuilder } from '@reduxjs/toolkit/query/react';
import type {
  AlarmRow,
  AlarmsView,
  BackupsView,
  ChangeChannel,
  ChangeFittedSensor,
  ChangeLoop,
  ChangePerson,
  ChangeRow,
  ChangeSchedule,
  ChangeSite,
  ConesView,
  ConeView,
  ChannelTest,
  DosesView,
  Hands,
  HandsView,
  LotRow,
  MarginsView,
  NewDoses,
  NewLot,
  NewSensor,
  NewService,
  OpenRunRow,
  OutgoingEvent,
  OutlookView,
  PersonRow,
  ProcedureInput,
  ProcedureRow,
  ReadingAt,
  ReadingsView,
  RunView,
  SensorView,
  ServiceRow,
  SetUpView,
  ShelfView,
  StartRun,
  TakeBack,
  TakeBackDoses,
  WouldBe,
  WouldBeView,
} from '@frustum/contract';
import { ConesInSight } from './cones.ts';
import type { Settings } from './settings.ts';

/** Of two pictures of a run the one with more events: they are only ever added. */
export const newerRun = (kept: RunView, come: RunView): RunView =>
  come.events.length >= kept.events.length ? come : kept;

/** Cones of the rows in sight: what is asked for together is one request. */
const cones = new ConesInSight(async (sensorIds) => {
  const answer = await fetch(`/api/cones?sensors=${sensorIds.join(',')}`);
  if (!answer.ok) throw new Error(`it answered ${answer.status}`);
  return (await answer.json()) as ConesView;
});

const EVERYTHING = [
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
] as const;

const baseQuery = fetchBaseQuery({
  baseUrl: '/api',
  prepareHeaders: (headers, { getState }) => {
    // A name may have any letter; a header may not.
    const { settings } = getState() as { settings?: Settings };
    if (settings?.person) headers.set('x-frustum-person', encodeURIComponent(settings.person));
  },
});
type Build = EndpointBuilder<typeof baseQuery, (typeof EVERYTHING)[number], 'api'>;

/** What there is, what is due, and what somebody should know. */
const houseEndpoints = (build: Build) => ({
  margins: build.query<MarginsView, void>({ query: () => '/margins', providesTags: ['margins'] }),
  cone: build.query<ConeView | null, string>({
    queryFn: (sensorId) =>
      cones.of(sensorId).then(
        (data) => ({ data }),
        (error: unknown) => ({ error: { status: 'FETCH_ERROR', error: String(error) } }),
      ),
    providesTags: ['margins'],
  }),
  alarms: build.query<AlarmsView, void>({ query: () => '/alarms', providesTags: ['alarms'] }),
  acknowledge: build.mutation<AlarmRow, string>({
    query: (id) => ({ url: `/alarms/${id}/acknowledge`, method: 'POST' }),
    invalidatesTags: ['alarms'],
  }),
  confirmClock: build.mutation<{ nowMs: number }, void>({
    query: () => ({ url: '/clock/confirm', method: 'POST' }),
    invalidatesTags: ['margins', 'alarms'],
  }),
  procedures: build.query<ProcedureRow[], void>({ query: () => '/procedures', providesTags: ['procedures'] }),
  saveProcedure: build.mutation<ProcedureRow, { procedureId: string | null; body: ProcedureInput }>({
    query: ({ procedureId, body }) => ({
      url: procedureId ? `/procedures/${procedureId}` : '/procedures',
      method: procedureId ? 'PUT' : 'POST',
      body,
    }),
    invalidatesTags: ['procedures'],
  }),
  shelf: build.query<ShelfView, void>({ query: () => '/shelf', providesTags: ['shelf'] }),
  endLot: build.mutation<LotRow, string>({
    query: (lotId) => ({ url: `/lots/${lotId}/used-up`, method: 'POST' }),
    invalidatesTags: ['shelf'],
  }),
  addLot: build.mutation<LotRow, NewLot>({
    query: (body) => ({ url: '/lots', method: 'POST', body }),
    invalidatesTags: ['shelf'],
  }),
});

/** Snapshots, backups, and houses built from them. */
const backupEndpoints = (build: Build) => ({
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

/** Sensors, their channels, and what is noted about them. */
const sensorEndpoints = (build: Build) => ({
  sensor: build.query<SensorView, string>({ query: (id) => `/sensors/${id}`, providesTags: ['sensor'] }),
  addSensor: build.mutation<{ loopId: string; sensorId: string }, NewSensor>({
    query: (body) => ({ url: '/sensors', method: 'POST', body }),
    invalidatesTags: ['margins', 'set-up'],
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

/** The bench. */
const runEndpoints = (build: Build) => ({
  openRuns: build.query<OpenRunRow[], void>({ query: () => '/runs', providesTags: ['runs'] }),
  run: build.query<RunView, string>({
    query: (id) => `/runs/${id}`,
    providesTags: ['run'],
    // An answer that was asked for before an append may come after it: the screen would step back. Events only grow.
    merge: (kept, come) => newerRun(kept, come),
  }),
  outlook: build.query<OutlookView, { runId: string; seq: number }>({
    query: ({ runId }) => `/runs/${runId}/outlook`,
  }),
  keepPhoto: build.mutation<{ photoId: string }, { runId: string; picture: Blob }>({
    query: ({ runId, picture }) => ({
      url: `/runs/${runId}/photos`,
      method: 'POST',
      body: picture,
      headers: { 'content-type': picture.type || 'application/octet-stream' },
    }),
  }),
  startRun: build.mutation<RunView, StartRun>({
    query: (body) => ({ url: '/runs', method: 'POST', body }),
    invalidatesTags: ['margins', 'runs'],
  }),
  appendEvents: build.mutation<RunView, { runId: string; events: readonly OutgoingEvent[] }>({
    query: ({ runId, events }) => ({ url: `/runs/${runId}/events`, method: 'POST', body: { events } }),
  }),
  writeAdjustment: build.mutation<RunView, { runId: string; event: OutgoingEvent }>({
    query: ({ runId, event }) => ({ url: `/runs/${runId}/adjustment`, method: 'POST', body: { events: [event] } }),
  }),
  hands: build.query<HandsView, string>({ query: (channelId) => `/stand-in/${channelId}` }),
  moveHands: build.mutation<HandsView, { channelId: string; order: Hands }>({
    query: ({ channelId, order }) => ({ url: `/stand-in/${channelId}`, method: 'POST', body: order }),
    async onQueryStarted({ channelId }, { dispatch, queryFulfilled }) {
      const { data } = await queryFulfilled;
      void dispatch(api.util.upsertQueryData('hands', channelId, data));
    },
  }),
});

/** What is set up, and what became another of it. */
const setUpEndpoints = (build: Build) => ({
  setUp: build.query<SetUpView, void>({ query: () => '/set-up', providesTags: ['set-up'] }),
  changes: build.query<ChangeRow[], string>({ query: (of) => `/changes?of=${of}`, providesTags: ['set-up'] }),
  changeLoop: build.mutation<{ version: number }, { loopId: string; body: ChangeLoop }>({
    query: ({ loopId, body }) => ({ url: `/loops/${loopId}`, method: 'PUT', body }),
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
  orderLoops: build.mutation<null, readonly string[]>({
    query: (loops) => ({ url: '/set-up/order', method: 'PUT', body: { loops } }),
    invalidatesTags: ['set-up', 'margins'],
  }),
  wouldBe: build.query<WouldBeView, { loopId: string; to: WouldBe['to'] }>({
    query: ({ loopId, to }) => ({ url: `/loops/${loopId}/would-be`, method: 'POST', body: { to } }),
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

/** The server as the screens see it. */
export const api = createApi({
  reducerPath: 'api',
  baseQuery,
  tagTypes: EVERYTHING,
  endpoints: (build) => ({
    ...houseEndpoints(build),
    ...sensorEndpoints(build),
    ...runEndpoints(build),
    ...backupEndpoints(build),
    ...setUpEndpoints(build),
  }),
});

export const {
  useAcknowledgeMutation,
  useAlarmsQuery,
  useBackupsQuery,
  useBringBackMutation,
  useDiscardPreparedMutation,
  useMakeSnapshotMutation,
  usePrepareFileMutation,
  usePrepareSnapshotMutation,
  useRemoveAsideMutation,
  useSwitchHouseMutation,
  useMarginsQuery,
  useConeQuery,
  useSensorQuery,
  useLazySensorQuery,
  useOpenRunsQuery,
  useRunQuery,
  useShelfQuery,
  useAddSensorMutation,
  useAddLotMutation,
  useChangeChannelMutation,
  useReadChannelMutation,
  useConfirmClockMutation,
  useChangeScheduleMutation,
  useReadingsQuery,
  useTestChannelMutation,
  useStartRunMutation,
  useWriteAdjustmentMutation,
  useHandsQuery,
  useMoveHandsMutation,
  useLazyReadingAtQuery,
  useNoteServiceMutation,
  useDosesQuery,
  useNoteDosesMutation,
  useTakeBackDosesMutation,
  useTakeBackServiceMutation,
  useProceduresQuery,
  useSaveProcedureMutation,
  useOutlookQuery,
  useKeepPhotoMutation,
  useEndLotMutation,
  useSetUpQuery,
  useChangesQuery,
  useChangeLoopMutation,
  useChangeSiteMutation,
  useChangeFittedSensorMutation,
  useOrderLoopsMutation,
  useWouldBeQuery,
  usePeopleQuery,
  useAddPersonMutation,
  useChangePersonMutation,
} = api;
