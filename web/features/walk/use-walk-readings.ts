import { useCallback, useEffect, useState } from 'react';
import type { NewWalkReading, Problem } from '@frustum/contract';
import { api, useKeepWalkReadingMutation } from '../../app/api.ts';
import { useAppDispatch } from '../../app/store.ts';
import { keepItem, newId } from '../../app/device.ts';
import { problemOf } from '../../format/problem.ts';

/** A figure that was typed here and that the server has not taken yet. */
export interface Waiting {
  readonly body: NewWalkReading;
  /** it was sent once, and nobody answered */
  readonly tried: boolean;
}
interface Refused {
  readonly body: NewWalkReading;
  readonly problem: Problem;
}

const keyOf = (walkId: string) => `frustum.walk.${walkId}`;
const AGAIN_MS = 4000;

/** What waits here survives a closed tab: it is sent when the page is open again. */
function keptHere(walkId: string): Waiting[] {
  try {
    return (JSON.parse(localStorage.getItem(keyOf(walkId)) ?? '[]') as NewWalkReading[]).map((body) => ({
      body,
      tried: true,
    }));
  } catch {
    return [];
  }
}

/** Readings of a walk on their way to the server, in order, one after the other. */
export function useWalkReadings(walkId: string) {
  const [waiting, setWaiting] = useState<readonly Waiting[]>(() => keptHere(walkId));
  const [refused, setRefused] = useState<readonly Refused[]>([]);
  const dispatch = useAppDispatch();
  const [send] = useKeepWalkReadingMutation();
  const [busy, setBusy] = useState(false);
  useEffect(() => {
    if (waiting.length) keepItem(keyOf(walkId), JSON.stringify(waiting.map((w) => w.body)));
    else localStorage.removeItem(keyOf(walkId));
  }, [walkId, waiting]);
  const first = waiting[0];
  const sendFirst = useCallback(async () => {
    if (!first) return;
    setBusy(true);
    const { body } = first;
    const answer = await send({ walkId, body });
    const problem = answer.error === undefined ? null : problemOf(answer.error);
    const isOut = problem?.code === 'no-answer';
    // It is read there before it waits here no more: no display is unread in between.
    if (answer.data) await dispatch(api.util.upsertQueryData('walk', undefined, answer.data));
    setWaiting((list) => (isOut ? list.map((w) => (w.body.id === body.id ? { ...w, tried: true } : w)) : list.filter((w) => w.body.id !== body.id))); // prettier-ignore
    if (problem && !isOut) setRefused((list) => [...list.filter((r) => r.body.id !== body.id), { body, problem }]);
    setBusy(false);
  }, [first, send, dispatch, walkId]);
  useEffect(() => {
    if (!first || busy) return;
    const timer = setTimeout(() => void sendFirst(), first.tried ? AGAIN_MS : 0);
    return () => clearTimeout(timer);
  }, [first, busy, sendFirst]);
  const keep = (asked: Omit<NewWalkReading, 'id'>) =>
    setWaiting((list) => {
      // A figure under way arrives before this one. A figure that was typed over before it went out is not sent at all.
      const underWay = list[0]?.body.loopId === asked.loopId ? list[0].body.id : null;
      const others = list.filter((w) => w.body.loopId !== asked.loopId || w === list[0]);
      return [...others, { body: { ...asked, id: newId(), replaces: underWay ?? asked.replaces }, tried: false }];
    });
  const drop = (id: string) => setRefused((list) => list.filter((r) => r.body.id !== id));
  const replace = (body: NewWalkReading, replaces: string) => {
    drop(body.id);
    keep({ ...body, replaces });
  };
  return { waiting, refused, keep, drop, replace };
}
