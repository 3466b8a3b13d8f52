import { useState } from 'react';
import type { LifeView, MoveSensor, SetUpLoop, SetUpSite } from '@frustum/contract';
import { useMoveSensorMutation } from '../../../app/api.ts';
import { AWAY, momentOf } from './where-words.ts';
import { Against, Displaced, Moment, Why } from './fit-page.tsx';

const NOTHING = { to: '', displaced: 'wet', at: '', why: '', soaked: false };

/** Where a sensor goes: to a loop of its family, onto the shelf, or out of use. */
export function MoveForm({ view, sites }: { view: LifeView; sites: readonly SetUpSite[] }) {
  const { sensor, loop } = view;
  const [typed, setTyped] = useState(NOTHING);
  const put = (part: Partial<typeof NOTHING>) => setTyped({ ...typed, ...part });
  const [move, { error, isLoading }] = useMoveSensorMutation();
  const loops = sites
    .filter((s) => s.archivedAt === null)
    .flatMap((s) => s.loops)
    .filter((l) => l.family === sensor.family && l.archivedAt === null && l.loopId !== loop?.loopId);
  const target = loops.find((l) => l.loopId === typed.to);
  // Of the place that it comes to, or leaves.
  const at = target?.loopId ?? loop?.loopId;
  const timeZone = (sites.find((s) => s.loops.some((l) => l.loopId === at)) ?? sites[0])?.timeZone ?? 'UTC';
  const send = () => {
    const { to, displaced, at, why, soaked } = typed;
    const body: Partial<MoveSensor> = {
      version: sensor.version,
      ...(target ? { to: 'loop', loopId: target.loopId } : { to: to as 'wet' }),
      ...(target?.sensor ? { displaced: displaced as 'wet', instead: target.sensor.sensorId } : {}),
      soaked,
      why: why.trim(),
      ...momentOf(at, timeZone),
    };
    void move({ sensorId: sensor.sensorId, body });
  };
  return (
    <section aria-label="Move it" className="border-t border-base-300 pt-4">
      <h2>Move it</h2>
      <form
        noValidate
        onSubmit={(e) => {
          e.preventDefault();
          send();
        }}
      >
        <div className="grid sm:grid-cols-2 gap-x-5 gap-y-3 mt-2">
          <Places view={view} loops={loops} value={typed.to} onChange={(to) => put({ to })} />
          {target?.sensor && (
            <Displaced name={target.sensor.name} value={typed.displaced} onChange={(to) => put({ displaced: to })} />
          )}
          <Moment timeZone={timeZone} value={typed.at} onChange={(at) => put({ at })} />
          <Why value={typed.why} onChange={(why) => put({ why })} />
        </div>
        <Against error={error} soaked={typed.soaked} onSoaked={(soaked) => put({ soaked })} />
        <button className="btn btn-primary h-12 mt-3" disabled={isLoading || !typed.to}>
          {isLoading ? 'Noting …' : 'It is done'}
        </button>
      </form>
    </section>
  );
}

interface PlacesProps {
  readonly view: LifeView;
  readonly loops: readonly SetUpLoop[];
  readonly value: string;
  readonly onChange: (to: string) => void;
}

/** Loops that it fits, and ways to put it away. */
function Places({ view: { retiredAt, storage }, loops, value, onChange }: PlacesProps) {
  const present = retiredAt !== null ? 'retired' : storage;
  return (
    <label className="text-sm sub">
      It goes
      <select
        className="select h-12 w-full text-base text-base-content"
        value={value}
        onChange={(e) => onChange(e.target.value)}
      >
        <option value="">pick a place</option>
        {retiredAt === null &&
          loops.map((l) => (
            <option key={l.loopId} value={l.loopId}>
              to {l.name}
              {l.sensor ? '' : ', where nothing is fitted'}
            </option>
          ))}
        {AWAY.filter(([to]) => to !== present).map(([to, words]) => (
          <option key={to} value={to}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}
