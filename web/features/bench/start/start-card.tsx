import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { poursStandards } from '@frustum/core';
import type { LoopRow, RunRow, ShelfView } from '@frustum/contract';
import { pouredFrom, standardsOf, type Choice, type Offered } from './start-choice.ts';

/** How a reading is judged, in two or three words. */
const schoolWords = ({ school, seconds }: Choice): string =>
  ({ statistical: 'by forecast', 'fixed-time': `by the clock, ${seconds} s`, 'hand-count': `by count, ${seconds} s` })[
    school
  ];

/** What is on the way to the start, in one line: standards with their bottles, and how a reading is judged. */
export function choiceWords(row: LoopRow, choice: Choice, shelf: ShelfView, today: string): readonly string[] {
  if (choice.procedure === 'electrical') return choice.boxes.map((b) => b.label);
  if (!poursStandards(choice.procedure)) return [];
  const from = pouredFrom(choice, shelf.lots, today);
  const cups = standardsOf(choice, shelf.standards).map(({ id, name }, i) => {
    const lot = shelf.lots.find((l) => l.lotId === from[id]);
    const again = choice.points.indexOf(id) < i ? ', as warm as the water' : '';
    return `${name}${lot ? ` (${lot.label})` : ''}${again}`;
  });
  return [cups.join(', then '), ...(row.channel.kind === 'hand' ? [] : [schoolWords(choice)])];
}

/** Whether the newest run that poured standards poured these, from first to last. */
export function isLikeLast(runs: readonly RunRow[], names: readonly string[]): boolean {
  const poured = runs.filter((r) => r.status === 'closed' && r.outcome?.bottles?.length);
  const newest = poured.sort((a, b) => b.startedAt.localeCompare(a.startedAt))[0];
  return newest !== undefined && newest.outcome!.bottles!.map((b) => b.standard).join() === names.join();
}

/** One card that says what would begin, with the button that begins it; everything else is under “Change”. */
export function StartCard(props: {
  title: string;
  offer: Offered;
  words: readonly string[];
  changing: boolean;
  onChanging: () => void;
  /** what the button says */
  start: string;
  blocked: boolean;
  onStart: () => void;
  /** what stands between the words and the button: gates, and what makes no sense */
  children: ReactNode;
}) {
  const { title, offer, words, changing, onChanging, start, blocked, onStart, children } = props;
  return (
    <section aria-label="What begins" className="mt-4 border border-base-300 rounded-xl p-4">
      <div className="flex items-baseline justify-between gap-3">
        <h2>{title}</h2>
        <button
          type="button"
          className="btn btn-ghost h-12 -my-2 -mr-2 font-normal text-base"
          aria-expanded={changing}
          onClick={onChanging}
        >
          Change
        </button>
      </div>
      <p className="text-lg mt-1">{offer.name}</p>
      {words.map((line) => (
        <p key={line} className="sub">
          {line}
        </p>
      ))}
      {children}
      <div className="flex gap-2.5 mt-4">
        <button type="button" className="btn btn-primary h-16 text-xl flex-1" disabled={blocked} onClick={onStart}>
          {start}{' '}
          <kbd aria-hidden="true" className="key max-lg:hidden text-primary-content border-primary-content/50">
            n
          </kbd>
        </button>
        <Link className="btn btn-outline border-base-300 h-16" to="/">
          Not now
        </Link>
      </div>
    </section>
  );
}
