import { execSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { NO_FLEET } from '@frustum/core';
import { chance, seedOf } from '@frustum/sim';
import { houseOf, predicted } from './drift-population.ts';
import { COURSES } from './drift-truths.ts';

/** Houses of each family and kind, or as many as are asked for, and sensors of each that are foretold. */
const HOUSES = Number(process.argv[2] ?? 7);
const SENSORS = 25;
const FAMILIES = ['ph', 'conductivity'];
const SIBLINGS = [0, 3, 6, 12, 25];
const RUNS = [2, 5, 10, 20];
const DRAWS = 1000;

const commit = execSync('git rev-parse HEAD').toString().trim();
const seed = process.argv[3] ? Number(process.argv[3]) : Number.parseInt(commit.slice(0, 8), 16);

interface House {
  readonly siblings: number;
  readonly runs: number;
  readonly held: number;
  readonly score: number;
}
const houses: House[] = [];
for (const family of FAMILIES)
  for (const kind of COURSES)
    for (let h = 0; h < HOUSES; h++)
      for (const siblings of SIBLINGS) {
        const made = houseOf(family, kind, Math.max(1, siblings), seedOf(seed, `${family}/${kind}/${h}/${siblings}`));
        const house = siblings ? made : { ...made, fleet: NO_FLEET };
        for (const runs of RUNS) {
          // The same sensors for every number of siblings.
          const all = Array.from({ length: SENSORS }, (_, i) => predicted(house, runs, seedOf(seed, `${family}/${kind}/${h}/${runs}/${i}`), false)); // prettier-ignore
          const held = all.filter((p) => Math.abs(p.off) <= p.half95).length / SENSORS;
          houses.push({ siblings, runs, held, score: all.reduce((sum, p) => sum + p.score, 0) / SENSORS });
        }
      }

const mean = (list: readonly number[]) => list.reduce((sum, x) => sum + x, 0) / list.length;
/** 99 % interval of a mean over houses: Efron & Tibshirani (1993), percentile bootstrap. */
function bootstrap(list: readonly number[]): readonly [number, number] {
  const dice = chance(seedOf(seed, 'bootstrap'));
  const means = Array.from({ length: DRAWS }, () => mean(list.map(() => list[Math.floor(dice.uniform() * list.length)]!))); // prettier-ignore
  means.sort((a, b) => a - b);
  return [means[Math.floor(0.005 * DRAWS)]!, means[Math.ceil(0.995 * DRAWS) - 1]!];
}
const percent = (x: number) => `${(100 * x).toFixed(1)} %`;
const alone = (runs: number) => mean(houses.filter((h) => h.runs === runs && h.siblings === 0).map((h) => h.score));
const rows = SIBLINGS.flatMap((siblings) =>
  RUNS.map((runs) => {
    const mine = houses.filter((h) => h.siblings === siblings && h.runs === runs);
    const held = mine.map((h) => h.held);
    const [low, high] = bootstrap(held);
    const score = mean(mine.map((h) => h.score)) / alone(runs);
    return `| ${siblings} | ${runs} | ${mine.length * SENSORS} | ${percent(mean(held))} | ${percent(low)} to ${percent(high)} | ${score.toFixed(2)} |`;
  }),
);
const table = ['| siblings | runs | sensors | 95 % held | 99 % interval | score over none’s |', '| --- | --- | --- | --- | --- | --- |', ...rows].join('\n'); // prettier-ignore
const text = `# Learning report

Made by \`npm run report:learning\` at ${commit.slice(0, 7)}, seed ${seed} (the first eight digits of the commit).

Houses of so many siblings with ten runs each, of which the engine learns (\`core/drift/pool.ts\`), and other sensors with so many
runs, foretold 15 to 90 days ahead. Courses are those of the [drift report](drift-report.md), of three kinds that are not the
engine's, and a fourth that swings with the year and loses by the root of time, for pH and conductivity, ${HOUSES} houses of each. Intervals are by bootstrap over houses. The score is the mean interval score
of the 95 % band (lower is better) over that without siblings.

How far a house is believed (\`taughtBy\`) was set on houses with seeds 7 and 9.

${table}
`;
writeFileSync(join(import.meta.dirname, '../docs/learning-report.md'), text);
process.stdout.write(`${table}\n`);
