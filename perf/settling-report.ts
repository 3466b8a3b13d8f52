import { execSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { CAPTURE_FAMILIES, seedOf, WEAK_WATER, type CaptureFamily } from '@frustum/sim';
import { medianOf } from './figure.ts';
import { judged, wilsonLow, type Judged } from './settling-population.ts';

/** Captures of each family, or as many as are asked for. */
const CAPTURES = Number(process.argv[2] ?? 400);
/** One family alone, into a page of its own: where its bound wants more captures. */
const ONLY = process.argv[3];
/** Of platinum in weak water, where a capture may take its 20 minutes. */
const WEAK_SHARE = 0.25;

const percent = (x: number) => `${(100 * x).toFixed(1)} %`;
const share = (all: readonly Judged[], is: (j: Judged) => boolean) => all.filter(is).length / all.length;
const quantile = (all: readonly number[], p: number) =>
  [...all].sort((a, b) => a - b)[Math.floor(p * all.length)] ?? NaN;
const rms = (all: readonly number[]) => Math.sqrt(all.reduce((s, e) => s + e * e, 0) / all.length);

const population = (family: CaptureFamily, seed: number, captures: number) =>
  Array.from({ length: captures }, (_, i) => judged(family, seedOf(seed, `${family}/${i}`)));

function row(name: string, all: readonly Judged[]): string {
  const ready = all.filter((j) => j.seconds !== null);
  const asked = all.filter((j) => j.held !== null);
  const within = ready.filter((j) => Math.abs(j.error) <= 1).length;
  const times = ready.map((j) => j.seconds!);
  const cells = [
    name,
    ready.length ? `${within} of ${ready.length} (≥ ${percent(wilsonLow(within, ready.length))})` : 'none is ready',
    percent(1 - ready.length / all.length),
    times.length ? `${medianOf(times).toFixed(0)} s` : 'none',
    times.length ? `${quantile(times, 0.95).toFixed(0)} s` : 'none',
    times.length ? rms(ready.map((j) => j.error)).toFixed(2) : '',
    asked.length ? `${percent(share(asked, (j) => j.held!))} of ${asked.length}` : '',
    percent(share(all, (j) => Math.abs(j.atTwo) > 1)),
    rms(all.map((j) => j.atTwo)).toFixed(2),
    percent(share(all, (j) => Math.abs(j.atFive) > 1)),
    rms(all.map((j) => j.atFive)).toFixed(2),
  ];
  return `| ${cells.join(' | ')} |`;
}

const commit = execSync('git rev-parse HEAD').toString().trim();
const seed = Number.parseInt(commit.slice(0, 8), 16);
const families = CAPTURE_FAMILIES.filter((f) => !ONLY || f === ONLY).map((family) => ({
  family,
  all: population(family, seed, CAPTURES),
}));
const weak = ONLY ? [] : population(WEAK_WATER, seed, Math.ceil(CAPTURES * WEAK_SHARE));
const table = [
  '| family | within the limit (lower Wilson bound) | refused | median | 95th percentile | error, rms | forecast held (90 % wanted) | 2 min: off | rms | 5 min: off | rms |',
  '| --- | --- | --- | --- | --- | --- | --- | --- | --- | --- | --- |',
  ...families.map(({ family, all }) => row(family, all)),
  ...(ONLY
    ? []
    : [
        row(
          '**all of these**',
          families.flatMap(({ all }) => all),
        ),
        row('ORP in weak water', weak),
      ]),
].join('\n');
writeFileSync(
  join(import.meta.dirname, `../docs/settling-report${ONLY ? `-${ONLY}` : ''}.md`),
  `# Settling report

Made by \`npm run report:settling\` at ${commit.slice(0, 7)}, seed ${seed} (the first eight digits of the commit), ${CAPTURES} captures a family.

The population is \`sim/testing/captures.ts\`: one sensor, fresh to worn, with a fast and a slow way (glass 2 to 8 s and 12 to
60 s, tips up to 14 s and 90 s, platinum up to 8 s and 60 s at 25 °C, slower in the cold), the slow way of electrodes spread
over other time constants by up to a factor of 1.5, noise 0.05 to 0.3 mV, from its water or another cup into a standard of its
family, cups of 16 to 28 °C, thermal lag of the body, channels of 0.2 to 10 Hz in steps of up to a display's last digit. A
sound capture: the bubbles are tapped off. The ranges are invented. Truth is the same body without noise, held at the
temperature of the capture for ten times its slowest time constant (an hour).

The limit is the step that counts for the family (0.59 mV, which is 0.01 pH; 0.5 mV, 0.3 mV, 0.3 %, 0.05 °C) or the last digit
of the channel, where that is larger. All errors are in limits. "Ready" is the first look of the statistical school; the
second look after a wiggle is not in it. "Refused" is not ready in 20 minutes. "Off" is the share of captures that a fixed time
of two or five minutes takes more than the limit from the truth (the mean of three seconds). Weak water, where platinum is up
to 26 times slower, has no sound capture in such a time, and is reported apart: it shows what is refused and how far off the
rest is.

${table}
`,
);
process.stdout.write(`${table}\n`);
