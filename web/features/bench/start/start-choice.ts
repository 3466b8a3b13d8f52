import { typedNumber } from '../../../format/typed.ts';
import {
  farFromWork,
  gatesOf,
  leaningWith,
  modelOf,
  poursStandards,
  Refusal,
  suggestedSet,
  thermistorOf,
  familyOf,
  proceduresFor,
  serves,
  usualBoxes,
  typedCondition,
  usualSets,
  type BoxPoint,
  type ConditionName,
  type Gate,
  type ProcedureKind,
  type SensorState,
  type Standard,
  dayIn,
} from '@frustum/core';
import { unitOf, type LeansOn, type LoopRow, type LotRow, type ProcedureRow, type StartRun } from '@frustum/contract';

import { unlessRefused, upper } from '../../../format/in-family.ts';

export type SchoolKind = StartRun['school'];

/** What has been chosen on the start page so far. */
export interface Choice {
  readonly procedure: ProcedureKind;
  /** a team's own; null = the built-in one */
  readonly procedureId: string | null;
  readonly sensorState: SensorState;
  readonly points: readonly string[];
  readonly lots: Readonly<Record<string, string>>;
  readonly boxes: readonly BoxPoint[];
  readonly limitPercent: string;
  readonly school: SchoolKind;
  readonly seconds: string;
  /** as typed for this run, by their names */
  readonly conditions: Readonly<Partial<Record<ConditionName, string>>>;
  /** why a gate is passed, by its id */
  readonly because: Readonly<Record<string, string>>;
}

/** A procedure as the page offers it: built-in ones first, then a team's own. */
export interface Offered {
  readonly key: string;
  readonly kind: ProcedureKind;
  readonly name: string;
  readonly text: string;
  readonly own: ProcedureRow | null;
}

/** Boxes that stand for what this loop's channel gives. */
export function boxesFor({ family, channel, settings }: LoopRow): readonly BoxPoint[] {
  const field = familyOf(family).settings['cellConstant'];
  const cell = Number(settings['cellConstant'] ?? field?.usual);
  const element = settings['element'];
  const { rangeLow: low, rangeHigh: high } = channel;
  return usualBoxes(unitOf(channel), {
    low,
    high,
    ...(cell > 0 ? { cellConstant: cell } : {}),
    ...(typeof element === 'string' ? { element } : {}),
    thermistor: thermistorOf(settings),
  });
}

export function offersFor(family: string, own: readonly ProcedureRow[]): readonly Offered[] {
  const usual = proceduresFor(family);
  return [
    ...usual.map(({ kind, name, text }): Offered => ({ key: kind, kind, name, text, own: null })),
    ...own
      .filter((p) => p.family === family)
      .map((p): Offered => ({
        key: p.procedureId,
        kind: p.kind,
        name: p.name,
        text: `Version ${p.version}, made here from “${usual.find((u) => u.kind === p.kind)?.name ?? p.kind}”.`,
        own: p,
      })),
  ];
}

/** Seconds that a school starts with. Common practice, no source. */
export const USUAL_SECONDS: Readonly<Record<SchoolKind, string>> = {
  statistical: '120',
  'fixed-time': '120',
  'hand-count': '15',
};

/**
 * Point sets that are offered: the loop's own first, then the usual ones of its family. An own set that does not stand
 * about the working value gives way to one that does.
 */
export function setsFor(
  row: LoopRow,
  own: ProcedureRow | null,
  shelf: readonly Standard[],
): readonly (readonly string[])[] {
  const suggested = suggestedSet(row, shelf);
  const pointSet = row.pointSet.flatMap((id) => shelf.find((s) => s.id === id) ?? []);
  const mine = farFromWork(row, pointSet).length ? [suggested, row.pointSet] : [row.pointSet, suggested];
  const all = [...(own?.points.length ? [own.points] : []), ...mine, ...usualSets(row.family, row.settings)];
  return all.filter((set, i) => set.length > 0 && all.findIndex((o) => o.join() === set.join()) === i);
}

/** Standards that can be poured for this loop. */
export const standardsFor = (row: LoopRow, shelf: readonly Standard[]) =>
  shelf.filter((s) => serves(row.family, row.settings, s));

/** The usual choice, so that most runs begin with one tap. */
export function firstChoice(row: LoopRow, offer: Offered, shelf: readonly Standard[]): Choice {
  const school: SchoolKind = offer.own?.school || 'statistical';
  return {
    procedure: offer.kind,
    procedureId: offer.own?.procedureId ?? null,
    sensorState: 'in-use',
    points: setsFor(row, offer.own, shelf)[0] ?? [],
    lots: {},
    boxes: boxesFor(row),
    limitPercent: '0.5',
    school,
    seconds: offer.own?.seconds ? String(offer.own.seconds) : USUAL_SECONDS[school],
    conditions: {},
    because: {},
  };
}

/** Newest open bottle that is still good. */
export function usualLot(lots: readonly LotRow[], standardId: string, today: string): string {
  const good = lots.filter((l) => l.standardId === standardId && l.expiresOn >= today && !l.usedUpOn);
  return good.sort((a, b) => (b.openedOn ?? '').localeCompare(a.openedOn ?? ''))[0]?.lotId ?? '';
}

/** What is chosen to be poured, in its order. */
export const standardsOf = (choice: Choice, shelf: readonly Standard[]): readonly Standard[] =>
  poursStandards(choice.procedure) ? choice.points.flatMap((id) => shelf.find((s) => s.id === id) ?? []) : [];

/** Which bottle each standard is poured from. */
export function pouredFrom(choice: Choice, lots: readonly LotRow[], today: string): Readonly<Record<string, string>> {
  return Object.fromEntries(choice.points.map((id) => [id, choice.lots[id] ?? usualLot(lots, id, today)]));
}

/** Gates that stand open before this run: the same arithmetic as the server's. */
export function openGates(
  row: LoopRow,
  choice: Choice,
  shelf: { readonly standards: readonly Standard[]; readonly lots: readonly LotRow[] },
  leansOn: readonly LeansOn[],
  nowMs: number,
): readonly Gate[] {
  const { timeZone } = row;
  const today = dayIn(timeZone, nowMs);
  const from = pouredFrom(choice, shelf.lots, today);
  const standards = standardsOf(choice, shelf.standards);
  const lots = (poursStandards(choice.procedure) ? choice.points : []).flatMap((id) => {
    const lot = shelf.lots.find((l) => l.lotId === from[id]);
    const standardName = shelf.standards.find((s) => s.id === id)?.name ?? id;
    return lot ? [{ ...lot, standardName }] : [];
  });
  const leaning = leaningWith(typedConditions(choice), leansOn);
  return gatesOf({ nowMs, timeZone, family: row.family, lots, leansOn: leaning, poured: { loop: row, standards } });
}

/** Conditions as they are typed; those that cannot be read are not there, and `conditionTrouble` says why. */
const typedConditions = ({ conditions }: Choice): StartRun['conditions'] =>
  Object.fromEntries(
    (Object.keys(conditions) as ConditionName[]).flatMap((name) => {
      const value = unlessRefused(() => typedCondition(conditions[name]!, name));
      return value == null ? [] : [[name, value]];
    }),
  );

/** Why a condition cannot be what is typed; null when it can. */
export function conditionTrouble({ conditions }: Choice, name: ConditionName): string | null {
  try {
    typedCondition(conditions[name] ?? '', name);
    return null;
  } catch (error) {
    if (error instanceof Refusal) return upper(error.message);
    throw error;
  }
}

/** The order that starts the run. */
export function orderOf(
  row: LoopRow,
  choice: Choice,
  lots: readonly LotRow[],
  gates: readonly Gate[],
  today: string,
): StartRun {
  const from = pouredFrom(choice, lots, today);
  const { procedure, procedureId, sensorState, school, boxes } = choice;
  return {
    sensorId: row.sensorId,
    procedure,
    procedureId,
    sensorState,
    points: poursStandards(procedure)
      ? choice.points.map((standardId) => ({ standardId, lotId: from[standardId] || null }))
      : [],
    boxes: procedure === 'electrical' ? boxes.map((b) => ({ ...b })) : [],
    conditions: typedConditions(choice),
    limitPercent: Number(typedNumber(choice.limitPercent)),
    school,
    fixedSeconds: Number(choice.seconds),
    overrides: gates.map((g) => ({ id: g.id, because: (choice.because[g.id] ?? '').trim() })),
  };
}

/** How near a reading must come by forecast, in the loop's own unit, for the words of the page. */
export function stepWords(row: LoopRow): string {
  const family = familyOf(row.family);
  const { signalUnit } = modelOf(family, row.settings);
  if (family.shown.steady) return family.shown.steady;
  if (family.step.relative > 0) return `${100 * family.step.relative} %`;
  return `${family.step.absolute} ${signalUnit}`;
}
