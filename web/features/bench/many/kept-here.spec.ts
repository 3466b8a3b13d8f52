import { beforeEach, describe, expect, it, vi } from 'vitest';
import { armCup, armHere, disarmCup, isArmedHere } from '../armed-here.ts';
import { keepRoom, keptRoom, placesOf } from './kept-room.ts';

const kept = new Map<string, string>();
beforeEach(() => {
  kept.clear();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
  });
});

describe('what this device captures by itself', () => {
  const place = { pass: 1, pointIndex: 0 };
  const settle = { ...place, purpose: 'as-found' as const };

  it('a cup that was filled here: no other cup, no other run, and not what is read back in it', () => {
    armCup('run', place);
    expect(isArmedHere('run', settle)).toBe(true);
    expect(isArmedHere('run', { ...settle, pointIndex: 1 })).toBe(false);
    expect(isArmedHere('run', { ...settle, pass: 2 })).toBe(false);
    expect(isArmedHere('another', settle)).toBe(false);
    expect(isArmedHere('run')).toBe(false);
    expect(isArmedHere('run', { ...settle, purpose: 'read-back' })).toBe(false);
  });

  it('until somebody wants to press for it; all of a run that began here at the bench of several', () => {
    armCup('run', place);
    disarmCup('run', settle);
    expect(isArmedHere('run', settle)).toBe(false);
    armHere('run');
    expect(isArmedHere('run', settle)).toBe(true);
    expect(isArmedHere('run')).toBe(true);
  });

  it('nothing where the device cannot keep it: a full phone waits for a press, and the deed itself goes on', () => {
    vi.stubGlobal('localStorage', {
      getItem: () => null,
      setItem: () => {
        throw new DOMException('The quota has been exceeded.', 'QuotaExceededError');
      },
    });
    armCup('run', place);
    expect(isArmedHere('run', settle)).toBe(false);
  });

  it('remembers the newest fifty, and ignores storage that holds no list', () => {
    for (let i = 0; i < 60; i++) armHere(`run-${i}`);
    expect(isArmedHere('run-9')).toBe(false);
    expect(isArmedHere('run-10')).toBe(true);
    kept.set('frustum.armed', '{"a":1}');
    expect(isArmedHere('run-10')).toBe(false);
    kept.set('frustum.armed', 'nonsense');
    expect(isArmedHere('run-10')).toBe(false);
  });
});

describe('how much room there is on a bench', () => {
  it('is kept on this device, cup by cup', () => {
    keepRoom({ perCup: 2, cups: { 'technical-7.00': 2 } });
    expect(keptRoom()).toEqual({ perCup: 2, cups: { 'technical-7.00': 2 } });
    expect(placesOf(keptRoom())('technical-7.00')).toBe(4);
    expect(placesOf(keptRoom())('technical-4.01')).toBe(2);
  });

  it.each(['', 'nonsense', 'null', '{"perCup":0}', '{"perCup":"4"}', '{"perCup":2.5,"cups":{"a":-1,"b":999}}'])(
    'takes %j for nothing said: three probes to a cup, and one cup of each',
    (text) => {
      if (text) kept.set('frustum.room', text);
      expect(keptRoom()).toEqual({ perCup: 3, cups: {} });
    },
  );
});
