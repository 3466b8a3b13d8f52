import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/** Nothing for axe on the screen as it stands, and nothing sticks out at its side. */
export async function nothingForAxe(page: Page, where: string): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map((v) => `${where} ${v.id}: ${v.nodes[0]?.html}`)).toEqual([]);
  const { width } = page.viewportSize()!;
  expect(await page.evaluate(() => document.documentElement.scrollWidth), where).toBeLessThanOrEqual(width);
}
