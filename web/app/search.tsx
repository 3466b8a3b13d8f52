import { lazy, Suspense, useState } from 'react';
import { useNavigate } from 'react-router';
import type { LoopRow } from '@frustum/contract';
import { Dialog } from './dialog.tsx';
import { besides } from '../format/besides.ts';
import { restsOnLine } from '../format/rests-on.ts';
import { StateWord } from '../ui/state-word.tsx';

const SearchSums = lazy(() => import('./search-sums.tsx'));

/** Finds a loop by any part of its name, place or serial, its state, or what is wrong with it, and sums by a figure or a word. */
export function Search({ open, rows, onClose }: { open: boolean; rows: readonly LoopRow[]; onClose: () => void }) {
  const [words, setWords] = useState('');
  const navigate = useNavigate();
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  const found = rows.filter((r) => {
    const rests = r.restsOn ? restsOnLine(r.restsOn) : '';
    const text =
      `${r.loopName} ${r.place} ${r.siteName} ${r.sensorName} ${r.serial} ${r.margin.state} ${rests}`.toLowerCase();
    return wanted.every((w) => text.includes(w));
  });
  const go = (row: LoopRow | undefined) => {
    if (!row) return;
    setWords('');
    onClose();
    void navigate(`/sensors/${row.sensorId}`);
  };
  return (
    <Dialog open={open} title="Find a loop or a sensor" onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          go(found[0]);
        }}
      >
        <input
          autoFocus
          className="input w-full h-12"
          aria-label="Name, place or serial"
          placeholder="Name, place, serial, or what is wrong"
          value={words}
          onChange={(e) => setWords(e.target.value)}
        />
      </form>
      <ul className="mt-2 max-h-80 overflow-auto">
        {found.slice(0, 30).map((r) => (
          <Found key={r.sensorId} row={r} onGo={() => go(r)} />
        ))}
      </ul>
      {found.length === 0 && (
        <p className="sub mt-3">
          No loop is called that. Try a part of the name, the place, or what is wrong, as “junction”.
        </p>
      )}
      {open && words.trim() && (
        <Suspense fallback={null}>
          <SearchSums
            words={words}
            onClose={() => {
              setWords('');
              onClose();
            }}
          />
        </Suspense>
      )}
    </Dialog>
  );
}

/** A loop that was found, with its state and what that rests on. */
const Found = ({ row, onGo }: { row: LoopRow; onGo: () => void }) => (
  <li>
    <button type="button" className="w-full text-left py-2.5 border-t border-base-300" onClick={onGo}>
      <b className="font-semibold">{row.loopName}</b> <span className="sub">{besides(row.place, row.serial)}</span>
      <span className="flex flex-wrap gap-x-3 text-sm">
        <StateWord state={row.margin.state} />
        {row.restsOn && <span>{restsOnLine(row.restsOn)}</span>}
      </span>
    </button>
  </li>
);
