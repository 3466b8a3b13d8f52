import { createApi } from '@reduxjs/toolkit/query/react';
import type { Hands, HandsView, OpenRunRow, OutgoingEvent, OutlookView, RunView, StartRun } from '@frustum/contract';
import { backupEndpoints } from './endpoints/backups.ts';
import { baseQuery, EVERYTHING, type Build } from './endpoints/build.ts';
import { houseEndpoints } from './endpoints/house.ts';
import { sensorEndpoints } from './endpoints/sensors.ts';
import { fileEndpoints } from './endpoints/files.ts';
import { setUpEndpoints } from './endpoints/set-up.ts';
import { watchingEndpoints } from './endpoints/watching.ts';

/** Of two pictures of a run the one with more events: they are only ever added. */
export const newerRun = (kept: RunView, come: RunView): RunView =>
  come.events.length >= kept.events.length ? come : kept;

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

/** The server as the screens see it. */
export const api = createApi({
  reducerPath: 'api',
  baseQuery,
  tagTypes: EVERYTHING,
  endpoints: (build) => ({
    ...houseEndpoints(build),
    ...watchingEndpoints(build),
    ...sensorEndpoints(build),
    ...runEndpoints(build),
    ...backupEndpoints(build),
    ...setUpEndpoints(build),
    ...fileEndpoints(build),
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
  useSurveyMutation,
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
  useAddSpareMutation,
  useMoveSensorMutation,
  useLifeQuery,
  useRehearseLogbookMutation,
  useTakeLogbookMutation,
  useOrderLoopsMutation,
  useWouldBeQuery,
  usePeopleQuery,
  useAddPersonMutation,
  useChangeAlikeMutation,
  useChangePersonMutation,
  useDropLogInMutation,
  useKeepLogInMutation,
  useLogInsQuery,
  useRehearseInventoryMutation,
  useTakeInventoryMutation,
  useSnoozeMutation,
  useAlarmWaysQuery,
  useKeepAlarmWaysMutation,
  useTryAlarmWayMutation,
  useAlarmLimitsQuery,
  useKeepAlarmLimitsMutation,
  useWalkQuery,
  useBeginWalkMutation,
  useEndWalkMutation,
  useKeepWalkReadingMutation,
  useNoticesQuery,
  useNoteNoticeMutation,
  useTakeBackNoticeMutation,
} = api;
