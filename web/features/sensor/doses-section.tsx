import type { DoseRow, DosesView, LoopRow } from '@frustum/contract';
import { useDosesQuery, useTakeBackDosesMutation } from '../../app/api.ts';
import { timeOf } from '../../format/dates.ts';
import { TakeBack } from '../../ui/take-back.tsx';
import { NoteDose } from './note-dose.tsx';
import { TakeDoses } from './take-doses.tsx';

/** What was dosed into this water: a look-back counts it where the reading behind it was probably wrong. */
export function DosesSection({ row: { loopId, controls } }: { row: LoopRow }) {
  const { data } = useDosesQuery(loopId);
  // Its place is kept while it is asked for: nothing below moves under a finger.
  // Few who steer nothing dose: they find it where it does not stand in the way.
  if (!controls && !data?.all)
    return (
      <details className="border-t border-base-300 mt-5 pt-4">
        <summary className="cursor-pointer min-h-6">
          <b className="font-semibold">Doses.</b> <span className="sub">None noted of this water.</span>
        </summary>
        {data && <Doses loopId={loopId} data={data} />}
      </details>
    );
  return (
    <section aria-label="Doses" className="border-t border-base-300 mt-5 pt-4">
      <h2>
        Doses{controls && `: ${controls}`}.{' '}
        <span className="sub font-normal">A look-back counts those that a wrong reading may have led to.</span>
      </h2>
      {data ? <Doses loopId={loopId} data={data} /> : <div className="min-h-56" />}
    </section>
  );
}

function Doses({ loopId, data }: { loopId: string; data: DosesView }) {
  return (
    <>
      <NoteDose loopId={loopId} usual={data.last[0]} />
      {data.all === 0 ? (
        <p className="sub mt-2">None yet. Note one, or take in the list that the controller or the pump keeps.</p>
      ) : (
        <>
          <table className="text-[15px] mt-3">
            <thead>
              <tr className="sub text-[13px] text-left">
                <th className="font-normal py-1 pr-3">when</th>
                <th className="font-normal pr-3">what</th>
                <th className="font-normal pr-3 sm:pr-6 text-right whitespace-nowrap">how much</th>
                <td />
              </tr>
            </thead>
            <tbody>
              {data.last.map((dose, i) => (
                <Row key={dose.at + dose.what} dose={dose} loopId={loopId} first={firstOf(data.last, i)} />
              ))}
            </tbody>
          </table>
          <p className="sub text-sm mt-1">
            {data.all > data.last.length ? `The last ${data.last.length} of ${data.all}. ` : ''}
            <a className="underline" href={`/api/loops/${loopId}/doses.csv`} download>
              Save all as CSV
            </a>
          </p>
        </>
      )}
      <TakeDoses loopId={loopId} />
    </>
  );
}

/** What was written down together is taken back together: at its newest dose. */
const firstOf = (all: readonly DoseRow[], i: number) => all.findIndex((d) => d.noted === all[i]!.noted) === i;

function Row({
  dose: { at, what, amount, unit, noted },
  loopId,
  first,
}: {
  dose: DoseRow;
  loopId: string;
  first: boolean;
}) {
  const [takeBack, { isLoading, error }] = useTakeBackDosesMutation();
  return (
    <tr className="border-t border-base-300">
      <td className="fig py-1.5 pr-3 sm:pr-6 max-sm:text-[13px] whitespace-nowrap">{timeOf(at)}</td>
      <td className="pr-3 sm:pr-6">{what}</td>
      <td className="fig pr-3 sm:pr-6 text-right whitespace-nowrap">
        {amount} {unit}
      </td>
      <td>
        <TakeBack
          can={noted !== null && first}
          busy={isLoading}
          error={error}
          onTake={() => noted && void takeBack({ loopId, body: { noted } })}
        />
      </td>
    </tr>
  );
}
