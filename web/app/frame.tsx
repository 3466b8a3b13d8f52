import { useEffect, useMemo, useRef, useState } from 'react';
import { Link, NavLink, Outlet, useNavigate } from 'react-router';
import { Mark } from '../ui/mark.tsx';
import { PageBar } from '../ui/page-bar.tsx';
import { useAlarmsQuery, useMarginsQuery } from './api.ts';
import { ClockDoubtBar } from './clock-doubt.tsx';
import { HeldBack } from './held-back.tsx';
import { KeyList } from './key-list.tsx';
import { useKeys, type Key, type Keys } from './keys.ts';
import { Search } from './search.tsx';
import { preferred } from './settings.ts';
import { useAppDispatch, useAppSelector } from './store.ts';
import { PersonPick } from './person-pick.tsx';
import { Tray } from './tray.tsx';

const VIEWS = [
  { to: '/', name: 'Margins', key: 'm' },
  { to: '/bench', name: 'Bench', key: 'b' },
  { to: '/reckoner', name: 'Reckoner', key: 'r' },
  { to: '/set-up', name: 'Set-up', key: 's' },
] as const;

/** The frame around every view: bar, content, tray. */
export function Frame() {
  const theme = useAppSelector((s) => s.settings.theme);
  const navigate = useNavigate();
  const { data } = useMarginsQuery();
  const { data: alarms } = useAlarmsQuery();
  const waiting = alarms?.standing.filter((a) => !a.acknowledgedAt && !a.snoozedUntil).length ?? 0;
  const [open, setOpen] = useState<'search' | 'keys' | null>(null);
  const main = useRef<HTMLDivElement>(null);
  useEffect(() => {
    document.documentElement.dataset['theme'] = theme;
  }, [theme]);
  const keys = useMemo(
    (): Keys => ({
      '/': ['Search', () => setOpen('search')],
      'Ctrl+k': [
        'Search, also while one types',
        (event) => {
          event.preventDefault();
          setOpen('search');
        },
      ],
      '?': ['This list', () => setOpen('keys')],
      ...Object.fromEntries(
        VIEWS.map((v): [string, Key] => [`g ${v.key}`, [`To ${v.name}`, () => void navigate(v.to)]]),
      ),
      'g w': ['To the walk', () => void navigate('/walk')],
      'g a': ['To the alarms', () => void navigate('/alarms')],
    }),
    [navigate],
  );
  useKeys(keys, true);
  // A dialog says that it closed a moment after it did: by then the other may be wanted, and must stay.
  const closed = (which: 'search' | 'keys') => setOpen((now) => (now === which ? null : now));
  const site = data?.rows[0]?.siteName ?? '';
  return (
    <div className="min-h-dvh flex flex-col bg-base-100 text-base-content">
      <a href="#content" className="sr-only focus:not-sr-only p-3">
        To the content
      </a>
      <TopBar site={site} waiting={waiting} setOpen={setOpen} />
      {data?.trouble && (
        <PageBar name="Nothing is kept just now">
          <p role="alert" className="max-w-5xl">
            {data.trouble}
          </p>
        </PageBar>
      )}
      {data?.clock && <ClockDoubtBar doubt={data.clock} />}
      {data && data.held.length > 0 && <HeldBack held={data.held} rows={data.rows} />}
      <div id="content" ref={main} className="flex-1 flex flex-col min-h-0">
        <Outlet />
      </div>
      <Tray onKeys={() => setOpen('keys')} />
      <Search open={open === 'search'} rows={data?.rows ?? []} onClose={() => closed('search')} />
      <KeyList open={open === 'keys'} onClose={() => closed('keys')} />
    </div>
  );
}

/** Views, site, alarms, search and the light. */
function TopBar({
  site,
  waiting,
  setOpen,
}: {
  site: string;
  waiting: number;
  setOpen: (value: 'keys' | 'search' | null) => void;
}) {
  const dispatch = useAppDispatch();
  const theme = useAppSelector((s) => s.settings.theme);
  return (
    <header className="flex items-center gap-x-1.5 sm:gap-x-3 lg:gap-x-7 px-2 sm:px-4 lg:px-7 h-14 border-b border-base-300">
      <Link
        to="/"
        className="flex items-center gap-2.5 font-bold text-[19px] tracking-tight"
        aria-label="Frustum, Margins"
      >
        <Mark />
        <span className="max-sm:sr-only">Frustum</span>
      </Link>
      <Views />
      <div className="ml-auto flex items-center sm:gap-2 lg:gap-4 text-[15px] sub">
        <span className="max-lg:hidden">{site}</span>
        <AlarmsLink waiting={waiting} />
        <button
          type="button"
          className="btn btn-ghost btn-sm font-normal text-[15px] gap-2 max-md:px-1.5"
          onClick={() => setOpen('search')}
        >
          <span className="max-md:sr-only">Search</span>
          <PhoneMark path="M3 8.5a5.5 5.5 0 1 0 11 0a5.5 5.5 0 1 0-11 0M13 13l5 5" />
          <kbd className="key max-md:hidden">/</kbd>
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-sm font-normal text-[15px] max-md:px-1.5"
          onClick={() => dispatch(preferred({ theme: theme === 'night' ? 'daylight' : 'night' }))}
        >
          <span className="max-md:sr-only">{theme === 'night' ? 'Daylight' : 'Night'}</span>
          <PhoneMark path="M12 3a7 7 0 1 0 5 9a6 6 0 0 1-5-9" />
        </button>
        <PersonPick />
      </div>
    </header>
  );
}

function Views() {
  return (
    <nav aria-label="Views" className="flex sm:gap-1 lg:gap-3">
      {VIEWS.map((v) => (
        <NavLink
          key={v.to}
          to={v.to}
          end={v.to === '/'}
          className={({ isActive }) =>
            `px-1 sm:px-2 py-4 leading-6 whitespace-nowrap max-sm:text-[15px] ${isActive ? 'font-semibold shadow-[inset_0_-3px_0_var(--color-primary)]' : 'sub hover:text-base-content'}`
          }
        >
          {v.name}
        </NavLink>
      ))}
    </nav>
  );
}

function AlarmsLink({ waiting }: { waiting: number }) {
  return (
    <NavLink
      to="/alarms"
      className="relative flex items-center gap-1.5 py-2 px-1 hover:text-base-content"
      aria-label={waiting ? `Alarms, ${waiting} waiting` : 'Alarms'}
    >
      <span className="max-md:hidden">Alarms</span>
      <PhoneMark path="M3 15h14M5 15V9a5 5 0 0 1 10 0v6M10 2v2" />
      {waiting > 0 && (
        <>
          <span className="fig text-[13px] leading-5 px-1.5 rounded-full bg-error text-error-content max-md:hidden">
            {waiting}
          </span>
          <span className="md:hidden absolute top-1 right-0 size-2.5 rounded-full bg-error" aria-hidden="true" />
        </>
      )}
    </NavLink>
  );
}

/** A small drawing in the place of a word, where the screen is narrow. */
function PhoneMark({ path }: { path: string }) {
  return (
    <svg
      className="md:hidden"
      width="20"
      height="20"
      viewBox="0 0 20 20"
      fill="none"
      stroke="currentColor"
      strokeWidth="2"
      aria-hidden="true"
    >
      <path d={path} />
    </svg>
  );
}
