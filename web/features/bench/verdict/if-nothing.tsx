import { adjustingLooksWorse, type Prospect } from '@frustum/core';
import { useOutlookQuery } from '../../../app/api.ts';
import { dayOf } from '../../../format/dates.ts';
import { inFamily, type InFamily } from '../../../format/in-family.ts';
import { fixed } from '../../../format/numbers.ts';
import { Notice } from '../../../ui/notice.tsx';
import type { BenchRun } from '../use-run.ts';

/** What if I do nothing: the chance of being outside at the next visit, left as it is and adjusted now. */
export function IfNothing({ run }: { run: BenchRun }) {
  const { state, view } = run;
  const { seq } = state;
  // What still waits here the server has not heard of: asked now, it would answer for the run as it was.
  const { data } = useOutlookQuery({ runId: view.runId, seq }, { skip: view.events.at(-1)?.seq !== seq });
  const outlook = data?.outlook;
  if (!outlook || !state.plan.inForceKnown) return null;
  const { tolerance } = state.plan;
  const figures = inFamily(state.plan);
  return (
    <section aria-label="What if I do nothing" className="mt-5 border-t border-base-300 pt-3">
      <h3 className="font-semibold">What if I do nothing?</h3>
      <p className="sub text-[15px]">
        At the next visit, {dayOf(outlook.nextMs)}, the chance of being more than {figures.size(tolerance)}{' '}
        {figures.unit} off:
      </p>
      <dl className="mt-2 space-y-2">
        <Row name="left as it is" prospect={outlook.leave} figures={figures} tolerance={tolerance} />
        <Row name="adjusted now" prospect={outlook.adjust} figures={figures} tolerance={tolerance} />
      </dl>
      {adjustingLooksWorse(outlook) && (
        <div className="mt-3">
          <Notice kind="care">
            By its history, adjusting on this run alone does more harm than leaving it: the sensor was not expected
            there. What would tell: fresh standard, settle longer, measure once more.
          </Notice>
        </div>
      )}
    </section>
  );
}

/** A bar between the rails: where the error will lie 95 % of the time, and the chance in words. */
function Row({
  name,
  prospect,
  figures,
  tolerance,
}: {
  name: string;
  prospect: Prospect;
  figures: InFamily;
  tolerance: number;
}) {
  const { error, sd, chanceOutside } = prospect;
  const reach = 2 * tolerance;
  const x = (v: number) => 100 + (100 * Math.max(-reach, Math.min(reach, v))) / reach;
  const chance = chanceOutside < 0.001 ? '< 0.1 %' : `${fixed(100 * chanceOutside, chanceOutside < 0.1 ? 1 : 0)} %`;
  return (
    <div className="flex items-center gap-3 flex-wrap">
      <dt className="w-28 text-[15px]">{name}</dt>
      <dd className="flex items-center gap-x-3 flex-wrap">
        <b className="fig text-lg w-20 whitespace-nowrap">{chance}</b>
        <svg
          width={200}
          height={22}
          viewBox="0 0 200 22"
          role="img"
          aria-label={`Expected ${figures.off(error)} ±${figures.size(1.96 * sd)} ${figures.unit}`}
        >
          <path d={`M${x(-tolerance)} 0V22M${x(tolerance)} 0V22`} stroke="var(--color-secondary)" />
          <path d="M100 3V19" stroke="var(--color-base-300)" />
          <rect
            x={x(error - 1.96 * sd)}
            width={Math.max(2, x(error + 1.96 * sd) - x(error - 1.96 * sd))}
            y={6}
            height={10}
            fill="var(--color-primary)"
            fillOpacity={0.3}
          />
          <path d={`M${x(error)} 4V18`} stroke="var(--color-primary)" strokeWidth={2} />
        </svg>
        <span className="sub fig text-[15px] whitespace-nowrap">
          {figures.off(error)} ±{figures.size(1.96 * sd)} {figures.unit}
        </span>
      </dd>
    </div>
  );
}
