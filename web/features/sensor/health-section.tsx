import { Link } from 'react-router';
import type { Cause, Diagnosis, NextTest, ServiceSaid, Thin } from '@frustum/core';
import type { LoopRow, SensorView } from '@frustum/contract';
import { useNoteServiceMutation } from '../../app/api.ts';
import { dayOf } from '../../format/dates.ts';
import { inFamily, upper } from '../../format/in-family.ts';
import { chanceWords } from '../../format/rests-on.ts';
import { Notice } from '../../ui/notice.tsx';
import { EvidenceTable } from './evidence-table.tsx';
import { problemOf } from '../../format/problem.ts';

const MIN_CHANCE = 0.03;

/** Which half is failing, on what evidence, and what would tell. */
export function HealthSection({ view: { health, serviceSaid, untested, row } }: { view: SensorView }) {
  if (!health && !untested) return null;
  const electrode = inFamily(row).signalUnit === 'mV';
  return (
    <section
      aria-label={electrode ? 'Which half is failing' : 'What is failing'}
      className="border-t border-base-300 mt-5 pt-4"
    >
      <h2>
        {electrode ? 'Which half?' : 'Sensor or water?'} {health ? titleOf(health) : 'The next run will tell.'}
      </h2>
      {untested && (
        <div className="border-l-[3px] border-primary pl-3 my-2">
          <p>
            {upper(untested.kinds.join(' and '))} on {dayOf(untested.atMs)}, and not tested since: it may be another
            sensor now.
          </p>
          <Link className="btn btn-outline border-base-300 h-12 mt-2" to={`/bench/start/${row.sensorId}`}>
            Test it
          </Link>
        </div>
      )}
      {health && (
        <div className="grid lg:grid-cols-2 gap-x-8 gap-y-4 mt-2">
          <EvidenceTable health={health} row={row} caption={captionOf(health)} />
          <div>
            <Chances health={health} />
            {health.test && !untested && <Test test={health.test} row={row} />}
          </div>
        </div>
      )}
      {serviceSaid && <Told said={serviceSaid} row={row} />}
      <p className="sub text-sm mt-2">
        What such faults look like is common practice without a source.
        {electrode && ' Runs alone do not show a blocked junction: a grab sample does.'}
      </p>
    </section>
  );
}

const titleOf = ({ thin, named, beside }: Diagnosis) =>
  thin ? thinWords(thin) : named ? `Probably ${toDo(named, beside)}.` : 'Nothing points to a fault.';

/** What is the matter and what to do; of two causes both. */
const toDo = (named: Cause, beside: Cause | null) =>
  beside ? `${named.name} (${named.group}), and ${beside.name} (${beside.group})` : `${named.name}: ${named.group}`;

const thinWords = (thin: Thin) =>
  thin.code === 'few-runs'
    ? `Not enough to say: ${thin.runs} of ${thin.of} runs.`
    : 'Not enough to say which: no cause is likelier than all others together.';

const captionOf = ({ causes: [leader], thin }: Diagnosis) =>
  leader && thin?.code !== 'few-runs' ? `Evidence for “${leader.cause.name}”, against all else` : 'Evidence so far';

function Chances({ health: { sound, explanations } }: { health: Diagnosis }) {
  return (
    <table className="w-full text-[15px] self-start">
      <caption className="sub text-left text-[13px] pb-1">How likely, together 100 %</caption>
      <tbody>
        {[
          { name: 'sound', chance: sound },
          ...explanations.map((e) => ({ name: e.causes.map((c) => c.name).join(', and '), chance: e.chance })),
        ]
          .filter((c) => c.chance > MIN_CHANCE)
          .sort((a, b) => b.chance - a.chance)
          .map((c) => (
            <tr key={c.name} className="border-t border-base-300">
              <td className="py-1.5">{upper(c.name)}</td>
              <td className="fig text-right whitespace-nowrap pl-2">{chanceWords(c.chance)}</td>
            </tr>
          ))}
      </tbody>
    </table>
  );
}

/** What would tell, what its outcomes would mean, and a tap that starts it or notes that it was done. */
function Test({ test, row }: { test: NextTest; row: LoopRow }) {
  const [write, { isLoading, error }] = useNoteServiceMutation();
  const { service } = test;
  return (
    <div className="border-l-[3px] border-primary pl-3 mt-3">
      <p>
        <b className="font-semibold">What would tell:</b> {test.what}
      </p>
      <ul className="text-[15px] list-disc pl-5">
        {test.outcomes.map((o) => (
          <li key={o}>{o}</li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-2 mt-2">
        {service && (
          <button
            className="btn btn-outline border-base-300 h-12"
            disabled={isLoading}
            onClick={() => void write({ sensorId: row.sensorId, body: { kind: service, note: '' } })}
          >
            Note: {service} just now
          </button>
        )}
        <Link
          className="btn btn-outline border-base-300 h-12"
          to={`/bench/start/${row.sensorId}${test.procedure === 'sample' ? '?procedure=sample' : ''}`}
        >
          Start it
        </Link>
      </div>
      {error && (
        <Notice kind="trouble" role="alert">
          {problemOf(error).detail}
        </Notice>
      )}
    </div>
  );
}

const SERVICE_WORDS: Readonly<Record<string, string>> = {
  cleaned: 'cleaning',
  refilled: 'refill',
  'plug dried': 'drying of the plug',
  'tip replaced': 'new tip',
};

/** A service is a test as well: what the run after it says of the time before. */
function Told({ said: { kinds, atMs, foundMs, health }, row }: { said: ServiceSaid; row: LoopRow }) {
  const what = `${kinds.map((k) => SERVICE_WORDS[k] ?? k).join(' and ')} of ${dayOf(atMs)}`;
  const { named } = health;
  return (
    <section aria-label="What the last service told" className="mt-4">
      <h3 className="font-semibold">
        What the {what} told: {named ? `until then, probably ${named.name}.` : 'not enough to say which cause it was.'}
      </h3>
      <div className="grid lg:grid-cols-2 gap-x-8 gap-y-4 mt-2">
        <EvidenceTable health={health} row={row} caption={`Evidence until then, with the run of ${dayOf(foundMs)}`} />
        <Chances health={health} />
      </div>
    </section>
  );
}
