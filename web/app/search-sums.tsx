import { inWords, lookFor, type Hit } from '@frustum/core';
import { useNavigate } from 'react-router';
import { typed } from './reckoner-memory.ts';
import { useAppDispatch } from './store.ts';

/** Sums that are worth a place below the loops. */
const MOST = 4;

/** Sums of the Reckoner that fit what is looked for, a figure's answer already beside them. */
export default function SearchSums({ words, onClose }: { words: string; onClose: () => void }) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const hits = words.trim().length > 1 ? lookFor(words).hits.slice(0, MOST) : [];
  if (!hits.length) return null;
  const open = ({ sum, input, solved }: Hit) => {
    if (solved) dispatch(typed({ sumId: sum.id, input }));
    onClose();
    void navigate(`/reckoner/${sum.id}`, { state: { typing: true } });
  };
  return (
    <section aria-label="Sums" className="mt-3">
      <h3 className="sub text-sm">In the Reckoner</h3>
      <ul>
        {hits.map((hit) => (
          <li key={hit.sum.id}>
            <button
              type="button"
              className="w-full text-left py-2.5 border-t border-base-300"
              onClick={() => open(hit)}
            >
              <b className="font-semibold">{hit.sum.title}</b>{' '}
              <span className="sub fig text-[15px]">{answerOf(hit)}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function answerOf({ sum, solved }: Hit): string {
  const id = solved?.way.finds[0];
  const field = sum.fields.find((f) => f.id === id);
  return field && solved?.answer ? inWords(field, solved.answer.found[field.id]!) : '';
}
