import { expect, it } from 'vitest';
import { survivor } from './uncaught.ts';

it('an error that nobody caught is logged with its cause, counted, and opens every wire anew; after twenty the process ends', () => {
  const logged: object[] = [];
  const done: string[] = [];
  const log = { error: (facts: object) => void logged.push(facts) };
  const survive = survivor(log as never, () => done.push('restart'), () => done.push('end')); // prettier-ignore
  const error = new Error('a handler of a library threw');
  for (let i = 0; i < 21; i++) survive(error);
  expect(done).toEqual([...Array<string>(20).fill('restart'), 'end']);
  expect([logged[0], logged.at(-1)]).toEqual([
    { error, count: 1 },
    { error, count: 21 },
  ]);
});
