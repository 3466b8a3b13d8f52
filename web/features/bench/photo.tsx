import { useState, type DragEvent } from 'react';
import type { Step } from '@frustum/core';
import { useKeepPhotoMutation } from '../../app/api.ts';
import { Notice } from '../../ui/notice.tsx';
import { MAX_MEGABYTES, shrunk } from './shrink-photo.ts';
import type { BenchRun } from './use-run.ts';
import { problemOf } from '../../format/problem.ts';

/** A picture of the controller's display as a witness: kept with the step, the time and what was typed with it. */
export function Photo({ run, step }: { run: BenchRun; step: Step }) {
  const { state, send, view } = run;
  const [keep, { isLoading, error }] = useKeepPhotoMutation();
  const [typed, setTyped] = useState('');
  const [trouble, setTrouble] = useState<string | null>(null);
  const [over, setOver] = useState(false);
  const mine = state.photos.filter((p) => p.stepId === step.id);
  const take = async (file: File | undefined) => {
    setOver(false);
    if (!file) return;
    const made = await shrunk(file);
    setTrouble(made.ok ? null : made.message);
    if (!made.ok) return;
    const answer = await keep({ runId: view.runId, picture: made.picture });
    if (answer.data) {
      send({ type: 'photographed', photoId: answer.data.photoId, stepId: step.id, typed: typed.trim() });
      setTyped('');
    }
  };
  return (
    <details
      className={`mt-3 border-t pt-2 ${over ? 'border-primary' : 'border-base-300'}`}
      onDragOver={(e: DragEvent) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e: DragEvent) => {
        e.preventDefault();
        void take(e.dataTransfer.files[0]);
      }}
    >
      <summary className="cursor-pointer py-2.5 font-semibold">
        Photo of the display{mine.length > 0 && `: ${mine.length} kept`}
      </summary>
      <TakePicture typed={typed} setTyped={setTyped} isLoading={isLoading} take={(file) => void take(file)} />
      {(trouble ?? error) && (
        <div className="mt-2">
          <Notice kind="trouble" role="alert">
            {trouble ?? problemOf(error).detail}
          </Notice>
        </div>
      )}
      <KeptPhotos photos={mine} />
    </details>
  );
}

function TakePicture({
  typed,
  setTyped,
  isLoading,
  take,
}: {
  typed: string;
  setTyped: (value: string) => void;
  isLoading: boolean;
  take: (file: File | undefined) => void;
}) {
  return (
    <div className="flex gap-2.5 flex-wrap items-end">
      <label className="sub text-sm">
        What it shows, as you read it
        <input
          className="input h-14 block w-40 text-base text-base-content fig"
          maxLength={60}
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
        />
      </label>
      <label className="sub text-sm">
        Take or drop a picture, {MAX_MEGABYTES} MB at most
        <input
          type="file"
          accept="image/jpeg,image/png"
          capture="environment"
          className="file-input h-14 block text-base-content"
          aria-label="Photo of the display"
          disabled={isLoading}
          onChange={(e) => void take(e.target.files?.[0])}
        />
      </label>
    </div>
  );
}

/** Pictures that are kept, each with what was typed beside it. */
export function KeptPhotos({ photos }: { photos: BenchRun['state']['photos'] }) {
  if (!photos.length) return null;
  return (
    <ul className="flex gap-3 flex-wrap mt-2">
      {photos.map((p) => (
        <li key={p.photoId} className="text-sm sub">
          <a href={`/api/photos/${p.photoId}`} target="_blank" rel="noreferrer">
            <img
              src={`/api/photos/${p.photoId}`}
              alt={p.typed ? `Display, read as ${p.typed}` : 'Display of the controller'}
              className="h-24 rounded border border-base-300"
            />
          </a>
          {p.typed || 'nothing typed'}
        </li>
      ))}
    </ul>
  );
}
