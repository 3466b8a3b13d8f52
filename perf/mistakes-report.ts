import { execSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { seedOf } from '@frustum/sim';
import { provoked } from './mistakes-population.ts';
import { PROVOKED, type Provoked, type Seen } from './mistakes-provoked.ts';
import { adjusted, readBack, SLIPS, slipped } from './slips-population.ts';

/** Runs at each dial of each mistake, or as many as are asked for. */
const RUNS = Number(process.argv[2] ?? 60);
/** Clean runs of each family. */
const CLEAN = 10 * RUNS;

const BINS = [
  [0, 1.5],
  [1.5, 3],
  [3, 6],
  [6, 12],
  [12, Infinity],
] as const;
const percent = (hits: number, all: number) => (all ? `${((100 * hits) / all).toFixed(0)} % of ${all}` : '');

function row(name: string, all: readonly { effect: number; caught: boolean }[]): string {
  const within = (low: number, high: number) => all.filter((s) => s.effect >= low && s.effect < high);
  const cell = (some: readonly { caught: boolean }[]) => percent(some.filter((s) => s.caught).length, some.length);
  const cells = [
    name,
    ...BINS.map(([low, high]) => cell(within(low, high))),
    cell(within(3, Infinity)),
    cell(within(6, Infinity)),
  ];
  return `| ${cells.join(' | ')} |`;
}

const commit = execSync('git rev-parse HEAD').toString().trim();
const seed = Number.parseInt(commit.slice(0, 8), 16);
const hit = (mistake: Provoked, seen: Seen) => seen.said.some((id) => mistake.caught.includes(id));
const rows = PROVOKED.map((mistake) =>
  row(
    mistake.name,
    mistake.severities.flatMap((severity) =>
      Array.from({ length: RUNS }, (_, i) => {
        const seen = provoked(mistake, mistake.family, severity, seedOf(seed, `${mistake.name}/${severity}/${i}`));
        return { effect: seen.effect, caught: hit(mistake, seen) };
      }),
    ),
  ),
);
const clean = (['ph', 'conductivity'] as const).map((family) => {
  const all = Array.from({ length: CLEAN }, (_, i) => provoked(null, family, 0, seedOf(seed, `clean/${family}/${i}`)));
  const said = all.filter((s) => s.said.length > 0);
  return {
    family,
    all: all.length,
    said: said.length,
    what: [...new Set(said.flatMap((s) => s.said))].join(', ') || 'none',
  };
});
const typed = SLIPS.map((slip) =>
  row(
    slip.name,
    Array.from({ length: RUNS * 5 }, (_, i) => slipped(slip, seedOf(seed, `${slip.name}/${i}`))),
  ),
);
const dials = [1, 2, 4.5, 8, 20];
const manyAt = (of: typeof readBack, name: string) =>
  dials.flatMap((effect) => Array.from({ length: RUNS }, (_, i) => of(effect, seedOf(seed, `${name}/${effect}/${i}`))));
const noise = Array.from({ length: CLEAN }, (_, i) => adjusted(0, seedOf(seed, `noise/${i}`)));
const real = manyAt(adjusted, 'real').filter((s) => s.effect >= 6);
const right = Array.from({ length: CLEAN }, (_, i) => slipped(null, seedOf(seed, `right/${i}`)));

const heads = ['effect below 1.5', '1.5 to 3', '3 to 6', '6 to 12', 'above 12', 'all from 3', 'all from 6'];
const table = (first: string, lines: readonly string[]) =>
  [`| ${[first, ...heads].join(' | ')} |`, `|${' --- |'.repeat(heads.length + 1)}`, ...lines].join('\n');
const text = `# Mistakes report

Made by \`npm run report:mistakes\` at ${commit.slice(0, 7)}, seed ${seed} (the first eight digits of the commit), ${RUNS} runs at each
dial of each mistake.

Each run is a body of the simulator (\`perf/mistakes-population.ts\`) with a mistake made or switched on
(\`perf/mistakes-provoked.ts\`), from its water over a rinse into one or two cups, watched every five seconds as the bench
watches, until a warning stops it or it is captured.
The expected zero and sensitivity are wrong by as much as the history says. The ranges are invented. The simulator reaches
its potentials and conductances by other routes than the core (see its pages); it shares that glass is linear in pH.

The effect is in its own combined standard uncertainty: for what shifts the level, the shift over the spread of history and
forecast together; for noise, beat, temperature and early capture over what a sound cup scatters by. Equivalent mistakes count
as one: a cup that is taken for another, turned over, unmoved or under its cap read alike; so do a bubble and a tip that begins
to dry, and in a cell a small bubble and another coefficient, whose warnings name each other. **All from 3** is effects of three standard uncertainties and more, **all from 6** the same of the expanded one (k = 2). At exactly three standard uncertainties no
rule can catch 95 % and be wrong in 2 %: the two distributions overlap by more.

## Watched cups

${table('mistake', rows)}

Clean runs with any warning: ${clean.map((c) => `${c.family} ${c.said} of ${c.all} (${c.what})`).join('; ')}.

## Typed figures

No trace, so the figure alone speaks: pH, conductivity and temperatures typed with a slip.

${table('slip', typed)}

## After the adjustment, and before it

${table('mistake', [row('a read-back that disagrees', manyAt(readBack, 'read-back'))])}

Adjusting inside the noise: of adjustments of nothing but noise ${percent(noise.filter((s) => s.caught).length, noise.length)} are
said to chase it, of errors of six standard uncertainties and more ${percent(real.filter((s) => s.caught).length, real.length)}.

Right figures that were doubted: ${percent(right.filter((s) => s.caught).length, right.length)}.
`;
writeFileSync(join(import.meta.dirname, '../docs/mistakes-report.md'), text);
process.stdout.write(text.slice(text.indexOf('## Watched')));
