import { cpSync, mkdtempSync, readFileSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { cutTrouble, pagesTrouble, sizesOf, type Sizes } from './pages.ts';

/** A database that PostgreSQL itself has written: its checksums are the reference. */
describe('the files of a database', () => {
  const parent = mkdtempSync(join(tmpdir(), 'frustum-pages-'));
  const good = join(parent, 'good');
  const folder = join(parent, 'harmed');
  let file: string;
  let sizes: Sizes;
  beforeAll(async () => {
    const client = await PGlite.create(good);
    await client.exec(`create table t (n integer primary key, words text);
      insert into t select n, repeat(md5(n::text), 20) from generate_series(1, 300) n`);
    const { rows } = await client.query<{ path: string }>(`select pg_relation_filepath('t') as path`);
    file = rows[0]!.path;
    await client.close();
    sizes = sizesOf(good);
  });
  afterAll(() => rmSync(parent, { recursive: true, force: true }));

  const harmed = (work: (bytes: Buffer) => void): string | null => {
    rmSync(folder, { recursive: true, force: true });
    cpSync(good, folder, { recursive: true });
    const bytes = readFileSync(join(folder, file));
    work(bytes);
    writeFileSync(join(folder, file), bytes);
    return pagesTrouble(folder, sizes);
  };

  it('as PostgreSQL has written them are all as they should be: its own checksums of hundreds of pages', () => {
    expect(Object.values(sizes).reduce((sum, n) => sum + n, 0)).toBeGreaterThan(300);
    expect([pagesTrouble(good, sizes), cutTrouble(good, sizes)]).toEqual([null, null]);
  });

  it.each([
    ['one bit in the middle of a page', (b: Buffer) => void (b[3 * 8192 + 5000]! ^= 1), 'page 3 of'],
    ['two pages that have changed places', (b: Buffer) => void b.copyWithin(0, 8192, 16_384), 'page 0 of'],
    ['a first page of noughts', (b: Buffer) => void b.fill(0, 0, 8192), 'page 0 of'],
  ])('%s is found', (_, work, words) => {
    expect(harmed(work)).toBe(`${words} ${file} is not as it was written`);
  });

  it('one that became shorter or is missing is found; one that became longer is not', () => {
    harmed(() => {});
    const path = join(folder, file);
    const pages = statSync(path).size / 8192;
    writeFileSync(path, Buffer.concat([readFileSync(path), Buffer.alloc(8192)]));
    expect([cutTrouble(folder, sizes), pagesTrouble(folder, sizes)]).toEqual([null, null]);
    truncateSync(path, 8192 * (pages - 1));
    expect(cutTrouble(folder, sizes)).toBe(`${file} has ${pages - 1} pages of ${pages}`);
    rmSync(path);
    expect(cutTrouble(folder, sizes)).toBe(`${file} is missing`);
  });
});
