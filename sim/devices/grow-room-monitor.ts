import { createServer, type Server } from 'node:net';
import { Aedes } from 'aedes';
import { listening } from './listening.ts';
import { displayed, type ProbePort } from './ports.ts';

/** How often it publishes, ms. */
const EVERY_MS = 1000;

/**
 * A stand-in for a grow-room monitor: a small MQTT broker of its own, on which it publishes what its probes show.
 *
 * Topics of an invented house: `tidewater/<key>/now` as plain JSON with °F, and `tidewater/<key>/senml` as a pack by
 * RFC 8428 with °C. Both are retained, so that a subscriber has a figure at once.
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
      const reading = probe.read();
      const { temperatureC } = reading;
      const shown = displayed(reading);
      publish(`tidewater/${key}/now`, {
        probe: shown,
        air: null,
        water: { f: Math.round(((temperatureC * 9) / 5) * 100) / 100 + 32 },
      });
      publish(`tidewater/${key}/senml`, [
        { bn: `${key}/` },
        ...Object.entries(shown).map(([name, value]) => senml(name, value)),
        { n: 'water', u: 'Cel', v: Math.round(temperatureC * 100) / 100 },
      ]);
    }
  }, EVERY_MS);
  tcp.on('close', () => {
    clearInterval(timer);
    broker.close();
  });
  return listening(tcp, host, port);
}

/** A figure as a SenML record, in the units that RFC 8428 registers. */
function senml(name: string, value: number) {
  if (name === 'mv') return { n: 'potential', u: 'V', v: value / 1000 };
  if (name === 'conductance_us') return { n: 'conductance', u: 'S', v: value / 1e6 };
  if (name === 'current_na') return { n: 'current', u: 'A', v: value / 1e9 };
  return name.endsWith('_mv') ? { n: name.slice(0, -3), u: 'V', v: value / 1000 } : { n: name, v: value };
}
