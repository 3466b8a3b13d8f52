import { memo } from 'react';
import { thinned, type Coefficients, type Sample, type Settling } from '@frustum/core';
import { useAtMost } from '../../../app/use-at-most.ts';
import TraceChart, { type TracePoint } from '../../../charts/trace-chart.tsx';
import type { InFamily } from '../../../format/in-family.ts';
import { fixed } from '../../../format/numbers.ts';

const DRAWN_SAMPLES = 240;
/** A clock that runs fast, or a channel of ten a second, would have it drawn anew all the time. */
const REDRAWN_MS = 450;
export const CHART_HEIGHT = 'h-[160px] lg:h-[200px] [@media(min-height:900px)]:h-[300px]';

interface Drawn {
  readonly samples: readonly Sample[];
  readonly figures: InFamily;
  readonly inForce: Coefficients;
  readonly input: boolean;
  readonly settling: Settling;
}

/** Drawn again with each judgement, which follows the samples; other changes of the panel do not redraw it. */
export const LivePicture = memo(function LivePicture(live: Drawn) {
  const { samples, figures, inForce, input, settling } = useAtMost(live, REDRAWN_MS);
  return <Picture {...{ samples, figures, inForce, input, settling }} />;
}, drawnAlike);

const Picture = memo(function Picture({ samples, figures, inForce, input, settling }: Drawn) {
  const temperatureC = settling.temperatureC ?? 25;
  const value = (signal: number) =>
    input ? signal : figures.plotted(figures.shown(signal, temperatureC, inForce) ?? NaN);
  const start = samples[0]!.t;
  const now = samples.at(-1)!.t - start;
  const points: TracePoint[] = [
    ...thinned(samples as Sample[], DRAWN_SAMPLES).map((s) => ({ t: s.t - start, value: value(s.signal) })),
    ...(settling.state === 'waiting'
      ? []
      : settling.ahead.map((b): TracePoint => ({
          t: b.t - start,
          mean: value(b.mean),
          wide: [value(b.mean + 1.96 * b.sd), value(b.mean - 1.96 * b.sd)],
          half: [value(b.mean + 0.674 * b.sd), value(b.mean - 0.674 * b.sd)],
        }))),
  ];
  const { limit } = settling;
  const edges = [value(settling.final + limit), value(settling.final - limit)] as const;
  const band = limit > 0 && edges.every(Number.isFinite) ? edges : null;
  const unit = input ? figures.signalUnit : figures.unit;
  const digits = input ? figures.signalDigits : figures.digits;
  return (
    <TraceChart
      points={points}
      now={now}
      band={band}
      step={10 ** -digits}
      digits={digits}
      label={`Live trace, ${Math.round(now)} s long, now ${fixed(value(settling.level), digits)} ${unit}, heading for ${fixed(value(settling.final), digits)}`}
    />
  );
}, drawnAlike);

function drawnAlike(before: Drawn, now: Drawn): boolean {
  const same = (key: keyof Drawn) => before[key] === now[key];
  return same('settling') && same('inForce') && same('figures') && same('input');
}
