import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import type { RunEvent } from '@frustum/core';
import { openJournal, readJournal } from './journal.ts';

const folder = mkdtempSync(join(tmpdir(), 'frustum-journal-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const file = join(folder, 'journal.ndjson');

const RUN = '00000000-0000-4000-8000-000000000001';
const event = (seq: number): RunEvent => ({
  seq,
  device: 'phone',
  counter: seq,
  at: '2026-11-23T09:00:00.000Z',
  by: 'Operator A',
  // Signs of several bytes: a cut may fall into the middle of one.
  body: { type: 'noted', text: `Nº ${seq}: 1413 µS/cm 🌊` },
});

describe('the journal', () => {
  it('cut at every byte of its last line, as by a power cut: what was whole stays, and what is written next is not lost with it', async () => {
    rmSync(file, { force: true });
    const first = await openJournal(file);
    await first.keep(RUN, [event(1)]);
    await first.close();
    const kept = readFileSync(file).length;
    const second = await openJournal(file);
    await second.keep(RUN, [event(2)]);
    await second.close();
    const whole = readFileSync(file);
    for (let cut = kept; cut <= whole.length; cut++) {
      writeFileSync(file, whole.subarray(0, cut));
      const again = await openJournal(file);
      await again.keep(RUN, [event(3)]);
      await again.close();
      const { entries, unreadable } = readJournal(file);
      const seqs = entries.flatMap((e) => e.events.map((k) => k.seq));
      expect([seqs, unreadable], `cut at byte ${cut}`).toEqual([cut === whole.length ? [1, 2, 3] : [1, 3], 0]);
    }
  });

  it('a whole line that is none of ours is counted, and takes nothing else along', async () => {
    writeFileSync(file, `{oops}\n${JSON.stringify({ runId: RUN, events: [event(1)] })}\n"x"\nnull\n`);
    expect(readJournal(file)).toMatchObject({ entries: [{ runId: RUN }], unreadable: 3 });
  });
});
