import type { Page } from './story.ts';

/**
 * Lets a page hear something else than its server says, as a broken record or a house in trouble would.
 *
 * @param change returns the answer that the page gets instead
 * @returns how to let it hear the server again; when that is done, no changed answer is under way any more
 */
export async function changesAnswers<T>(
  page: Page,
  address: string,
  change: (view: T) => unknown,
): Promise<() => Promise<void>> {
  await page.route(address, async (route) => {
    try {
      const answer = await route.fetch();
      await route.fulfill({ response: answer, json: change((await answer.json()) as T) });
    } catch {
      // The page was loaded anew meanwhile: nobody waits for this answer any more.
    }
  });
  return () => page.unrouteAll({ behavior: 'wait' });
}
