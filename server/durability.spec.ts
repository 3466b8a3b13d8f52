import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import type { RunView } from '@frustum/contract';
import { SHORT_LIVED } from '../scripts/lib/short-lived.mjs';
import { fromPhone, RESERVOIR, UP_TO_VERDICT } from './testing/cast.ts';

const root = join(import.meta.dirname, '..');
const folder = mkdtempSync(join(tmpdir(), 'frustum-kill-'));
const groups: number[] = [];

/** Starts the built server in a process group of its own, as `npm start` does, and waits for its address. */
function start(env: Record<string, string> = {}): Promise<{ url: string; pid: number }> {
  const child = spawn(process.execPath, [...SHORT_LIVED, 'server/dist/main.js'], {
    cwd: root,
    detached: true,
    env: { ...process.env, FRUSTUM_DATA: folder, PORT: '0', ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  groups.push(child.pid!);
  let output = '';
  return new Promise((resolve, reject) => {
    const read = (chunk: Buffer) => {
      output += chunk.toString();
      const url = /Frustum is at (\S+)/.exec(output)?.[1];
      if (url) resolve({ url, pid: child.pid! });
    };
    child.stdout.on('data', read);
    child.stderr.on('data', read);
    child.once('exit', () => reject(new Error(output)));
  });
}

/** kill -9 of the whole group: server, database thread, everything. */
async function killAll(pid: number): Promise<void> {
  process.kill(-pid, 'SIGKILL');
  for (;;) {
    try {
      process.kill(pid, 0);
      await new Promise((r) => setImmediate(r));
    } catch {
      return;
    }
  }
}

async function post(url: string, body: unknown): Promise<unknown> {
  const headers = { 'content-type': 'application/json' };
  const response = await fetch(url, { method: 'POST', headers, body: JSON.stringify(body) });
  return response.json();
}

afterAll(() => {
  for (const pid of groups) {
    try {
      process.kill(-pid, 'SIGKILL');
    } catch {
      // gone already
    }
  }
  rmSync(folder, { recursive: true, force: true });
});

describe('what was acknowledged survives', () => {
  it('a capture is there after kill -9 of every process, three times in a row', async () => {
    let { url, pid } = await start();
    const { sensorId } = (await post(`${url}/api/sensors`, RESERVOIR)) as { sensorId: string };
    const order = {
      sensorId,
      points: [{ standardId: 'technical-7.00' }, { standardId: 'technical-4.01' }],
      school: 'statistical',
    };
    const { runId } = (await post(`${url}/api/runs`, order)) as RunView;
    // In the middle of the way to the cup, right after the first capture, and one step later.
    let sent = 0;
    for (const upTo of [3, 4, 5]) {
      const events = UP_TO_VERDICT.slice(sent, upTo).map((body, i) => fromPhone(sent + i + 1, body));
      sent = upTo;
      const acknowledged = (await post(`${url}/api/runs/${runId}/events`, { events })) as RunView;
      expect(acknowledged.events).toHaveLength(upTo + 1);
      await killAll(pid);
      ({ url, pid } = await start());
      const after = (await (await fetch(`${url}/api/runs/${runId}`)).json()) as RunView;
      expect(after.events, `after ${upTo} events`).toEqual(acknowledged.events);
    }
    expect(((await (await fetch(`${url}/api/runs/${runId}`)).json()) as RunView).events.at(-2)!.body).toMatchObject({
      type: 'captured',
      capture: { signal: -8.9 },
    });
  });

  it('a second process on the same folder is refused with who holds it, and a busy port with another one to try', async () => {
    const { url, pid } = await start({ FRUSTUM_DATA: join(folder, 'second') });
    await expect(start({ FRUSTUM_DATA: join(folder, 'second') })).rejects.toThrow(
      new RegExp(`in use by process ${pid}.*FRUSTUM_DATA`, 's'),
    );
    const port = new URL(url).port;
    await expect(start({ FRUSTUM_DATA: join(folder, 'third'), PORT: port })).rejects.toThrow(
      new RegExp(`Port ${port} is in use.*PORT=`, 's'),
    );
    await expect(start({ PORT: 'eighty' })).rejects.toThrow(/PORT is “eighty”/);
  });
});
