import { useMemo } from 'react';
import { planBench, planOnPaper, type RunPlan, type Standard } from '@frustum/core';
import type { LoopRow } from '@frustum/contract';
import { upper } from '../../../format/in-family.ts';
import { about, clock } from '../../../format/numbers.ts';
import { MAX_CUPS, MAX_PER_CUP, placesOf, type Room } from './kept-room.ts';
import { standardsOf, type Choice } from '../start/start-choice.ts';

type Bench = ReturnType<typeof planBench>;

const counts = (most: number) => Array.from({ length: most }, (_, i) => i + 1);

/** Which cups are poured, how much room is in them, and what that makes of the bench: every movement, and the time that it saves. */
export function Cups({
  planned,
  standards,
  room,
  onRoom,
}: {
  planned: readonly { readonly row: LoopRow; readonly choice: Choice }[];
  standards: readonly Standard[];
  room: Room;
  onRoom: (room: Room) => void;
}) {
  const plans = useMemo(
    () => Object.fromEntries(planned.map(({ row, choice }) => [row.sensorId, onPaper(row, choice, standards)])),
    [planned, standards],
  );
  const { movements, seconds, oneByOneSeconds } = useMemo(() => planBench(plans, placesOf(room)), [plans, room]);
  const ids = [...new Set(planned.flatMap((p) => p.choice.points))];
  const cups = standards.filter((s) => ids.includes(s.id) && s.nominal !== 0);
  const saved = oneByOneSeconds - seconds;
  return (
    <section aria-label="Cups" className="mt-5">
      <h2>Cups</h2>
      <div className="flex flex-wrap gap-x-6 gap-y-2 mt-2">
        <Count
          label="A cup takes"
          words={(n) => (n === 1 ? '1 probe' : `${n} probes`)}
          most={MAX_PER_CUP}
          value={room.perCup}
          onChange={(perCup) => onRoom({ ...room, perCup })}
        />
        {cups.map(({ id, name }) => (
          <Count
            key={id}
            label={`Cups of ${name}`}
            words={String}
            most={MAX_CUPS}
            value={room.cups[id] ?? 1}
            onChange={(n) => onRoom({ ...room, cups: { ...room.cups, [id]: n } })}
          />
        ))}
      </div>
      {room.perCup > 1 && planned.length > 1 && (
        <p className="sub text-sm mt-2 max-w-prose">
          Inputs that are not isolated from each other disturb each other in one cup: if a reading moves when the next
          probe goes in, let a cup take one.
        </p>
      )}
      <p className="mt-3 text-lg" data-testid="bench-time">
        {upper(about(seconds))}
        {saved > 0 && `; ${about(saved)} less than one after the other`}.
      </p>
      <WhatHandsWillDo movements={movements} plans={plans} />
    </section>
  );
}

function WhatHandsWillDo({
  movements,
  plans,
}: {
  movements: Bench['movements'];
  plans: Readonly<Record<string, RunPlan>>;
}) {
  return (
    <details className="mt-1">
      <summary className="min-h-12 flex items-center cursor-pointer underline">What hands will do, in order</summary>
      <ol className="mt-1">
        {movements.map(({ runId, stepId, kind, title, atSeconds }) => (
          <li key={`${runId}/${stepId}/${kind}`} className="flex gap-3 border-t border-base-300 py-1.5">
            <span className="fig sub w-14 shrink-0 text-right">{clock(atSeconds)}</span>
            <span>
              <b className="font-[650]">{plans[runId]!.loopName}</b>: {title}
            </span>
          </li>
        ))}
      </ol>
    </details>
  );
}

function onPaper(row: LoopRow, choice: Choice, standards: readonly Standard[]): RunPlan {
  const { loopName, family, settings, controls, workingValue, workingC, tolerance } = row;
  const channelKind = row.channel.kind === 'hand' ? ('hand' as const) : ('wired' as const);
  const of = { loopName, family, settings, controls, workingValue, workingC, tolerance, channelKind };
  return planOnPaper(of, standardsOf(choice, standards));
}

function Count(props: {
  label: string;
  words: (n: number) => string;
  most: number;
  value: number;
  onChange: (value: number) => void;
}) {
  const { label, words, most, value, onChange } = props;
  return (
    <label className="sub text-sm">
      {label}
      <select
        className="select h-14 w-auto min-w-28 flex text-base text-base-content"
        value={value}
        onChange={(e) => onChange(Number(e.target.value))}
      >
        {counts(most).map((n) => (
          <option key={n} value={n}>
            {words(n)}
          </option>
        ))}
      </select>
    </label>
  );
}
