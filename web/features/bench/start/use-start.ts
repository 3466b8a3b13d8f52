import { useEffect, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { dayIn, pointsTrouble, poursStandards } from '@frustum/core';
import type { ProcedureRow, SensorView, ShelfView } from '@frustum/contract';
import { useStartRunMutation } from '../../../app/api.ts';
import { useKeys } from '../../../app/keys.ts';
import {
  boxesFor,
  conditionTrouble,
  firstChoice,
  offersFor,
  openGates,
  orderOf,
  standardsOf,
  type Choice,
} from './start-choice.ts';

/** The choices of a start, what stands against it, and the start itself. */
export function useStart({ view, shelf, own }: StartProps) {
  const { row, nowMs, leansOn } = view;
  const navigate = useNavigate();
  const [asked] = useSearchParams();
  // Where no box stands for what the channel gives, nothing can be plugged in.
  const offers = offersFor(row.family, own).filter((o) => o.kind !== 'electrical' || boxesFor(row).length > 0);
  const first = offers.find((o) => o.key === asked.get('procedure')) ?? offers[0]!;
  const [choice, setChoice] = useState<Choice>(() => firstChoice(row, first, shelf.standards));
  const [start, { isLoading, error }] = useStartRunMutation();
  const today = dayIn(row.timeZone, nowMs);
  const gates = openGates(row, choice, shelf, leansOn, nowMs);
  const trouble = poursStandards(choice.procedure)
    ? pointsTrouble(row, choice.procedure, standardsOf(choice, shelf.standards))
    : null;
  const conditions = choice.procedure === 'electrical' ? [] : view.conditions;
  const unread = conditions.some((c) => conditionTrouble(choice, c.name) !== null);
  const unanswered = gates.some((g) => !(choice.because[g.id] ?? '').trim());
  useEffect(() => {
    if (row.openRunId) void navigate(`/bench/${row.openRunId}`, { replace: true });
  }, [row.openRunId, navigate]);
  const go = async () => {
    const answer = await start(orderOf(row, choice, shelf.lots, gates, today));
    if (answer.data) void navigate(`/bench/${answer.data.runId}`, { replace: true });
  };
  const blocked = isLoading || unread || trouble !== null || unanswered;
  useKeys({ n: ['Start the run', () => (blocked ? undefined : void go())] });
  return {
    offers,
    offer: offers.find((o) => o.key === (choice.procedureId ?? choice.procedure)) ?? first,
    choice,
    setChoice,
    change: (part: Partial<Choice>) => setChoice({ ...choice, ...part }),
    today,
    gates,
    conditions,
    trouble,
    blocked,
    error,
    go: () => void go(),
    // What stands in the way first, and where it is mended.
    startWords: isLoading
      ? 'Starting …'
      : unread
        ? 'First mend the conditions, above'
        : trouble
          ? 'First pick other standards, below'
          : unanswered
            ? 'First say why, above'
            : 'Start the run',
  };
}
export type Starting = ReturnType<typeof useStart>;

export interface StartProps {
  readonly view: SensorView;
  readonly shelf: ShelfView;
  readonly own: readonly ProcedureRow[];
}
