import { configureStore } from '@reduxjs/toolkit';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { OutgoingEvent } from '@frustum/contract';

/** A browser's storage, as far as the outbox uses it. */
function memoryStorage(): Pick<Storage, 'getItem' | 'setItem' | 'removeItem' | 'key' | 'length'> {
  const kept = new Map<string, string>();
  return {
    getItem: (key) => kept.get(key) ?? null,
    setItem: (key, value) => void kept.set(key, value),
    removeItem: (key) => void kept.delete(key),
    key: (i) => [...kept.keys()][i] ?? null,
    get length() {
      return kept.size;
    },
  };
}
const places = () =>
  Array.from({ length: localStorage.length }, (_, i) => localStorage.key(i)!).filter((k) =>
    k.startsWith('frustum.waits/'),
  );

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
  const { outboxReducer, record, flush, sendAgain, drop } = await import('./outbox.ts');
  const { api } = await import('./api.ts');
  const store = configureStore({
    reducer: { outbox: outboxReducer, [api.reducerPath]: api.reducer },
    middleware: (standard) => standard().concat(api.middleware),
  });
  return {
    store,
    record,
    flush,
    sendAgain,
    drop,
    pending: () => store.getState().outbox.pending[RUN] ?? [],
    refused: () => store.getState().outbox.refused[RUN] ?? [],
  };
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
    expect(JSON.parse(localStorage.getItem(places()[0]!)!)).toEqual({ event: note(1) });
    await done;
    expect(pending()).toEqual([]);
    expect(places()).toEqual([]);
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

  it.each([401, 403, 408, 429, 500, 503])(
    '%s is no refusal of what was done: it stays, and is sent again',
    async (status) => {
      const { store, record, flush, pending } = await outbox();
      answers = [json(status, { code: 'x', detail: 'x', status })];
      await store.dispatch(record({ runId: RUN, events: [note(1)] }));
      expect(pending()).toHaveLength(1);
      expect(store.getState().outbox).toMatchObject({ refused: {}, offline: true });
      answers = [acknowledged];
      await store.dispatch(flush(RUN));
      expect(pending()).toEqual([]);
    },
  );

  it.each([404, 409, 413, 422])('%s is shown with its sentence, kept here, and not sent for ever', async (status) => {
    const before = await outbox();
    answers = [json(status, { code: 'run-moved', detail: 'This run has moved on.', status })];
    await before.store.dispatch(before.record({ runId: RUN, events: [note(1)] }));
    expect(before.pending()).toEqual([]);
    expect(before.refused()).toMatchObject([{ event: note(1), problem: { detail: 'This run has moved on.' } }]);
    expect(sent).toHaveLength(1);
    // Also after a reload; then it is sent again, refused once more, and dropped by the person who has read it.
    vi.resetModules();
    const { store, refused, sendAgain, drop, pending } = await outbox();
    expect(refused()).toMatchObject([{ event: note(1) }]);
    answers = [json(status, { code: 'x', detail: 'Still not.', status })];
    await store.dispatch(sendAgain({ runId: RUN, event: note(1) }));
    expect(refused()).toMatchObject([{ event: note(1), problem: { detail: 'Still not.' } }]);
    answers = [acknowledged];
    await store.dispatch(sendAgain({ runId: RUN, event: note(1) }));
    expect([refused(), pending(), places()]).toEqual([[], [], []]);
    answers = [json(status, { code: 'x', detail: 'x', status })];
    await store.dispatch(before.record({ runId: RUN, events: [note(2)] }));
    await store.dispatch(drop({ runId: RUN, event: note(2) }));
    expect([refused(), pending(), places()]).toEqual([[], [], []]);
  });

  it('what was refused can be told in words instead, at its own time; without a network the note waits', async () => {
    const { store, record, pending, refused } = await outbox();
    const { tellInWords } = await import('./outbox.ts');
    const { deviceId } = await import('./device.ts');
    answers = [json(422, { code: 'x', detail: 'x', status: 422 }), () => Promise.reject(new TypeError('offline'))];
    const event = note(1);
    await store.dispatch(record({ runId: RUN, events: [event] }));
    await store.dispatch(tellInWords({ runId: RUN, event, text: 'It read 7.02.' }));
    const kept = { at: event.at, device: deviceId(), onSeq: null, body: { type: 'noted', text: 'It read 7.02.' } };
    expect([refused(), pending()]).toEqual([[], [expect.objectContaining(kept)]]);
    expect(places()).toHaveLength(1);
  });

  it('one that is refused among many is found by halves: the others arrive, in order', async () => {
    const { store, record, pending, refused } = await outbox();
    const events = Array.from({ length: 450 }, (_, i) => note(i + 1));
    const taken: number[] = [];
    // As the server does: all of a batch or nothing.
    vi.stubGlobal('fetch', async (request: Request) => {
      const batch = ((await request.json()) as { events: OutgoingEvent[] }).events.map((e) => e.counter);
      sent.push([]);
      if (batch.length > 200) throw new Error('more than the server takes at once');
      if (batch.includes(137)) return json(422, { code: 'x', detail: 'not this one', status: 422 })();
      taken.push(...batch);
      return acknowledged();
    });
    await store.dispatch(record({ runId: RUN, events }));
    expect(refused().map((r) => r.event.counter)).toEqual([137]);
    expect(taken).toEqual(events.map((e) => e.counter).filter((c) => c !== 137));
    expect(pending()).toEqual([]);
    expect(sent.length).toBeLessThan(40);
  });

  it('two tabs never overwrite each other, and a full device says that it keeps nothing', async () => {
    const one = await outbox();
    await one.store.dispatch(one.record({ runId: RUN, events: [note(1)] }));
    vi.resetModules();
    const other = await outbox();
    const second = { ...note(1), device: 'another-tab' };
    await other.store.dispatch(other.record({ runId: RUN, events: [second] }));
    await one.store.dispatch(one.record({ runId: RUN, events: [note(2)] }));
    expect(places()).toHaveLength(3);
    expect(one.store.getState().outbox.full).toBe(false);
    vi.spyOn(localStorage, 'setItem').mockImplementation(() => {
      throw new DOMException('The quota has been exceeded.', 'QuotaExceededError');
    });
    await one.store.dispatch(one.record({ runId: RUN, events: [note(3)] }));
    expect(one.store.getState().outbox.full).toBe(true);
    expect(one.pending().map((e) => e.counter)).toEqual([1, 2, 3]);
  });

  it('what an earlier version kept in one place is not lost', async () => {
    localStorage.setItem('frustum.outbox', JSON.stringify({ [RUN]: [note(4), note(5)] }));
    const { pending } = await outbox();
    expect(pending()).toEqual([note(4), note(5)]);
    expect(localStorage.getItem('frustum.outbox')).toBeNull();
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

  it('after a reload the queue is there again; the browser keeps its name, and each opening counts for itself', async () => {
    const before = await outbox();
    await before.store.dispatch(before.record({ runId: RUN, events: [note(1)] }));
    const { deviceId, nextCounter } = await import('./device.ts');
    const [browser, opening] = deviceId().split('.');
    expect([nextCounter(), nextCounter(), deviceId()]).toEqual([1, 2, `${browser}.${opening}`]);
    vi.resetModules();
    const after = await outbox();
    expect(after.pending()).toEqual([note(1)]);
    const again = (await import('./device.ts')).deviceId().split('.');
    expect(again[0]).toBe(browser);
    expect(again[1]).not.toBe(opening);
  });
});
