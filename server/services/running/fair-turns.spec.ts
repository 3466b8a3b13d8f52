import { expect, it } from 'vitest';
import { FairTurns } from './fair-turns.ts';

/** Work that ends when it is told to, and writes down when it begins. */
function bench() {
  const begun: string[] = [];
  const ends = new Map<string, () => void>();
  const work = (name: string) => () =>
    new Promise<string>((resolve) => {
      begun.push(name);
      ends.set(name, () => resolve(name));
    });
  const end = async (name: string) => {
    ends.get(name)!();
    await new Promise(setImmediate);
  };
  return { begun, work, end };
}
const here = () => false;

it('who asks for much waits behind itself, and another asker goes first', async () => {
  const { begun, work, end } = bench();
  const turns = new FairTurns(1, 10);
  const all = [...'abc'].map((name) => turns.run('greedy', here, work(name)));
  const other = turns.run('modest', here, work('m'));
  expect(begun).toEqual(['a']);
  await end('a');
  expect(begun).toEqual(['a', 'm']);
  await end('m');
  await end('b');
  await end('c');
  expect([await Promise.all(all), await other, begun]).toEqual([['a', 'b', 'c'], 'm', ['a', 'm', 'b', 'c']]);
});

it('what nobody waits for any more is not done', async () => {
  const { begun, work, end } = bench();
  const turns = new FairTurns(1, 10);
  let gone = false;
  void turns.run('one', here, work('a'));
  const given = turns.run('two', () => gone, work('b'));
  gone = true;
  await end('a');
  expect([await given, begun]).toEqual([null, ['a']]);
});

it('what throws at once is refused, and holds up nobody', async () => {
  const turns = new FairTurns(1, 5);
  const throws = () => {
    throw new Error('no such run');
  };
  for (let i = 0; i < 3; i++) await expect(turns.run('one', here, throws)).rejects.toThrow('no such run');
  expect(await turns.run('one', here, () => Promise.resolve('served'))).toBe('served');
});

it('beyond what may wait it is refused, others are not; what fails lets the next one through', async () => {
  const { work, end } = bench();
  const turns = new FairTurns(1, 1);
  const fails = turns.run('one', here, () => Promise.reject(new Error('broken')));
  const second = turns.run('one', here, work('b'));
  expect(() => turns.run('one', here, work('c'))).toThrow(/worked out for you already/);
  const other = turns.run('two', here, work('d'));
  await expect(fails).rejects.toThrow('broken');
  await new Promise(setImmediate);
  await end('d');
  await end('b');
  expect([await second, await other]).toEqual(['b', 'd']);
});
