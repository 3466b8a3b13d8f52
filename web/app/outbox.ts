import { inTodaysWords } from '@frustum/core';
import {
  createAsyncThunk,
  createSlice,
  type PayloadAction,
  type ThunkDispatch,
  type UnknownAction,
} from '@reduxjs/toolkit';
import type { OutgoingEvent, Problem } from '@frustum/contract';
import { api } from './api.ts';
import { deviceId, keepItem, nextCounter } from './device.ts';
import { problemOf } from '../format/problem.ts';

/** An event that the server would not take, and why. */
export interface SetAside {
  readonly event: OutgoingEvent;
  readonly problem: Problem;
}

/** Events of this device that the server has not acknowledged yet. They survive reload, crash and a dropped network. */
export interface OutboxState {
  /** by run, in the order in which they happened */
  readonly pending: Readonly<Record<string, readonly OutgoingEvent[]>>;
  /** what the server would not take: kept here until somebody sends it again or drops it */
  readonly refused: Readonly<Record<string, readonly SetAside[]>>;
  readonly offline: boolean;
  readonly savedAtMs: number | null;
  /** the device’s storage is full: what waits is lost when this page is closed */
  readonly full: boolean;
}

/** Each event has a place of its own, so that two tabs never overwrite each other’s. */
const PREFIX = 'frustum.waits/';
/** The server takes so many at once. */
const MAX_AT_ONCE = 200;
/** No refusal of what was sent: the server cannot be asked just now, or not by us yet. */
const WAITS = new Set([401, 403, 408, 425, 429]);

const placeOf = (runId: string, { device: from, counter }: OutgoingEvent) => `${PREFIX}${runId}/${from}/${counter}`;
const isSame = (a: OutgoingEvent, b: OutgoingEvent) => a.device === b.device && a.counter === b.counter;

/** What one place holds: an event that waits, with the reason where the server would not take it. */
interface StoredEvent {
  readonly event: OutgoingEvent;
  readonly problem?: Problem;
}

type Lists = Pick<OutboxState, 'pending' | 'refused'>;

/** As an earlier version kept it: all in one place. What waits there is moved to places of its own. */
const LEGACY_KEY = 'frustum.outbox';

function moveLegacy(): void {
  const legacy = localStorage.getItem(LEGACY_KEY);
  if (legacy === null) return;
  const lists = JSON.parse(legacy) as Record<string, OutgoingEvent[]>;
  const kept = Object.entries(lists).flatMap(([runId, list]) =>
    list.map((event) => keepItem(placeOf(runId, event), JSON.stringify({ event } satisfies StoredEvent))),
  );
  if (kept.every(Boolean)) localStorage.removeItem(LEGACY_KEY);
}

function load(): Lists {
  const pending: Record<string, OutgoingEvent[]> = {};
  const refused: Record<string, SetAside[]> = {};
  for (let i = 0; i < localStorage.length; i++) {
    const key = localStorage.key(i);
    if (!key?.startsWith(PREFIX)) continue;
    const runId = key.slice(PREFIX.length).split('/')[0]!;
    try {
      const { event, problem } = JSON.parse(localStorage.getItem(key)!) as StoredEvent;
      if (problem) (refused[runId] ??= []).push({ event, problem });
      else (pending[runId] ??= []).push({ ...event, body: inTodaysWords(event.body) });
    } catch {
      // Not ours, or half written: it stays where it is.
    }
  }
  const inOrder = (a: OutgoingEvent, b: OutgoingEvent) =>
    a.device === b.device ? a.counter - b.counter : Date.parse(a.at) - Date.parse(b.at);
  for (const list of Object.values(pending)) list.sort(inOrder);
  for (const list of Object.values(refused)) list.sort((a, b) => inOrder(a.event, b.event));
  return { pending, refused };
}

/** What waits here from before; a browser without any storage has nothing. */
function loadFirst(): Lists {
  try {
    moveLegacy();
    return load();
  } catch {
    return { pending: {}, refused: {} };
  }
}

const initialState: OutboxState = { ...loadFirst(), offline: false, savedAtMs: null, full: false };

/** A list of a run changed; a run without any is left out. */
function changed<T>(
  lists: Readonly<Record<string, readonly T[]>>,
  runId: string,
  change: (list: readonly T[]) => readonly T[],
): Readonly<Record<string, readonly T[]>> {
  const { [runId]: list = [], ...others } = lists;
  const left = change(list);
  return left.length ? { ...others, [runId]: left } : others;
}

interface OfRun {
  readonly runId: string;
}
const slice = createSlice({
  name: 'outbox',
  initialState,
  reducers: {
    queued: (
      state: OutboxState,
      { payload }: PayloadAction<OfRun & { events: readonly OutgoingEvent[]; kept: boolean }>,
    ): OutboxState => ({
      ...state,
      full: !payload.kept,
      pending: changed(state.pending, payload.runId, (list) => [...list, ...payload.events]),
    }),
    acknowledged: (
      state: OutboxState,
      { payload }: PayloadAction<OfRun & { events: readonly OutgoingEvent[]; atMs: number }>,
    ): OutboxState => ({
      ...state,
      offline: false,
      savedAtMs: payload.atMs,
      pending: changed(state.pending, payload.runId, (list) =>
        list.filter((e) => !payload.events.some((sent) => isSame(sent, e))),
      ),
    }),
    turnedDown: (
      state: OutboxState,
      { payload: { runId, event, problem } }: PayloadAction<OfRun & SetAside>,
    ): OutboxState => ({
      ...state,
      offline: false,
      pending: changed(state.pending, runId, (list) => list.filter((e) => !isSame(event, e))),
      refused: changed(state.refused, runId, (list) => [...list, { event, problem }]),
    }),
    /** taken from what was refused: to be sent again, or for good */
    tookBack: (
      state: OutboxState,
      { payload: { runId, event, again } }: PayloadAction<OfRun & { event: OutgoingEvent; again: boolean }>,
    ): OutboxState => ({
      ...state,
      refused: changed(state.refused, runId, (list) => list.filter((r) => !isSame(r.event, event))),
      pending: again ? changed(state.pending, runId, (list) => [...list, event]) : state.pending,
    }),
    /** as another tab has left it */
    foundAgain: (state: OutboxState, { payload }: PayloadAction<Lists>): OutboxState => ({ ...state, ...payload }),
    unreachable: (state: OutboxState): OutboxState => ({ ...state, offline: true }),
  },
});

export const { reducer: outboxReducer } = slice;
const { queued, acknowledged, turnedDown, tookBack, foundAgain, unreachable } = slice.actions;

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
  let most = MAX_AT_ONCE;
  for (;;) {
    const events = (getState().outbox.pending[runId] ?? []).slice(0, most);
    const [first] = events;
    if (!first) return;
    const answer = await dispatch(api.endpoints.appendEvents.initiate({ runId, events }));
    if (answer.data) {
      // First the new events, then the shorter queue: the screen never steps back in between.
      await dispatch(api.util.upsertQueryData('run', runId, answer.data));
      for (const event of events) localStorage.removeItem(placeOf(runId, event));
      dispatch(acknowledged({ runId, events, atMs: Date.now() }));
      most = MAX_AT_ONCE;
      continue;
    }
    const problem = problemOf(answer.error);
    if (problem.status < 400 || problem.status >= 500 || WAITS.has(problem.status)) {
      dispatch(unreachable());
      return;
    }
    // Refused as a whole for the sake of one: it is looked for by halves, so that the others arrive.
    if (events.length > 1 && problem.status !== 404) {
      most = Math.ceil(events.length / 2);
      continue;
    }
    for (const event of events) {
      keepItem(placeOf(runId, event), JSON.stringify({ event, problem } satisfies StoredEvent));
      dispatch(turnedDown({ runId, event, problem }));
    }
    dispatch(api.util.invalidateTags(['run', 'runs']));
    most = MAX_AT_ONCE;
  }
}

/** What the server would not take is tried once more. */
export const sendAgain = createAsyncThunk<void, OfRun & { readonly event: OutgoingEvent }, { state: Slice }>(
  'outbox/sendAgain',
  async ({ runId, event }, { dispatch }) => {
    keepItem(placeOf(runId, event), JSON.stringify({ event } satisfies StoredEvent));
    dispatch(tookBack({ runId, event, again: true }));
    await dispatch(flush(runId));
  },
);

/** Somebody has read why it was not taken, and wants it no more. */
export const drop = createAsyncThunk<void, OfRun & { readonly event: OutgoingEvent }, { state: Slice }>(
  'outbox/drop',
  async ({ runId, event }, { dispatch }) => {
    localStorage.removeItem(placeOf(runId, event));
    dispatch(tookBack({ runId, event, again: false }));
  },
);

/** What the server would not take as it was is told in somebody's own words instead, at the time at which it happened. */
export const tellInWords = createAsyncThunk<
  void,
  OfRun & { readonly event: OutgoingEvent; readonly text: string },
  { state: Slice }
>('outbox/tellInWords', async ({ runId, event, text }, { dispatch }) => {
  const body = { type: 'noted' as const, text };
  const note: OutgoingEvent = { ...event, device: deviceId(), counter: nextCounter(), onSeq: null, body };
  // First the note: whatever happens in between, one of the two is there.
  const kept = keepItem(placeOf(runId, note), JSON.stringify({ event: note } satisfies StoredEvent));
  localStorage.removeItem(placeOf(runId, event));
  // On a full device its place is the one that has just become free.
  const keptNow = kept || keepItem(placeOf(runId, note), JSON.stringify({ event: note } satisfies StoredEvent));
  dispatch(queued({ runId, events: [note], kept: keptNow }));
  dispatch(tookBack({ runId, event, again: false }));
  await dispatch(flush(runId));
});

/** Keeps events first, sends them then. */
export const record = createAsyncThunk<void, { runId: string; events: readonly OutgoingEvent[] }, { state: Slice }>(
  'outbox/record',
  async ({ runId, events }, { dispatch }) => {
    const kept = events.map((event) =>
      keepItem(placeOf(runId, event), JSON.stringify({ event } satisfies StoredEvent)),
    );
    dispatch(queued({ runId, events, kept: kept.every(Boolean) }));
    await dispatch(flush(runId));
  },
);

/** Tries again every few seconds and when the network comes back, and hears of what other tabs have kept or sent. */
export function watchOutbox(store: {
  getState(): Slice;
  dispatch(action: ReturnType<typeof flush> | ReturnType<typeof foundAgain>): unknown;
}): void {
  const all = () => Object.keys(store.getState().outbox.pending).forEach((runId) => store.dispatch(flush(runId)));
  window.addEventListener('online', all);
  window.addEventListener('storage', ({ key }) => {
    // With a full storage the page itself is all that has them.
    const { full } = store.getState().outbox;
    if (!full && (key === null || key.startsWith(PREFIX))) store.dispatch(foundAgain(load()));
  });
  setInterval(all, 2000);
  all();
}
