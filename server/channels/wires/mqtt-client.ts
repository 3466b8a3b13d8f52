import { createConnection } from 'node:net';
import { MqttClient } from 'mqtt';
import type { MqttConfig } from '@frustum/contract';
import type { LogIns } from '../../config/log-ins.ts';
import { reachedLookup, requireReached, type Reach } from '../reach.ts';
import { bounded } from './mqtt-bound.ts';
import { logInOf } from './wire.ts';

const CONNECT_MS = 3000;
const RECONNECT_MS = 1000;
/** No instrument says more than this in one message. */
export const MAX_BYTES = 256 * 1024;

/**
 * A connection to a broker, within the reach of this server and with the log-in that is named.
 *
 * @param tooLong told when a message is longer than any instrument's
 * @throws Refusal when the broker is out of reach, or the log-in is not there
 */
export function mqttClient(
  { host, port, version, logIn }: Pick<MqttConfig, 'host' | 'port' | 'version' | 'logIn'>,
  where: string,
  logIns: LogIns,
  reach: Reach,
  tooLong: (length: number) => void,
): MqttClient {
  requireReached(host, port, reach);
  const socket = () => createConnection({ port, host, lookup: reachedLookup(port, reach) });
  return new MqttClient(() => bounded(socket(), MAX_BYTES, tooLong), {
    ...logInOf(where, logIns, logIn),
    protocol: 'mqtt',
    protocolVersion: version === '5' ? 5 : 4,
    connectTimeout: CONNECT_MS,
    reconnectPeriod: RECONNECT_MS,
    // Nothing is queued for us while we are away: it would come as if it were new.
    clean: true,
  });
}
