import { around, type Around, type Change, type CleaningTaught } from '@frustum/core';
import type { SensorView, ServiceRow } from '@frustum/contract';
import { useTakeBackServiceMutation } from '../../app/api.ts';
import { dayOf, timeOf } from '../../format/dates.ts';
import { inFamily } from '../../format/in-family.ts';
import { fixed, signed } from '../../format/numbers.ts';
import { TakeBack } from '../../ui/take-back.tsx';
import { NoteService } from './note-service.tsx';

const TWO = 2;

/** What was done to the sensor between its runs, and what the runs about it found. */
export function ServiceSection({ view: { row, services, past, nowMs, cleaning } }: { view: SensorView }) {
  const { family, signalUnit } = inFamily(row);
  // A sensor with an offset and no slope has nothing to show in that column.
  const slopes = past.some((p) => p.found.sensitivitySd > 0);
  return (
    <section aria-label="Service log" className="border-t border-base-300 mt-5 pt-4">
      <h2>Service log</h2>
      <NoteService row={row} nowMs={nowMs} />
      {services.length === 0 && (
        <p className="sub mt-2">
          Nothing yet. Service between two runs changes the sensor: forecast and evidence begin anew where they have to,
          and it is due for a test.
        </p>
      )}
      {services.length > 0 && (
        <>
          <div className="overflow-x-auto">
            <table className="w-full text-[15px] mt-2">
              <thead>
                <tr className="sub text-[13px] text-left">
                  <th className="font-normal py-1.5 pr-6">what was done</th>
                  <th className="font-normal pr-6">
                    {family.zero.name}, {signalUnit}: before and after
                  </th>
                  {slopes && <th className="font-normal">{family.sensitivity.name}, %: before and after</th>}
                </tr>
              </thead>
              <tbody>
                {services.map((service) => {
                  const found = around(past, Date.parse(service.at));
                  return (
                    <tr key={service.at + service.kind} className="border-t border-base-300 align-top">
                      <td className="py-1.5 pr-6">
                        <What service={service} found={found} sensorId={row.sensorId} />
                      </td>
                      <td className="fig py-1.5 pr-6">
                        <Figures of="zero" found={found} change={found.zero} times={1} />
                      </td>
                      {slopes && (
                        <td className="fig py-1.5">
                          <Figures of="sensitivity" found={found} change={found.sensitivity} times={100} />
                        </td>
                      )}
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </div>
          <p className="sub text-sm mt-1">
            Before: the last run until then. After: the first one since. What it drifted by between the two is in the
            change.
          </p>
        </>
      )}
      {cleaning && <p className="mt-1">{cleaningWords(cleaning, signalUnit, slopes)}</p>}
    </section>
  );
}

/** "After 2 cleanings that a run has followed, the next one is expected to move the zero by −0.2 ±3.1 mV and …" */
function cleaningWords({ times, zero, sensitivity }: CleaningTaught, unit: string, slopes: boolean): string {
  const by = (name: string, of: CleaningTaught['zero'], scale: number, its: string) =>
    `the ${name} by ${signed(scale * of.value, 1)} ±${fixed(TWO * scale * of.sd, 1)} ${its}`;
  const moved = [by('zero', zero, 1, unit), ...(slopes ? [by('sensitivity', sensitivity, 100, '%')] : [])];
  return `After ${times === 1 ? 'one cleaning' : `${times} cleanings`} that a run has followed, the next one is expected to move ${moved.join(' and ')}.`;
}

function What({
  service,
  found: { before, after },
  sensorId,
}: {
  service: ServiceRow;
  found: Around;
  sensorId: string;
}) {
  const [takeBack, { isLoading, error }] = useTakeBackServiceMutation();
  return (
    <>
      <span className="fig mr-1">{timeOf(service.at)}</span> <b className="font-semibold">{service.kind}</b>
      <span className="sub block">{[service.note, service.by].filter(Boolean).join(' · ')}</span>
      <span className="sub block text-[13px]">
        {before ? `run of ${dayOf(before.atMs)}` : 'no run before'},{' '}
        {after ? `run of ${dayOf(after.atMs)}` : 'none since'}
      </span>
      <TakeBack
        can={service.fresh}
        busy={isLoading}
        error={error}
        onTake={() => void takeBack({ sensorId, body: { at: service.at, kind: service.kind } })}
      />
    </>
  );
}

/** "−16.1 → −3.8", and below it by how much, with two standard uncertainties. */
function Figures({
  of,
  found: { before, after },
  change,
  times,
}: {
  of: 'zero' | 'sensitivity';
  found: Around;
  change: Change | null;
  times: number;
}) {
  const shown = (value: number | undefined) => (value === undefined ? '–' : fixed(times * value, 1));
  return (
    <>
      {shown(before?.found[of])} → {shown(after?.found[of])}
      {change && (
        <span className="sub block text-[13px]">
          {signed(times * change.by, 1)} ±{fixed(TWO * times * change.sd, 1)}
        </span>
      )}
    </>
  );
}
