import { useState } from 'react';
import { Link } from 'react-router';
import type { LoopRow, SetUpLoop, SetUpSite } from '@frustum/contract';
import { useOrderLoopsMutation } from '../../app/api.ts';
import { besides } from '../../format/besides.ts';
import { dayOf } from '../../format/dates.ts';
import { inFamily, upper } from '../../format/in-family.ts';
import { wayOf } from '../../wires/wire-forms.ts';
import { LoopEditor } from './loop-editor.tsx';
import { SiteEditor } from './site-editor.tsx';
import { ArchivedLoop, ArchivedSite } from './archived.tsx';

/** What is open to be changed: one place at a time. */
type Open = { readonly of: string } | null;

/** Sites, their loops in an order of one's own, and what is archived; each is changed where it stands. */
export function SiteTree({ sites, rows }: { sites: readonly SetUpSite[]; rows: readonly LoopRow[] }) {
  const [open, setOpen] = useState<Open>(null);
  const inUse = sites.filter((s) => s.archivedAt === null);
  const away = sites.filter((s) => s.archivedAt !== null);
  if (!sites.length)
    return (
      <p className="mt-6 text-lg">
        Nothing is set up yet.{' '}
        <Link className="underline" to="/set-up/add">
          Add a first loop
        </Link>
        : its name, what it measures and where it works are enough.
      </p>
    );
  return (
    <>
      {inUse.map((site) => (
        <SiteBranch key={site.siteId} site={site} sites={sites} rows={rows} open={open} onOpen={setOpen} />
      ))}
      {away.length > 0 && (
        <details className="mt-6 border-t border-base-300 pt-3">
          <summary className="cursor-pointer py-2 sub">Archived sites: {away.length}</summary>
          <ul>
            {away.map((site) => (
              <ArchivedSite key={site.siteId} site={site} />
            ))}
          </ul>
        </details>
      )}
    </>
  );
}

interface Branch {
  readonly site: SetUpSite;
  readonly sites: readonly SetUpSite[];
  readonly rows: readonly LoopRow[];
  readonly open: Open;
  readonly onOpen: (open: Open) => void;
}

function SiteBranch({ site, sites, rows, open, onOpen }: Branch) {
  const loops = site.loops.filter((l) => l.archivedAt === null);
  const away = site.loops.filter((l) => l.archivedAt !== null);
  const isOpen = open?.of === site.siteId;
  return (
    <section aria-label={site.name} className="mt-6">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2>{site.name}</h2>
        <span className="sub text-sm">
          {loops.length} {loops.length === 1 ? 'loop' : 'loops'}, {site.timeZone}
        </span>
        <button
          type="button"
          className="btn btn-ghost h-12 font-normal ml-auto"
          aria-expanded={isOpen}
          onClick={() => onOpen(isOpen ? null : { of: site.siteId })}
        >
          Change<span className="sr-only"> {site.name}</span>
        </button>
      </div>
      {isOpen && <SiteEditor site={site} names={sites.map((s) => s.name)} onDone={() => onOpen(null)} />}
      <ul>
        {loops.map((loop, i) => (
          <LoopBranch
            key={loop.loopId}
            loop={loop}
            site={site}
            row={rows.find((r) => r.loopId === loop.loopId) ?? null}
            order={{ loops: loops.map((l) => l.loopId), at: i }}
            isOpen={open?.of === loop.loopId}
            onOpen={(is) => onOpen(is ? { of: loop.loopId } : null)}
          />
        ))}
      </ul>
      {away.length > 0 && (
        <details className="border-t border-base-300">
          <summary className="cursor-pointer py-3 sub text-sm">Archived loops: {away.length}</summary>
          <ul>
            {away.map((loop) => (
              <ArchivedLoop key={loop.loopId} loop={loop} />
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

interface LoopBranchProps {
  readonly loop: SetUpLoop;
  readonly site: SetUpSite;
  /** as it stands in Margins */
  readonly row: LoopRow | null;
  readonly order: { readonly loops: readonly string[]; readonly at: number };
  readonly isOpen: boolean;
  readonly onOpen: (is: boolean) => void;
}

function LoopBranch({ loop, site, row, order, isOpen, onOpen }: LoopBranchProps) {
  const figures = inFamily(loop);
  const { sensor, channel } = loop;
  return (
    <li className="border-t border-base-300 py-2.5" data-loop={loop.name}>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <span className="min-w-0 grow basis-full lg:basis-64">
          <b className="font-[650]">{loop.name}</b> <span className="sub text-sm">{loop.place}</span>
          <span className="block text-[15px]">
            {upper(figures.family.name)} at{' '}
            <span className="fig">
              {figures.value(loop.workingValue)} {figures.unit} ±{figures.size(loop.tolerance)}
            </span>
            , every {loop.intervalDays} days
          </span>
          <span className="block sub text-sm [overflow-wrap:anywhere]">
            {sensor ? besides(sensor.name, sensor.serial, `fitted ${dayOf(sensor.fittedOn)}`) : 'nothing is fitted'} ·{' '}
            {besides(channel.off ? 'switched off' : wayOf(channel), ...linkWords(loop, site))}
          </span>
        </span>
        <OrderButtons name={loop.name} order={order} />
        <button
          type="button"
          className="btn btn-outline border-base-300 h-12"
          aria-expanded={isOpen}
          onClick={() => onOpen(!isOpen)}
        >
          {isOpen ? 'Close' : 'Change'}
          <span className="sr-only"> {loop.name}</span>
        </button>
      </div>
      {isOpen && (
        <LoopEditor
          loop={loop}
          others={site.loops.filter((l) => l.loopId !== loop.loopId)}
          siteName={site.name}
          openRunId={row?.openRunId ?? null}
          onDone={() => onOpen(false)}
        />
      )}
    </li>
  );
}

/** What hangs together with it, as far as somebody has said so. */
function linkWords({ backupOf, water, body, referenceGroup }: SetUpLoop, { loops }: SetUpSite): string[] {
  const main = loops.find((l) => l.loopId === backupOf);
  return [
    main ? `backup of ${main.name}` : '',
    water && `in the water ${water}`,
    body && `on the body ${body}`,
    referenceGroup && `on the reference ${referenceGroup}`,
  ].filter(Boolean);
}

/** An order of one's own: one place up or down. */
function OrderButtons({ name, order: { loops, at } }: { name: string; order: LoopBranchProps['order'] }) {
  const [order, { isLoading }] = useOrderLoopsMutation();
  const move = (by: 1 | -1) => {
    const next = [...loops];
    next.splice(at + by, 0, ...next.splice(at, 1));
    void order(next);
  };
  return (
    <span className="flex max-lg:ml-auto">
      <button
        type="button"
        className="btn btn-ghost h-12 px-3"
        disabled={isLoading || at === 0}
        aria-label={`${name} one up`}
        onClick={() => move(-1)}
      >
        ↑
      </button>
      <button
        type="button"
        className="btn btn-ghost h-12 px-3"
        disabled={isLoading || at === loops.length - 1}
        aria-label={`${name} one down`}
        onClick={() => move(1)}
      >
        ↓
      </button>
    </span>
  );
}
