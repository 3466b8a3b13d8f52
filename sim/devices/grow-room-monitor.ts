import { createServer, type Server } from 'node:net';
import { Aedes } from 'aedes';
import type { ProbePort } from './transmitter.ts';

/** How often it publishes, ms. */
const EVERY_MS = 1000;

/**
 * A stand-in for a grow-room monitor: a small MQTT broker of its own, on which it publishes what its probes show.
 *
 * Topics of an invented house: `tidewater/<key>/now` as plain JSON with °F, and `tidewater/<key>/senml` as a pack by
 * RFC 8428 with °C. Both are retained, so that whoever subscribes has a figure at once.
 */
export async function growRoomMonitor(
  probes: ReadonlyMap<string, ProbePort>,
  host: string,
  port: number,
): Promise<Server> {
  const broker = await Aedes.createBroker();
  const tcp = createServer((socket) => {
    socket.on('error', () => socket.destroy());
    broker.handle(socket);
  });
  const publish = (topic: string, body: unknown) =>
    broker.publish(
      { cmd: 'publish', topic, payload: Buffer.from(JSON.stringify(body)), qos: 0, retain: true, dup: false },
      () => undefined,
    );
  const timer = setInterval(() => {
    for (const [key, probe] of probes) {
      const { potentialMv, temperatureC } = probe.read();
      const mv = Math.round(potentialMv * 10) / 10;
      publish(`tidewater/${key}/now`, {
        probe: { mv },
        air: null,
        water: { f: Math.round(((temperatureC * 9) / 5) * 100) / 100 + 32 },
      });
      publish(`tidewater/${key}/senml`, [
        { bn: `${key}/`, n: 'potential', u: 'V', v: mv / 1000 },
        { n: 'water', u: 'Cel', v: Math.round(temperatureC * 100) / 100 },
      ]);
    }
  }, EVERY_MS);
  tcp.on('close', () => {
    clearInterval(timer);
    broker.close();
  });
  return new Promise((resolve, reject) => {
    tcp.once('error', reject);
    tcp.listen(port, host, () => resolve(tcp));
  });
}
