import { execSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { seedOf } from '@frustum/sim';
import { houseOf } from './drift-population.ts';
import { FAMILIES, KINDS } from './drift-truths.ts';
import { bootstrapped, byForecast, equalInterval, every, kept, WATCHED_DAYS } from './due-population.ts';

/** Sensors of each family and kind of course, or as many as are asked for. */
const SENSORS = Number(process.argv[2] ?? 60);
const HOUSE = 25;

const commit = execSync('git rev-parse HEAD').toString().trim();
const seed = process.argv[3] ? Number(process.argv[3]) : Number.parseInt(commit.slice(0, 8), 16);
const mean = (list: readonly number[]) => list.reduce((s, x) => s + x, 0) / list.length;
const years = WATCHED_DAYS / 365.25;

const families = FAMILIES.map((family) => {
  const made = KINDS.flatMap((kind) => {
    const house = houseOf(family, kind, HOUSE, seedOf(seed, `${family}/${kind}`));
    const policy = byForecast(house);
    return Array.from({ length: SENSORS }, (_, i) => {
      const own = seedOf(seed, `${family}/${kind}/${i}`);
      return { house, own, forecast: kept(house, own, policy) };
    });
  });
  const runs = made.reduce((s, m) => s + m.forecast.runs, 0);
  const days = equalInterval(made.length, runs);
  const pairs = made.map((m) => ({ forecast: m.forecast, fixed: kept(m.house, m.own, every(days)) }));
  return { family, days, pairs };
});

function row(name: string, days: string, pairs: (typeof families)[number]['pairs']): string {
  const differences = pairs.map((p) => (p.fixed.daysOutside - p.forecast.daysOutside) / years);
  const [low, high] = bootstrapped(differences, seed);
  const runs = (of: 'forecast' | 'fixed') => mean(pairs.map((p) => p[of].runs / years)).toFixed(1);
  const outside = (of: 'forecast' | 'fixed') => mean(pairs.map((p) => p[of].daysOutside / years)).toFixed(1);
  const cells = [
    name,
    runs('forecast'),
    outside('forecast'),
    days,
    runs('fixed'),
    outside('fixed'),
    `${mean(differences).toFixed(1)} (${low.toFixed(1)} to ${high.toFixed(1)})`,
  ];
  return `| ${cells.join(' | ')} |`;
}

const table = [
  '| family | forecast: runs a year | days outside a year | best fixed interval | its runs a year | days outside a year | days saved (95 %) |',
  '| --- | --- | --- | --- | --- | --- | --- |',
  ...families.map(({ family, days, pairs }) => row(family, `${days} days`, pairs)),
  row(
    '**all of these**',
    '',
    families.flatMap((f) => f.pairs),
  ),
].join('\n');
writeFileSync(
  join(import.meta.dirname, '../docs/due-dates-report.md'),
  `# Due dates report

Made by \`npm run report:due\` at ${commit.slice(0, 7)}, seed ${seed} (the first eight digits of the commit), ${SENSORS} sensors of each family and kind of course.

Each sensor is watched for ${WATCHED_DAYS} days. Its hidden course is one of \`perf/drift-truths.ts\`: damped drift, exponential ageing,
jumps; none is the drift engine's own model. A run finds it with a noise of 0.8 steps and 0.4 %, and always adjusts. The
tolerance is twelve steps that count. By the forecast the next run comes when the chance of being outside reaches 5 %, never
before 5 nor after 240 days; the engine knows the family and what 25 other sensors of the same kind of course have taught. The
fixed calendar has one interval for each family, the longest that makes at least as many runs. Differences are paired by sensor;
the interval is a bootstrap over sensors, 2000 times. The ranges are invented.

${table}
`,
);
process.stdout.write(`${table}\n`);
