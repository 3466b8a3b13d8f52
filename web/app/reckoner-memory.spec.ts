import { configureStore } from '@reduxjs/toolkit';
import { beforeEach, describe, expect, it } from 'vitest';
import { handedReducer, handedTo, taken } from './handed.ts';
import { forgotten, kept, MAX_SUMS, reckonerReducer, remembered, typed, type LastSum } from './reckoner-memory.ts';

/** A browser's store, as far as these need one. */
const drawer = new Map<string, string>();
let full = false;
beforeEach(() => {
  drawer.clear();
  full = false;
  Object.assign(globalThis, {
    localStorage: {
      getItem: (k: string) => drawer.get(k) ?? null,
      setItem: (k: string, v: string) => {
        if (full) throw new Error('QuotaExceededError');
        drawer.set(k, v);
      },
      removeItem: (k: string) => drawer.delete(k),
    },
  });
});

const input = (t: string) => ({ typed: { t }, chosen: {}, way: 0 });
const sum = (visit: number, line: string): LastSum => ({ visit, sumId: 'buffer', input: input('23'), line });
const store = () => configureStore({ reducer: { reckoner: reckonerReducer, handed: handedReducer } });

describe('the last sums', () => {
  it('newest first, one entry for one opening, at most twelve, the same sum not twice', () => {
    const s = store();
    s.dispatch(kept(sum(1, 'a')));
    s.dispatch(kept(sum(1, 'ab')));
    s.dispatch(kept(sum(2, 'c')));
    expect(s.getState().reckoner.last.map((l) => l.line)).toEqual(['c', 'ab']);
    s.dispatch(kept(sum(3, 'ab')));
    expect(s.getState().reckoner.last.map((l) => l.line)).toEqual(['ab', 'c']);
    for (let i = 10; i < 40; i++) s.dispatch(kept(sum(i, `line ${i}`)));
    expect(s.getState().reckoner.last).toHaveLength(MAX_SUMS);
  });

  it('come back after a reload; anything else in the storage is ignored', () => {
    const s = store();
    s.dispatch(kept(sum(1, '23 °C → 7.008 pH')));
    const text = drawer.get('frustum.reckoner')!;
    expect(remembered(text).last).toEqual([sum(1, '23 °C → 7.008 pH')]);
    for (const bad of [
      null,
      '',
      '{',
      '[]',
      '{"last":[{"visit":1}]}',
      '{"last":"x"}',
      text.replace('"way":0', '"way":"0"'),
      text.replace('"t":"23"', '"t":5'),
    ]) {
      expect(remembered(bad).last, String(bad)).toEqual([]);
    }
    s.dispatch(forgotten());
    expect(drawer.has('frustum.reckoner')).toBe(false);
    expect(s.getState().reckoner.last).toEqual([]);
  });

  it('a full drawer loses the memory after a reload, never the sum', () => {
    full = true;
    const s = store();
    s.dispatch(typed({ sumId: 'buffer', input: input('21') }));
    s.dispatch(kept(sum(1, 'a')));
    expect(s.getState().reckoner.last).toHaveLength(1);
    expect(s.getState().reckoner.inputs['buffer']).toEqual(input('21'));
  });
});

describe('a figure handed to a run', () => {
  it('waits for its own run, and is taken once', () => {
    const s = store();
    s.dispatch(handedTo({ runId: 'r1', handed: { quantity: 'reading', text: '-12.0', unit: 'mV' } }));
    s.dispatch(handedTo({ runId: 'r2', handed: { quantity: 'degrees', text: '24.5', unit: '°C' } }));
    s.dispatch(taken('r1'));
    expect(s.getState().handed).toEqual({ r2: { quantity: 'degrees', text: '24.5', unit: '°C' } });
  });
});
