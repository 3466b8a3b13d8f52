import type { PassedGate, PlannedPoint } from '../calibration/events.ts';
import { type LeansOn, gatesOf } from '../calibration/gates.ts';
import { familyOf } from '../families/registry.ts';
import type { Fitted } from './fitted.ts';
import { shareReference } from './links.ts';
import type { Lot } from './plan.ts';
import type { ConditionName } from '../sensor/conditions.ts';
import { conditionsFor } from '../sensor/sensor.ts';
import { Refusal } from '../quantities/refusal.ts';

/** As the thermometer that compensates its channel, or first of two kinds on the same reference. */
const servesFirst = (first: Fitted['loop'], { loop, channel }: Fitted): boolean =>
  (familyOf(first.family).thermometer && first.name === channel.reads.compensatedBy) ||
  (shareReference(first, loop) &&
    familyOf(first.family).onReference === 'first' &&
    familyOf(loop.family).onReference === 'last');

/** The conditions that a loop takes from `first`. */
const givenBy = (first: Fitted['loop'], { loop }: Fitted): readonly ConditionName[] =>
  conditionsFor(familyOf(loop.family), loop.settings).filter((name) => loop.takes[name] === first.id);

const elsewhere = (first: Fitted['loop'], { loop }: Fitted) => first.id === loop.id || first.siteId !== loop.siteId;

/** Whether `first` must be done before the loop: it serves its reference, or shows one of its conditions. */
export const comesBefore = (first: Fitted['loop'], fitted: Fitted): boolean =>
  !elsewhere(first, fitted) && (servesFirst(first, fitted) || givenBy(first, fitted).length > 0);

/**
 * The loops that must be done before this loop, each with its state: once for each reason.
 *
 * @param standingOf when a loop is due, and whether it is outside
 */
export const leansOn = <F extends Fitted>(
  fitted: Fitted,
  all: readonly F[],
  standingOf: (fitted: F) => Pick<LeansOn, 'dueMs' | 'outside'>,
): LeansOn[] =>
  all.flatMap((theirs) => {
    if (!comesBefore(theirs.loop, fitted)) return [];
    const { name, family } = theirs.loop;
    const lean = { loopName: name, family: familyOf(family).id, ...standingOf(theirs) };
    const gives = givenBy(theirs.loop, fitted);
    return [
      ...(servesFirst(theirs.loop, fitted) ? [{ ...lean, gives: [] }] : []),
      ...(gives.length ? [{ ...lean, gives }] : []),
    ];
  });

/**
 * The gates that stand open, each with the reason for which it was passed.
 *
 * @throws Refusal `gate-open` for one that nobody gave a reason for
 */
export function passedGates(
  { loop, timeZone }: Pick<Fitted, 'loop' | 'timeZone'>,
  pours: boolean,
  points: readonly PlannedPoint[],
  lots: readonly Lot[],
  leaning: readonly LeansOn[],
  nowMs: number,
  overrides: readonly { readonly id: string; readonly because: string }[],
): PassedGate[] {
  const poured = points.flatMap(({ standard, lot }) => {
    const kept = lots.find((l) => l.id === lot.id);
    if (!kept) return [];
    const { label, expiresOn, openedOn, usedUpOn } = kept;
    return [{ label, expiresOn, openedOn, usedUpOn, standardName: standard.name }];
  });
  const standards = points.map((p) => p.standard);
  const facts = { nowMs, timeZone, family: loop.family, lots: poured, leansOn: leaning };
  return gatesOf({ ...facts, ...(pours ? { poured: { loop, standards } } : {}) }).map((gate) => {
    const passed = overrides.find((o) => o.id === gate.id);
    if (passed) return { id: gate.id, text: gate.text, because: passed.because };
    throw new Refusal('gate-open', `${gate.text} ${gate.reason} Or say why the run begins all the same.`, {
      gate: gate.id,
    });
  });
}
