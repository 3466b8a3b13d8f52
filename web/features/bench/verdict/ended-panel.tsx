import { Link } from 'react-router';
import {
  afterRefusal,
  expandedOf,
  MS_PER_DAY,
  outcomeOf,
  spanOf,
  statementWords,
  writtenOfPlan,
  type RunOutcome,
  type RunState,
} from '@frustum/core';
import ConeChart from '../../../charts/cone-chart.tsx';
import { useSensorQuery } from '../../../app/api.ts';
import { dueWords, timeOf } from '../../../format/dates.ts';
import { inFamily, lower, upper, type InFamily } from '../../../format/in-family.ts';
import { StateWord } from '../../../ui/state-word.tsx';
import { KeptPhotos } from '../photo.tsx';
import { Notice } from '../../../ui/notice.tsx';
import { refusedWords } from './refused-form.tsx';
import { SpanRows } from './span-rows.tsx';
import { ACTIONS } from './verdict-panel.tsx';
import type { BenchRun } from '../use-run.ts';
import type { RunView, SensorView } from '@frustum/contract';

/** A run that is over: what it said, what it changed, when the next one is due. */
export function EndedPanel({ run }: { run: BenchRun }) {
  const { state, view } = run;
  // What was known before the run ended says nothing of it.
  const { data } = useSensorQuery(view.sensorId, { refetchOnMountOrArgChange: true });
  const outcome = state.status === 'closed' ? outcomeOf(state) : null;
  const figures = inFamily(state.plan);
  const electrical = outcome?.kind === 'electrical';
  const due = data ? dueWords(data.row.due.atMs, data.nowMs, data.row.timeZone) : null;
  return (
    <div>
      <h2 className="text-[27px] leading-tight">
        {state.status === 'closed' ? (outcome?.sentence ?? 'Closed.') : 'Abandoned.'}
      </h2>
      <p className="sub mt-1">
        {state.endedAt && timeOf(state.endedAt)}
        {state.plan.fromPaper && ', from paper'}
        {state.abandonedBecause && `: ${state.abandonedBecause}`}
      </p>
      {outcome && <Stated state={state} outcome={outcome} />}
      {state.refused && (
        <div className="mt-3">
          <Notice kind="trouble">
            <p>{refusedWords(run)}</p>
            <p className="mt-1 font-semibold">{afterRefusal(state)}</p>
          </Notice>
        </div>
      )}
      {electrical && <SpanRows span={spanOf(state)} />}
      {outcome && !electrical && <OutcomeTable state={state} figures={figures} outcome={outcome} />}
      {data && <NextDue data={data} due={due} />}
      <WhereNext view={view} replace={outcome?.action === 'replace'} />
      <a
        className="btn btn-outline border-base-300 h-14 text-lg w-full mt-2.5"
        href={`/api/runs/${view.runId}/record.pdf`}
        target="_blank"
        rel="noreferrer"
      >
        Record of this run (PDF)
      </a>
      <Repeat state={state} sensorId={view.sensorId} />
      <KeptPhotos photos={state.photos} />
      {state.skipped.map((s) => (
        <p key={s.stepId} className="sub text-[15px] mt-3">
          Passed over: {s.title}. {s.because}
        </p>
      ))}
      {state.notes.map((n) => (
        <p key={n.at} className="sub text-[15px] mt-3">
          Note, {timeOf(n.at)}: {n.text}
        </p>
      ))}
    </div>
  );
}

/** What was proven of the tolerance, and what was decided: two things. */
function Stated({ state, outcome: { statement } }: { state: RunState; outcome: RunOutcome }) {
  const decided = state.decisions.at(-1);
  return (
    <>
      {statement && (
        <p className="mt-1">
          As found: {lower(statementWords(statement, state.plan.tolerance, writtenOfPlan(state.plan)))}
        </p>
      )}
      {decided && (
        <p className="mt-1">
          Decided: <b>{ACTIONS[decided.action].toLowerCase()}</b>
          {decided.because && `, because: ${decided.because}`}
        </p>
      )}
    </>
  );
}

function OutcomeTable({ state, figures, outcome }: { state: RunState; figures: InFamily; outcome: RunOutcome }) {
  const { family, unit } = figures;
  return (
    <table className="w-full max-w-xl text-[17px] my-4">
      <tbody>
        <Figure
          name={`As found, off at ${state.plan.workingValue}`}
          value={`${figures.off(outcome.asFound.error)} ±${figures.size(expandedOf(outcome.asFound))} ${unit}`}
        />
        <Figure
          name={`As left, off at ${state.plan.workingValue}`}
          value={`${figures.off(outcome.asLeft.error)} ±${figures.size(expandedOf(outcome.asLeft))} ${unit}`}
        />
        <Figure
          name={`${upper(family.zero.name)} and ${family.sensitivity.name} found`}
          value={figures.coefficients(outcome.coefficients)}
        />
        {outcome.readBackShown !== null && <Figure name="Read back" value={readBackWords(outcome, figures)} />}
      </tbody>
    </table>
  );
}

/** What was read back, and whether it agrees with the calibration. */
function readBackWords({ readBack, readBackShown }: RunOutcome, figures: InFamily): string {
  const shown = `${figures.value(readBackShown)} ${figures.unit}`;
  if (!readBack) return shown;
  const agrees = Math.abs(readBack.en) <= 1;
  return `${shown}, should be ${figures.value(readBack.expected)}: ${agrees ? 'agrees' : 'does not agree'} (En ${Math.abs(readBack.en).toFixed(1)})`;
}

function NextDue({
  data,
  due,
}: {
  data: SensorView;
  due: { readonly main: string; readonly day: string; readonly overdue: boolean } | null;
}) {
  return (
    <>
      <div className="flex items-baseline gap-4 mt-5 mb-2 flex-wrap">
        <StateWord state={data.row.margin.state} />
        {due && (
          <span data-testid="next-due">
            Next run <b>{due.main}</b>
            {due.day && `, ${due.day}`} <span className="sub">({data.row.due.reason})</span>
          </span>
        )}
      </div>
      {data.row.cone.segments.length > 0 && (
        <ConeChart
          variant="strip"
          cone={data.row.cone}
          tolerance={data.row.tolerance}
          nowMs={data.nowMs}
          dueMs={data.row.due.atMs}
          state={data.row.margin.state}
          fromMs={data.nowMs - 120 * MS_PER_DAY}
          toMs={data.nowMs + 60 * MS_PER_DAY}
          label={`Cone of ${data.row.loopName}: ${data.row.margin.state}`}
        />
      )}
    </>
  );
}

/** Back to Margins, to the sensor, and the record; on to the spare that takes its place. */
function WhereNext({ view, replace }: { view: RunView; replace: boolean }) {
  return (
    <div className="flex gap-2.5 mt-6 flex-wrap">
      {replace && (
        <Link className="btn btn-primary h-14 text-lg flex-1" to={`/set-up/fit/${view.loopId}`}>
          Replace it
        </Link>
      )}
      <Link className={`btn h-14 text-lg flex-1 ${replace ? 'btn-outline border-base-300' : 'btn-primary'}`} to="/">
        Back to Margins
      </Link>
      <Link className="btn btn-outline border-base-300 h-14 text-lg flex-1" to={`/sensors/${view.sensorId}`}>
        See the sensor
      </Link>
    </div>
  );
}

/** The same run once more: same procedure, standards and school, as the start page offers them. */
function Repeat({ state, sensorId }: { state: BenchRun['state']; sensorId: string }) {
  const kind = state.plan.procedure?.kind ?? 'calibrate';
  return (
    <Link className="btn btn-ghost h-12 mt-1 font-normal text-base" to={`/bench/start/${sensorId}?procedure=${kind}`}>
      Repeat it
    </Link>
  );
}

function Figure({ name, value }: { name: string; value: string }) {
  return (
    <tr className="border-t border-base-300">
      <td className="py-2">{name}</td>
      <td className="fig text-right">{value}</td>
    </tr>
  );
}
