import { createBrowserRouter, type RouteObject } from 'react-router';
import { Frame } from './app/frame.tsx';
import { Lost } from './app/lost.tsx';

/** A page that comes when it is needed. */
const page = (path: string, load: () => Promise<{ Page: React.ComponentType }>): RouteObject => ({
  path,
  lazy: async () => ({ Component: (await load()).Page }),
});

/** Margins, and beside it the charts that it draws: one is no reason to wait for the other. */
const margins = () => {
  void import('./charts/cone-chart.tsx').catch(() => null);
  return import('./features/margins/margins-page.tsx');
};
const bench = () => import('./features/bench/bench-page.tsx');
const start = () => import('./features/bench/start/start-run-page.tsx');
const sensor = () => import('./features/sensor/sensor-page.tsx');

/** Fetched while nothing else is asked: with wet hands and no connection, the bench must open all the same. */
export function fetchAhead(): void {
  const ahead = () => void Promise.allSettled([bench(), start(), sensor()]);
  // After the page that was asked for has what it needs.
  setTimeout(
    () => ('requestIdleCallback' in window ? requestIdleCallback(ahead, { timeout: AHEAD_MS }) : ahead()),
    AHEAD_MS,
  );
}
const AHEAD_MS = 2500;

export const router = createBrowserRouter([
  {
    element: <Frame />,
    errorElement: <Lost />,
    hydrateFallbackElement: <p className="p-6 sub">Opening …</p>,
    children: [
      {
        // A screen that falls over leaves bar and tray where they are: a hold must be seen from there.
        errorElement: <Lost />,
        children: [
          page('/', margins),
          page('/bench', () => import('./features/bench/bench-list-page.tsx')),
          page('/bench/many', () => import('./features/bench/many/many-page.tsx')),
          page('/bench/start/:sensorId', start),
          page('/bench/:runId', bench),
          page('/sensors/:sensorId', sensor),
          page('/sensors/:sensorId/life', () => import('./features/setup/life/life-page.tsx')),
          page('/set-up/fit/:loopId', () => import('./features/setup/life/fit-page.tsx')),
          page('/alarms', () => import('./features/alarms/alarms-page.tsx')),
          page('/alarms/ways', () => import('./features/alarms/ways-page.tsx')),
          page('/limits', () => import('./features/limits/limits-page.tsx')),
          page('/walk', () => import('./features/walk/walk-page.tsx')),
          page('/reckoner', () => import('./features/reckoner/reckoner-page.tsx')),
          page('/reckoner/:sumId', () => import('./features/reckoner/reckoner-page.tsx')),
          page('/set-up/channel/:sensorId', () => import('./features/setup/channel-page.tsx')),
          page('/set-up/procedures', () => import('./features/setup/procedures-page.tsx')),
          page('/set-up/backups', () => import('./features/backups/backups-page.tsx')),
          page('/set-up/add', () => import('./features/setup/add-page.tsx')),
          page('/set-up/display', () => import('./features/setup/display-page.tsx')),
          page('/set-up/logbook', () => import('./features/setup/logbook-page.tsx')),
          page('/set-up/inventory', () => import('./features/setup/inventory-page.tsx')),
          page('/set-up/log-ins', () => import('./features/setup/log-ins-page.tsx')),
          page('/set-up/people', () => import('./features/setup/people-page.tsx')),
          page('/set-up', () => import('./features/setup/setup-page.tsx')),
          { path: '*', element: <Lost /> },
        ],
      },
    ],
  },
]);
