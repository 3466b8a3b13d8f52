import { apply, replay, type RunEvent, type RunEventBody, type RunState } from '@frustum/core';

/** The events of a run in the order of the bench, each some seconds after the one before. */
export class RunKept {
  readonly events: RunEvent[] = [];
  private readonly by: string;
  private clockMs: number;
  private state: RunState | null = null;

  constructor({ by, startedAt }: { readonly by: string; readonly startedAt: string }) {
    this.by = by;
    this.clockMs = Date.parse(startedAt);
  }

  add(body: RunEventBody, seconds = 20): RunState {
    this.clockMs += seconds * 1000;
    const seq = this.events.length + 1;
    const at = new Date(this.clockMs).toISOString();
    const event: RunEvent = { seq, device: 'import', counter: seq, at, by: this.by, body };
    this.events.push(event);
    this.state = this.state ? apply(this.state, event) : replay(this.events);
    return this.state;
  }
}
