import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { SumInput } from '@frustum/core';
import { array, mixed, number, object, string } from 'yup';

/** One sum that was worked out, as it stood. */
export interface LastSum {
  /** one opening of a sum: while it goes on, its entry is kept up to date instead of repeated */
  readonly visit: number;
  readonly sumId: string;
  readonly input: SumInput;
  /** "51.2 mS/cm, 24 °C → 34.374" */
  readonly line: string;
}

export interface ReckonerMemory {
  /** what stands in each sum, so that nothing typed is lost on the way to another view */
  readonly inputs: Readonly<Record<string, SumInput>>;
  /** newest first */
  readonly last: readonly LastSum[];
}

const KEY = 'frustum.reckoner';
export const MAX_SUMS = 12;

const texts = mixed<Record<string, string>>(
  (v): v is Record<string, string> =>
    typeof v === 'object' &&
    v !== null &&
    Object.entries(v as Record<string, unknown>).every(
      ([k, t]) => k.length < 40 && typeof t === 'string' && t.length < 80,
    ),
).required();
const input = object({ typed: texts, chosen: texts, way: number().integer().min(0).required() });
const memory = object({
  last: array(
    object({
      visit: number().integer().required(),
      sumId: string().max(40).required(),
      input: input.required(),
      line: string().max(200).required(),
    }),
  )
    .max(MAX_SUMS)
    .required(),
});

/** What an earlier visit left in this browser, when it is what it should be. */
export function remembered(text: string | null): ReckonerMemory {
  try {
    const kept = memory.validateSync(JSON.parse(text ?? ''), { strict: true });
    return { inputs: {}, last: kept.last };
  } catch {
    return { inputs: {}, last: [] };
  }
}

function load(): ReckonerMemory {
  try {
    return remembered(localStorage.getItem(KEY));
  } catch {
    return { inputs: {}, last: [] };
  }
}

const slice = createSlice({
  name: 'reckoner',
  initialState: load,
  reducers: {
    typed(state, { payload }: PayloadAction<{ sumId: string; input: SumInput }>) {
      return { ...state, inputs: { ...state.inputs, [payload.sumId]: payload.input } };
    },
    kept(state, { payload }: PayloadAction<LastSum>) {
      const others = state.last.filter(
        (l) => l.visit !== payload.visit && (l.sumId !== payload.sumId || l.line !== payload.line),
      );
      const last = [payload, ...others].slice(0, MAX_SUMS);
      try {
        localStorage.setItem(KEY, JSON.stringify({ last }));
      } catch {
        // A full or forbidden store loses the memory of sums, never the sum.
      }
      return { ...state, last };
    },
    forgotten(state) {
      try {
        localStorage.removeItem(KEY);
      } catch {
        // As above.
      }
      return { ...state, last: [] };
    },
  },
});

export const { reducer: reckonerReducer } = slice;
export const { typed, kept, forgotten } = slice.actions;
