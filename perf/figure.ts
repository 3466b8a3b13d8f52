/** One line of the table. */
export interface Figure {
  readonly what: string;
  readonly value: string;
  readonly beside: string;
}

export const medianOf = (values: readonly number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;

/** Median time of one call, µs, over batches long enough for the clock. */
export function time(call: () => unknown, batch: number): number {
  for (let i = 0; i < batch; i++) call();
  return medianOf(
    Array.from({ length: 15 }, () => {
      const at = performance.now();
      for (let i = 0; i < batch; i++) call();
      return ((performance.now() - at) * 1000) / batch;
    }),
  );
}

export const micro = (us: number) => (us < 1000 ? `${us.toPrecision(3)} µs` : `${(us / 1000).toPrecision(3)} ms`);
