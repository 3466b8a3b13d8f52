import type { LogIns } from '../../config/log-ins.ts';
import type { Reach } from '../reach.ts';
import type { ModbusConnections } from './modbus-connections.ts';
import type { Wire } from './wire.ts';

/** What a wire may use of the server's. */
export interface Ways {
  readonly logIns: LogIns;
  readonly reach: Reach;
  /** shared by the wires that lead to one device */
  readonly connections: ModbusConnections;
}

/** How channels of one kind are read. One file each, listed in `readers.ts`. */
export interface WireReader<Config> {
  /** asks nothing of the device before the first reading */
  open(config: Config, ways: Ways): Wire;
  /** who is meant, in a sentence */
  nameOf(config: Config): string;
  /** until the next reading, ms; `watchedMs` is the usual pace while a screen shows the channel, null while none does */
  pauseMs(config: Config, watchedMs: number | null): number;
  /** a silence is told when it begins, not once the channel's limit has passed */
  readonly tellsSilenceAtOnce?: true;
}

/** Pace of a channel that no screen shows, ms: no faster than this. */
export const IDLE_MS = 2000;

/** The pace that its set-up gives. */
export const pauseAsSetUp = ({ pollSeconds }: { readonly pollSeconds: number }, watchedMs: number | null): number =>
  watchedMs === null ? Math.max(IDLE_MS, 1000 * pollSeconds) : 1000 * pollSeconds;
