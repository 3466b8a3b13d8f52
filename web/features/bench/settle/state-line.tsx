import { epochIn } from '@frustum/contract';
import { hourOf } from '../../../format/dates.ts';
import { useAtMost } from '../../../app/use-at-most.ts';
import { between, fixed } from '../../../format/numbers.ts';
import type { LiveTrace } from '../use-live-trace.ts';
import type { SettleStep } from './use-settle-step.ts';

/** A forecast that has to allow for more than this is none yet, s; nor is one whose ends lie so many times apart. */
const TOO_EARLY_SECONDS = 900;
const TOO_WIDE = 8;
const SOON_SECONDS = 15;
/** A figure that jumps teaches people to ignore it, ms. */
const CALM_MS = 3000;

/** Is it steady, and how long still? In words and as a small cone that closes. */
export function StateLine({ at, trace, sampling }: { at: SettleStep; trace: LiveTrace; sampling: boolean }) {
  const { settling, ready } = at;
  const forecast = useAtMost(forecastOf(settling), CALM_MS);
  const words = (): readonly [string, string] => {
    if (trace.state === 'stale') return ['No live value.', trace.message];
    if (trace.state === 'fault') return ['The device does not measure.', trace.message];
    if (at.outside) return ['This cup has no value yet.', at.outside];
    if (!settling || settling.state === 'waiting') return ['Waiting for the first samples.', ''];
    if (at.warning?.id === 'cup-cold') return ['Steady, but not as warm as the water.', ''];
    if (at.warning?.stops) return ['Look at the cup.', ''];
    if (!at.wiggled) return ['Wiggle it once now.', 'Then it must settle to the same number.'];
    if (sampling)
      return ready
        ? ['Enough is read.', `${fixed(settling.seconds, 0)} s watched; draw the sample now`]
        : ['Reading the water,', `${fixed(settling.seconds, 0)} s so far`];
    // A warning under it says how far, and what would tell.
    if (at.doubted && at.warning?.id === 'unlike-itself')
      return [
        'Steady, and far from what this sensor is known to read here.',
        at.warning ? '' : 'Is it in the cup? Capture it if it is.',
      ];
    if (ready)
      return [
        at.warning?.id === 'still-moving' ? 'The time is up.' : 'Steady.',
        `within ${sizeOf(at, settling.bound)} of where it will stand, ${fixed(settling.seconds, 0)} s in it`,
      ];
    if (settling.state === 'temperature-moving')
      return [
        'The temperature still moves,',
        `${fixed(settling.temperaturePerMinute, 2)} °C a minute; limit 0.10. Let the cup stand.`,
      ];
    const rest =
      settling.limit > 0
        ? `within ${sizeOf(at, settling.bound)} of where it will stand; limit ${sizeOf(at, settling.limit).replace(/ .*/, '')}`
        : '';
    return forecast ? [`Settling, ${forecast} to go.`, rest] : ['Settling, too early to say how long.', ''];
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
        {at.anew !== null && <span className="block">{begunAnew(at.anew)}</span>}
      </span>
    </p>
  );
}

const CAUSES = {
  'server-started': 'The server was restarted',
  'clock-jumped': 'The device was restarted or its clock set',
  'was-silent': 'The device was silent and answered again',
  'set-up-changed': 'The channel’s set-up was changed',
} as const;

/** Why the trace is a new one, and since when. */
function begunAnew(epoch: string): string {
  const begun = epochIn(epoch);
  const why = begun ? `${CAUSES[begun.because]} at ${hourOf(begun.atMs)}.` : 'The device’s clock began anew.';
  return `${why} Settling begins again here.`;
}

/** How long still, as one slow range; '' while that would mean nothing. */
function forecastOf(settling: SettleStep['settling']): string {
  const toGo = settling?.toGo;
  if (!toGo || toGo.high > TOO_EARLY_SECONDS || toGo.high > TOO_WIDE * Math.max(SOON_SECONDS, toGo.low)) return '';
  return between(toGo.low, toGo.high);
}

/** A change of the signal as a change of what is shown: people think in pH, not in millivolts. */
function sizeOf({ settling, figures, inForce, planned }: SettleStep, change: number): string {
  const { level, temperatureC } = settling!;
  const shown = (signal: number) => {
    const own = temperatureC === null ? null : figures.shown(signal, temperatureC, inForce);
    return own === null ? null : figures.plotted(own);
  };
  const [here, there] = [shown(level), shown(level + change)];
  if (planned.role === 'input' || here === null || there === null)
    return `${fixed(change, figures.signalDigits + 1)} ${figures.signalUnit}`;
  const least = 10 ** -(figures.digits + 1);
  return `${fixed(Math.max(least, Math.abs(there - here)), figures.digits + 1)} ${figures.unit}`;
}
