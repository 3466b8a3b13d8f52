import { execSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { seedOf } from '@frustum/sim';
import { BEFALLEN, caseOf, TIERS } from './diagnosis-population.ts';
import { binsOf, brier, holds, shownOf, TOLERANCE, type Shown } from './picture-judged.ts';
import { outsideOracle } from './picture-oracle.ts';

/** Histories of each fault, or as many as are asked for; the oracle learns from so many others. */
const EACH = Number(process.argv[2] ?? 3000);
const LEARNT = Math.min(EACH, 600);
const BINS = 8;
/** So many of those are held against the oracle: its neighbours are slow. */
const WEIGHED = Math.min(EACH, 1000);
const commit = execSync('git rev-parse HEAD').toString().trim();
const seed = process.argv[3] ? Number(process.argv[3]) : Number.parseInt(commit.slice(0, 8), 16);
const made = (what: string, count: number) =>
  BEFALLEN.flatMap((truth) =>
    Array.from({ length: count }, (_, i) => caseOf(truth, seedOf(seed, `${what}/${truth}/${i}`))),
  );
const cases = made('picture', EACH);
const training = made('learnt', LEARNT);
const percent = (x: number) => `${(100 * x).toFixed(1)} %`;
const points = (x: number) => (100 * x).toFixed(1);

/** Mean square of a chance less what came, of the faulty and of the sound. */
const both = (list: readonly Judged[], of: (s: Judged) => number) =>
  [true, false].map((faulty) =>
    brier(
      list.filter((s) => (s.truth !== 'sound') === faulty),
      (s) => of(s as Judged),
    ),
  ) as [number, number];
type Judged = Shown & { readonly oracle: number };

const lines: string[] = [];
for (const tier of TIERS) {
  const shown = cases.map((c) => shownOf(c, tier));
  const oracle = outsideOracle(training, tier);
  const weighed = cases.flatMap((c, i): Judged[] => (i % EACH < WEIGHED ? [{ ...shown[i]!, oracle: oracle(c) }] : []));
  const [said, alone, known] = [
    both(weighed, (s) => s.chance),
    both(weighed, (s) => s.chanceAlone),
    both(weighed, (s) => s.oracle),
  ];
  lines.push(
    `## Tier ${tier}`,
    '',
    '| stated | came | came less stated, 95 % interval |',
    '| --- | --- | --- |',
    ...binsOf(shown, BINS).map(
      (b) =>
        `| ${percent(b.stated)} | ${percent(b.came)} | ${points(b.came - b.stated - b.half)} to ${points(b.came - b.stated + b.half)} |`,
    ),
    '',
    '| Brier score | over all explanations | the runs alone | the oracle | of the way to it |',
    '| --- | --- | --- | --- | --- |',
    `| faulty | ${said[0].toFixed(4)} | ${alone[0].toFixed(4)} | ${known[0].toFixed(4)} | ${percent((alone[0] - said[0]) / (alone[0] - known[0]))} |`,
    `| sound | ${said[1].toFixed(4)} | ${alone[1].toFixed(4)} | ${known[1].toFixed(4)} | |`,
    '',
    `The hidden error lies inside the band of 99.9 %, or the state is not known, in ${percent(shown.filter(holds).length / shown.length)}; for the runs alone in ${percent(shown.filter((s) => holds({ ...s, said: s.alone })).length / shown.length)}.`,
    '',
    '| truth | outside | stated, mean | runs alone, mean | band holds |',
    '| --- | --- | --- | --- | --- |',
    ...BEFALLEN.map((truth) => {
      const mine = shown.filter((s) => s.truth === truth);
      const mean = (of: (s: (typeof mine)[number]) => number) => mine.reduce((sum, s) => sum + of(s), 0) / mine.length;
      return `| ${truth} | ${percent(mean((s) => Number(s.outside)))} | ${percent(mean((s) => s.chance))} | ${percent(mean((s) => s.chanceAlone))} | ${percent(mean((s) => Number(holds(s))))} |`;
    }),
    '',
  );
}
const text = `# Picture report

Made by \`npm run report:picture\` at ${commit.slice(0, 7)}, seed ${seed} (the first eight digits of the commit), ${EACH} histories of each fault.

The chance of being outside ±${TOLERANCE} pH at pH 6, on the day after the last run, over all explanations, against what the
simulator's body shows: the population of the [diagnosis report](diagnosis-report.md), with its flat prior and its tiers of evidence.
The hidden error is the body's zero and slope in the water against what is in force, by arithmetic of \`perf/picture-judged.ts\`.
Bins are of equal count. The oracle has the same evidence and what the last two runs make of what is in force, and has seen
${LEARNT} other histories of each fault by this generator: the better of a quadratic discriminant and nearest neighbours. The
Brier scores are of ${WEIGHED} histories of each fault. As many of the sensors are blocked as are sound: a sound one is feared
for as far as the oracle fears, and with the priors of practice hardly at all.

The densities of the causes were set after looking at histories of this simulator with other seeds.

${lines.join('\n')}
`;
writeFileSync(join(import.meta.dirname, '../docs/picture-report.md'), text);
process.stdout.write(`${lines.join('\n')}\n`);
