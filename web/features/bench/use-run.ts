import { useEffect, useMemo } from 'react';
import { apply, Refusal, replay, type RunState } from '@frustum/core';
import type { OutgoingEvent, RunView } from '@frustum/contract';
import { useRunQuery } from '../../app/api.ts';
import { deviceId, nextCounter } from '../../app/device.ts';
import { flush, record } from '../../app/outbox.ts';
import { serverClock } from '../../app/server-clock.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';

export type Body = OutgoingEvent['body'];

export interface BenchRun {
  readonly view: RunView;
  /** what server and outbox together make of it */
  readonly state: RunState;
  /** records events, in order; the screen moves on at once */
  readonly send: (...bodies: Body[]) => void;
  /** one event for the server alone, not recorded here */
  readonly prepare: (body: Body) => OutgoingEvent;
}

const NONE: readonly OutgoingEvent[] = [];

/** A run as this device sees it: the server's events and, after them, those that still wait here. */
export function useRun(runId: string): { run: BenchRun | null; error: unknown } {
  const { data: view, error } = useRunQuery(runId);
  const pending = useAppSelector((s) => s.outbox.pending[runId]) ?? NONE;
  const person = useAppSelector((s) => s.settings.person);
  const dispatch = useAppDispatch();
  useEffect(() => {
    void dispatch(flush(runId));
  }, [dispatch, runId]);
  const run = useMemo((): BenchRun | null => {
    if (!view) return null;
    const state = stateOf(view, pending);
    const prepare = (body: Body, ahead = 0): OutgoingEvent => ({
      device: deviceId(),
      counter: nextCounter(),
      at: new Date(serverClock.now()).toISOString(),
      onSeq: state.seq + ahead,
      by: person,
      body,
    });
    return {
      view,
      state,
      prepare,
      send: (...bodies) => void dispatch(record({ runId, events: bodies.map((b, i) => prepare(b, i)) })),
    };
  }, [view, pending, person, dispatch, runId]);
  return { run, error };
}

/** Events that wait are put after the server's; one that no longer fits is left to the server to refuse. */
function stateOf(view: RunView, pending: readonly OutgoingEvent[]): RunState {
  const known = new Set(view.events.map((e) => `${e.device}/${e.counter}`));
  let state = replay(view.events);
  for (const { device, counter, at, body } of pending) {
    if (known.has(`${device}/${counter}`)) continue;
    try {
      state = apply(state, { seq: state.seq + 1, device, counter, at, by: '', body });
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
    }
  }
  return state;
}
