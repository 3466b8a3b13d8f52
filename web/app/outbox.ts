import {
  createAsyncThunk,
  createSlice,
  type PayloadAction,
  type ThunkDispatch,
  type UnknownAction,
} from '@reduxjs/toolkit';
import type { OutgoingEvent, Problem } from '@frustum/contract';
import { api, problemOf } from './api.ts';

/** Events of this device that the server has not acknowledged yet. They survive reload, crash and a dropped network. */
export interface OutboxState {
  readonly pending: Readonly<Record<string, readonly OutgoingEvent[]>>;
  /** what the server would not take, and why; shown until it is read */
  readonly refused: Readonly<Record<string, Problem>>;
  readonly offline: boolean;
  readonly savedAtMs: number | null;
}

const KEY = 'frustum.outbox';
const DEVICE_KEY = 'frustum.device';
const COUNTER_KEY = 'frustum.counter';

/** Names this browser. `crypto.randomUUID` needs a secure context, which a phone on plain HTTP is not. */
export function deviceId(): string {
  const known = localStorage.getItem(DEVICE_KEY);
  if (known) return known;
  const bytes = crypto.getRandomValues(new Uint8Array(12));
  const made = `web-${Array.from(bytes, (b) => b.toString(16).padStart(2, '0')).join('')}`;
  localStorage.setItem(DEVICE_KEY, made);
  return made;
}

/** Next number of this device: the pair (device, counter) counts once, whatever the network does. */
export function nextCounter(): number {
  const next = Number(localStorage.getItem(COUNTER_KEY) ?? 0) + 1;
  localStorage.setItem(COUNTER_KEY, String(next));
  return next;
}

function load(): OutboxState['pending'] {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? '{}') as OutboxState['pending'];
  } catch {
    return {};
  }
}

const initialState: OutboxState = { pending: load(), refused: {}, offline: false, savedAtMs: null };

const slice = createSlice({
  name: 'outbox',
  initialState,
  reducers: {
    queued(state, { payload }: PayloadAction<{ runId: string; events: readonly OutgoingEvent[] }>) {
      return {
        ...state,
        pending: { ...state.pending, [payload.runId]: [...(state.pending[payload.runId] ?? []), ...payload.events] },
      };
    },
    acknowledged(state, { payload }: PayloadAction<{ runId: string; count: number; atMs: number }>) {
      const left = (state.pending[payload.runId] ?? []).slice(payload.count);
      const { [payload.runId]: _, ...others } = state.pending;
      return {
        ...state,
        offline: false,
        savedAtMs: payload.atMs,
        pending: left.length ? { ...others, [payload.runId]: left } : others,
      };
    },
    turnedDown(state, { payload }: PayloadAction<{ runId: string; problem: Problem }>) {
      const { [payload.runId]: _, ...others } = state.pending;
      return {
        ...state,
        offline: false,
        pending: others,
        refused: { ...state.refused, [payload.runId]: payload.problem },
      };
    },
    read(state, { payload }: PayloadAction<string>) {
      const { [payload]: _, ...others } = state.refused;
      return { ...state, refused: others };
    },
    unreachable: (state) => ({ ...state, offline: true }),
  },
});

export const { reducer: outboxReducer } = slice;
export const { read: refusalRead } = slice.actions;
const { queued, acknowledged, turnedDown, unreachable } = slice.actions;

type Slice = { outbox: OutboxState; api: ReturnType<typeof api.reducer> };
type Thunk = { dispatch: ThunkDispatch<Slice, unknown, UnknownAction>; getState: () => Slice };
/** What is under way for a run: a second wish to send waits for the first one's end. */
const sending = new Map<string, Promise<void>>();

/** Sends what waits for a run. Only an answer removes anything: silence keeps it and tries again. */
export const flush = createAsyncThunk<void, string, { state: Slice }>('outbox/flush', (runId, thunk) => {
  const under = sending.get(runId);
  if (under) return under;
  const sent = sendAll(runId, thunk).finally(() => sending.delete(runId));
  sending.set(runId, sent);
  return sent;
});

async function sendAll(runId: string, { dispatch, getState }: Thunk): Promise<void> {
  for (;;) {
    const events = getState().outbox.pending[runId];
    if (!events?.length) return;
    const answer = await dispatch(api.endpoints.appendEvents.initiate({ runId, events }));
    if (answer.data) {
      // First the new events, then the shorter queue: the screen never steps back in between.
      await dispatch(api.util.upsertQueryData('run', runId, answer.data));
      dispatch(acknowledged({ runId, count: events.length, atMs: Date.now() }));
      continue;
    }
    const problem = problemOf(answer.error);
    if (problem.status >= 400 && problem.status < 500 && problem.status !== 429) {
      dispatch(turnedDown({ runId, problem }));
      dispatch(api.util.invalidateTags(['run', 'runs']));
    } else dispatch(unreachable());
    return;
  }
}

/** Keeps events first, sends them then. */
export const record = createAsyncThunk<void, { runId: string; events: readonly OutgoingEvent[] }, { state: Slice }>(
  'outbox/record',
  async (payload, { dispatch, getState }) => {
    dispatch(queued(payload));
    localStorage.setItem(KEY, JSON.stringify(getState().outbox.pending));
    await dispatch(flush(payload.runId));
  },
);

/** Keeps the queue on the device, and tries again every few seconds and when the network comes back. */
export function watchOutbox(store: {
  getState(): Slice;
  dispatch(action: ReturnType<typeof flush>): unknown;
  subscribe(l: () => void): void;
}): void {
  let kept = store.getState().outbox.pending;
  store.subscribe(() => {
    const { pending } = store.getState().outbox;
    if (pending !== kept) localStorage.setItem(KEY, JSON.stringify((kept = pending)));
  });
  const all = () => Object.keys(store.getState().outbox.pending).forEach((runId) => store.dispatch(flush(runId)));
  window.addEventListener('online', all);
  setInterval(all, 2000);
  all();
}
