import { cpSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { beginsLine, finishSwitch, INCOMING, lineBegun, SET_ASIDE, switchTo } from './switch.ts';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'frustum-switch-'));
  for (const [where, what] of [['.', 'old'], [INCOMING, 'new']] as const) {
    mkdirSync(join(folder, where, 'database'), { recursive: true });
    for (const name of ['database/PG_VERSION', 'database.state.json']) writeFileSync(join(folder, where, name), what);
  } // prettier-ignore
  mkdirSync(join(folder, 'journal'));
  writeFileSync(join(folder, 'journal', '00000001.ndjson'), 'old');
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const AT = '2026-11-29T03:00:00.000Z';
const read = (...path: string[]) => readFileSync(join(folder, ...path), 'utf8');
/** What is where, once a switch is through. */
function expectSwitched(): void {
  const aside = join(SET_ASIDE, '20261129T030000Z');
  expect([read('database/PG_VERSION'), read('database.state.json')]).toEqual(['new', 'new']);
  expect(existsSync(join(folder, 'journal'))).toBe(false);
  expect([read(aside, 'database/PG_VERSION'), read(aside, 'journal/00000001.ndjson')]).toEqual(['old', 'old']);
  expect(JSON.parse(read(aside, 'info.json'))).toEqual({ at: AT, because: 'Restored.' });
  expect(existsSync(join(folder, INCOMING))).toBe(false);
  expect(beginsLine(folder)).toBe(true);
}

describe('another house in the place of the present one', () => {
  it('is there with what belongs to it, and the present one is set aside as a whole', () => {
    switchTo(folder, INCOMING, 'Restored.', AT);
    expectSwitched();
    lineBegun(folder);
    expect([beginsLine(folder), existsSync(join(folder, 'switching.json'))]).toEqual([false, false]);
  });

  it('is there also when the switch was cut short, wherever that was', () => {
    const whole = join(folder, '..', `${folder.split('/').at(-1)}-whole`);
    cpSync(folder, whole, { recursive: true });
    switchTo(folder, INCOMING, 'Restored.', AT);
    // Every state that the switch went through is made by hand, and finished.
    const steps: ((f: string) => void)[] = [
      () => {},
      (f) => move(f, 'database', '.', join(SET_ASIDE, '20261129T030000Z')),
      (f) => move(f, 'database.state.json', '.', join(SET_ASIDE, '20261129T030000Z')),
      (f) => move(f, 'journal', '.', join(SET_ASIDE, '20261129T030000Z')),
      (f) => note(f, 'in'),
      (f) => move(f, 'database', INCOMING, '.'),
      (f) => move(f, 'database.state.json', INCOMING, '.'),
    ];
    for (let done = 1; done <= steps.length; done++) {
      rmSync(folder, { recursive: true, force: true });
      cpSync(whole, folder, { recursive: true });
      note(folder, 'out');
      for (const step of steps.slice(0, done)) step(folder);
      finishSwitch(folder);
      expectSwitched();
      finishSwitch(folder);
      expectSwitched();
    }
    rmSync(whole, { recursive: true });
    expect(readdirSync(folder)).toContain('switching.json');
  });
});

function note(of: string, phase: 'out' | 'in'): void {
  const intent = { from: INCOMING, aside: join(SET_ASIDE, '20261129T030000Z'), at: AT, because: 'Restored.', phase };
  writeFileSync(join(of, 'switching.json'), JSON.stringify(intent));
}
function move(of: string, name: string, from: string, to: string): void {
  mkdirSync(join(of, to), { recursive: true });
  cpSync(join(of, from, name), join(of, to, name), { recursive: true });
  rmSync(join(of, from, name), { recursive: true });
}
