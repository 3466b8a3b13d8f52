import { existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { create } from 'tar';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { MANIFEST, readManifest, verify } from './manifest.ts';
import { unpack } from './pack.ts';

let work: string;
beforeEach(() => (work = mkdtempSync(join(tmpdir(), 'frustum-pack-'))));
afterEach(() => rmSync(work, { recursive: true, force: true }));

const target = () => join(work, 'inside', 'target');
/** A tar archive of files, with names as they are. */
async function archive(files: Record<string, string>, links: Record<string, string> = {}): Promise<Buffer> {
  const from = join(work, 'from');
  rmSync(from, { recursive: true, force: true });
  mkdirSync(join(from, 'photos'), { recursive: true });
  for (const [name, text] of Object.entries(files)) writeFileSync(join(from, name), text);
  for (const [name, to] of Object.entries(links)) symlinkSync(to, join(from, name));
  const chunks: Buffer[] = [];
  const stream = create({ cwd: from, noDirRecurse: true }, [...Object.keys(files), ...Object.keys(links)]);
  for await (const chunk of stream as unknown as AsyncIterable<Buffer>) chunks.push(chunk);
  return Buffer.concat(chunks);
}
const taken = (bytes: Buffer, room = 1e9) => unpack(Readable.from([bytes]), target(), room);

describe('a backup file that comes in', () => {
  it('may hold what a backup holds, and nothing else: no other name, no way out, no link', async () => {
    mkdirSync(join(work, 'inside'));
    await taken(await archive({ [MANIFEST]: '{}', 'lots.copy.gz': 'x' }));
    expect(readdirSync(target()).sort()).toEqual(['lots.copy.gz', MANIFEST, 'photos']);
    rmSync(target(), { recursive: true });

    await expect(taken(await archive({ [MANIFEST]: '{}', 'evil.sh': 'x' }))).rejects.toThrow(/it has “evil\.sh” in it/);
    // The name of a file is overwritten in the archive itself: our packer would not write it.
    const bytes = await archive({ aaaaaaaa: 'x', [MANIFEST]: '{}' });
    bytes.write('../../ab', bytes.indexOf('aaaaaaaa'), 'latin1');
    resum(bytes);
    await expect(taken(bytes)).rejects.toMatchObject({ code: 'backup-broken' });
    await expect(taken(await archive({ [MANIFEST]: '{}' }, { 'lots.copy.gz': '/etc/passwd' }))).rejects.toThrow(/it has “lots\.copy\.gz” in it/); // prettier-ignore
    expect(existsSync(target())).toBe(false);
    expect(readdirSync(work).sort()).toEqual(['from', 'inside']);
  });

  it('of another kind, cut short, or larger than there is room, is refused in words and leaves nothing', async () => {
    mkdirSync(join(work, 'inside'));
    for (const bytes of [Buffer.from('harmless'), Buffer.alloc(100_000), Buffer.alloc(0)])
      await expect(taken(bytes)).rejects.toThrow(/no backup of Frustum, or it was cut short/);
    const whole = await archive({ [MANIFEST]: '{}', 'lots.copy.gz': 'x'.repeat(5000) });
    await expect(taken(whole.subarray(0, 3000))).rejects.toMatchObject({ code: 'backup-broken' });
    await expect(taken(whole, 4000)).rejects.toMatchObject({ code: 'disk-full' });
    expect(existsSync(target())).toBe(false);
  });

  it.each([
    ['nothing', {}, /is not valid/],
    ['a newer format', { format: 2 }, /made by a newer Frustum \(format 2/],
    ['a table that leads elsewhere', { format: 1, tables: [{ name: '../../etc' }] }, /is not valid/],
  ])('whose manifest says %s is refused', (_, manifest, words) => {
    writeFileSync(join(work, MANIFEST), JSON.stringify(manifest));
    expect(() => readManifest(work)).toThrow(words);
  });

  it('without its manifest is none', async () => {
    await expect(verify(work)).rejects.toThrow(/manifest\.json is missing or cannot be read/);
  });
});

/** Makes the first head of a tar archive right again. */
function resum(bytes: Buffer): void {
  bytes.fill(0x20, 148, 156);
  const sum = bytes.subarray(0, 512).reduce((all, byte) => all + byte, 0);
  bytes.write(`${sum.toString(8).padStart(6, '0')}\0 `, 148, 'latin1');
}
