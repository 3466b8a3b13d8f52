import { configureStore } from '@reduxjs/toolkit';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { OutgoingEvent } from '@frustum/contract';

/** A browser's storage, as far as the outbox uses it. */
function memoryStorage(): Pick<Storage, 'getItem' | 'setItem'> {
  const kept = new Map<string, string>();
  return { getItem: (key) => kept.get(key) ?? null, setItem: (key, value) => void kept.set(key, value) };
}

const RUN = 'a-run';
const note = (counter: number): OutgoingEvent => ({
  device: 'this-very-phone',
  counter,
  at: '2026-11-23T09:00:00Z',
  onSeq: null,
  body: { type: 'noted', text: `note ${counter}` },
});

/** A server made of one function: what each request is answered with. */
let answers: (() => Promise<Response>)[] = [];
let sent: OutgoingEvent[][] = [];

beforeEach(() => {
  answers = [];
  sent = [];
  vi.resetModules();
  vi.stubGlobal('localStorage', memoryStorage());
  vi.stubGlobal('fetch', async (request: Request) => {
    sent.push(((await request.json()) as { events: OutgoingEvent[] }).events);
    const next = answers.shift();
    if (!next) throw new TypeError('no network');
    return next();
  });
  // fetchBaseQuery builds a Request, which needs a whole address here.
  vi.stubGlobal(
    'Request',
    class extends Request {
      constructor(input: string | URL | Request, init?: RequestInit) {
        super(typeof input === 'string' ? new URL(input, 'http://localhost') : input, init);
      }
    },
  );
});
afterEach(() => vi.unstubAllGlobals());

const json = (status: number, body: unknown) => async () =>
  new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } });
const acknowledged = json(200, { runId: RUN, events: [] });

async function outbox() {
  const { outboxReducer, record, flush } = await import('./outbox.ts');
  const { api } = await import('./api.ts');
  const store = configureStore({
    reducer: { outbox: outboxReducer, [api.reducerPath]: api.reducer },
    middleware: (standard) => standard().concat(api.middleware),
  });
  return { store, record, flush, pending: () => store.getState().outbox.pending[RUN] ?? [] };
}

describe('the outbox', () => {
  it('a second wish to send waits for the end of the first, so that a decision arrives before what follows from it', async () => {
    const { store, record, flush, pending } = await outbox();
    let reply = (_: Response) => {};
    answers = [() => new Promise<Response>((resolve) => (reply = resolve))];
    void store.dispatch(record({ runId: RUN, events: [note(1)] }));
    await vi.waitFor(() => expect(sent).toHaveLength(1));
    let over = false;
    const waits = store.dispatch(flush(RUN)).then(() => (over = true));
    expect(pending()).toEqual([note(1)]);
    expect(over).toBe(false);
    reply(await acknowledged());
    await waits;
    expect(pending()).toEqual([]);
    expect(sent).toHaveLength(1);
  });

  it('keeps an event on the device before it is sent, and lets go of it when it is acknowledged', async () => {
    const { store, record, pending } = await outbox();
    answers = [acknowledged];
    const done = store.dispatch(record({ runId: RUN, events: [note(1)] }));
    expect(pending()).toEqual([note(1)]);
    expect(JSON.parse(localStorage.getItem('frustum.outbox')!)).toEqual({ [RUN]: [note(1)] });
    await done;
    expect(pending()).toEqual([]);
    expect(store.getState().outbox).toMatchObject({ offline: false, refused: {} });
  });

  it('without a network keeps everything, in order, and sends it in one go when it is back', async () => {
    const { store, record, flush, pending } = await outbox();
    await store.dispatch(record({ runId: RUN, events: [note(1)] }));
    await store.dispatch(record({ runId: RUN, events: [note(2), note(3)] }));
    expect(store.getState().outbox.offline).toBe(true);
    expect(pending().map((e) => e.counter)).toEqual([1, 2, 3]);
    answers = [acknowledged];
    await store.dispatch(flush(RUN));
    expect(sent.at(-1)!.map((e) => e.counter)).toEqual([1, 2, 3]);
    expect(pending()).toEqual([]);
  });

  it('a server that fell over is no refusal: the event stays', async () => {
    const { store, record, pending } = await outbox();
    answers = [json(500, { code: 'crash', detail: 'x', status: 500 })];
    await store.dispatch(record({ runId: RUN, events: [note(1)] }));
    expect(pending()).toHaveLength(1);
    expect(store.getState().outbox.refused).toEqual({});
  });

  it('a refusal is shown with its sentence and not sent for ever', async () => {
    const { store, record, pending } = await outbox();
    answers = [json(409, { code: 'run-moved', detail: 'This run has moved on.', status: 409 })];
    await store.dispatch(record({ runId: RUN, events: [note(1)] }));
    expect(pending()).toEqual([]);
    expect(store.getState().outbox.refused[RUN]).toMatchObject({ detail: 'This run has moved on.' });
    expect(sent).toHaveLength(1);
  });

  it('what is queued while a request is under way follows it, once', async () => {
    const { store, record, pending } = await outbox();
    let release: (response: Response) => void = () => undefined;
    answers = [() => new Promise<Response>((resolve) => (release = resolve)), acknowledged];
    const first = store.dispatch(record({ runId: RUN, events: [note(1)] }));
    await vi.waitFor(() => expect(sent).toHaveLength(1));
    const second = store.dispatch(record({ runId: RUN, events: [note(2)] }));
    release(await acknowledged());
    await Promise.all([first, second]);
    expect(sent.map((batch) => batch.map((e) => e.counter))).toEqual([[1], [2]]);
    expect(pending()).toEqual([]);
  });

  it('after a reload the queue is there again, and the device keeps its name and its count', async () => {
    const before = await outbox();
    await before.store.dispatch(before.record({ runId: RUN, events: [note(1)] }));
    const { deviceId, nextCounter } = await import('./outbox.ts');
    const name = deviceId();
    expect([nextCounter(), nextCounter()]).toEqual([1, 2]);
    vi.resetModules();
    const after = await outbox();
    expect(after.pending()).toEqual([note(1)]);
    const again = await import('./outbox.ts');
    expect([again.deviceId(), again.nextCounter()]).toEqual([name, 3]);
  });
});
