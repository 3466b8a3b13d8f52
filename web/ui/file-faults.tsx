interface Fault {
  /** line of the file, from 1 */
  readonly line: number;
  /** column of the file, from 1; none or 0 = the whole line */
  readonly column?: number;
  readonly message: string;
}

/** What is wrong with a file of which nothing was taken, place by place. */
export function FileFaults({ faults }: { faults: readonly Fault[] }) {
  if (!faults.length) return null;
  return (
    <div className="mt-2" role="alert">
      <p>Nothing was taken from this file:</p>
      <ul className="text-[15px]">
        {faults.map((f, i) => (
          <li key={i}>
            <span className="fig">{f.column ? `line ${f.line}, column ${f.column}` : `line ${f.line}`}</span>:{' '}
            {f.message}
          </li>
        ))}
      </ul>
    </div>
  );
}

const MAX_SHOWN = 100;

/** The first of many, and how many there are. */
export const SomeFaults = ({ faults, count }: { faults: readonly Fault[]; count: number }) => (
  <>
    <FileFaults faults={faults.slice(0, MAX_SHOWN)} />
    {count > MAX_SHOWN && (
      <p className="sub mt-1">
        {count} mistakes in all; these are the first {MAX_SHOWN}.
      </p>
    )}
  </>
);
