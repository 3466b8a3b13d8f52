import { Agent, request } from 'node:http';
import type { MarginsView } from '@frustum/contract';

/** What many clients got. */
export interface Served {
  readonly answers: number;
  readonly unchanged: number;
  /** by status, without 200, 201 and 304 */
  readonly odd: Readonly<Record<string, number>>;
  /** answers to margins alone, ms */
  readonly p50: number;
  readonly p99: number;
  readonly longest: number;
}

interface Answer {
  readonly status: number;
  readonly headers: Record<string, string | string[] | undefined>;
  readonly text: string;
}

/** One browser: it has loaded the page, holds the stream open, and asks for what its screen shows, a second apart. */
class Client {
  private readonly agent = new Agent({ keepAlive: true, maxSockets: 4 });
  private cookie = '';
  private mark = '';
  private sensors: readonly string[] = [];
  private stream: { destroy: () => void } | null = null;
  private readonly port: number;

  constructor(port: number) {
    this.port = port;
  }

  async opens(): Promise<void> {
    const page = await this.ask('GET', '/');
    this.cookie = String(page.headers['set-cookie']?.[0] ?? '').split(';')[0]!;
    const live = request({ port: this.port, path: '/api/live', headers: this.headers() }, (r) => r.resume());
    live.on('error', () => undefined);
    live.end();
    this.stream = live;
  }

  /** Margins as a browser asks for them: whether what it has is still so. */
  async margins(): Promise<Answer> {
    const answer = await this.ask('GET', '/api/margins', this.mark ? { 'if-none-match': this.mark } : {});
    if (answer.status === 200) {
      this.mark = String(answer.headers['etag']);
      this.sensors = (JSON.parse(answer.text) as MarginsView).rows.slice(0, 40).map((r) => r.sensorId);
    }
    return answer;
  }

  cones = () => this.ask('GET', `/api/cones?sensors=${this.sensors.slice(0, 12).join(',')}`);
  alarms = () => this.ask('GET', '/api/alarms');
  sensor = (i: number) => this.ask('GET', `/api/sensors/${this.sensors[i % this.sensors.length]}`);
  cleaned = (i: number) =>
    this.ask(
      'POST',
      `/api/sensors/${this.sensors[i % this.sensors.length]}/services`,
      {},
      { kind: 'cleaned', note: '' },
    );

  closes(): void {
    this.stream?.destroy();
    this.agent.destroy();
  }

  private headers(): Record<string, string> {
    return this.cookie ? { cookie: this.cookie } : {};
  }

  private ask(method: string, path: string, more: Record<string, string> = {}, body?: object): Promise<Answer> {
    const headers = { ...this.headers(), ...more, ...(body ? { 'content-type': 'application/json' } : {}) };
    return new Promise((resolve) => {
      const asked = request({ port: this.port, method, path, agent: this.agent, headers }, (response) => {
        const parts: Buffer[] = [];
        response.on('data', (part: Buffer) => parts.push(part));
        response.on('end', () =>
          resolve({ status: response.statusCode!, headers: response.headers, text: Buffer.concat(parts).toString() }),
        );
      });
      asked.on('error', () => resolve({ status: 0, headers: {}, text: '' }));
      asked.end(body && JSON.stringify(body));
    });
  }
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/**
 * So many browsers for so long. One of them notes something every five seconds, so that Margins change for all.
 *
 * @param each called every ten seconds
 */
export async function serve(port: number, count: number, seconds: number, each: () => Promise<void>): Promise<Served> {
  const clients = Array.from({ length: count }, () => new Client(port));
  await Promise.all(clients.map((c) => c.opens()));
  const odd: Record<string, number> = {};
  const took: number[] = [];
  let [answers, unchanged] = [0, 0];
  const take = ({ status }: Answer) => {
    answers++;
    unchanged += Number(status === 304);
    if (![200, 201, 304].includes(status)) odd[status] = (odd[status] ?? 0) + 1;
  };
  const ends = performance.now() + 1000 * seconds;
  const lives = async (client: Client, i: number) => {
    await pause((1000 * i) / count);
    for (let turn = 0; performance.now() < ends; turn++) {
      const from = performance.now();
      take(await client.margins());
      took.push(performance.now() - from);
      if (turn % 5 === 0) take(await client.cones());
      if (turn % 10 === 3) take(await client.alarms());
      if (turn % 20 === 7) take(await client.sensor(i));
      if (i === 0 && turn % 5 === 4) take(await client.cleaned(turn));
      await pause(1000);
    }
    client.closes();
  };
  const measuring = (async () => {
    while (performance.now() < ends) {
      await each();
      await pause(10_000);
    }
  })();
  await Promise.all([...clients.map(lives), measuring]);
  took.sort((a, b) => a - b);
  const at = (share: number) => took[Math.min(took.length - 1, Math.floor(share * took.length))]!;
  return { answers, unchanged, odd, p50: at(0.5), p99: at(0.99), longest: took.at(-1)! };
}
