import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { noteStart } from './starts.ts';

const folder = mkdtempSync(join(tmpdir(), 'frustum-starts-'));
const file = join(folder, 'starts.json');
afterAll(() => rmSync(folder, { recursive: true, force: true }));

it('counts the starts that died soon, without a break, and begins anew with one that lived', () => {
  const start = (hour: number) => noteStart(file, `2026-11-23T0${hour}:00:00Z`);
  expect([start(1), start(2), start(3)].map((s) => s.diedSoon)).toEqual([0, 1, 2]);
  const good = start(4);
  expect(good.diedSoon).toBe(3);
  good.lives();
  expect([start(5), start(6)].map((s) => s.diedSoon)).toEqual([0, 1]);
});

it('a file that is none counts nothing, and a folder that is not there harms nobody', () => {
  writeFileSync(file, '{"a":');
  expect(noteStart(file, '2026-11-23T01:00:00Z').diedSoon).toBe(0);
  expect(() => noteStart(join(folder, 'nowhere/starts.json'), '2026-11-23T01:00:00Z').lives()).not.toThrow();
});
