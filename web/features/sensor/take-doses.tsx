import { useState } from 'react';
import { DOSE_UNITS, MAX_DOSES, type NewDoses } from '@frustum/contract';
import { decodeDoses, type DoseFault } from '@frustum/formats';
import { useNoteDosesMutation } from '../../app/api.ts';
import { FileFaults } from '../../ui/file-faults.tsx';
import { Notice } from '../../ui/notice.tsx';
import { problemOf } from '../../format/problem.ts';

const MAX_BYTES = 1_000_000;

/** Takes in a list of doses from a file: all of it, or nothing. */
export function TakeDoses({ loopId }: { loopId: string }) {
  const [faults, setFaults] = useState<readonly DoseFault[]>([]);
  const [said, setSaid] = useState('');
  const [write, { error }] = useNoteDosesMutation();
  const take = async (file: File | undefined) => {
    setSaid('');
    setFaults([]);
    if (!file) return;
    if (file.size > MAX_BYTES)
      return setFaults([
        { line: 1, message: `The file has ${(file.size / 1e6).toFixed(1)} MB; a list has at most 1 MB. Cut it.` },
      ]);
    const result = decodeDoses(await file.text(), DOSE_UNITS, MAX_DOSES);
    if (!result.ok) return setFaults(result.faults);
    const answer = await write({ loopId, body: { doses: [...result.doses] as NewDoses['doses'] } });
    if (!answer.data) return;
    const { kept } = answer.data;
    const known = result.doses.length - kept;
    setSaid(`${kept} taken in from ${file.name}${known ? `; ${known} were known already` : ''}.`);
  };
  return (
    <div className="mt-3">
      <label className="flex items-center gap-3 flex-wrap text-[15px]">
        <span className="sub">Take in a list (CSV: time, what, amount, unit)</span>
        <input
          type="file"
          accept=".csv,.txt,text/csv"
          className="file-input file-input-sm h-11"
          onChange={(e) => {
            void take(e.target.files?.[0]);
            // The same file, corrected, counts as a new file.
            e.target.value = '';
          }}
        />
      </label>
      <p role="status">{said}</p>
      {error && (
        <Notice kind="trouble" role="alert">
          {problemOf(error).detail}
        </Notice>
      )}
      <FileFaults faults={faults} />
    </div>
  );
}
