import { houseOfItsOwn, type Application } from '../support/application.ts';
import { nothingForAxe } from '../support/axe.ts';
import { Operator } from '../support/operator.ts';
import { hiddenTruth } from '../support/truth.ts';
import { expect, test, type Page } from '../support/story.ts';

/** A house of their own: what else goes on in the shared one would stand on this bench too. One after the other, so that it is built once. */
test.describe.configure({ mode: 'default' });
let house: Application;
test.beforeAll(async () => {
  house = await houseOfItsOwn();
});
test.afterAll(() => house.stop());
const url = () => house.url;

const next = (page: Page) => page.getByTestId('next-movement');

interface Row {
  readonly loopName: string;
  readonly channelId: string;
  readonly openRunId: string | null;
  readonly inForce: { readonly zero: number; readonly sensitivity: number };
}

const rows = async (page: Page): Promise<readonly Row[]> =>
  ((await (await page.request.get(`${url()}/api/margins`)).json()) as { rows: Row[] }).rows;

/** The probe itself is moved past the screen: what is counted and keyed is what an operator does with Frustum. */
async function moves(page: Page, channelId: string, place: string): Promise<void> {
  for (const order of [{ action: 'move', place: 'rinse' }, { action: 'blot' }, { action: 'move', place }])
    await page.request.post(`${url()}/api/stand-in/${channelId}`, { data: order });
}
const wiggles = (page: Page, channelId: string) =>
  page.request.post(`${url()}/api/stand-in/${channelId}`, { data: { action: 'wiggle' } });

/** What one does with the screen: by keys, or by taps. */
interface WayIn {
  readonly done: (page: Page) => Promise<void>;
  readonly wiggled: (page: Page) => Promise<void>;
  readonly decide: (page: Page) => Promise<void>;
  /** answers a question about the cup: it is right as it is */
  readonly stands: (page: Page) => Promise<void>;
}

/** The second of the two answers. */
const stands = (page: Page) => page.locator('[data-warning]:visible').getByRole('button').nth(1);

/**
 * Follows the named movement until every run is at its end: the sensor it names is moved, and the screen is told. Nothing is
 * looked up elsewhere but where the probe hangs.
 */
async function follows(page: Page, loops: readonly string[], way: WayIn): Promise<void> {
  const channels = new Map((await rows(page)).map((r) => [r.loopName, r.channelId]));
  let movements = 0;
  // Nine steps a probe with one wiggle a cup, and a few to spare for bubbles.
  while (movements < 60) {
    if (await page.getByRole('heading', { name: 'Several probes at once' }).isVisible()) return;
    const words = (await next(page).innerText()).replace(/\s+/g, ' ');
    const loop = loops.find((l) => words.startsWith(`${l}:`));
    if (!loop) {
      // All settle: the bench captures by itself, and names the next movement then.
      await expect(next(page).or(page.getByRole('heading', { name: 'Several probes at once' }))).not.toHaveText(words, {
        timeout: 120_000,
      });
      continue;
    }
    movements++;
    const channelId = channels.get(loop)!;
    const cup = /(7\.00|4\.01|10\.01)$/.exec(words)?.[1];
    if (/iggle/.test(words)) {
      await wiggles(page, channelId);
      await way.wiggled(page);
    } else if (words.endsWith('Look at the cup')) {
      // The hands of this story make no mistake. A question that goes away by itself needs no answer.
      const odd = page.locator('[data-warning]:visible');
      const title = await odd.innerText({ timeout: 2000 }).catch(() => 'gone before it could be read');
      console.log(`${words}: ${title.replace(/\s+/g, ' ')}`);
      await way.stands(page).catch(() => console.log('it went away by itself'));
    } else if (/Verdict/.test(words)) await way.decide(page);
    else if (/Back in the water/.test(words)) {
      await moves(page, channelId, 'process');
      // While it still shows its cup, its run does not end: pressed once more when it shows its water.
      await expect(async () => {
        await way.done(page);
        await expect(next(page).or(page.getByRole('heading', { name: 'Several probes at once' }))).not.toHaveText(
          words,
          { timeout: 2000 },
        );
      }).toPass();
    } else {
      if (cup) await moves(page, channelId, `cup-${cup}`);
      await way.done(page);
    }
    await expect(next(page).or(page.getByRole('heading', { name: 'Several probes at once' }))).not.toHaveText(words, {
      timeout: 60_000,
    });
  }
  throw new Error('it never ends');
}

async function chooses(page: Page, loops: readonly string[]): Promise<void> {
  const operator = new Operator(page, url());
  await operator.opens('/bench/many');
  for (const loop of loops) await page.getByRole('checkbox', { name: new RegExp(`^${loop}`) }).check();
  // The plan of the bench: three in one cup are sooner done than one after the other.
  await expect(page.getByTestId('bench-time')).toHaveText(/^About \d+ min; about .+ less than one after the other\.$/);
}

/** The runs begin one after the other: the first one stands here before the last one has begun. */
async function allOnTheBench(page: Page, count: number): Promise<void> {
  const list = page.getByRole('region', { name: 'Runs on the bench' }).getByRole('listitem');
  await expect(list.getByRole('button')).toHaveCount(count);
}

async function checksFigures(page: Page, loops: readonly string[]): Promise<void> {
  for (const row of (await rows(page)).filter((r) => loops.includes(r.loopName))) {
    expect(row.openRunId, row.loopName).toBeNull();
    const page_ = (await (
      await page.request.get(`${url()}/api/sensors/${await sensorOf(page, row.loopName)}`)
    ).json()) as {
      runs: { outcome: { coefficients: { zero: number; sensitivity: number } } }[];
    };
    const { zero, sensitivity } = page_.runs[0]!.outcome.coefficients;
    const truth = hiddenTruth(row.loopName);
    expect(Math.abs(zero - truth.zeroMv), row.loopName).toBeLessThan(2.5);
    expect(Math.abs(sensitivity - truth.slope), row.loopName).toBeLessThan(0.02);
  }
}

async function sensorOf(page: Page, loopName: string): Promise<string> {
  const list = (await (await page.request.get(`${url()}/api/margins`)).json()) as {
    rows: { loopName: string; sensorId: string }[];
  };
  return list.rows.find((r) => r.loopName === loopName)!.sensorId;
}

test('a three-probe bench by keys alone: every movement is named, every zero is the hidden one', async ({ page }) => {
  const loops = ['Display pH, main', 'Display pH, backup', 'Remineralised line pH'];
  await chooses(page, loops);
  await nothingForAxe(page, 'which probes');
  await new Operator(page, url()).enters('button', { name: 'Start 3 runs' });
  await expect(next(page)).toContainText('Put CO2 dosing on hold');
  await allOnTheBench(page, 3);
  await nothingForAxe(page, 'several at once');
  // Another run is picked and stays in hand, though it is at a different step; and back.
  await page.keyboard.press('j');
  await expect(page.getByRole('button', { name: /It is out and rinsed/ })).toBeVisible();
  await page.keyboard.press('k');
  await expect(page.getByRole('button', { name: /It is on hold/ })).toBeVisible();
  await follows(page, loops, {
    done: (p) => p.keyboard.press('n'),
    wiggled: (p) => p.keyboard.press('d'),
    stands: (p) => stands(p).press('Enter', { timeout: 5000 }),
    decide: async (p) => {
      const leave = p.getByRole('button', { name: /^Leave it$/ });
      if (!(await leave.first().isVisible())) {
        await p.locator('summary', { hasText: 'Decide otherwise' }).press('Enter');
        await p.getByLabel('Why, in a few words').fill('only verified today');
      }
      await leave.last().press('Enter');
    },
  });
  await checksFigures(page, loops);
});

test('a two-probe bench by thumb at 390, as far as both settle: no target is too small, nothing sticks out', async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  const loops = ['Line 1 pH', 'Line 2 pH'];
  await chooses(page, loops);
  await page.getByLabel('A cup takes').selectOption('1 probe');
  await page.getByRole('button', { name: 'Start 2 runs' }).click();
  await expect(next(page)).toContainText('Put acid dosing on hold');
  await allOnTheBench(page, 2);
  await nothingForAxe(page, 'several at once, on a phone');
  const settling = page.getByTestId('settling-state');
  const button = page.getByRole('button', { name: /^(It is on hold|It is out|It is in the cup)/ });
  const channels = new Map((await rows(page)).map((r) => [r.loopName, r.channelId]));
  // Two holds, two probes out, the one cup for the first of them: then the second waits for it, and nothing is to be pressed.
  for (let movements = 0; movements < 5; movements++) {
    const words = await next(page).innerText();
    const loop = loops.find((l) => words.startsWith(l))!;
    if (words.includes('7.00')) await moves(page, channels.get(loop)!, 'cup-7.00');
    await expect.poll(async () => (await button.boundingBox())?.height).toBeGreaterThanOrEqual(56);
    await button.click();
    await expect(next(page)).not.toHaveText(words);
  }
  await expect(settling).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

test('a two-point pH run on a phone takes at most 8 taps beyond handling the probe, counted', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  const operator = new Operator(page, url());
  const loop = 'Rinse line pH';
  const channelId = (await rows(page)).find((r) => r.loopName === loop)!.channelId;
  // At a faster clock a wiggle falls between two samples, and has to be said: what is counted is what a real one needs.
  const slower = await page.request.post(`${url()}/api/stand-in/${channelId}`, { data: { action: 'clock', rate: 25 } });
  expect(slower.ok()).toBe(true);
  await operator.opens();
  let taps = 0;
  const tap = async (name: RegExp) => {
    await page.getByRole('button', { name }).first().click();
    taps++;
  };
  await page.getByRole('link', { name: `Bench for ${loop}` }).click();
  taps++;
  await tap(/Start the run/);
  await tap(/It is on hold/);
  await tap(/It is out and rinsed/);
  for (const cup of ['7.00', '4.01']) {
    await moves(page, channelId, `cup-${cup}`);
    await tap(/It is in the cup/);
    // The sensor that fills the cup waits for its reading: both settlings are captured by themselves, and the trace shows the wiggle.
    await expect(operator.step).toContainText('iggle', { timeout: 90_000 });
    for (let settlings = 0; settlings < 4 && (await operator.step.innerText()).includes('iggle'); settlings++) {
      const id = await operator.stepId();
      await wiggles(page, channelId);
      const moved = expect(operator.step).not.toHaveAttribute('data-step', id, { timeout: 30_000 });
      await moved.catch(async () => {
        const wiggled = page.getByRole('button', { name: /^Wiggled/ });
        // The stand-in’s clock runs fast, so a wiggle can fall between two samples. The application then asks; a real run would have seen it.
        if (await wiggled.isVisible()) await wiggled.click();
        await expect(operator.step).not.toHaveAttribute('data-step', id, { timeout: 90_000 });
      });
    }
  }
  await expect(page.getByTestId('verdict')).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await tap(/^(Leave it|Adjust it)$/);
  await expect(operator.step).toContainText(/Adjust the channel|Back in the water/);
  // Figures that are written into a device are a deed of their own, and what it shows then is captured by itself.
  const adjusted = (await operator.step.innerText()).includes('Adjust');
  if (adjusted) await tap(/Write and read back/);
  await expect(operator.step).toContainText('Back in the water', { timeout: 90_000 });
  await moves(page, channelId, 'process');
  await operator.returns(/Back in the water/);
  taps++;
  console.log(`taps for a two-point pH run: ${taps}${adjusted ? ', one of them writes' : ''}`);
  expect(taps).toBeLessThanOrEqual(adjusted ? 9 : 8);
});
