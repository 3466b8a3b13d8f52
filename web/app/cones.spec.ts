import { expect, it } from 'vitest';
import type { ConeView } from '@frustum/contract';
import { ConesInSight } from './cones.ts';

const cone = (at: number): ConeView => ({ segments: [{ fromMs: at, toMs: at, points: [] }], marks: [] });

it('rows that come into sight together are one request, each sensor once in it; more than sixty are two', async () => {
  const asked: string[][] = [];
  const cones = new ConesInSight((ids) => {
    asked.push([...ids]);
    return Promise.resolve({
      cones: Object.fromEntries(ids.map((id) => [id, id === 'none' ? null : cone(Number(id))])),
    });
  });
  const some = await Promise.all(['1', '2', '1', 'none'].map((id) => cones.of(id)));
  expect(some).toEqual([cone(1), cone(2), cone(1), null]);
  expect(asked).toEqual([['1', '2', 'none']]);
  await Promise.all(Array.from({ length: 100 }, (_, i) => cones.of(String(i))));
  expect(asked.slice(1).map((ids) => ids.length)).toEqual([60, 40]);
});

it('when the server does not answer, each hears of it, and the next question is asked anew', async () => {
  let fails = true;
  const cones = new ConesInSight(() => (fails ? Promise.reject(new Error('away')) : Promise.resolve({ cones: {} })));
  await expect(Promise.all([cones.of('1'), cones.of('2')])).rejects.toThrow('away');
  fails = false;
  expect(await cones.of('1')).toBeNull();
});
