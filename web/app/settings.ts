import type { PreferredScales } from '../format/in-family.ts';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** What this person prefers on this device. */
export interface Settings {
  readonly theme: 'daylight' | 'night';
  readonly sound: boolean;
  readonly singleKeys: boolean;
  /** the name that is stored with what is done here; '' = none was chosen yet */
  readonly person: string;
  /** scales in which figures are written here, by what is measured; what is not there is written as its instrument shows it */
  readonly scales: PreferredScales;
}

const KEY = 'frustum.settings';
const DEFAULTS: Settings = { theme: 'daylight', sound: true, singleKeys: true, person: '', scales: {} };

function load(): Settings {
  try {
    return { ...DEFAULTS, ...(JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Settings>) };
  } catch {
    return DEFAULTS;
  }
}

const slice = createSlice({
  name: 'settings',
  initialState: load(),
  reducers: {
    preferred(state, { payload }: PayloadAction<Partial<Settings>>) {
      const next = { ...state, ...payload };
      localStorage.setItem(KEY, JSON.stringify(next));
      return next;
    },
  },
});

export const { reducer: settingsReducer } = slice;
export const { preferred } = slice.actions;
