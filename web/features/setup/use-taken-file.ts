import { useState } from 'react';

/** What a file gives, and whether it was taken in. */
interface Taken {
  readonly kept: boolean;
}
interface Asked<V> {
  readonly data?: V | undefined;
  readonly error?: unknown;
  readonly isLoading: boolean;
  readonly reset: () => void;
}
/** A question that takes the text of a file, as RTK Query gives it. */
type Question<V> = readonly [ask: (text: string) => unknown, asked: Asked<V>];

/** A file that is read and rehearsed at once, and taken in when somebody says so: as a whole or not at all. */
export function useTakenFile<V extends Taken>([rehearse, rehearsed]: Question<V>, [take, taken]: Question<V>) {
  const [file, setFile] = useState({ name: '', text: '' });
  const load = async (picked: File | undefined) => {
    if (!picked) return;
    taken.reset();
    rehearsed.reset();
    const text = await picked.text();
    setFile({ name: picked.name, text });
    rehearse(text);
  };
  return {
    name: file.name,
    load: (picked: File | undefined) => void load(picked),
    take: () => void take(file.text),
    rehearsing: rehearsed.isLoading,
    taking: taken.isLoading,
    error: rehearsed.error ?? taken.error,
    kept: taken.data?.kept ? taken.data : null,
    view: taken.data?.kept ? null : (taken.data ?? rehearsed.data ?? null),
  };
}
