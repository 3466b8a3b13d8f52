import { configureStore } from '@reduxjs/toolkit';
import { setupListeners } from '@reduxjs/toolkit/query';
import { preferScales } from '../format/in-family.ts';
import { useDispatch, useSelector } from 'react-redux';
import { api } from './api.ts';
import { handedReducer } from './handed.ts';
import { outboxReducer, watchOutbox } from './outbox.ts';
import { reckonerReducer } from './reckoner-memory.ts';
import { settingsReducer } from './settings.ts';

export const store = configureStore({
  reducer: {
    [api.reducerPath]: api.reducer,
    outbox: outboxReducer,
    handed: handedReducer,
    reckoner: reckonerReducer,
    settings: settingsReducer,
  },
  middleware: (standard) => standard().concat(api.middleware),
});
setupListeners(store.dispatch);
watchOutbox(store);
const followScales = () => preferScales(store.getState().settings.scales);
followScales();
store.subscribe(followScales);

type RootState = ReturnType<typeof store.getState>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
