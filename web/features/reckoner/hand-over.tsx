import { useNavigate } from 'react-router';
import { shown, type Solved, type Sum } from '@frustum/core';
import { useOpenRunsQuery } from '../../app/api.ts';
import { handedTo, type Handed } from '../../app/handed.ts';
import { useAppDispatch } from '../../app/store.ts';

/** What a run on the bench can take: a reading, or the temperature of the cup. */
function handable(sum: Sum, { way, answer }: Solved): Handed | null {
  const asked = sum.fields.find((f) => f.id === way.finds[0])!;
  if (!answer) return null;
  const value = answer.found[asked.id]!;
  const text = shown(value, asked.unit === 'pH' ? 3 : asked.decimals).replace('−', '-');
  if (asked.unit === 'pH' || asked.unit === 'mV') return { quantity: 'reading', text, unit: asked.unit };
  return asked.unit === '°C' ? { quantity: 'degrees', text, unit: '°C' } : null;
}

/** Gives the answer to a run that waits for a reading: the bench opens with it filled in, to be looked at and captured. */
export function HandOver({ sum, solved }: { sum: Sum; solved: Solved }) {
  const { data: runs } = useOpenRunsQuery();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const handed = handable(sum, solved);
  const waiting = (runs ?? []).filter((r) => r.status === 'open' && r.stepKind === 'settle');
  if (!handed || waiting.length === 0) return null;
  return (
    <div className="flex gap-2 flex-wrap mt-4">
      {waiting.map((run) => (
        <button
          key={run.runId}
          type="button"
          className="btn btn-outline border-base-300 h-12 text-base"
          onClick={() => {
            dispatch(handedTo({ runId: run.runId, handed }));
            void navigate(`/bench/${run.runId}`);
          }}
        >
          Hand {handed.text.replace('-', '−')} {handed.unit} to {run.loopName}
        </button>
      ))}
    </div>
  );
}
