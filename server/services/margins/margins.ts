import {
  familyOf,
  fixedInterval,
  modelOf,
  writtenIn,
  byConsequence,
  dueOf,
  dueWhenOutside,
  forecastDue,
  dueAtFit,
  reckonsWith,
  marginOf,
  MS_PER_DAY,
  triggeredBy,
  type Cone,
  bodyOf,
  bySensor,
  coneOf,
  learnedFrom,
  limitsOf,
  observationsOf,
  ofSensor,
  type Past,
  type Picture,
  restsOn,
  waterOf,
  standApart,
} from '@frustum/core';
import type { ConesView, ConeView, DrawnRow, LoopRow, MarginsView } from '@frustum/contract';
import type { MadeCone } from '../../caches/cone-cache.ts';
import type { MadeMargins } from '../../caches/margins.ts';
import { readPictures } from '../house/pictures.ts';
import type { Context } from '../../context.ts';
import type { FittedLoop } from '../../store/commands/places.ts';
import { Slices } from '../../slices.ts';

/** How far beyond its due date, and beyond now, a cone is drawn, days. */
const BEYOND_DUE_DAYS = 10;
const BEYOND_NOW_DAYS = 55;

/** So far back the cones of Margins go, days: a little more than is drawn. */
const BACK_DAYS = 125;
/** A cone is drawn to the end of a week, so that it stays good for a while. */
const WEEK_MS = 7 * MS_PER_DAY;

function madeOf(fitted: FittedLoop, past: Past, untilMs: number, fromMs?: number): MadeCone {
  const made = coneOf(fitted, past, untilMs, fromMs);
  const { segments, marks, errorAt, branches } = made;
  const lastRunMs = observationsOf(ofSensor(past.finished)).at(-1)?.atMs ?? null;
  const view = fromMs === undefined ? viewOf(made) : stripOf({ segments, marks }, fromMs);
  const apart = apartOf(fitted, branches, view);
  return {
    errorAt,
    branches,
    view: apart.length ? { ...view, apart } : view,
    forecast: forecastDue(errorAt, lastRunMs, fitted.loop.tolerance),
  };
}

/** Without a change a row is good for so long, ms: an error moves by less than its last digit meanwhile. */
const GOOD_FOR_MS = 60_000;
const markOf = ({ marks, now, clock }: Context): string => marks.withNewsAt(now(), GOOD_FOR_MS, clock.doubt !== null);

/** Names what `readMargins` would give now. */
export const marginsMark = (context: Context): string => `W/"${markOf(context)}"`;

/** The rows, their cones, and the answer. */
export const readMargins = (context: Context): Promise<MadeMargins> =>
  context.margins.read(markOf(context), () => made(context));

/** Cones of some rows; a sensor that there is not has none. */
export async function readCones(context: Context, sensorIds: readonly string[]): Promise<ConesView> {
  const { cones } = await readMargins(context);
  return { cones: Object.fromEntries(sensorIds.map((id) => [id, cones.get(id) ?? null])) };
}

async function made(context: Context): Promise<MadeMargins> {
  const nowMs = context.now();
  const { poller, config, clock, wellBeing } = context;
  const [drawn, empty] = await Promise.all([marginRows(context), context.store.readEmptyLoops()]);
  const rows = drawn.map(({ cone: _cone, ...row }): LoopRow => row);
  const demo = config.demoBundle !== null;
  const view: MarginsView = {
    nowMs,
    demo,
    held: poller.held,
    clock: clock.doubt,
    trouble: wellBeing.trouble,
    empty,
    rows,
  };
  const json = Buffer.from(JSON.stringify(view));
  return { rows, cones: new Map(drawn.map((r) => [r.sensorId, r.cone])), json };
}

/** All rows of Margins, in the order of consequence: what is outside first. */
export async function marginRows(context: Context): Promise<DrawnRow[]> {
  const { store, now, cones } = context;
  const [{ house, of }, open] = await Promise.all([readPictures(context), store.readOpenRuns()]);
  const nowMs = now();
  const openOf = bySensor(open.filter((r) => r.status === 'open'));
  const fromMs = WEEK_MS * Math.floor((nowMs - BACK_DAYS * MS_PER_DAY) / WEEK_MS);
  const rows: DrawnRow[] = [];
  const slices = new Slices();
  for (const f of house.all) {
    const picture = of(f);
    const { past } = picture;
    rows.push(
      rowFrom(f, picture, openOf.get(f.sensor.id)?.[0]?.id ?? null, nowMs, (untilMs) => {
        const weekMs = WEEK_MS * Math.ceil(untilMs / WEEK_MS);
        return cones.of(f.sensor.id, basisOf(f, past, weekMs, fromMs), () => madeOf(f, past, weekMs, fromMs));
      }),
    );
    if (slices.isOver) await slices.next();
  }
  return rows.sort(byConsequence(nowMs));
}

/** Everything that a cone rests on. */
function basisOf(
  { loop }: FittedLoop,
  { finished, services, fleet, together, atFit, explained }: Past,
  untilMs: number,
  fromMs: number,
) {
  const runs = [finished.length, finished.at(-1)?.endedAt, services.length, services.at(-1)?.atMs];
  return JSON.stringify([
    loop,
    runs,
    fleet.runs,
    fleet.sensors,
    fleet.ofModel,
    together?.basis,
    atFit,
    explained?.map(({ cause, chance, beyond }) => [cause, chance.toPrecision(4), beyond]),
    untilMs,
    fromMs,
  ]);
}

/** One row with the whole of its cone: margin now, cone, due date. */
export const rowOf = (fitted: FittedLoop, picture: Picture, openRunId: string | null, nowMs: number): DrawnRow =>
  rowFrom(fitted, picture, openRunId, nowMs, (untilMs) => madeOf(fitted, picture.past, untilMs));

/** What was set up. */
const setUpIn = ({ loop, sensor, channel, siteName, timeZone }: FittedLoop) => ({
  loopId: loop.id,
  sensorId: sensor.id,
  loopName: loop.name,
  place: loop.place,
  siteName,
  timeZone,
  family: loop.family,
  settings: loop.settings,
  takes: loop.takes,
  sensorName: sensor.name,
  serial: sensor.serial,
  fittedOn: sensor.fittedOn,
  workingValue: loop.workingValue,
  workingC: loop.workingC,
  tolerance: loop.tolerance,
  shownAs: loop.shownAs,
  controls: loop.controls,
  controlAction: loop.controlAction,
  referenceGroup: loop.referenceGroup,
  body: bodyOf(loop),
  water: waterOf(loop),
  backupOf: loop.backupOf,
  surroundings: loop.surroundings,
  limits: limitsOf(loop),
  pointSet: loop.pointSet,
  position: loop.position,
  channelId: channel.id,
  channel: channel.config,
  channelVersion: channel.version,
  dueBy: loop.dueBy,
  intervalDays: loop.intervalDays,
});

function rowFrom(
  fitted: FittedLoop,
  { past, health }: Picture,
  openRunId: string | null,
  nowMs: number,
  make: (untilMs: number) => MadeCone,
): DrawnRow {
  const { loop } = fitted;
  const last = ofSensor(past.finished).at(-1);
  const lastRunMs = last ? Date.parse(last.endedAt) : null;
  const calendar = fixedInterval(lastRunMs, loop.intervalDays, fitted.timeZone);
  const { errorAt, branches, view, forecast } = make(
    Math.max(calendar.atMs ?? 0, nowMs + BEYOND_NOW_DAYS * MS_PER_DAY) + BEYOND_DUE_DAYS * MS_PER_DAY,
  );
  const margin = marginOf(errorAt?.(nowMs) ?? null, loop.tolerance);
  const believed = reckonsWith(past);
  const dated = dueAtFit(
    triggeredBy(
      dueOf(loop.dueBy, lastRunMs, loop.intervalDays, forecast, fitted.timeZone),
      lastRunMs,
      past.services,
      past.notices,
    ),
    past,
  );
  return {
    ...setUpIn(fitted),
    written: writtenOf(fitted, margin),
    inForce: believed.inForce,
    inForceKnown: believed.known,
    margin,
    restsOn: restsOn(health, branches, nowMs),
    hasCone: view.segments.length > 0,
    cone: view,
    due: dueWhenOutside(dated, margin.state, nowMs),
    forecast,
    learnedFrom: learnedFrom(past),
    beside: past.together ? { loops: past.together.withLoops, times: past.together.times } : null,
    lastRunMs,
    openRunId,
  };
}

/** The figures of a row as its instrument writes them. */
function writtenOf({ loop }: FittedLoop, { error, expanded }: DrawnRow['margin']): DrawnRow['written'] {
  const family = familyOf(loop.family);
  const { unit, exact, size, off } = writtenIn(family, modelOf(family, loop.settings), loop);
  const plain = (value: number | null) => (value === null ? null : Number(value.toPrecision(9)));
  return {
    unit,
    workingValue: plain(exact(loop.workingValue)),
    tolerance: plain(size(loop.tolerance))!,
    error: plain(error === null ? null : off(error)),
    expanded: plain(expanded === null ? null : size(expanded)),
  };
}

/** What fits into a row: recent marks. */
function stripOf({ segments, marks }: Pick<Cone, 'segments' | 'marks'>, fromMs: number): ConeView {
  return viewOf({ segments, marks: marks.filter((m) => m.atMs >= fromMs) });
}

function viewOf(made: Pick<Cone, 'segments' | 'marks'>): ConeView {
  return {
    segments: made.segments.map((s) => ({
      fromMs: s.fromMs,
      toMs: s.toMs,
      points: s.points.map((p): [number, number, number, number] => [
        Math.round(p.atMs),
        round(p.mean),
        round(p.half50),
        round(p.half95),
      ]),
    })),
    marks: made.marks,
  };
}

/** The ways that stand apart, at the moments of the last segment. */
function apartOf({ loop }: FittedLoop, branches: Cone['branches'], { segments }: ConeView) {
  const moments = segments.at(-1)?.points.map(([ms]) => ms) ?? [];
  const causes = familyOf(loop.family).befalls?.causes ?? [];
  const nameOf = (id: string) => causes.find((c) => c.id === id)?.name ?? id;
  return standApart(branches, moments[0] ?? 0).map(({ cause, chance, errorAt }) => ({
    name: cause === null ? null : cause.split('+').map(nameOf).join(', and '),
    chance,
    points: moments.map((ms): [number, number, number] => {
      const { mean, half95 } = errorAt(ms);
      return [ms, round(mean), round(half95)];
    }),
  }));
}

const round = (value: number) => Math.round(value * 1e5) / 1e5;
