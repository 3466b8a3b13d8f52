import { nernstSlope, type Settling } from '@frustum/core';
import { about, fixed } from '../../format/numbers.ts';
import type { LiveTrace } from './use-live-trace.ts';

/** A forecast that has to allow for more than this is none yet, s. */
const TOO_EARLY_SECONDS = 900;

/** Is it steady, and how long still? In words and as a small cone that closes. */
export function StateLine({
  settling,
  trace,
  wiggled,
  ready,
  warned,
  outside,
}: {
  settling: Settling | null;
  trace: LiveTrace;
  wiggled: boolean;
  ready: boolean;
  warned: boolean;
  /** why this cup has no value at its temperature */
  outside: string | null;
}) {
  const k = nernstSlope(settling?.temperatureC || 25);
  const toCome = settling ? settling.bound / k : NaN;
  const words = (): readonly [string, string] => {
    if (trace.state === 'stale') return ['No live value.', trace.message];
    if (trace.state === 'fault') return ['The device does not measure.', trace.message];
    if (outside) return ['This cup has no value yet.', outside];
    if (!settling || settling.state === 'waiting') return ['Waiting for the first samples.', ''];
    if (warned) return ['Look at the cup.', ''];
    if (!wiggled) return ['Wiggle it once now.', 'Then it must settle to the same number.'];
    if (ready)
      return [
        'Steady.',
        `less than ${fixed(Math.max(0.001, toCome), 3)} pH still to come, ${fixed(settling.seconds, 0)} s in the cup`,
      ];
    if (settling.state === 'temperature-moving')
      return [
        'The temperature still moves,',
        `${fixed(settling.temperaturePerMinute, 2)} °C a minute; limit 0.10. Let the cup stand.`,
      ];
    const limit = settling.limit / k;
    const rest = settling.limit > 0 ? `${fixed(toCome, 3)} pH may still come; limit ${fixed(limit, 3)}` : '';
    if (!settling.toGo || settling.toGo.high > TOO_EARLY_SECONDS) return ['Settling, too early to say how long.', ''];
    const { mid, high } = settling.toGo;
    const most = high > 2 * mid ? `, at most ${about(high).replace('about ', '')}` : '';
    return [`Settling, ${about(mid)} to go${most}.`, rest];
  };
  const [main, rest] = words();
  return (
    <p
      className="flex items-center gap-3 mt-2.5 mb-2 text-[17px] min-h-12"
      role="status"
      data-testid="settling-state"
      data-ready={ready}
    >
      <svg width={34} height={22} viewBox="0 0 34 22" aria-hidden="true" className="shrink-0">
        <path d="M1 1H33M1 21H33" stroke="var(--color-secondary)" />
        <path
          d={ready ? 'M1 9V13L33 12V10Z' : 'M1 2V20L33 13V9Z'}
          fill="var(--color-primary)"
          fillOpacity={ready ? 1 : 0.3}
        />
      </svg>
      <span>
        <b>{main}</b> <span className="sub">{rest}</span>
      </span>
    </p>
  );
}
