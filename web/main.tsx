import './main.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { RouterProvider } from 'react-router/dom';
import { api } from './app/api.ts';
import { listenForChanges } from './app/changes.ts';
import { fetchAhead, router } from './router.tsx';
import { store } from './app/store.ts';

listenForChanges();
fetchAhead();
// The first page's rows are asked for while the page itself is still on its way.
if (location.pathname === '/') store.dispatch(api.util.prefetch('margins', undefined, {}));
createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <Provider store={store}>
      <RouterProvider router={router} />
    </Provider>
  </StrictMode>,
);
