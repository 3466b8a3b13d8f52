import { useMemo } from 'react';
import { Link, Navigate, useNavigate, useParams } from 'react-router';
import { forecastsHeld, MS_PER_DAY, type Family, type ForecastsHeld, type Margin } from '@frustum/core';
import type { ConeView, DrawnRow, LoopRow, RunRow, SensorView } from '@frustum/contract';
import ConeChart from '../../charts/cone-chart.tsx';
import { useSensorQuery } from '../../app/api.ts';
import { useKeys, type Keys } from '../../app/keys.ts';
import { NotYet } from '../../app/not-yet.tsx';
import { dayOf, dueWords } from '../../format/dates.ts';
import { problemOf } from '../../format/problem.ts';
import { coneAsWritten } from '../../format/as-written.ts';
import { inFamily, type InFamily } from '../../format/in-family.ts';
import { fixed } from '../../format/numbers.ts';
import { Notice } from '../../ui/notice.tsx';
import { SaveFigure, type FigureTable } from '../../ui/save-figure.tsx';
import { StateWord } from '../../ui/state-word.tsx';
import { Fact } from '../../ui/fact.tsx';
import { ChannelSection } from './channel-section.tsx';
import { CompareSection } from './compare-section.tsx';
import { ControlSection } from './control-section.tsx';
import { DosesSection } from './doses-section.tsx';
import { HealthSection } from './health-section.tsx';
import { LookBackSection } from './look-back-section.tsx';
import { ParametersSection } from './parameters-section.tsx';
import { NoticesSection } from './notices-section.tsx';
import { ReadingsSection } from './readings-section.tsx';
import { ScheduleSection } from './schedule-section.tsx';
import { Runs } from './runs-section.tsx';
import { ServiceSection } from './service-section.tsx';
import { besides } from '../../format/besides.ts';
import { chanceWords, restsOnWords } from '../../format/rests-on.ts';

export function Page() {
  const { sensorId = '' } = useParams();
  const { data, error } = useSensorQuery(sensorId);
  // On the shelf, out of use, or at an archived loop: what it has been through can still be read.
  if (error && problemOf(error).code === 'sensor-unknown') return <Navigate to={`/sensors/${sensorId}/life`} replace />;
  return data ? <Sensor view={data} /> : <NotYet what="Reading the sensor" error={error} />;
}

/** What has this probe been through, and how far can it be trusted? */
function Sensor({ view }: { view: SensorView }) {
  const { row, runs, nowMs } = view;
  const { margin } = row;
  const figures = inFamily(row);
  const { family, unit } = figures;
  const due = dueWords(row.due.atMs, nowMs, row.timeZone);
  const forecast = dueWords(row.forecast.atMs, nowMs, row.timeZone);
  const navigate = useNavigate();
  const bench = row.openRunId ? `/bench/${row.openRunId}` : `/bench/start/${row.sensorId}`;
  const keys = useMemo((): Keys => ({ b: ['Bench for this sensor', () => void navigate(bench)] }), [navigate, bench]);
  useKeys(keys);
  const fromMs = Math.min(...row.cone.segments.map((s) => s.fromMs), nowMs - 30 * MS_PER_DAY) - 5 * MS_PER_DAY;
  const toMs = Math.max(nowMs + 45 * MS_PER_DAY, (row.due.atMs ?? 0) + 10 * MS_PER_DAY);
  return (
    <main className="px-4 lg:px-7 py-5 w-full max-w-[1400px] mx-auto">
      <Title row={row} bench={bench} />
      <ToReplace row={row} runs={runs} />
      <Facts margin={margin} figures={figures} row={row} unit={unit} due={due} forecast={forecast} family={family} />
      {row.restsOn && (
        <div className="my-4">
          <Notice kind={margin.state === 'inside' ? 'plain' : 'care'}>{restsOnWords(row.restsOn, figures)}</Notice>
        </div>
      )}
      <NoticesSection key={`notices of ${row.loopId}`} row={row} />
      {row.cone.segments.length ? (
        <ErrorOverTime
          figures={figures}
          row={row}
          unit={unit}
          nowMs={nowMs}
          margin={margin}
          fromMs={fromMs}
          toMs={toMs}
          view={view}
        />
      ) : (
        <Notice kind="plain">No run yet. A first calibration opens its cone.</Notice>
      )}
      <HealthSection view={view} />
      <ParametersSection view={view} />
      <ControlSection view={view} />
      <CompareSection view={view} />
      <LookBackSection lookBacks={view.lookBacks} row={row} />
      <DosesSection key={`doses of ${row.loopId}`} row={row} />
      <ReadingsSection row={row} lookBacks={view.lookBacks} />
      <ScheduleSection key={row.sensorId} row={row} />
      <ChannelSection row={row} conditions={view.conditions} />
      <Runs runs={runs} figures={figures} />
      <ServiceSection view={view} />
    </main>
  );
}

function Title({ row, bench }: { row: DrawnRow; bench: string }) {
  return (
    <div className="flex items-start gap-4 flex-wrap">
      <div className="min-w-0">
        <h1>{row.loopName}</h1>
        <p className="sub">
          {besides(
            [row.siteName, row.place].filter(Boolean).join(', '),
            `${row.sensorName} ${row.serial}`,
            `fitted ${dayOf(row.fittedOn)}`,
          )}{' '}
          ·{' '}
          <Link className="underline" to={`/sensors/${row.sensorId}/life`}>
            Its life
          </Link>
        </p>
      </div>
      <Link className="btn btn-primary h-14 text-lg ml-auto" to={bench}>
        {row.openRunId ? 'Go on with the run' : 'To the bench'}{' '}
        <kbd aria-hidden="true" className="key max-lg:hidden text-primary-content border-primary-content/50">
          b
        </kbd>
      </Link>
    </div>
  );
}

/** A verdict that has not been carried out: it stays until another sensor is fitted here. */
function ToReplace({ row, runs }: { row: LoopRow; runs: readonly RunRow[] }) {
  if (runs.find((r) => r.outcome !== null)?.outcome?.action !== 'replace') return null;
  return (
    <div className="my-4">
      <Notice kind="care">
        The last run decided that this sensor is replaced.{' '}
        <Link className="btn btn-sm h-11 ml-2" to={`/set-up/fit/${row.loopId}`}>
          Replace it
        </Link>
      </Notice>
    </div>
  );
}

function Facts({
  margin,
  figures,
  row,
  unit,
  due,
  forecast,
  family,
}: {
  margin: Margin;
  figures: InFamily;
  row: DrawnRow;
  unit: string;
  due: { readonly main: string; readonly day: string; readonly overdue: boolean };
  forecast: { readonly main: string; readonly day: string; readonly overdue: boolean };
  family: Family;
}) {
  return (
    <dl className="flex flex-wrap gap-x-10 gap-y-3 my-5">
      <Fact name="State">
        <StateWord state={margin.state} />
      </Fact>
      <Fact name={`Off now at ${figures.value(row.workingValue)} ${unit}`}>
        <span className="fig text-xl">
          {margin.error === null ? '–' : `${figures.off(margin.error)} ±${figures.size(margin.expanded)}`}
        </span>
      </Fact>
      <Fact name="Tolerance">
        <span className="fig text-xl">±{figures.size(row.tolerance)}</span>
      </Fact>
      <Fact name="Outside, chance now">
        <span className="fig text-xl">
          {margin.chanceOutside === null
            ? '–'
            : margin.chanceOutside < 0.001
              ? '< 0.1 %'
              : `${fixed(100 * margin.chanceOutside, 1)} %`}
        </span>
      </Fact>
      <Fact name="Next run">
        <b className="text-lg font-semibold">{due.main}</b>{' '}
        <span className="sub">{[due.day, row.due.reason].filter(Boolean).join(', ')}</span>
      </Fact>
      {row.forecast.atMs !== null && row.forecast.atMs !== row.due.atMs && (
        <Fact name="By the forecast">
          <b className="text-lg font-semibold">{forecast.main}</b>{' '}
          <span className="sub">{[forecast.day, row.forecast.reason].filter(Boolean).join(', ')}</span>
        </Fact>
      )}
      <Fact name={`In force: ${family.zero.name}, ${family.sensitivity.name}`}>
        <span className="fig text-xl">{row.inForceKnown ? figures.coefficients(row.inForce) : 'not known'}</span>
      </Fact>
    </dl>
  );
}

function ErrorOverTime({
  figures,
  row,
  unit,
  nowMs,
  margin,
  fromMs,
  toMs,
  view,
}: {
  figures: InFamily;
  row: DrawnRow;
  unit: string;
  nowMs: number;
  margin: Margin;
  fromMs: number;
  toMs: number;
  view: SensorView;
}) {
  const cone = coneAsWritten(row.cone, figures);
  return (
    <section aria-label="Error over time" className="border-t border-base-300 pt-4">
      <h2>
        Error shown at {figures.value(row.workingValue)} {unit}, over time
      </h2>
      <SaveFigure name={`${row.loopName}, error over time`} table={() => coneTable(cone, unit)}>
        <ConeChart
          variant="full"
          cone={cone}
          tolerance={figures.written.size(row.tolerance)}
          nowMs={nowMs}
          dueMs={row.due.atMs}
          state={margin.state}
          fromMs={fromMs}
          toMs={toMs}
          digits={figures.digits}
          shaded={view.lookBacks}
          label={`Error of ${row.loopName} from ${dayOf(fromMs)} to ${dayOf(toMs)}: now ${figures.off(margin.error)} plus or minus ${figures.size(margin.expanded)} ${unit}, tolerance ${figures.size(row.tolerance)}`}
        />
      </SaveFigure>
      <p className="sub text-sm">
        Rails are the tolerance; the dark band holds the error half of the time, the light one 95 %. Full dot:
        calibration. Open dot: verification.{view.lookBacks.length > 0 && ' Shaded: probably outside.'}
        {cone.apart && ` ${apartWords(cone.apart)}`}
        {row.beside && row.beside.times > 0 && ` ${besideWords(row.beside)}`}
        {heldWords(forecastsHeld(view.past))}
      </p>
    </section>
  );
}

/** Two places in which the error may be. */
const apartWords = (apart: NonNullable<ConeView['apart']>) =>
  `It is in one of ${apart.length === 2 ? 'two' : apart.length} places since the last run, the likelier the darker: ${apart.map(({ name, chance }) => `${name ?? 'as the runs say'}, ${chanceWords(chance)}`).join('; ')}.`;

/** Past forecasts, scored. */
const heldWords = ({ held, of }: ForecastsHeld) =>
  of === 0
    ? ''
    : ` ${held === of ? (of === 1 ? 'Its forecast held' : `All ${of} forecasts held`) : `${held} of ${of} forecasts held`}: the next run found it inside what was forecast for 95 %.`;

/** "A, B and C" */
const LIST = new Intl.ListFormat('en-GB');

const besideWords = ({ loops, times }: NonNullable<LoopRow['beside']>) =>
  `Between its runs it was held ${times === 1 ? 'once' : `${times} times`} beside ${LIST.format(loops)} in the same water: each time it is known a little better.`;

/** The cone and what was found, as figures. */
const coneTable = (cone: ConeView, unit: string): FigureTable => ({
  heading: ['time', 'what', `error, ${unit}`, `half of the 50 % band, ${unit}`, `half of the 95 % band, ${unit}`],
  rows: [
    ...cone.segments.flatMap((s) =>
      s.points.map(([ms, mean, half50, half95]) => [new Date(ms).toISOString(), 'expected', mean, half50, half95]),
    ),
    ...(cone.apart ?? []).flatMap(({ name, chance, points }) =>
      points.map(([ms, mean, half95]) => [
        new Date(ms).toISOString(),
        `${name ?? 'as the runs say'}, ${chanceWords(chance)}`,
        mean,
        null,
        half95,
      ]),
    ),
    ...cone.marks.map((m) => [new Date(m.atMs).toISOString(), `found by ${m.kind}`, m.error, null, 1.96 * m.sd]),
  ],
});
