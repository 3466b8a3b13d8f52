// A house with every kind of write, and what must hold of it afterwards: long because it is a list of both.

import { crc32, deflateSync } from 'node:zlib';
import type { AlarmsView, ProcedureRow, RunView, SensorView, ShelfView } from '@frustum/contract';
import { RESERVOIR } from '../server/testing/cast.ts';

/** A seeded row of numbers from 0 to 1 (mulberry32). */
export function numbers(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), a | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** A picture with one grey point. @param grey 0 to 255 */
function picture(grey: number): Buffer {
  const chunk = (type: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
    const [length, crc] = [Buffer.alloc(4), Buffer.alloc(4)];
    length.writeUInt32BE(data.length);
    crc.writeUInt32BE(crc32(body));
    return Buffer.concat([length, body, crc]);
  };
  const head = Buffer.from([0, 0, 0, 1, 0, 0, 0, 1, 8, 0, 0, 0, 0]);
  const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
  const data = deflateSync(Buffer.from([0, grey]));
  return Buffer.concat([signature, chunk('IHDR', head), chunk('IDAT', data), chunk('IEND', Buffer.alloc(0))]);
}

interface Loop {
  readonly name: string;
  sensorId: string;
  loopId: string;
  channelId: string;
  /** what was acknowledged, and what may have been kept without */
  channelVersions: number[];
  intervals: number[];
  doses: Map<string, boolean[]>;
  services: Map<string, boolean[]>;
}
interface Run {
  readonly id: string;
  readonly loop: Loop;
  readonly acked: Set<number>;
  readonly sent: Set<number>;
  ended: boolean;
}

/** What was sent and what was acknowledged: each state of a thing that it may be in after a kill. */
export class TortureHouse {
  /** acknowledged writes, by kind */
  readonly acked: Record<string, number> = {};
  readonly wrong: string[] = [];
  private readonly random: () => number;
  private readonly loops: Loop[] = [];
  private readonly lots = new Map<string, { id: string; states: string[] }>();
  private readonly runs: Run[] = [];
  private readonly procedures = new Map<string, { id: string; versions: number[] }>();
  private readonly photos = new Map<string, Buffer>();
  private readonly seen = new Set<string>();
  private count = 0;
  private clock = Date.parse('2026-11-25T00:00:00Z');

  constructor(random: () => number) {
    this.random = random;
  }

  get total(): number {
    return Object.values(this.acked).reduce((sum, n) => sum + n, 0);
  }

  /** One write of some kind. Returns false when the server has gone. */
  async write(url: string): Promise<boolean> {
    const kinds = [
      'sensor', 'lot', 'lot', 'usedUp', 'service', 'serviceBack', 'dose', 'dose', 'doseBack', 'run', 'event', 'event',
      'event', 'event', 'abandon', 'procedure', 'newVersion', 'channel', 'schedule', 'photo', 'alarm',
    ] as const; // prettier-ignore
    const kind = this.loops.length < 3 ? 'sensor' : kinds[Math.floor(this.random() * kinds.length)]!;
    try {
      await this[kind](url);
      return true;
    } catch (error) {
      if (error instanceof TypeError || (error as Error).name === 'AbortError') return false;
      throw error;
    }
  }

  private pick<T>(list: readonly T[]): T | undefined {
    return list[Math.floor(this.random() * list.length)];
  }

  private async ask<T>(url: string, path: string, method = 'GET', body?: unknown): Promise<T | null> {
    const raw = Buffer.isBuffer(body);
    const response = await fetch(url + path, {
      method,
      headers: body === undefined ? {} : { 'content-type': raw ? 'application/octet-stream' : 'application/json' },
      ...(body === undefined ? {} : { body: raw ? new Uint8Array(body) : JSON.stringify(body) }),
    });
    const answer = (await response.json()) as T & { code?: string };
    if (response.ok) return answer;
    if (response.status >= 500 && !['store-away'].includes(answer.code ?? ''))
      this.wrong.push(`${method} ${path}: ${response.status} ${JSON.stringify(answer).slice(0, 200)}`);
    return null;
  }
  private done(kind: string): void {
    this.acked[kind] = (this.acked[kind] ?? 0) + 1;
  }
  private at(): string {
    return new Date((this.clock += 1000)).toISOString();
  }

  private async sensor(url: string): Promise<void> {
    if (this.loops.length > 60) return;
    const name = `Loop ${++this.count}`;
    const kept = await this.ask<{ sensorId: string; loopId: string }>(url, '/api/sensors', 'POST', {
      ...RESERVOIR,
      loopName: name,
      sensorName: name,
    });
    if (!kept) return;
    const view = await this.ask<SensorView>(url, `/api/sensors/${kept.sensorId}`);
    this.done('sensor');
    this.loops.push({
      name,
      ...kept,
      channelId: view!.row.channelId,
      channelVersions: [1],
      intervals: [30],
      doses: new Map(),
      services: new Map(),
    });
  }
  private async lot(url: string): Promise<void> {
    const label = `K-${++this.count}`;
    const entry = { id: '', states: ['none', 'there'] };
    this.lots.set(label, entry);
    const kept = await this.ask<{ lotId: string }>(url, '/api/lots', 'POST', {
      standardId: 'technical-7.00',
      label,
      expiresOn: '2027-05-31',
    });
    if (!kept) return void this.lots.delete(label);
    entry.id = kept.lotId;
    entry.states = ['there'];
    this.done('bottle');
  }
  private async usedUp(url: string): Promise<void> {
    const entry = this.pick(
      [...this.lots.values()].filter((l) => l.id && l.states.length === 1 && l.states[0] === 'there'),
    );
    if (!entry) return;
    entry.states = ['there', 'used'];
    if (!(await this.ask(url, `/api/lots/${entry.id}/used-up`, 'POST'))) return;
    entry.states = ['used'];
    this.done('bottle used up');
  }
  private async service(url: string): Promise<void> {
    const loop = this.pick(this.loops)!;
    const at = this.at();
    loop.services.set(at, [false, true]);
    if (!(await this.ask(url, `/api/sensors/${loop.sensorId}/services`, 'POST', { kind: 'cleaned', note: '', at })))
      return;
    loop.services.set(at, [true]);
    this.done('service');
  }
  private async serviceBack(url: string): Promise<void> {
    const loop = this.pick(this.loops)!;
    const at = this.pick([...loop.services].filter(([, s]) => s.length === 1 && s[0]).map(([a]) => a));
    if (at === undefined) return;
    loop.services.set(at, [true, false]);
    const answer = await fetch(`${url}/api/sensors/${loop.sensorId}/services`, {
      method: 'DELETE',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ at, kind: 'cleaned' }),
    });
    if (!answer.ok) return void loop.services.set(at, [true]);
    loop.services.set(at, [false]);
    this.done('service taken back');
  }
  private async dose(url: string): Promise<void> {
    const loop = this.pick(this.loops)!;
    const at = this.at();
    loop.doses.set(at, [false, true]);
    const dose = { at, what: 'acid', amount: 1 / 3, unit: 'mL' };
    if (!(await this.ask(url, `/api/loops/${loop.loopId}/doses`, 'POST', { doses: [dose] }))) return;
    loop.doses.set(at, [true]);
    this.done('dose');
  }
  private async doseBack(url: string): Promise<void> {
    const loop = this.pick(this.loops)!;
    const view = await this.ask<{ last: readonly { at: string; noted: string | null }[] }>(url, `/api/loops/${loop.loopId}/doses`); // prettier-ignore
    const one = view?.last.find((d) => d.noted && loop.doses.get(d.at)?.length === 1);
    if (!one) return;
    loop.doses.set(one.at, [true, false]);
    const answer = await fetch(`${url}/api/loops/${loop.loopId}/doses`, {
      method: 'DELETE',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ noted: one.noted }),
    });
    if (!answer.ok) return void loop.doses.set(one.at, [true]);
    loop.doses.set(one.at, [false]);
    this.done('dose taken back');
  }
  private async run(url: string): Promise<void> {
    const busy = new Set(this.runs.filter((r) => !r.ended).map((r) => r.loop));
    const loop = this.pick(this.loops.filter((l) => !busy.has(l)));
    if (!loop) return;
    const view = await this.ask<RunView>(url, '/api/runs', 'POST', {
      sensorId: loop.sensorId,
      points: [{ standardId: 'technical-7.00' }, { standardId: 'technical-4.01' }],
      school: 'statistical',
    });
    if (!view) return;
    this.runs.push({ id: view.runId, loop, acked: new Set(), sent: new Set(), ended: false });
    this.done('run');
  }
  private async event(url: string): Promise<void> {
    const run = this.pick(this.runs.filter((r) => !r.ended && r.sent.size < 25));
    if (!run) return;
    await this.send(url, run, { type: 'noted', text: 'a note 🌊' }, null);
  }
  private async abandon(url: string): Promise<void> {
    const run = this.pick(this.runs.filter((r) => !r.ended && r.acked.size > 3));
    if (!run) return;
    const view = await this.ask<RunView>(url, `/api/runs/${run.id}`);
    if (!view) return;
    run.ended = true;
    await this.send(url, run, { type: 'abandoned', because: 'torture' }, view.events.at(-1)!.seq);
  }
  private async send(url: string, run: Run, body: object, onSeq: number | null): Promise<void> {
    const counter = ++this.count;
    run.sent.add(counter);
    const event = { device: 'phone-in-the-sump', counter, at: new Date().toISOString(), onSeq, body };
    const view = await this.ask<RunView>(url, `/api/runs/${run.id}/events`, 'POST', { events: [event] });
    if (!view) {
      // Refused as a decision on an older state: it may stand as a note of its own, never as itself.
      run.ended = false;
      return void run.sent.delete(counter);
    }
    run.acked.add(counter);
    this.done('event of a run');
  }
  private async procedure(url: string): Promise<void> {
    const name = `Ours ${++this.count}`;
    const entry = { id: '', versions: [0, 1] };
    this.procedures.set(name, entry);
    const kept = await this.ask<{ procedureId: string }>(url, '/api/procedures', 'POST', this.words(name, 0));
    if (!kept) return void this.procedures.delete(name);
    entry.id = kept.procedureId;
    entry.versions = [1];
    this.done('procedure');
  }
  private words(name: string, version: number): object {
    return { version, family: 'ph', kind: 'calibrate', name, points: [], school: '', seconds: null, words: {}, extra: [], retired: false }; // prettier-ignore
  }
  private async newVersion(url: string): Promise<void> {
    const [name, entry] = this.pick([...this.procedures].filter(([, p]) => p.id && p.versions.length === 1)) ?? [];
    if (!name || !entry) return;
    const [version] = entry.versions as [number];
    entry.versions = [version, version + 1];
    if (!(await this.ask(url, `/api/procedures/${entry.id}`, 'PUT', this.words(name, version))))
      return void (entry.versions = [version]);
    entry.versions = [version + 1];
    this.done('version of a procedure');
  }
  private async channel(url: string): Promise<void> {
    const busy = new Set(this.runs.filter((r) => !r.ended).map((r) => r.loop));
    const loop = this.pick(this.loops.filter((l) => !busy.has(l) && l.channelVersions.length === 1));
    if (!loop) return;
    const [version] = loop.channelVersions as [number];
    loop.channelVersions = [version, version + 1];
    const channel = { kind: 'hand', quantity: 'mV' };
    if (!(await this.ask(url, `/api/channels/${loop.channelId}`, 'PUT', { channel, version })))
      return void (loop.channelVersions = [version]);
    loop.channelVersions = [version + 1];
    this.done('channel');
  }
  private async schedule(url: string): Promise<void> {
    const loop = this.pick(this.loops.filter((l) => l.intervals.length === 1));
    if (!loop) return;
    const [was] = loop.intervals as [number];
    const next = 10 + Math.floor(300 * this.random());
    loop.intervals = [was, next];
    const order = { intervalDays: next, dueBy: 'calendar', was: { intervalDays: was, dueBy: 'calendar' } };
    if (!(await this.ask(url, `/api/sensors/${loop.sensorId}/schedule`, 'PUT', order)))
      return void (loop.intervals = [was]);
    loop.intervals = [next];
    this.done('schedule');
  }
  private async photo(url: string): Promise<void> {
    const run = this.pick(this.runs);
    if (!run) return;
    const bytes = picture(Math.floor(256 * this.random()));
    const kept = await this.ask<{ photoId: string }>(url, `/api/runs/${run.id}/photos`, 'POST', bytes);
    if (!kept) return;
    const back = await fetch(`${url}/api/photos/${kept.photoId}`);
    this.photos.set(kept.photoId, Buffer.from(await back.arrayBuffer()));
    this.done('picture');
  }
  private async alarm(url: string): Promise<void> {
    const view = await this.ask<AlarmsView>(url, '/api/alarms');
    const one = view?.standing.find((a) => !a.acknowledgedAt);
    if (!one) return;
    if (!(await this.ask(url, `/api/alarms/${one.id}/acknowledge`, 'POST'))) return;
    this.seen.add(one.id);
    this.done('alarm seen');
  }

  /** After a restart each acknowledged write is there exactly once; a write that was under way may be there or not. */
  async check(url: string): Promise<void> {
    const miss = (what: string) => void this.wrong.push(what);
    const margins = await this.ask<{ rows: readonly { loopName: string; sensorId: string }[] }>(url, '/api/margins');
    for (const loop of this.loops) {
      const rows = margins!.rows.filter((r) => r.loopName === loop.name);
      if (rows.length !== 1) miss(`${loop.name} is there ${rows.length} times`);
      const view = await this.ask<SensorView>(url, `/api/sensors/${loop.sensorId}`);
      if (!view) {
        miss(`${loop.name} has no sensor`);
        continue;
      }
      if (!loop.channelVersions.includes(view.row.channelVersion)) miss(`${loop.name} has version ${view.row.channelVersion} of its channel, not ${loop.channelVersions.join(' or ')}`); // prettier-ignore
      loop.channelVersions = [view.row.channelVersion];
      if (!loop.intervals.includes(view.row.intervalDays)) miss(`${loop.name} is due every ${view.row.intervalDays} days, not ${loop.intervals.join(' or ')}`); // prettier-ignore
      loop.intervals = [view.row.intervalDays];
      const services = view.services.map((s) => s.at);
      settle(loop.services, services, (at, n) => miss(`service ${at} is there ${n} times`));
      const csv = await (await fetch(`${url}/api/loops/${loop.loopId}/doses.csv`)).text();
      const doses = csv.split('\n').flatMap((line) => /\d{4}-\d\d-\d\dT[\d:.]+Z/.exec(line)?.[0] ?? []);
      settle(loop.doses, doses, (at, n) => miss(`dose ${at} is there ${n} times`));
    }
    const shelf = await this.ask<ShelfView>(url, '/api/shelf');
    for (const [label, entry] of this.lots) {
      const found = shelf!.lots.filter((l) => l.label === label);
      const state = found.length === 0 ? 'none' : found[0]!.usedUpOn ? 'used' : 'there';
      if (found.length > 1 || !entry.states.includes(state)) miss(`bottle ${label} is ${state}, ${found.length} times, not ${entry.states.join(' or ')}`); // prettier-ignore
      entry.states = [state];
      if (found[0]) entry.id = found[0].lotId;
    }
    for (const run of this.runs) {
      const view = await this.ask<RunView>(url, `/api/runs/${run.id}`);
      const mine = (view?.events ?? []).filter((e) => e.device === 'phone-in-the-sump').map((e) => e.counter);
      if (!view) miss(`run ${run.id} is gone`);
      if (new Set(mine).size !== mine.length) miss(`run ${run.id} has an event twice`);
      for (const counter of run.acked) if (!mine.includes(counter)) miss(`run ${run.id} has lost event ${counter}`);
      for (const counter of mine) {
        if (!run.sent.has(counter)) miss(`run ${run.id} has event ${counter}, which was refused`);
        run.acked.add(counter);
      }
      run.ended = view?.events.some((e) => e.body.type === 'abandoned') ?? false;
    }
    const procedures = await this.ask<readonly ProcedureRow[]>(url, '/api/procedures');
    for (const [name, entry] of this.procedures) {
      const found = procedures!.filter((p) => p.name === name);
      const version = found[0]?.version ?? 0;
      if (found.length > 1 || !entry.versions.includes(version)) miss(`procedure ${name} has version ${version}, not ${entry.versions.join(' or ')}`); // prettier-ignore
      entry.versions = [version];
      if (found[0]) entry.id = found[0].procedureId;
    }
    for (const [id, bytes] of this.photos) {
      const back = Buffer.from(await (await fetch(`${url}/api/photos/${id}`)).arrayBuffer());
      if (!back.equals(bytes)) miss(`picture ${id} is not as it was`);
    }
    const alarms = await this.ask<AlarmsView>(url, '/api/alarms');
    for (const alarm of alarms!.standing) if (this.seen.has(alarm.id) && !alarm.acknowledgedAt) miss(`alarm ${alarm.id} was seen, and is not any more`); // prettier-ignore
  }
}

/** Compares what is there with what may be, and goes on from there. */
function settle(
  expected: Map<string, boolean[]>,
  found: readonly string[],
  miss: (at: string, n: number) => void,
): void {
  for (const [at, states] of expected) {
    const n = found.filter((f) => f === at).length;
    if (n > 1 || !states.includes(n === 1)) miss(at, n);
    expected.set(at, [n === 1]);
  }
}
