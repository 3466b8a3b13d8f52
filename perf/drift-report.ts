import { execSync, fork } from 'node:child_process';
import { once } from 'node:events';
import { writeFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { seedOf } from '@frustum/sim';
import { houseOf, predicted, type Predicted } from './drift-population.ts';
import { FAMILIES, KINDS } from './drift-truths.ts';
import { medianOf } from './figure.ts';

/** Predictions of each family and number of runs, or as many as are asked for. */
const PREDICTIONS = Number(process.argv[2] ?? 2000);
/** Of each family and kind; a look at the table needs but one. */
const HOUSES = PREDICTIONS < 500 ? 1 : 20;
const SENSORS = 25;
const RUNS = [1, 3, 10];
const percent = (x: number) => `${(100 * x).toFixed(1)} %`;
const held = (all: readonly Predicted[], half: (p: Predicted) => number) =>
  all.length ? percent(all.filter((p) => Math.abs(p.off) <= half(p)).length / all.length) : '';
const mean = (all: readonly number[]) => all.reduce((s, x) => s + x, 0) / all.length;

const commit = execSync('git rev-parse HEAD').toString().trim();
const seed = process.argv[3] ? Number(process.argv[3]) : Number.parseInt(commit.slice(0, 8), 16);
type Made = Predicted & { readonly family: string; readonly runs: number };

/** All predictions of some families. */
const madeOf = (families: readonly string[]): Made[] =>
  families.flatMap((family) =>
    KINDS.flatMap((kind) =>
      Array.from({ length: HOUSES }, (_, h) => {
        const houseSeed = seedOf(seed, `${family}/${kind}/${h}`);
        const house = houseOf(family, kind, SENSORS, houseSeed);
        const each = Math.ceil(PREDICTIONS / KINDS.length / HOUSES);
        return RUNS.flatMap((runs) =>
          Array.from({ length: each }, (_, i) => ({
            family,
            runs,
            ...predicted(house, runs, seedOf(houseSeed, `${runs}/${i}`), true),
          })),
        );
      }).flat(),
    ),
  );

// A part sends its figures to the process that started it; the whole shares the families out among the cores.
if (process.argv[4]) {
  process.send!(madeOf(process.argv.slice(4)));
  // The parent ends it once it has the figures.
  await new Promise(() => setInterval(() => undefined, 1e6));
}

/** The predictions of some families, made by a process of their own. */
async function madeElsewhere(families: readonly string[]): Promise<Made[]> {
  const child = fork(import.meta.filename, [String(PREDICTIONS), String(seed), ...families]);
  const ended = once(child, 'exit').then(([code]) => {
    throw new Error(`the part for ${families.join(', ')} ended (${code}) without an answer`);
  });
  const [answer] = (await Promise.race([once(child, 'message'), ended])) as [Made[]];
  ended.catch(() => undefined);
  child.kill();
  return answer;
}
const parts = Math.min(FAMILIES.length, availableParallelism());
const shares = Array.from({ length: parts }, (_, part) => FAMILIES.filter((__, i) => i % parts === part));
const made = (await Promise.all(shares.map(madeElsewhere))).flat();

function row(name: readonly string[], all: readonly Predicted[]): string {
  const jumps = all.filter((p) => p.kind === 'jumps');
  const curves = all.filter((p) => p.kind !== 'jumps');
  const cells = [
    ...name,
    String(all.length),
    held(all, (p) => p.half95),
    held(curves, (p) => p.half95),
    held(jumps, (p) => p.half95),
    held(curves, (p) => p.half50),
    held(jumps, (p) => p.half50),
    (medianOf(all.map((p) => p.half95)) / medianOf(all.map((p) => p.oracle95!))).toFixed(2),
    percent(all.filter((p) => p.oracleHeld).length / all.length),
    (mean(all.map((p) => p.score)) / mean(all.map((p) => p.naive))).toFixed(2),
  ];
  return `| ${cells.join(' | ')} |`;
}

const table = [
  '| family | runs | predictions | 95 % held | curves | jumps | 50 % held: curves | jumps | width over the oracle’s | oracle held | score over the last value’s |',
  '|' + ' --- |'.repeat(11),
  ...FAMILIES.flatMap((family) =>
    RUNS.map((runs) =>
      row(
        [family, String(runs)],
        made.filter((p) => p.family === family && p.runs === runs),
      ),
    ),
  ),
  ...RUNS.map((runs) =>
    row(
      ['**all**', String(runs)],
      made.filter((p) => p.runs === runs),
    ),
  ),
  ...KINDS.map((kind) =>
    row(
      [kind, 'all'],
      made.filter((p) => p.kind === kind),
    ),
  ),
].join('\n');

if (!process.argv[3])
  writeFileSync(
    join(import.meta.dirname, '../docs/drift-report.md'),
    `# Drift report

Made by \`npm run report:drift\` at ${commit.slice(0, 7)}, seed ${seed} (the first eight digits of the commit).

Sensors of \`perf/drift-truths.ts\`: hidden courses that are not what the engine believes in (closed curves that damp out,
exponential ageing with a straight zero, and random jumps), 1, 3 or 10 runs 15 to 60 days apart with noise, four in ten of them
left unadjusted, and a prediction of the shown error 15 to 90 days after the last run. The ranges are invented. In each of ${HOUSES}
houses a family and a kind, the engine learns from ${SENSORS} other sensors with ten runs each (\`core/drift/pool.ts\`).

**Held** is how many errors lay in the 95 % and 50 % bands. **Width over the oracle's** is the ratio of the median widths of the
95 % bands, where the oracle knows kind, curves and figures of the population, has seen the same runs, and solves for the rest
(\`perf/drift-oracle.ts\`; asked for every one of them). **Score** is the mean interval score of the 95 % band, lower is better, over
that of the last found error with the house's root mean square change from run to run. Ratios below 1 are better than it.

How readily noise is taken up and how far it keeps away from nothing (\`core/drift/pool.ts\`), and that sensors of a house live at
different paces (\`core/drift/pace.ts\`), were set after earlier reports with other seeds, on populations like this one: this seed
was not used before.

${table}
`,
  );
process.stdout.write(`${table}\n`);
