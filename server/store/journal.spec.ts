import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { Journal, readJournal } from './journal.ts';

const folder = mkdtempSync(join(tmpdir(), 'frustum-journal-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
beforeEach(() => rmSync(folder, { recursive: true, force: true }));

const HOUSE = '00000000-0000-4000-8000-000000000001';
const begin = (after = 0) => Journal.begin(folder, { house: HOUSE, migrations: [], after });
/** Signs of several bytes: a cut may fall into the middle of one. */
const change = (n: number) => `{"table":"lots","row":{"id":"${n}","label":"Nº ${n}: 1413 µS/cm 🌊"}}`;
const kept = () => readJournal(folder).flatMap((g) => g.entries.map((e) => e.seq));

describe('the journal', () => {
  it('cut at every byte of its last line, as by a power cut: what was whole stays, and what is written next is not lost with it', async () => {
    const first = await begin();
    await first.keep(change(1));
    const before = first.size;
    await first.keep(change(2));
    await first.close();
    const file = join(folder, '00000001.ndjson');
    const whole = readFileSync(file);
    for (let cut = before; cut <= whole.length; cut++) {
      rmSync(folder, { recursive: true });
      await (await begin()).close();
      writeFileSync(file, whole.subarray(0, cut));
      const again = await begin(1);
      await again.keep(change(3));
      await again.close();
      const [, last] = readJournal(folder);
      expect([kept(), last!.unreadable], `cut at byte ${cut}`).toEqual([cut === whole.length ? [1, 2, 2] : [1, 2], []]);
      expect(last!.entries[0]!.changes).toEqual([JSON.parse(change(3))]);
    }
  });

  it('finds a line that was changed by one bit or was not written by us, and keeps all others', async () => {
    const journal = await begin();
    for (const n of [1, 2, 3]) await journal.keep(change(n));
    await journal.close();
    const file = join(folder, '00000001.ndjson');
    const lines = readFileSync(file, 'utf8').split('\n');
    lines[2] = lines[2]!.replace('Nº 2', 'Nº 3');
    writeFileSync(file, lines.join('\n') + '{oops}\nnull\n');
    expect(kept()).toEqual([1, 3]);
    expect(readJournal(folder)[0]!.unreadable).toEqual([lines[2], '{oops}', 'null']);
  });

  it('writes that come at once are all there, in the order in which they came; a new generation goes on counting', async () => {
    const journal = await begin(7);
    const together = Array.from({ length: 40 }, (_, i) => journal.keep(change(i)));
    expect(await journal.rotate()).toBe(2);
    await Promise.all(together);
    await journal.keep(change(40));
    const [first, second] = readJournal(folder);
    expect(first!.entries.map((e) => e.seq)).toEqual(Array.from({ length: 40 }, (_, i) => 8 + i));
    expect(first!.entries.map((e) => e.changes[0]!.row['id'])).toEqual(Array.from({ length: 40 }, (_, i) => `${i}`));
    expect([second!.after, second!.entries[0]!.seq]).toEqual([47, 48]);
    journal.cut(2);
    expect(readJournal(folder).map((g) => g.generation)).toEqual([2]);
    await journal.close();
  });

  it('what could not be written is in no file, and what was withdrawn is passed over', async () => {
    const journal = await begin();
    await journal.keep(change(1));
    // The disk is full for one write, in the middle of its line.
    const { handle } = journal as unknown as {
      handle: { write: (...args: unknown[]) => Promise<{ bytesWritten: number }> };
    };
    const write = handle.write.bind(handle);
    handle.write = async (bytes, at, _length, ...rest) => {
      await write(bytes, at, 9, ...rest);
      throw Object.assign(new Error('write'), { code: 'ENOSPC' });
    };
    await expect(journal.keep(change(2))).rejects.toMatchObject({ code: 'ENOSPC' });
    handle.write = write;
    expect(await journal.keep(change(3))).toBe(2);
    expect(await journal.keep(change(4))).toBe(3);
    await journal.withdraw(2);
    await journal.close();
    expect(readJournal(folder)[0]).toMatchObject({ unreadable: [], entries: [{ seq: 1 }, { seq: 3 }] });
    expect(readJournal(folder)[0]!.entries[1]!.changes).toEqual([JSON.parse(change(4))]);
  });
});
