import { oddWords, type Warning } from '@frustum/core';
import { Notice } from './notice.tsx';

/** What it looks like, on what evidence, and what would tell. */
export function WarningWords({ warning }: { warning: Warning }) {
  const { title, because, tells } = oddWords(warning);
  const { or, stops } = warning;
  return (
    <Notice kind="care">
      <p className={stops ? 'text-lg font-semibold' : 'font-semibold'}>{title}</p>
      <p className="text-[15px]">{because}</p>
      {or && <p className="text-[15px]">Or, nearly as likely: {oddWords(or).title}</p>}
      <p className="sub text-[15px]">{tells}</p>
    </Notice>
  );
}

/** A figure that looks like a slip: on what evidence, and two answers. What was typed stays in its field. */
export function Doubted({
  warning,
  onAgain,
  onStands,
}: {
  warning: Warning;
  onAgain: () => void;
  onStands: () => void;
}) {
  const { mended, stands } = oddWords(warning);
  return (
    <div className="sm:col-span-2" role="alert" data-warning={warning.id}>
      <WarningWords warning={warning} />
      <div className="flex gap-2.5 mt-2.5 flex-wrap">
        <button type="button" className="btn btn-primary h-14 flex-1 max-sm:basis-full" onClick={onAgain}>
          {mended}
        </button>
        <button type="button" className="btn btn-outline border-base-300 h-14 max-sm:basis-full" onClick={onStands}>
          {stands}
        </button>
      </div>
    </div>
  );
}
