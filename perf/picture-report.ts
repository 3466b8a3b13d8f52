import { execSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { seedOf } from '@frustum/sim';
import { BEFALLEN, caseOf, TIERS } from './diagnosis-population.ts';
import { binsOf, brier, holds, shownOf, TOLERANCE } from './picture-judged.ts';

/** Histories of each fault, or as many as are asked for. */
const EACH = Number(process.argv[2] ?? 1000);
const BINS = 8;
const commit = execSync('git rev-parse HEAD').toString().trim();
const seed = process.argv[3] ? Number(process.argv[3]) : Number.parseInt(commit.slice(0, 8), 16);
const cases = BEFALLEN.flatMap((truth) =>
  Array.from({ length: EACH }, (_, i) => caseOf(truth, seedOf(seed, `picture/${truth}/${i}`))),
);
const percent = (x: number) => `${(100 * x).toFixed(1)} %`;

const lines: string[] = [];
for (const tier of TIERS) {
  const shown = cases.map((c) => shownOf(c, tier));
  const faulty = shown.filter((s) => s.truth !== 'sound');
  const sound = shown.filter((s) => s.truth === 'sound');
  lines.push(
    `## Tier ${tier}`,
    '',
    '| stated | came | 95 % interval |',
    '| --- | --- | --- |',
    ...binsOf(shown, BINS).map((b) => `| ${percent(b.stated)} | ${percent(b.came)} | ±${percent(b.half)} |`),
    '',
    `Brier score of faulty sensors ${brier(faulty, (s) => s.chance).toFixed(4)}, as the runs alone say ${brier(faulty, (s) => s.chanceAlone).toFixed(4)}; of sound ones ${brier(sound, (s) => s.chance).toFixed(4)} and ${brier(sound, (s) => s.chanceAlone).toFixed(4)}. The hidden error lies inside the band of 99.9 %, or the state is not known, in ${percent(shown.filter(holds).length / shown.length)}; for the runs alone in ${percent(shown.filter((s) => holds({ ...s, said: s.alone })).length / shown.length)}.`,
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
Bins are of equal count.

${lines.join('\n')}
`;
writeFileSync(join(import.meta.dirname, '../docs/picture-report.md'), text);
process.stdout.write(`${lines.join('\n')}\n`);
