import { wouldBeSchema, type ChangeLoop, type SetUpLoop, type WouldBeView } from '@frustum/contract';
import { useWouldBeQuery } from '../../app/api.ts';
import { dueWords } from '../../format/dates.ts';
import { serverClock } from '../../app/server-clock.ts';

/** What changes a margin, a verdict or a date. */
const WEIGH = ['workingValue', 'workingC', 'tolerance', 'intervalDays', 'dueBy', 'limits'] as const;

const ACTION_WORDS: Readonly<Record<string, string>> = {
  leave: 'leave it',
  adjust: 'adjust',
  'clean-and-retest': 'clean and test again',
  investigate: 'investigate',
  replace: 'replace',
  'go-on': 'go on',
};

function sentencesOf(
  { now, then, loops, outside, verdicts, otherwise }: WouldBeView,
  nowMs: number,
): readonly string[] {
  const changed = Object.entries(otherwise);
  return [
    now.state === then.state
      ? `Its margin stays as it is: ${then.state}.`
      : `Its margin would be ${then.state}; with the figures that hold now it is ${now.state}.`,
    ...(loops === 1
      ? []
      : [
          `Of the ${loops} loops ${outside.then} would be outside today; ${outside.now === 0 ? 'none is' : outside.now === 1 ? '1 is' : `${outside.now} are`} now.`,
        ]),
    ...(now.dueMs === then.dueMs ? [] : [`The next run would be due: ${dueWords(then.dueMs, nowMs).main}.`]),
    ...(verdicts === 0
      ? []
      : changed.length === 0
        ? [
            `${loops === 1 ? 'Its' : 'Their'} last ${verdicts === 1 ? 'verdict' : `${verdicts} verdicts`} would have been the same.`,
          ]
        : [
            `Of ${loops === 1 ? 'its' : 'their'} last ${verdicts} ${verdicts === 1 ? 'verdict' : 'verdicts'} ${changed
              .map(([action, n]) => `${n} would have been “${ACTION_WORDS[action] ?? action}”`)
              .join(' and ')}. They keep what they were.`,
          ]),
  ];
}

/** What other figures would mean, before they are kept: the margin now, the date, and the verdicts of the past. */
export function Consequences({
  loop,
  to,
  also,
}: {
  loop: SetUpLoop;
  to: ChangeLoop['to'];
  /** loops that would have the same figures */
  also: readonly SetUpLoop[];
}) {
  const weighs = Object.fromEntries(WEIGH.flatMap((key) => (to[key] === undefined ? [] : [[key, to[key]]])));
  const asks = Object.keys(weighs).length > 0 && wouldBeSchema.isValidSync({ to: weighs });
  const { data, error, isFetching } = useWouldBeQuery(
    { loopId: loop.loopId, to: weighs, also: also.map((l) => l.loopId) },
    { skip: !asks },
  );
  if (!asks || error) return null;
  return (
    <div role="status" aria-label="What it would mean" className="bg-base-200 rounded px-3 py-2 text-[15px]">
      {isFetching || !data ? 'Looking what that would mean …' : sentencesOf(data, serverClock.now()).join(' ')}
    </div>
  );
}
