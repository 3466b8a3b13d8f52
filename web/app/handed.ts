import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** A figure that one view found and a run can use: it waits until the bench takes it. */
export interface Handed {
  readonly quantity: 'reading' | 'degrees';
  /** as it would be typed, without its unit */
  readonly text: string;
  readonly unit: 'pH' | 'mV' | '°C';
}

const NONE: Readonly<Record<string, Handed>> = {};

const slice = createSlice({
  name: 'handed',
  initialState: NONE,
  reducers: {
    handedTo(state, { payload }: PayloadAction<{ runId: string; handed: Handed }>) {
      return { ...state, [payload.runId]: payload.handed };
    },
    taken(state, { payload }: PayloadAction<string>) {
      return Object.fromEntries(Object.entries(state).filter(([runId]) => runId !== payload));
    },
  },
});

export const { reducer: handedReducer } = slice;
export const { handedTo, taken } = slice.actions;
