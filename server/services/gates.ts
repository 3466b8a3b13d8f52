import { familyOf, gatesOf, Refusal, type PassedGate, type PlannedPoint } from '@frustum/core';
import type { LeansOn } from '@frustum/contract';
import type { FittedLoop } from '../store/commands/places.ts';
import type { LotRecord } from '../store/commands/shelf.ts';

/** Whether a loop comes before another one: as the thermometer that compensates its channel, or on the same reference. */
export const comesBefore = (first: FittedLoop['loop'], { loop, channel }: FittedLoop): boolean =>
  first.id !== loop.id &&
  first.siteId === loop.siteId &&
  ((familyOf(first.family).thermometer && first.name === channel.config.compensatedBy) ||
    (loop.referenceGroup !== '' && first.referenceGroup === loop.referenceGroup));

/**
 * What comes before a loop, and how each of them stands.
 *
 * @param standingOf when it is due, and whether it is outside
 */
export const leansOn = (
  fitted: FittedLoop,
  all: readonly FittedLoop[],
  standingOf: (fitted: FittedLoop) => Pick<LeansOn, 'dueMs' | 'outside'>,
): LeansOn[] =>
  all
    .filter((o) => comesBefore(o.loop, fitted))
    .map((theirs) => ({
      loopName: theirs.loop.name,
      family: familyOf(theirs.loop.family).id,
      ...standingOf(theirs),
    }));

/**
 * The gates that stand open, each with the reason for which it was passed.
 *
 * @throws Refusal `gate-open` for one that nobody gave a reason for
 */
export function passedGates(
  loop: FittedLoop['loop'],
  pours: boolean,
  points: readonly PlannedPoint[],
  lots: readonly LotRecord[],
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
  const facts = { nowMs, family: loop.family, lots: poured, leansOn: leaning };
  return gatesOf({ ...facts, ...(pours ? { poured: { loop, standards } } : {}) }).map((gate) => {
    const passed = overrides.find((o) => o.id === gate.id);
    if (passed) return { id: gate.id, text: gate.text, because: passed.because };
    throw new Refusal('gate-open', `${gate.text} ${gate.reason} Or say why the run begins all the same.`, {
      gate: gate.id,
    });
  });
}
