import { useState, type ReactNode } from 'react';
import type { ProcedureKind, RunPlan, RunState, School, Step } from '@frustum/core';
import { inFamily, upper } from '../../format/in-family.ts';
import { Notice } from '../../ui/notice.tsx';

/** The left column: every step, done ones filled, the current one open with its caution; tap a done one to go back. */
export function StepSheet({
  state,
  onBack,
  children,
}: {
  state: RunState;
  onBack: (step: Step) => void;
  children: ReactNode;
}) {
  const [asking, setAsking] = useState<string | null>(null);
  const [unfolded, setUnfolded] = useState(false);
  const { plan, steps, done, current } = state;
  const kind = plan.procedure?.kind ?? 'calibrate';
  // After cleaning, the first look is one line: the step that is on would stand below the fold.
  const second = steps.findIndex((s) => s.pass > 1);
  const folded = unfolded || second < 0 ? 0 : second;
  return (
    <section aria-label="Steps" className="px-4 lg:px-[22px] py-4 lg:py-5">
      <h1 className="text-[21px] lg:text-[22px]">{plan.loopName}</h1>
      <HowItIsDone plan={plan} kind={kind} />
      <p className="sub text-sm">
        {plan.channelKind === 'hand' ? 'typed as it is read' : SCHOOL[plan.school.kind](plan.school)}{' '}
        {kind === 'sample' || kind === 'electrical' ? '' : '· as found first'}
      </p>
      <ol className="relative mt-3.5 before:absolute before:left-2 before:top-2.5 before:bottom-3.5 before:w-[1.5px] before:bg-base-300">
        {folded > 0 && <BeforeCleaning setUnfolded={setUnfolded} folded={folded} />}
        {steps.slice(folded).map((step) => (
          <StepRow
            key={step.id}
            step={step}
            is={done.includes(step.id) ? 'done' : step.id === current?.id ? 'current' : 'open'}
            // Nobody goes back in a run that has ended.
            asks={state.status === 'open' ? asking === step.id : null}
            onAsk={(ask) => setAsking(ask ? step.id : null)}
            onBack={() => (setAsking(null), onBack(step))}
          />
        ))}
      </ol>
      {children}
    </section>
  );
}

/** The procedure, what is measured, and in which standards. */
function HowItIsDone({ plan, kind }: { plan: RunPlan; kind: ProcedureKind }) {
  const { procedure } = plan;
  const names = plan.points.map((p) => p.standard.name).join(' then ');
  return (
    <p>
      {procedure && (kind !== 'calibrate' || procedure.id !== '')
        ? `${procedure.name}${procedure.version > 0 ? `, version ${procedure.version}` : ''}: `
        : ''}
      {kind === 'electrical' ? '' : upper(whatIsMeasured(plan))}
      {kind === 'sample' || kind === 'thermometers'
        ? ''
        : kind === 'electrical'
          ? names
          : `, ${pointsIn(plan.points.length)}: ${names}`}
    </p>
  );
}

function BeforeCleaning({ setUnfolded, folded }: { setUnfolded: (value: boolean) => void; folded: number }) {
  return (
    <li className="relative pl-[30px] pb-3 leading-tight sub max-lg:hidden">
      <Bullet kind="done" />
      <button type="button" className="text-left hover:underline" onClick={() => setUnfolded(true)}>
        Before cleaning, {folded} steps
      </button>
    </li>
  );
}

/** One step: done, open, or the one that is on. */
function StepRow({
  step,
  is,
  asks,
  onAsk,
  onBack,
}: {
  step: Step;
  is: 'done' | 'current' | 'open';
  /** whether it asks to be gone back to; null where nobody can */
  asks: boolean | null;
  onAsk: (ask: boolean) => void;
  onBack: () => void;
}) {
  const isCurrent = is === 'current';
  return (
    <li
      className={`relative pl-[30px] pb-3 leading-tight ${isCurrent ? 'font-[650]' : 'sub max-lg:hidden'}`}
      aria-current={isCurrent ? 'step' : undefined}
      data-step={step.id}
    >
      <Bullet kind={is} />
      {is === 'done' && asks !== null ? (
        <button type="button" className="text-left hover:underline" onClick={() => onAsk(!asks)}>
          {step.title}
        </button>
      ) : (
        step.title
      )}
      {asks && (
        <div className="mt-1.5 text-[15px] text-base-content">
          <p>Go back here? What was captured from here on no longer counts; it stays in the record.</p>
          <span className="flex gap-2 mt-1.5">
            <button type="button" className="btn btn-sm" onClick={onBack}>
              Go back to this step
            </button>
            <button type="button" className="btn btn-ghost btn-sm" onClick={() => onAsk(false)}>
              Stay
            </button>
          </span>
        </div>
      )}
      {isCurrent && (
        <>
          <p className="font-normal text-[15px] mt-1.5 leading-snug">{step.text}</p>
          {step.caution && (
            <div className="mt-2 text-sm font-normal">
              <Notice kind="care">{step.caution}</Notice>
            </div>
          )}
        </>
      )}
    </li>
  );
}

/** The family, or what its settings say of it: which ion. */
function whatIsMeasured(plan: RunState['plan']): string {
  const { family } = inFamily(plan);
  return family.shown.variant(plan.settings ?? {}) || family.name;
}

const COUNTS = ['no points', 'one point', 'two points', 'three points', 'four points', 'five points'];
const pointsIn = (count: number) => COUNTS[count] ?? `${count} points`;
const secondsOf = (school: School) => ('seconds' in school ? school.seconds : 0);
const SCHOOL: Record<School['kind'], (school: School) => string> = {
  statistical: () => 'settled by forecast',
  'fixed-time': (s) => `${secondsOf(s)} s by the clock`,
  'hand-count': (s) => `no digit moves for ${secondsOf(s)} s`,
};

function Bullet({ kind }: { kind: 'done' | 'current' | 'open' }) {
  const look = { done: 'fill-secondary', current: 'fill-primary', open: 'fill-base-100 stroke-base-300' }[kind];
  return (
    <svg width={18} height={18} viewBox="0 0 18 18" className="absolute left-0 top-0.5 bg-base-100" aria-hidden="true">
      <path d="M2 12V6L16 2V16Z" className={look} strokeWidth={1.5} />
    </svg>
  );
}
