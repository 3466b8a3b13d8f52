import { expose } from 'comlink';
import { render, screen, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { useState } from 'react';
import { Provider } from 'react-redux';
import { MemoryRouter } from 'react-router';
import { act } from 'react';
import { vi } from 'vitest';
import { apply, replay, type LiveTraceSample, type RunEvent, type RunPlan, type RunState } from '@frustum/core';
import type { LiveTrace } from '../features/bench/use-live-trace.ts';
import type { BenchRun, Body } from '../features/bench/use-run.ts';
import { judge } from '../workers/settling-judge.ts';

/** A worker that is none: its judge sits on the other end of a channel, in the same thread. */
class WorkerOnThisThread {
  constructor() {
    const { port1, port2 } = new MessageChannel();
    expose(judge, port1);
    port1.start();
    port2.start();
    return Object.assign(port2, { terminate: () => (port1.close(), port2.close()) });
  }
}

export type { Body };

/** What the server answers to a path, by its beginning; nothing else is there. */
type Answers = Readonly<Record<string, unknown>>;
const asked: { path: string; body: unknown }[] = [];

/** Everything that went out to the server since the page was drawn. */
export const sentOut = (): readonly { path: string; body: unknown }[] => asked;

/** Makes the browser around the components: no wire, no worker of its own. */
export function aBrowser(answers: Answers): void {
  asked.length = 0;
  vi.stubGlobal('Worker', WorkerOnThisThread);
  vi.stubGlobal('fetch', async (request: Request) => {
    const path = new URL(request.url).pathname;
    if (request.method !== 'GET') asked.push({ path, body: JSON.parse(await request.text()) as unknown });
    const found = Object.entries(answers).find(([start]) => path.startsWith(start));
    return Response.json(found?.[1] ?? { detail: 'not here' }, { status: found ? 200 : 404 });
  });
}

/** Draws a page with a store and a router around it. */
export async function draws(element: React.ReactElement, at = '/'): Promise<ReturnType<typeof userEvent.setup>> {
  const { store } = await import('../app/store.ts');
  const { api } = await import('../app/api.ts');
  store.dispatch(api.util.resetApiState());
  render(
    <Provider store={store}>
      <MemoryRouter initialEntries={[at]}>{element}</MemoryRouter>
    </Provider>,
  );
  return userEvent.setup();
}

/** A run on a bench without a server: what is sent is in force at once. */
export class OnTheBench {
  readonly sent: Body[] = [];
  user!: ReturnType<typeof userEvent.setup>;
  private readonly events: RunEvent[];
  private trace: LiveTrace = { samples: [], epoch: '', state: 'off', message: '' };
  private redraw: () => void = () => undefined;

  constructor(plan: RunPlan, before: readonly Body[] = []) {
    this.events = [];
    for (const body of [{ type: 'started' as const, plan }, ...before]) this.add(body);
  }

  /** Something happened in it, before it is shown. */
  goesOn(body: Body): void {
    this.add(body);
  }

  private add(body: RunEvent['body']): void {
    const seq = this.events.length + 1;
    const at = new Date(Date.UTC(2026, 10, 30, 9, 0, seq)).toISOString();
    const event: RunEvent = { seq, device: 'a-device', counter: seq, at, by: 'Operator A', body };
    if (seq > 1) apply(replay(this.events), event);
    this.events.push(event);
  }

  get state(): RunState {
    return replay(this.events);
  }

  private run(): BenchRun {
    const { state } = this;
    return {
      view: {
        runId: 'r',
        sensorId: 's',
        loopId: 'l',
        channelId: 'c',
        events: [...this.events],
        hands: false,
        staleSeconds: 15,
      },
      state,
      send: (...bodies) => {
        for (const body of bodies) {
          this.sent.push(body);
          this.add(body);
        }
        this.redraw();
      },
      prepare: (body) => ({ device: 'a-device', counter: 1, at: state.startedAt, onSeq: state.seq, body }),
    };
  }

  /** The panel of the step that is on, with what the run says so far. */
  async opens(answers: Answers = {}): Promise<this> {
    aBrowser({ '/api/shelf': { standards: [], lots: [] }, ...answers });
    const { RunNow } = await import('../features/bench/run-now.tsx');
    const { FoundSoFar } = await import('../features/bench/found-so-far.tsx');
    const Panel = () => {
      const [, set] = useState(0);
      this.redraw = () => set((n) => n + 1);
      const run = this.run();
      return (
        <>
          <section aria-label="Now">
            <RunNow run={run} trace={this.trace} />
          </section>
          <FoundSoFar state={run.state} />
        </>
      );
    };
    this.user = await draws(<Panel />);
    return this;
  }

  /** The channel goes on by these samples. */
  hears(samples: readonly LiveTraceSample[]): void {
    this.trace = { samples: [...this.trace.samples, ...samples], epoch: 'e', state: 'live', message: '' };
    act(() => this.redraw());
  }

  get now() {
    return within(screen.getByRole('region', { name: 'Now' }));
  }

  async presses(name: RegExp | string): Promise<void> {
    await this.user.click(this.now.getByRole('button', { name }));
  }

  async types(label: string, text: string): Promise<void> {
    const field = this.now.getByLabelText(label);
    await this.user.clear(field);
    if (text) await this.user.type(field, text);
  }

  /** The last event that was sent. */
  get last(): Body {
    return this.sent.at(-1)!;
  }
}
