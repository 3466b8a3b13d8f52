import type {
  AlarmRow,
  AlarmsView,
  ConesView,
  ConeView,
  LotRow,
  MarginsView,
  NewLot,
  ProcedureInput,
  ProcedureRow,
  ShelfView,
} from '@frustum/contract';
import { ConesInSight } from '../cones.ts';
import type { Build } from './build.ts';

/** Cones of the rows in sight: what is asked for together is one request. */
const cones = new ConesInSight(async (sensorIds) => {
  const answer = await fetch(`/api/cones?sensors=${sensorIds.join(',')}`);
  if (!answer.ok) throw new Error(`it answered ${answer.status}`);
  return (await answer.json()) as ConesView;
});

/** What there is, what is due, and what somebody should know. */
export const houseEndpoints = (build: Build) => ({
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
