import { Link } from 'react-router';
import { countsAt, type Diagnosis, type Pushed } from '@frustum/core';
import type { LoopRow } from '@frustum/contract';
import { inFamily, upper } from '../../format/in-family.ts';
import { fixed } from '../../format/numbers.ts';

const WORDS: Readonly<Record<Pushed['piece'], (value: number) => string>> = {
  zeroMoved: (v) => `Zero moved by ${fixed(v, 1)} mV since the first run`,
  sensitivityLost: (v) => `Slope ${v < 0 ? 'gained' : 'lost'} ${fixed(Math.abs(v), 1)} % since the first run`,
  sensitivity: (v) => `Slope now ${fixed(v, 1)} %`,
  slower: (v) => `Answers in ${fixed(Math.exp(v), 1)} times the time, at like temperature`,
  sampleOff: (v) => `Grab samples differ from standards by ${fixed(v, 1)} mV`,
  siblings: (v) => `Another on the same reference moved by ${fixed(v, 1)} mV`,
  fellows: (v) => `Another in the same new bottle moved by ${fixed(v, 1)} mV`,
  readingMoved: (v) => `The reading is ${fixed(v, 1)} mV from what it usually is at this hour`,
  twins: (v) => `Another in the same water moved by ${fixed(v, 1)} mV`,
  membrane: (v) => `Membrane ${fixed(Math.exp(v), 0)} MΩ at 25 °C`,
  reference: (v) => `Reference ${fixed(Math.exp(v), 1)} kΩ`,
  lastJumped: (v) => `The last run ${v > 0.5 ? 'jumped' : 'was no jump'}`,
  cameBack: () => 'The last run went back to where it was before the run before it',
};
/** Pieces that come in steps that count; here they are said in mV. */
const IN_STEPS: readonly Pushed['piece'][] = ['sampleOff', 'fellows', 'readingMoved', 'twins'];
const IN_LOGARITHMS: readonly Pushed['piece'][] = ['slower', 'membrane', 'reference'];
const LEAST_CHANCE = 0.03;

/** How strongly, in a word and a bar: a factor of three, of ten, of a hundred. */
function pushWords(push: number): string {
  const size = Math.abs(push);
  const times = size < 1 ? 'hardly' : size < 2.3 ? 'a little' : size < 4.6 ? 'clearly' : 'strongly';
  return `${times} ${push > 0 ? 'for it' : 'against it'}`;
}

/** Which half is failing, on what evidence, and what would tell. */
export function HealthSection({ health, row }: { health: Diagnosis; row: LoopRow }) {
  const { family, model } = inFamily(row);
  const step = countsAt(family, model, { value: row.workingValue, temperatureC: row.workingC });
  const times = (piece: Pushed['piece']) => (IN_STEPS.includes(piece) ? step : 1);
  const { named, thin, sound, causes, evidence, test } = health;
  const percent = (chance: number) => `${fixed(100 * chance, 0)} %`;
  const title = thin ?? (named ? `Probably ${named.name}: ${named.group}.` : 'Nothing points to a fault.');
  const leader = causes[0];
  return (
    <section aria-label="Which half is failing" className="border-t border-base-300 mt-5 pt-4">
      <h2>Which half? {title}</h2>
      <div className="grid lg:grid-cols-2 gap-x-8 gap-y-4 mt-2">
        <div>
          <table className="w-full text-[15px]">
            <caption className="sub text-left text-[13px] pb-1">
              {leader && !thin?.startsWith('Not enough to say:')
                ? `Evidence for “${leader.cause.name}”, against all else`
                : 'Evidence so far'}
            </caption>
            <tbody>
              {evidence.map((e, i) => (
                <tr key={i} className="border-t border-base-300">
                  <td className="py-1.5 pr-4">
                    {WORDS[e.piece](times(e.piece) * e.figure.value)}
                    {e.figure.sd > 0 && !IN_LOGARITHMS.includes(e.piece) && (
                      <span className="sub"> ±{fixed(2 * times(e.piece) * e.figure.sd, 1)}</span>
                    )}
                  </td>
                  <td className="whitespace-nowrap sub">{pushWords(e.push)}</td>
                </tr>
              ))}
              {evidence.length === 0 && (
                <tr>
                  <td className="sub py-1.5">None that speaks for or against anything.</td>
                </tr>
              )}
            </tbody>
          </table>
        </div>
        <div>
          <table className="w-full text-[15px]">
            <caption className="sub text-left text-[13px] pb-1">How likely, together 100 %</caption>
            <tbody>
              {[{ name: 'sound', chance: sound }, ...causes.map((c) => ({ name: c.cause.name, chance: c.chance }))]
                .filter((c) => c.chance > LEAST_CHANCE)
                .sort((a, b) => b.chance - a.chance)
                .map((c) => (
                  <tr key={c.name} className="border-t border-base-300">
                    <td className="py-1.5">{upper(c.name)}</td>
                    <td className="fig text-right">{percent(c.chance)}</td>
                  </tr>
                ))}
            </tbody>
          </table>
          {test && (
            <div className="border-l-[3px] border-primary pl-3 mt-3">
              <p>
                <b className="font-semibold">What would tell:</b> {test.what}
              </p>
              <ul className="text-[15px] list-disc pl-5">
                {test.outcomes.map((o) => (
                  <li key={o}>{o}</li>
                ))}
              </ul>
              {test.procedure && (
                <Link
                  className="btn btn-outline border-base-300 h-12 mt-2"
                  to={`/bench/start/${row.sensorId}${test.procedure === 'sample' ? '?procedure=sample' : ''}`}
                >
                  Start it
                </Link>
              )}
            </div>
          )}
        </div>
      </div>
      <p className="sub text-sm mt-2">
        What such faults look like is common practice without a source. Runs alone do not show a blocked junction: a
        grab sample does.
      </p>
    </section>
  );
}
