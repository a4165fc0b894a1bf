/**
 * Every screen against WCAG 2.2 AA as far as a machine can tell, by day and by night, and that all of it is there at the widths
 * people work at: one test a screen, each with its own time, so that a slow machine or one fault does not take the others with it.
 */
import { AxeBuilder } from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import {
  beyondTheEdge,
  cutOff,
  pathOf,
  SCREENS,
  shownIds,
  tooWideRows,
  type ShownIds,
} from './screens.js';
import { BASE, signedIn } from './signed-in.js';

// They only look: each may run in any browser.
test.describe.configure({ mode: 'parallel' });
let page: Page;
let ids: ShownIds;

test.beforeAll(async ({ browser }) => {
  page = await signedIn(browser);
  ids = await shownIds(page);
});
test.afterAll(() => page.close());

for (const screen of SCREENS)
  test(`${screen} meets WCAG 2.2 AA by day and by night, and fits`, async () => {
    const path = pathOf(screen, ids);
    for (const light of ['day', 'night']) {
      await page.evaluate((wanted) => localStorage.setItem('light', wanted), light);
      await page.goto(`${BASE()}/${path}`);
      await expect(page.locator('html')).toHaveAttribute('data-light', light);
      await expect(page.getByRole('main')).toHaveText(/\w/);
      await page.waitForTimeout(400);
      if (light === 'day') {
        expect(await cutOff(page)).toEqual([]);
        expect(await tooWideRows(page)).toEqual([]);
        await expect.poll(() => beyondTheEdge(page)).toEqual([]);
        await page.setViewportSize({ width: 1024, height: 768 });
        await expect.poll(() => beyondTheEdge(page)).toEqual([]);
        await page.setViewportSize({ width: 1280, height: 800 });
      }
      const { violations } = await new AxeBuilder({ page })
        .setLegacyMode() // No frames here: a second page for the verdict would cost a second each time.
        .withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'])
        .analyze();
      expect(violations.map(({ id, nodes }) => `${light}: ${id} ${nodes[0]?.html}`)).toEqual([]);
    }
  });
