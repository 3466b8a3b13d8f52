import type { MarginsView } from '@frustum/contract';
import { expect, type Page } from '@playwright/test';

export const url = () => process.env['FRUSTUM_URL'] ?? 'http://localhost:4870';

/** What an operator does at the bench, in the operator's words. */
export class Operator {
  readonly page: Page;
  private readonly base: string;

  /** @param base another application than the one that all stories share */
  constructor(page: Page, base = url()) {
    this.page = page;
    this.base = base;
  }

  async opens(path = '/'): Promise<void> {
    await this.page.goto(this.base + path);
  }

  /** The sensor of a loop, from the server: most stories begin on its page or at its bench, and not in Margins. */
  async sensorOf(loop: string): Promise<string> {
    const { rows } = (await (await this.page.request.get(`${this.base}/api/margins`)).json()) as MarginsView;
    const row = rows.find((r) => r.loopName === loop);
    if (!row) throw new Error(`no loop ${loop} in Margins`);
    return row.sensorId;
  }

  async opensSensor(loop: string): Promise<void> {
    await this.opens(`/sensors/${await this.sensorOf(loop)}`);
  }

  async opensBench(loop: string): Promise<void> {
    await this.opens(`/bench/start/${await this.sensorOf(loop)}`);
  }

  /** Opens a loop's bench and starts the run as it is proposed. */
  async starts(loop: string): Promise<void> {
    await this.opensBench(loop);
    await this.page.getByRole('button', { name: 'Start the run' }).click();
    await expect(this.page.getByRole('region', { name: 'Steps' })).toBeVisible();
  }

  /**
   * Opens a loop's bench and starts a run by a procedure, judged by the clock: so many seconds in each cup. Devices without a
   * clock of their own are read in the house's time, many times faster.
   */
  async startsBy(loop: string, procedure: string, seconds?: number): Promise<void> {
    await this.opensBench(loop);
    await this.changes();
    await this.page.getByRole('radio', { name: procedure, exact: true }).check({ force: true });
    if (seconds !== undefined) {
      await this.page.getByRole('radio', { name: /^By the clock/ }).check();
      await this.page.getByRole('textbox', { name: 'Seconds' }).fill(String(seconds));
    }
    await this.page.getByRole('button', { name: 'Start the run' }).click();
    await expect(this.page.getByRole('region', { name: 'Steps' })).toBeVisible();
  }

  /** Opens what is not as usual on a start page. */
  async changes(): Promise<void> {
    await this.page.getByRole('button', { name: 'Change', exact: true }).click();
  }

  /** Plugs a box in instead of the probe, or the probe back in. */
  async plugs(millivolts: number | null): Promise<void> {
    const group = this.page.getByRole('group', { name: 'Stand-in’s hands' });
    if (!(await group.getByLabel('box, mV').isVisible())) await group.getByText('Care, boxes and faults').click();
    if (millivolts === null) return group.getByRole('button', { name: 'Probe back in' }).click();
    await group.getByLabel('box, mV').fill(String(millivolts));
    await group.getByRole('button', { name: 'Plug the box in' }).click();
    await expect(group.getByText(`(${millivolts})`)).toBeVisible();
  }

  /** Captures the step that is on, also from a cup that is not as warm as the water. */
  async capturesAsItIs(): Promise<void> {
    const id = await this.stepId();
    const either = this.page.getByRole('button', { name: /^(Capture −?\d|Capture it as warm as it is)/ });
    await expect(async () => {
      if ((await this.stepId()) === id) await either.click({ timeout: 5000 });
      await expect(this.step).not.toHaveAttribute('data-step', id, { timeout: 3000 });
    }).toPass({ timeout: 120_000 });
  }

  /** Captures the step that is on, whatever its button says: one that waits for a press, as a cup does that was filled elsewhere. */
  async captures(): Promise<void> {
    await this.isPast(await this.stepId());
  }

  /**
   * Confirms what comes before a reading (a cup, a box, an adjustment), and waits until the reading was captured: by itself,
   * perhaps at once, or by a press.
   */
  async confirmsAndCaptures(button: RegExp): Promise<void> {
    await expect(this.page.getByRole('button', { name: button })).toBeVisible();
    const before = await this.stepId();
    await this.confirms(button);
    await this.isPast(before, settlingAfter(before));
  }

  /** The same for a cup, with a wiggle wherever the sheet asks for one. */
  async confirmsAndSettles(button: RegExp): Promise<void> {
    await this.confirmsAndCaptures(button);
    await this.wigglesUntilAlike();
  }

  /** Leaves the sensor as it is, with a reason where the verdict proposes something else. */
  async leaves(): Promise<void> {
    const leave = this.page.getByRole('button', { name: /^Leave it$/ });
    await expect(this.page.getByTestId('verdict')).toBeVisible();
    if (!(await leave.first().isVisible())) {
      await this.page.getByText('Decide otherwise').click();
      await this.page.getByLabel('Why, in a few words').fill('only verified today');
    }
    await leave.last().click();
  }

  /** Presses Enter on it, once it can be pressed: unlike a click, a key does not wait for that by itself. */
  async enters(role: 'button' | 'link', options: { readonly name: string | RegExp }): Promise<void> {
    const target = this.page.getByRole(role, options);
    await expect(target).toBeEnabled();
    await target.press('Enter');
  }

  async confirms(button: RegExp): Promise<void> {
    await this.page.getByRole('button', { name: button }).click();
  }

  /** Moves the stand-in's hands, and waits until they have moved. */
  async moves(where: string): Promise<void> {
    const pill = this.page
      .getByRole('group', { name: 'Stand-in’s hands' })
      .getByRole('button', { name: where, exact: true });
    // What a server has not answered yet, hands have not done: a power cut or the next order may come before it. What was not
    // done is said on the screen, and pressed again as a person would.
    for (let tries = 0; tries < 3; tries++) {
      const answer = this.page.waitForResponse(
        (r) => r.url().includes('/api/stand-in/') && r.request().method() === 'POST',
      );
      await pill.click();
      if ((await answer).ok()) break;
    }
    if (!['Wiggle', 'Blot', 'Tap'].includes(where)) await expect(pill).toHaveAttribute('aria-pressed', 'true');
  }

  /** Ends the run. While the probe still shows its cup that is refused: it is pressed again until it is taken. */
  async returns(button: RegExp): Promise<void> {
    const back = this.page.getByRole('button', { name: button });
    await expect(async () => {
      if (await back.isVisible()) await back.click({ timeout: 2000 });
      await expect(back).toHaveCount(0, { timeout: 2000 });
    }).toPass();
  }

  async rinsesInto(cup: string): Promise<void> {
    await this.moves('Rinse');
    await this.moves('Blot');
    await this.moves(cup);
  }

  get step() {
    return this.page.locator('li[aria-current=step]');
  }

  /** Waits until a cup that waits for a press is steady, and captures, with a wiggle wherever the sheet asks for one. */
  async settles(name: string): Promise<void> {
    await expect(this.step).toContainText(`Settle in ${name}`);
    await this.captures();
    await this.wigglesUntilAlike();
  }

  /** Wiggles and waits for the second look, for as long as two do not agree: a bubble may have gone in between. */
  async wigglesUntilAlike(): Promise<void> {
    for (let wiggles = 0; wiggles < 4 && (await this.stepId()).includes('.repeat.'); wiggles++) {
      const id = await this.stepId();
      await this.moves('Wiggle');
      // The trace mostly shows it by itself; at this clock rate a swirl may fall between two samples, so it is said too.
      const said = this.page.getByRole('button', { name: /^(Wiggled|Disturbed, settle again)/ });
      await expect(async () => {
        if ((await this.stepId()) === id) await said.click({ timeout: 2000 });
      }).toPass();
      await this.isPast(id);
    }
  }

  async stepId(): Promise<string> {
    return (await this.step.getAttribute('data-step')) ?? '';
  }

  /**
   * Confirms a cup whose reading then waits for a press, as on a phone whose storage is full: to take a cup out of the
   * application's hands afterwards would be a race with its settling.
   */
  async confirmsAndWillPress(button: RegExp): Promise<void> {
    await this.page.evaluate(() => {
      const keep = localStorage.setItem.bind(localStorage);
      Storage.prototype.setItem = (key, value) => {
        if (key === 'frustum.armed') throw new DOMException('The quota has been exceeded.', 'QuotaExceededError');
        keep(key, value);
      };
    });
    await this.confirms(button);
  }

  /** Waits until these steps are behind: by themselves where the cup was filled on this device, and by a press elsewhere. */
  private async isPast(...stepIds: readonly string[]): Promise<void> {
    const capture = this.page.getByRole('button', { name: /^(Capture −?\d|The sample is drawn)/ });
    await expect(async () => {
      if (stepIds.includes(await this.stepId()) && (await capture.isVisible())) await capture.click({ timeout: 2000 });
      const any = new RegExp(`^(${stepIds.map((id) => id.replaceAll('.', '\\.')).join('|')})$`);
      await expect(this.step).not.toHaveAttribute('data-step', any, { timeout: 1000 });
    }).toPass();
  }

  /** What the channel showed after it was adjusted, on the page of the ended run. */
  async readBack(): Promise<number> {
    const row = this.page
      .getByRole('region', { name: 'Now' })
      .getByRole('row')
      .filter({ hasText: /^Read back/ });
    return toNumber(await row.getByRole('cell').nth(1).innerText());
  }

  /** A figure of the right column, as a number. */
  async figure(name: string): Promise<number> {
    const row = this.page
      .getByRole('region', { name: 'What this run says so far' })
      .getByRole('row')
      .filter({ hasText: name });
    return toNumber(await row.getByRole('cell').nth(1).innerText());
  }
}

/** The step in which it is read what the step before has prepared. */
const settlingAfter = (id: string) =>
  id === 'adjust' ? 'read-back' : id.replace('.left-place.', '.left.').replace('.place.', '.settle.');

/** First figure in a text, with the real minus sign. */
export function toNumber(text: string): number {
  const found = /−?\d+(?:\.\d+)?/.exec(text)?.[0];
  if (found === undefined) throw new Error(`no figure in “${text}”`);
  return Number(found.replace('−', '-'));
}
