import { useEffect, useState } from 'react';

/** Seconds that the digits must stand still, where the run does not say. */
const COUNT_SECONDS = 15;

/** Counts for the operator; a digit that moves starts it over. */
export function HandCount({ seconds = COUNT_SECONDS }: { seconds?: number }) {
  const [startedAt, setStartedAt] = useState<number | null>(null);
  const [now, setNow] = useState(0);
  useEffect(() => {
    if (startedAt === null) return;
    const timer = setInterval(() => setNow(performance.now()), 200);
    return () => clearInterval(timer);
  }, [startedAt]);
  const gone = startedAt === null ? 0 : Math.max(0, (now - startedAt) / 1000);
  const still = startedAt !== null && gone >= seconds;
  const begin = () => {
    const at = performance.now();
    setStartedAt(at);
    setNow(at);
  };
  return (
    <div className="flex items-center gap-3 flex-wrap" role="group" aria-label="Hand count">
      <button type="button" className="btn h-14 text-base" onClick={begin}>
        {startedAt === null ? `Count ${seconds} s` : 'A digit moved, start over'}
      </button>
      <span className="text-lg" role="status">
        {startedAt === null ? (
          <span className="sub text-[15px]">Count when the digits stop. Any that moves starts it over.</span>
        ) : still ? (
          <b>Still for {seconds} s. Type it now.</b>
        ) : (
          <span className="fig text-3xl">{Math.floor(gone)}</span>
        )}
      </span>
    </div>
  );
}
