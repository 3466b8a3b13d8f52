import { execSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { CAPTURE_FAMILIES, seedOf, type CaptureFamily } from '@frustum/sim';
import { medianOf } from './figure.ts';
import { judged, wilsonLow, type Judged } from './settling-population.ts';

/** Captures of each family, or as many as are asked for. */
const CAPTURES = Number(process.argv[2] ?? 400);

const percent = (x: number) => `${(100 * x).toFixed(1)} %`;
const share = (all: readonly Judged[], is: (j: Judged) => boolean) => all.filter(is).length / all.length;

function row(family: CaptureFamily, seed: number): string {
  const all = Array.from({ length: CAPTURES }, (_, i) => judged(family, seedOf(seed, `${family}/${i}`)));
  const ready = all.filter((j) => j.seconds !== null);
  const asked = all.filter((j) => j.held !== null);
  const within = ready.filter((j) => Math.abs(j.error) <= 1).length;
  const times = ready.map((j) => j.seconds!);
  const cells = [
    family,
    `${percent(within / ready.length)} (≥ ${percent(wilsonLow(within, ready.length))})`,
    percent(1 - ready.length / all.length),
    `${medianOf(times).toFixed(0)} s`,
    `${[...times].sort((a, b) => a - b)[Math.floor(0.95 * times.length)]!.toFixed(0)} s`,
    `${percent(asked.filter((j) => j.held).length / asked.length)} of ${asked.length}`,
    percent(share(all, (j) => Math.abs(j.atTwo) > 1)),
    percent(share(all, (j) => Math.abs(j.atFive) > 1)),
  ];
  return `| ${cells.join(' | ')} |`;
}

const commit = execSync('git rev-parse HEAD').toString().trim();
const seed = Number.parseInt(commit.slice(0, 8), 16);
const table = [
  '| family | within one step (lower Wilson bound) | refused | median | 95th percentile | forecast held (90 % wanted) | 2 min: more than a step off | 5 min: the same |',
  '| --- | --- | --- | --- | --- | --- | --- | --- |',
  ...CAPTURE_FAMILIES.map((family) => row(family, seed)),
].join('\n');
writeFileSync(
  join(import.meta.dirname, '../docs/settling-report.md'),
  `# Settling report

Made by \`npm run report:settling\` at ${commit.slice(0, 7)}, seed ${seed} (the first eight digits of the commit), ${CAPTURES} captures a family.

The population is \`sim/testing/captures.ts\`: one sensor, fresh to worn, with two time constants (glass 2 to 8 s and 12 to
60 s, tips up to 14 s and 90 s, platinum up to 8 s and 60 s), noise 0.05 to 0.3 mV, from its water or another cup into a
standard of its family, thermal lag of the body, channels of 0.2 to 10 Hz in steps of up to a display's last digit. A sound
capture: the bubbles are tapped off. Truth is the same body without noise, held at the temperature of the capture for ten
times its slowest time constant. One step is what counts for the family: 0.59 mV (0.01 pH), 0.5 mV, 0.3 mV, 0.3 %, 0.05 °C.
"Ready" is the first look of the statistical school; the second look after a wiggle is not in it. The ranges are invented,
and the simulator shares the form of the approach, one or two exponentials, with the judge: a tail of another form and ORP
in weak water are not in it yet.

${table}
`,
);
process.stdout.write(`${table}\n`);
