import { Link } from 'react-router';
import { useMarginsQuery, useSetUpQuery } from '../../app/api.ts';
import { NotYet } from '../../app/not-yet.tsx';
import { useAppSelector } from '../../app/store.ts';
import { ShelfSection } from './life/shelf-section.tsx';
import { Preferences } from './preferences.tsx';
import { SiteTree } from './site-tree.tsx';

/** What there is: sites, places, loops, sensors and channels, to be changed where they stand. */
export function Page() {
  const { data, error } = useSetUpQuery();
  const { data: margins } = useMarginsQuery();
  const person = useAppSelector((s) => s.settings.person);
  if (!data) return <NotYet what="Reading the set-up" error={error} />;
  return (
    <main className="px-4 lg:px-7 py-5 max-w-5xl w-full">
      <div className="flex flex-wrap gap-3 items-center">
        <h1>Set-up</h1>
        <Link className="btn btn-outline border-base-300 h-12 ml-auto" to="/set-up/display">
          Add a display
        </Link>
        <Link className="btn btn-primary h-12" to="/set-up/add">
          Add a loop
        </Link>
      </div>
      <p className="sub mt-1">
        <Link className="underline" to="/set-up/people">
          People
        </Link>
        {person && <span> (you are {person})</span>}
        <span aria-hidden="true"> · </span>
        <Link className="underline" to="/set-up/procedures">
          Procedures of your own
        </Link>
        <span aria-hidden="true"> · </span>
        <Link className="underline" to="/set-up/logbook">
          Past runs from paper
        </Link>
        <span aria-hidden="true"> · </span>
        <Link className="underline" to="/set-up/inventory">
          Inventory, in and out
        </Link>
        <span aria-hidden="true"> · </span>
        <Link className="underline" to="/limits">
          Limits of the water
        </Link>
        <span aria-hidden="true"> · </span>
        <Link className="underline" to="/alarms/ways">
          Where alarms go
        </Link>
        <span aria-hidden="true"> · </span>
        <Link className="underline" to="/set-up/log-ins">
          Log-ins of devices
        </Link>
        <span aria-hidden="true"> · </span>
        <Link className="underline" to="/set-up/backups">
          Snapshots and backups
        </Link>
      </p>
      <SiteTree sites={data.sites} rows={margins?.rows ?? []} />
      {data.sites.length > 0 && <ShelfSection shelf={data.shelf} />}
      <Preferences />
    </main>
  );
}
