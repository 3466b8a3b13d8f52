import type { RunOutcome } from '../calibration/outcome.ts';
import type { Finished, Fitted } from '../knowledge/fitted.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import type { Coefficients } from '../sensor/coefficients.ts';

/** A fitted loop of pH in a tank, or what `of` says instead. For tests. */
export const fittedOf = (
  id: string,
  of: {
    readonly loop?: Readonly<Record<string, unknown>>;
    readonly sensor?: Readonly<Record<string, unknown>>;
    readonly channel?: Readonly<Record<string, unknown>>;
    readonly reads?: Readonly<Record<string, unknown>>;
  } = {},
): Fitted =>
  ({
    siteName: 'Tidewater House',
    timeZone: 'UTC',
    loop: { id: `loop-${id}`, siteId: 'house', name: `Loop ${id}`, place: '', family: 'ph', settings: {}, takes: {}, workingValue: 7, workingC: 25, tolerance: 0.1, intervalDays: 30, dueBy: 'calendar', controls: '', controlAction: '', referenceGroup: '', body: '', water: '', surroundings: [], limits: {}, ...of.loop }, // prettier-ignore
    sensor: { id: `sensor-${id}`, name: `Sensor ${id}`, model: '', fittedMs: null, ...of.sensor },
    channel: { id: `channel-${id}`, resolution: 0.1, reads: { unit: 'mV', kind: 'wired', compensatedBy: '', outputs: [], coefficientsIn: 'instrument', ...of.reads }, ...of.channel }, // prettier-ignore
  }) as unknown as Fitted;

/** A finished calibration on a day, after which the channel reckons with what was found. */
export const endedOn = (
  { sensor, loop }: Fitted,
  day: number,
  found: Coefficients,
  of: Partial<RunOutcome> = {},
): Finished => ({
  sensorId: sensor.id,
  loopId: loop.id,
  endedAt: new Date(day * MS_PER_DAY).toISOString(),
  outcome: {
    kind: 'calibration',
    coefficients: found,
    covariance: [
      [0.2, 0],
      [0, 1e-5],
    ],
    inForceBefore: { zero: 0, sensitivity: 1 },
    inForceAfter: found,
    cleaned: false,
    t90: null,
    ...of,
  } as unknown as RunOutcome,
});
