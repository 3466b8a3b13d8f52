import { byWallClock, figure, Refusal, serves, type Ended, type SensorId, type Standard } from '@frustum/core';
import { MAX_LOGBOOK_FAULTS, MAX_LOGBOOK_ROWS, type LogbookRun, type LogbookView } from '@frustum/contract';
import { decodeLogbook, logbookSheet, type LogbookColumn, type LogbookRow } from '@frustum/formats';
import type { Context } from '../../context.ts';
import { Slices } from '../../slices.ts';
import type { FittedLoop } from '../../store/commands/places.ts';
import type { RunRecord } from '../../store/commands/runs.ts';
import { inTurn } from '../runs/in-turn.ts';
import { paperRun, type PaperRun } from './paper-run.ts';

/** Runs of one sensor at once: each is judged by all before it. */
const MAX_RUNS_A_SENSOR = 500;

interface Read {
  readonly faults: { line: number; column: number; message: string }[];
  readonly made: ReturnType<typeof paperRun>[];
  readonly runs: LogbookRun[];
}

/** What a logbook would give, without keeping anything. */
export async function rehearseLogbook(context: Context, csv: string, gone: () => boolean): Promise<LogbookView> {
  const { faults, runs } = await readLogbook(context, csv, gone);
  return { faults: faults.slice(0, MAX_LOGBOOK_FAULTS), faultCount: faults.length, runs, kept: false };
}

/** Takes a logbook in: all of it, or nothing. One after the other: the same file sent twice at once counts once. */
export const takeLogbook = (context: Context, csv: string, gone: () => boolean): Promise<LogbookView> =>
  inTurn('logbook', () => taken(context, csv, gone));

async function taken(context: Context, csv: string, gone: () => boolean): Promise<LogbookView> {
  const { faults, made, runs } = await readLogbook(context, csv, gone);
  // Nothing to keep also where nobody waits any more.
  const kept = faults.length === 0 && made.length > 0;
  if (kept) {
    await context.store.importRuns(made);
    context.changed();
  }
  return { faults: faults.slice(0, MAX_LOGBOOK_FAULTS), faultCount: faults.length, runs, kept };
}

/** A sheet to fill in, with the usual standards of every sensor. */
export async function logbookTable({ store }: Context): Promise<string> {
  const [fitted, standards] = await Promise.all([store.readFittedLoops(), store.readStandards()]);
  const nameOf = (id: string) => standards.find((s) => s.id === id)?.name ?? id;
  return logbookSheet(
    fitted.flatMap(({ loop }) => loop.pointSet.map((id) => ({ sensor: loop.name, standard: nameOf(id) }))),
  );
}

async function readLogbook(context: Context, csv: string, gone: () => boolean): Promise<Read> {
  const { store, newId, now } = context;
  const { rows, faults: unread, columnOf } = decodeLogbook(csv, MAX_LOGBOOK_ROWS);
  const faults = [...unread];
  const wrong = ({ line }: LogbookRow, column: LogbookColumn, message: string) =>
    void faults.push({ line, column: columnOf(column), message });
  const [fitted, standards, sites, services] = await Promise.all([
    store.readFittedLoops(),
    store.readStandards(),
    store.readSetUp().then((s) => new Map(s.sites.map((site) => [site.id as string, site.timeZone]))),
    store.readAllServices(),
  ]);
  const papers = groupedRuns(rows, { fitted, standards, zoneOf: (siteId) => sites.get(siteId) ?? 'UTC', wrong });
  const made: Read['made'] = [];
  const runs: LogbookRun[] = [];
  const slices = new Slices();
  for (const { at, papers: mine } of papers) {
    const known = await store.readRunsOf(at.sensor.id);
    const fit = mine.filter((paper) => isPast(paper, at, known, now(), wrong));
    if (fit.length > MAX_RUNS_A_SENSOR) {
      wrong(fit[MAX_RUNS_A_SENSOR]!.lines[0]!.row, 'sensor', `${at.loop.name} has ${fit.length} runs; at most ${MAX_RUNS_A_SENSOR} of one sensor at once. Cut the file.`); // prettier-ignore
      continue;
    }
    const past = { finished: [] as Ended[], services: services.filter((s) => s.sensorId === at.sensor.id) };
    for (const paper of fit) {
      if (slices.isOver) {
        await slices.next();
        if (gone()) return { faults, made: [], runs: [] };
      }
      try {
        const { run, events } = paperRun(newId, at, paper, past);
        made.push({ run, events });
        if (run.endedAt && run.outcome) past.finished.push({ endedAt: run.endedAt, outcome: run.outcome });
        runs.push(rehearsed(at, paper, run));
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
        wrong(paper.lines[0]!.row, 'as found', error.message);
      }
    }
  }
  faults.sort((a, b) => a.line - b.line || a.column - b.column);
  return { faults, made, runs };
}

const rehearsed = ({ loop, sensor }: FittedLoop, { at, by, lines }: PaperRun, { outcome }: RunRecord): LogbookRun => ({
  line: lines[0]!.row.line,
  sensorId: sensor.id,
  loopName: loop.name,
  at,
  by,
  standards: lines.map((l) => l.standard?.name ?? 'sample'),
  error: outcome?.asFound.error ?? null,
  zero: outcome?.coefficients.zero ?? null,
  sensitivity: outcome?.coefficients.sensitivity ?? null,
  adjusted: lines.some((l) => l.row.asLeft !== null),
});

interface Around {
  readonly fitted: readonly FittedLoop[];
  readonly standards: readonly Standard[];
  readonly zoneOf: (siteId: string) => string;
  readonly wrong: (row: LogbookRow, column: LogbookColumn, message: string) => void;
}

/** A run while its lines are gathered. */
interface Grouped extends PaperRun {
  readonly lines: PaperRun['lines'][number][];
}

/** Lines of one sensor and one time are one run; sensors in the order of the file, runs of each by their time. */
function groupedRuns(
  rows: readonly LogbookRow[],
  { fitted, standards, zoneOf, wrong }: Around,
): { at: FittedLoop; papers: PaperRun[] }[] {
  const bySensor = new Map<SensorId, { readonly at: FittedLoop; readonly runs: Map<string, Grouped> }>();
  for (const row of rows) {
    const at = sensorOf(row, fitted, wrong);
    const standard = at && standardOf(row, at, standards, wrong);
    if (!at || standard === undefined) continue;
    const moment = byWallClock(row.when, zoneOf(at.loop.siteId));
    const mine = bySensor.get(at.sensor.id) ?? { at, runs: new Map<string, Grouped>() };
    bySensor.set(at.sensor.id, mine);
    const run: Grouped = mine.runs.get(moment) ?? { at: moment, by: row.by, lines: [] };
    mine.runs.set(moment, run);
    if (run.lines.some((l) => l.standard === null || standard === null))
      wrong(row, 'standard', 'A sample stands alone: give it a time of its own.');
    else if (run.lines.some((l) => l.standard?.id === standard?.id))
      wrong(row, 'standard', `This run has ${standard?.name} already. Leave one of the two lines out.`);
    else run.lines.push({ row, standard });
  }
  return [...bySensor.values()].map(({ at, runs }) => ({
    at,
    papers: [...runs.values()].sort((a, b) => Date.parse(a.at) - Date.parse(b.at)),
  }));
}

/** By the name of its loop, its own name or its serial. */
function sensorOf(row: LogbookRow, fitted: readonly FittedLoop[], wrong: Around['wrong']): FittedLoop | undefined {
  const is = (name: string) => name !== '' && name.toLowerCase() === row.sensor.toLowerCase();
  const found = [
    fitted.filter((f) => is(f.loop.name)),
    fitted.filter((f) => is(f.sensor.name)),
    fitted.filter((f) => is(f.sensor.serial)),
  ].find((list) => list.length);
  if (!found) wrong(row, 'sensor', `There is no loop or sensor “${row.sensor.slice(0, 40)}”. Write it as in Set-up.`);
  else if (found.length > 1)
    wrong(row, 'sensor', `There are ${found.length} of the name “${row.sensor.slice(0, 40)}”. Write the name of the loop, or the serial.`); // prettier-ignore
  return found?.length === 1 ? found[0] : undefined;
}

/** A standard by its name or its value, one that is usual at the loop first; null for a sample, undefined where there is none. */
function standardOf(
  row: LogbookRow,
  { loop }: FittedLoop,
  standards: readonly Standard[],
  wrong: Around['wrong'],
): Standard | null | undefined {
  if (row.standard.toLowerCase() === 'sample') {
    if (row.value !== null) return null;
    wrong(row, 'value', 'A sample needs the value that the lab has found.');
    return undefined;
  }
  const mine = standards.filter((s) => serves(loop.family, loop.settings, s));
  const value = figure(row.standard.replace(/^[a-z]+\s+/i, '').replace(/\s*[a-zµ%].*$/i, ''));
  const fits = mine.filter(
    (s) => s.id === row.standard || s.name.toLowerCase() === row.standard.toLowerCase() || (value !== null && s.nominal === value), // prettier-ignore
  );
  const found = fits.find((s) => loop.pointSet.includes(s.id)) ?? fits[0];
  if (!found) {
    const some = mine.slice(0, 6).map((s) => s.name);
    wrong(row, 'standard', `There is no standard “${row.standard.slice(0, 30)}” for ${loop.name}. There are: ${some.join(', ')}.`); // prettier-ignore
  }
  return found;
}

const isoDay = (at: string) => at.slice(0, 10);

/** Whether a run can be one of the past of this sensor. */
function isPast(
  { at, lines }: PaperRun,
  { sensor }: FittedLoop,
  known: readonly RunRecord[],
  nowMs: number,
  wrong: Around['wrong'],
): boolean {
  const [{ row }] = lines as [PaperRun['lines'][number]];
  const first = known.map((r) => r.startedAt).sort()[0];
  const message =
    Date.parse(at) > nowMs
      ? 'That is still to come. Check the year.'
      : isoDay(at) < sensor.fittedOn
        ? `This sensor was fitted on ${sensor.fittedOn}. Correct that day in Set-up, or leave the line out.`
        : known.some((r) => r.startedAt === at)
          ? 'This run is here already. Leave its lines out.'
          : first !== undefined && at > first
            ? `Runs of this sensor are kept here since ${isoDay(first)}. Take in only what is older.`
            : null;
  if (message) wrong(row, 'when', message);
  return message === null;
}
