import { useState } from 'react';
import { useParams } from 'react-router';
import type { ChannelKind, LoopRow } from '@frustum/contract';
import { useProceduresQuery, useSensorQuery, useShelfQuery } from '../../../app/api.ts';
import { NotYet } from '../../../app/not-yet.tsx';
import { besides } from '../../../format/besides.ts';
import { dueWords } from '../../../format/dates.ts';
import { inFamily } from '../../../format/in-family.ts';
import { problemOf } from '../../../format/problem.ts';
import { Notice } from '../../../ui/notice.tsx';
import { choiceWords, isLikeLast, StartCard } from './start-card.tsx';
import { standardsOf } from './start-choice.ts';
import { StartConditions } from './start-conditions.tsx';
import { StartGates } from './start-gates.tsx';
import { Otherwise, STATES } from './start-otherwise.tsx';
import { useStart, type StartProps } from './use-start.ts';
import { provesWords } from './what-it-proves.ts';

const CHANNEL_WORDS: Record<ChannelKind, string> = {
  hand: 'typed by hand',
  modbus: 'live over Modbus TCP',
  'modbus-map': 'live over Modbus TCP',
  'http-json': 'live over HTTP',
  mqtt: 'live over MQTT',
};

export function Page() {
  const { sensorId = '' } = useParams();
  const { data, error } = useSensorQuery(sensorId);
  const { data: shelf, error: noShelf } = useShelfQuery();
  const { data: own, error: noneOwn } = useProceduresQuery();
  if (!data || !shelf || !own) return <NotYet what="Opening the bench" error={error ?? noShelf ?? noneOwn} />;
  return <Start view={data} shelf={shelf} own={own} />;
}

/** Which procedure, which standards from which bottles, judged how: what is usual is chosen already. */
function Start(props: StartProps) {
  const { view, shelf } = props;
  const { row, runs, nowMs } = view;
  const at = useStart(props);
  const { offer, choice, change, gates, conditions, trouble, error } = at;
  const [changing, setChanging] = useState(false);
  const standards = standardsOf(choice, shelf.standards);
  const names = standards.map((standard) => standard.name);
  const proves = provesWords(view, standards);
  const state = STATES.find(([value]) => value === choice.sensorState)![1];
  const words = [
    ...choiceWords(row, choice, shelf, at.today),
    ...(choice.sensorState === 'in-use' ? [] : [`the sensor is ${state}`]),
    ...(proves && !trouble ? [proves] : []),
  ];
  return (
    <main className="px-4 lg:px-7 py-5 max-w-3xl w-full">
      <Whose row={row} nowMs={nowMs} />
      <StartCard
        title={isLikeLast(runs, names) ? 'As last time' : 'As usual here'}
        offer={offer}
        words={words}
        changing={changing}
        onChanging={() => setChanging(!changing)}
        start={at.startWords}
        blocked={at.blocked}
        onStart={at.go}
      >
        <StartConditions conditions={conditions} choice={choice} onChange={(typed) => change({ conditions: typed })} />
        <StartGates gates={gates} because={choice.because} onChange={(because) => change({ because })} />
        {trouble && (
          <div className="mt-4">
            <Notice kind="trouble" role="status">
              {trouble}
            </Notice>
          </div>
        )}
        {error && (
          <div className="mt-4">
            <Notice kind="trouble" role="alert">
              {problemOf(error).detail}
            </Notice>
          </div>
        )}
      </StartCard>
      {row.controls && choice.procedure !== 'sample' && choice.procedure !== 'thermometers' && (
        <div className="mt-4">
          <Notice kind="care">
            This loop controls {row.controls}. The first step puts it on hold; the last one releases it.
          </Notice>
        </div>
      )}
      {(changing || trouble) && <Otherwise at={at} row={row} shelf={shelf} />}
    </main>
  );
}

/** The loop, its sensor, where it works and when it is due. */
function Whose({ row, nowMs }: { row: LoopRow; nowMs: number }) {
  const due = dueWords(row.due.atMs, nowMs, row.timeZone);
  const figures = inFamily(row);
  return (
    <>
      <h1>{row.loopName} to the bench</h1>
      <p className="sub mt-1">
        {besides(row.place, `${row.sensorName} ${row.serial}`, 'works at')}{' '}
        <span className="fig">
          {figures.value(row.workingValue)} {figures.unit} ±{figures.size(row.tolerance)}
        </span>{' '}
        · {due.main}
        {` · ${CHANNEL_WORDS[row.channel.kind]}`}
      </p>
    </>
  );
}
