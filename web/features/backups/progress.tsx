/** How far something long has come. */
export function Progress({ what, rows, of }: { what: string; rows: number; of: number }) {
  return (
    <p className="mt-3 flex items-center gap-3 max-w-3xl" role="status">
      <progress className="progress progress-primary flex-1" value={rows} max={Math.max(1, of)} aria-label={what} />
      <span className="fig sub text-sm whitespace-nowrap">
        {rows} of {of}
      </span>
    </p>
  );
}
