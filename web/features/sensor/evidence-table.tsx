import { significantStep, type Diagnosis, type Pushed } from '@frustum/core';
import type { LoopRow } from '@frustum/contract';
import { inFamily, upper, type InFamily } from '../../format/in-family.ts';
import { fixed } from '../../format/numbers.ts';

/** What a piece of evidence says: a figure in words, and its unit where it has one. */
type Words = (value: number, figures: InFamily) => string;

const inSignal = (v: number, { signalUnit, signalDigits }: InFamily) => `${fixed(v, signalDigits)} ${signalUnit}`;
const WORDS: Readonly<Record<Pushed['piece'], Words>> = {
  zeroMoved: (v, f) => `${upper(f.family.zero.name)} moved by ${inSignal(v, f)} since the first run`,
  sensitivityLost: (v, f) =>
    `${upper(f.family.sensitivity.name)} ${v < 0 ? 'gained' : 'lost'} ${fixed(Math.abs(v), 1)} % since the first run`,
  sensitivity: (v, f) => `${upper(f.family.sensitivity.name)} now ${fixed(v, 1)} %`,
  slower: (v) => `Answers in ${fixed(Math.exp(v), 1)} times the time, at like temperature`,
  sampleOff: (v, f) => `Grab samples differ from standards by ${inSignal(v, f)}`,
  siblings: (v, f) => `Another on the same reference moved by ${inSignal(v, f)}`,
  fellows: (v, f) => `Another in the same new bottle moved by ${inSignal(v, f)}`,
  readingMoved: (v, f) => `The reading is ${inSignal(v, f)} from what it usually is at this hour`,
  twins: (v, f) => `Another in the same water moved by ${inSignal(v, f)}`,
  membrane: (v) => `Membrane ${fixed(Math.exp(v), 0)} MΩ at 25 °C`,
  reference: (v) => `Reference ${fixed(Math.exp(v), 1)} kΩ`,
  lastJumped: (v) => `The last run ${v > 0.5 ? 'jumped' : 'was no jump'}`,
  cameBack: (v) =>
    v > 0.5
      ? 'The last run went back to where it was before the run before it'
      : 'The last run did not go back to where it was earlier',
  refused: () => 'The instrument refused what the last run would have set',
  zeroAfter: (v, f) => `After the service the ${f.family.zero.name} was ${inSignal(v, f)} from before it`,
  sensitivityAfter: (v, f) => `After the service the ${f.family.sensitivity.name} was ${fixed(v, 1)} % from before it`,
};
/** Pieces that come in steps that count; here they are shown in the unit of the signal. */
const IN_STEPS: readonly Pushed['piece'][] = ['sampleOff', 'fellows', 'readingMoved', 'twins'];
/** Those that come in mV for an electrode, and in steps for anything else. */
const ZEROS: readonly Pushed['piece'][] = ['zeroMoved', 'zeroAfter'];
const IN_PERCENT: readonly Pushed['piece'][] = ['sensitivityLost', 'sensitivity', 'sensitivityAfter'];
const IN_LOGARITHMS: readonly Pushed['piece'][] = ['slower', 'membrane', 'reference'];

/** How strongly, in a word: a factor of three, of ten, of a hundred. */
function pushWords(push: number): string {
  const size = Math.abs(push);
  const times = size < 1 ? 'hardly' : size < 2.3 ? 'a little' : size < 4.6 ? 'clearly' : 'strongly';
  return `${times} ${push > 0 ? 'for it' : 'against it'}`;
}

/** What speaks against the likeliest cause comes first, then what speaks for it; of each the strongest first. */
const inOrder = (evidence: Diagnosis['evidence']) => [
  ...evidence.filter((e) => e.push < 0),
  ...evidence.filter((e) => e.push >= 0),
];

/** What speaks against and for the likeliest cause. */
export function EvidenceTable({ health, row, caption }: { health: Diagnosis; row: LoopRow; caption: string }) {
  const figures = inFamily(row);
  const { family, model, signalUnit, signalDigits } = figures;
  const step = significantStep(family, model, { value: row.workingValue, temperatureC: row.workingC });
  const times = (piece: Pushed['piece']) =>
    IN_STEPS.includes(piece) || (ZEROS.includes(piece) && signalUnit !== 'mV') ? step : 1;
  return (
    <table className="w-full text-[15px] self-start">
      <caption className="sub text-left text-[13px] pb-1">{caption}</caption>
      <tbody>
        {inOrder(health.evidence).map((e, i) => (
          <tr key={i} className="border-t border-base-300">
            <td className="py-1.5 pr-4">
              {WORDS[e.piece](times(e.piece) * e.figure.value, figures)}
              {e.figure.sd > 0 && !IN_LOGARITHMS.includes(e.piece) && (
                <span className="sub">
                  {' '}
                  ±{fixed(2 * times(e.piece) * e.figure.sd, IN_PERCENT.includes(e.piece) ? 1 : signalDigits)}
                </span>
              )}
            </td>
            <td className="whitespace-nowrap sub">{pushWords(e.push)}</td>
          </tr>
        ))}
        {health.evidence.length === 0 && (
          <tr>
            <td className="sub py-1.5">None that speaks for or against anything.</td>
          </tr>
        )}
      </tbody>
    </table>
  );
}
