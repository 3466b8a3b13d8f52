import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/** Nothing for axe on the screen as it stands, and nothing sticks out at its side. */
export async function nothingForAxe(page: Page, where: string): Promise<void> {
  // One frame, so no second page is needed to put the findings of several together.
  const axe = new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ['violations'] });
  const { violations } = await axe.analyze();
  expect(violations.map((v) => `${where} ${v.id}: ${v.nodes[0]?.html}`)).toEqual([]);
  const { width } = page.viewportSize()!;
  expect(await page.evaluate(() => document.documentElement.scrollWidth), where).toBeLessThanOrEqual(width);
}
