import { dayIn, daysFrom } from '../quantities/site-clock.ts';
import { CONDITIONS, type ConditionName, type Surrounded } from '../sensor/conditions.ts';
import type { Standard } from '../solutions/standard.ts';
import { familyOf } from '../families/registry.ts';
import { farFromWork, type PouredFor } from './points.ts';

/** A bottle as its gate sees it. */
interface LotFacts {
  /** '' when none was noted */
  readonly label: string;
  readonly standardName: string;
  /** ISO dates; null = not known */
  readonly expiresOn: string | null;
  readonly openedOn: string | null;
  readonly usedUpOn: string | null;
}

/** A loop that this one leans on: its thermometer, what shares its reference, or what shows a condition of it. */
export interface LeansOn {
  readonly loopName: string;
  readonly family: string;
  /** the conditions that it shows, where that is why; none = as thermometer, or on the reference */
  readonly gives: readonly ConditionName[];
  /** epoch milliseconds; null = never calibrated */
  readonly dueMs: number | null;
  /** probably outside its tolerance, whatever its date says */
  readonly outside: boolean;
}

/** What a run leans on after some of its conditions were typed. */
export const leaningWith = (typed: Surrounded, leansOn: readonly LeansOn[]): readonly LeansOn[] =>
  leansOn.flatMap((l) => {
    const gives = l.gives.filter((name) => typed[name] === undefined);
    return l.gives.length && !gives.length ? [] : [{ ...l, gives }];
  });

/** What the gates look at before a run. */
export interface GateFacts {
  readonly nowMs: number;
  /** of the site, IANA name: a bottle is good until the end of a day there */
  readonly timeZone: string;
  readonly family: string;
  readonly lots: readonly LotFacts[];
  /** calibrated before this one */
  readonly leansOn: readonly LeansOn[];
  /** the loop and what is poured for it; absent where nothing is */
  readonly poured?: { readonly loop: PouredFor; readonly standards: readonly Standard[] };
}

/** What should be so before a run begins, and is not. */
export interface Gate {
  readonly id: string;
  readonly text: string;
  /** why it matters */
  readonly reason: string;
}

/**
 * Everything that stands open before a run, worst first. What is asked of hands (soaked, dry, at temperature, on hold) is
 * a step of the run itself.
 *
 * @example gatesOf({ nowMs: Date.UTC(2026, 10, 24), timeZone: 'UTC', family: 'ph', leansOn: [], lots: [{ label: 'K-1', standardName: '7.00', expiresOn: '2026-11-01', openedOn: null, usedUpOn: null }] })[0].id // 'lot-expired:7.00'
 */
export function gatesOf(facts: GateFacts): readonly Gate[] {
  const { nowMs, timeZone, family, lots, leansOn, poured } = facts;
  const { openedDays } = familyOf(family).standards;
  const today = dayIn(timeZone, nowMs);
  const gates: Gate[] = poured ? [...farFromWork(poured.loop, poured.standards)] : [];
  for (const lot of lots) {
    const bottle = `Lot ${lot.label} of ${lot.standardName}`;
    const since = lot.openedOn === null ? 0 : daysFrom(lot.openedOn, today);
    const most = openedDays;
    if (lot.usedUpOn)
      gates.push({
        id: `lot-used-up:${lot.standardName}`,
        text: `${bottle} was used up, or withdrawn, on ${lot.usedUpOn}.`,
        reason: 'What is poured now comes from somewhere else, or should not be used. Pick the bottle in your hand.',
      });
    else if (lot.expiresOn && lot.expiresOn < today)
      gates.push({
        id: `lot-expired:${lot.standardName}`,
        text: `${bottle} was good until ${lot.expiresOn}.`,
        reason:
          'Nobody vouches for its value any more, and the run would carry its error into the sensor. Open a new one.',
      });
    else if (since > most)
      gates.push({
        id: `lot-open-long:${lot.standardName}`,
        text: `${bottle} has been open for ${since} days; usual are ${most} at most.`,
        reason: 'An opened bottle takes up air and drops. Open a new one, or know why this one.',
      });
  }
  for (const { loopName, family: theirs, gives, dueMs, outside } of leansOn) {
    const { thermometer } = familyOf(theirs);
    if (dueMs !== null && dueMs > nowMs && !outside) continue;
    const what = outside
      ? 'is probably outside its tolerance'
      : dueMs === null
        ? 'was never calibrated'
        : `has been due for ${daysFrom(dayIn(timeZone, dueMs), today)} days`;
    gates.push({
      id: `${thermometer ? 'thermometer' : 'prerequisite'}:${loopName}`,
      text: `${loopName} ${what}.`,
      reason: gives.length
        ? `This run takes the ${gives.map((n) => CONDITIONS[n].name).join(' and the ')} from it: what is wrong with it goes into the figures.`
        : thermometer
          ? 'Everything here is compensated by it: a degree off is a wrong buffer value and a wrong slope.'
          : 'It hangs on the same reference as this tip, and comes first.',
    });
  }
  return gates;
}
