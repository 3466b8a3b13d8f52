import type { MarginsView, RunView } from '@frustum/contract';
import { nothingForAxe } from '../support/axe.ts';
import { changesAnswers } from '../support/changed-answers.ts';
import { Operator, toNumber, url } from '../support/operator.ts';
import { expect, test } from '../support/story.ts';

test('a wet cell, another scale and a slip of the finger are noticed before they are captured', async ({ page }) => {
  const operator = new Operator(page);
  const loop = 'Line 1 EC';
  const margins = (await (await page.request.get(`${url()}/api/margins`)).json()) as MarginsView;
  const { channelId } = margins.rows.find((r) => r.loopName === loop)!;
  const wrong = (fault: string, severity: number) =>
    page.request.post(`${url()}/api/stand-in/${channelId}`, { data: { action: 'fault', fault, severity } });
  const warning = page.locator('[data-warning]');

  await operator.startsBy(loop, 'Calibrate');
  await operator.confirms(/It is on hold/);
  await operator.confirms(/It is out and rinsed/);
  await wrong('wet cell', 1);
  await operator.moves('Air');
  // Said once the display has followed: a sample from before would be the first one of this cup.
  const now = page.getByRole('region', { name: 'Now' });
  await expect.poll(async () => toNumber(await now.innerText()), { timeout: 30_000 }).toBeLessThan(200);
  await operator.confirms(/It is in the air/);
  await expect(warning).toContainText('The cell is not dry: it conducts in air.', { timeout: 60_000 });
  // The film that the stand-in has left, about 40 µS, is what the warning is about; nothing can be captured with it.
  await expect(warning).toContainText(/(3\d|4\d)\.\d µS where this cell shows/);
  await expect(page.getByRole('button', { name: /^Capture/ })).toHaveCount(0);
  await nothingForAxe(page, 'a warning');
  // It is dried before that is said: a look at a cell that is still wet would only warn again.
  await wrong('wet cell', 0);
  await operator.moves('Rinse');
  await operator.moves('Air');
  await operator.moves('Blot');
  await operator.confirmsAndCaptures(/Dried, settle again/);

  await operator.rinsesInto('Cup 1413 µS/cm');
  await operator.confirmsAndWillPress(/It is in the cup/);
  await wrong('another scale', 1);
  await expect(warning).toContainText('Is that another scale?', { timeout: 90_000 });
  await expect(warning).toContainText('0.50 times');
  await wrong('another scale', 0);
  await operator.confirms(/Scale changed, settle again/);
  await expect(warning).toHaveCount(0);

  // A figure that is typed in another scale is doubted; it stays in its field, and can be kept all the same.
  await page.getByRole('button', { name: /Enter by hand/ }).click();
  await page.getByRole('textbox', { name: 'Reading' }).fill('704');
  await page.getByRole('textbox', { name: 'Temperature' }).fill('25');
  await page.getByRole('button', { name: 'Capture typed value' }).click();
  await expect(warning).toContainText('Is 704 in another scale?');
  await page.getByRole('button', { name: 'Type it again' }).click();
  await expect(page.getByRole('textbox', { name: 'Reading' })).toHaveValue('704');
  await page.getByRole('textbox', { name: 'Reading' }).fill('1409');
  await page.getByRole('textbox', { name: 'Temperature' }).fill('77');
  await page.getByRole('button', { name: 'Capture typed value' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'Is 77 in °F?' })).toContainText('77 °F is 25.0 °C');
  await page.getByRole('textbox', { name: 'Temperature' }).fill('25');
  await page.getByRole('button', { name: 'Capture typed value' }).click();
  await expect(operator.step).toContainText('settle to the same number');
  await page.getByRole('button', { name: /Enter by hand/ }).click();
  await page.getByRole('textbox', { name: 'Reading' }).fill('1409');
  await page.getByRole('textbox', { name: 'Temperature' }).fill('25');
  await page.getByRole('button', { name: 'Capture typed value' }).click();

  // What was said and answered stands in the record.
  const runId = /bench\/([0-9a-f-]{36})/.exec(page.url())![1]!;
  const run = (await (await page.request.get(`${url()}/api/runs/${runId}`)).json()) as RunView;
  const said = run.events.flatMap(({ body }) => (body.type === 'warned' ? [[body.odd.id, body.kept]] : []));
  expect(said).toEqual([
    ['wet-cell', false],
    ['scale', false],
  ]);

  // To its end, in the unit of a cell: what if nothing is done, the next due date, and the record on paper.
  await expect(page.getByTestId('verdict')).toContainText('µS/cm');
  // A display that shows 1409 for 1413 at 25 °C lacks 0.28 % of the gain that it believes in.
  const believed = margins.rows.find((r) => r.loopName === loop)!.inForce.sensitivity;
  expect(Math.abs((await operator.figure('Gain')) - 99.72 * believed)).toBeLessThan(0.3);
  await expect(page.getByRole('region', { name: 'What if I do nothing' })).toBeVisible();
  await nothingForAxe(page, 'verdict');
  await operator.leaves();
  // Still in its cup: the hold is not released on a press, and the figures say why.
  await operator.confirms(/Back in the water, hold released/);
  const refused = page.getByRole('alert').filter({ hasText: 'Is it back in its water?' });
  await expect(refused).toContainText(
    /It shows 1[34]\d\d µS\/cm, as in its last cup \(1[34]\d\d\)\. Before the run the water gave \d+\./,
  );
  await nothingForAxe(page, 'still in its cup');
  await operator.moves('Water');
  await expect(refused).toHaveCount(0);
  await operator.returns(/Back in the water, hold released/);
  await expect(page.getByTestId('next-due')).toContainText('in 30 days');
  const href = await page.getByRole('link', { name: 'Record of this run (PDF)' }).getAttribute('href');
  const record = await page.request.get(`${url()}${href}`);
  expect(record.headers()['content-type']).toBe('application/pdf');
  expect((await record.body()).subarray(0, 5).toString()).toBe('%PDF-');
});

test('a part of the bench that cannot be shown says so, and takes nothing else along', async ({ page }) => {
  const operator = new Operator(page);
  await operator.starts('Line 2 EC');
  const runId = page.url().split('/').pop()!;
  type View = { events: { body: { plan?: { points: { standard: object }[] } } }[] };
  // As a record of another version might be: a standard without its table.
  const mends = await changesAnswers<View>(page, `**/api/runs/${runId}`, (view) => {
    for (const point of view.events[0]!.body.plan!.points) Object.assign(point.standard, { table: undefined });
    return view;
  });
  await page.reload();
  const said = page.getByRole('alert').filter({ hasText: 'What was found so far cannot be shown.' });
  await expect(said).toContainText('Nothing that was captured is lost');
  await nothingForAxe(page, 'a part that cannot be shown');
  await expect(operator.step).toBeVisible();
  await expect(page.getByRole('button', { name: /Abandon/ }).first()).toBeVisible();
  await mends();
  await page.reload();
  await expect(page.getByRole('heading', { name: 'What this run says so far' })).toBeVisible();
  await expect(said).toHaveCount(0);
  const event = { device: 'story-of-a-part', counter: 1, at: new Date().toISOString(), onSeq: null };
  const body = { type: 'abandoned', because: 'only looked at' };
  await page.request.post(`${url()}/api/runs/${runId}/events`, { data: { events: [{ ...event, body }] } });
});

test('what is wrong with the server itself stands on every page, with the way out', async ({ page }) => {
  const operator = new Operator(page);
  // It is well again once somebody has said so, and not before: a bar that goes by itself cannot be pressed.
  let confirmed = false;
  page.on('request', (request) => (confirmed ||= request.url().endsWith('/api/clock/confirm')));
  const mends = await changesAnswers<MarginsView>(page, '**/api/margins', (view): MarginsView => {
    if (confirmed) return view;
    const clock = { because: 'jumped', saidMs: view.nowMs + 3_600_000, reckonedMs: view.nowMs } as const;
    return { ...view, clock, held: [view.rows[0]!.channelId], trouble: 'The disk is full.' };
  });
  for (const path of ['/', '/alarms', '/reckoner']) {
    await operator.opens(path);
    await expect(page.getByRole('region', { name: 'Nothing is kept just now' })).toContainText('The disk is full.');
    await expect(page.getByRole('region', { name: /clock may be wrong/ })).toContainText('no alarm is raised or ended');
    await expect(page.getByRole('region', { name: 'Channels that are not read' })).toContainText('one channel');
  }
  await page.getByText('Read them again').last().click();
  await nothingForAxe(page, 'the bars of every page');
  await page.getByRole('button', { name: 'The clock is right as it is' }).click();
  await expect(page.getByRole('region', { name: /clock may be wrong/ })).toHaveCount(0);
  await expect(page.getByRole('region', { name: 'Nothing is kept just now' })).toHaveCount(0);
  await mends();
});
