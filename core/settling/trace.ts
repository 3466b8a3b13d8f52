/** One sample of a trace. Time is the trace's own, in seconds: a device with its own clock keeps it. */
export interface Sample {
  readonly t: number;
  readonly signal: number;
  readonly temperatureC: number;
}

/** Mean of neighbouring samples: the fit's cost no longer depends on the poll rate. */
interface Bin {
  readonly t: number;
  readonly value: number;
  readonly count: number;
}

/**
 * Groups samples into at most `most` bins of equal time.
 *
 * @example binned([{ t: 0, signal: 1, temperatureC: 25 }], 10) // [{ t: 0, value: 1, count: 1 }]
 */
export function binned(samples: readonly Sample[], most: number): Bin[] {
  if (samples.length <= most) return samples.map((s) => ({ t: s.t, value: s.signal, count: 1 }));
  const start = samples[0]!.t;
  const width = (samples.at(-1)!.t - start) / most || 1;
  const bins: { t: number; value: number; count: number }[] = [];
  let current = -1;
  for (const s of samples) {
    const k = Math.min(most - 1, Math.floor((s.t - start) / width));
    const last = bins.at(-1);
    if (k !== current || !last) {
      bins.push({ t: s.t, value: s.signal, count: 1 });
      current = k;
    } else {
      last.count++;
      last.t += (s.t - last.t) / last.count;
      last.value += (s.signal - last.value) / last.count;
    }
  }
  return bins;
}

/**
 * A trace thin enough to keep: every n-th sample, first and last always among them.
 *
 * @example thinned([{ t: 0, signal: 1, temperatureC: 25 }], 200).length // 1
 */
export function thinned(samples: readonly Sample[], most: number): Sample[] {
  const step = Math.ceil(samples.length / most);
  return samples.filter((_, i) => i % step === 0 || i === samples.length - 1);
}
