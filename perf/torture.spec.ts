import { afterAll, describe, expect, it } from 'vitest';
import { tortureFiles, tortureKills } from './torture.ts';

// The short form of npm run torture, drawn anew each time: a failure is repeated with its seed.
const seed = Number(process.env['FRUSTUM_TORTURE_SEED'] ?? Date.now() % 1_000_000);
afterAll(() => process.stdout.write(`\ntorture: FRUSTUM_TORTURE_SEED=${seed}\n`));

describe('nothing acknowledged is lost', () => {
  it('by kills of the whole group under writes of every kind, and an older database put back', async () => {
    const { wrong } = await tortureKills(2, seed, { olderEvery: 2 });
    expect(wrong, `seed ${seed}`).toEqual([]);
  });

  it('by harm to a file of the database: the start says so, and everything comes back', async () => {
    const { wrong } = await tortureFiles(1, seed);
    expect(wrong, `seed ${seed}`).toEqual([]);
  });
});
