/**
 * Every screen against WCAG 2.2 AA as far as a machine can tell, by day and by night, and that all of it is there at the widths
 * people work at: one test a screen, each with its own time, so that a slow machine or one fault does not take the others with it.
 */
import { expect, test, type Page } from '@playwright/test';
import { faultsByNight, faultsOf } from './axe.js';
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
    await page.goto(`${BASE()}/${pathOf(screen, ids)}`);
    await expect(page.locator('html')).toHaveAttribute('data-light', 'day');
    await expect(page.getByRole('main')).toHaveText(/\w/);
    await page.waitForTimeout(400);
    expect(await cutOff(page)).toEqual([]);
    expect(await tooWideRows(page)).toEqual([]);
    await expect.poll(() => beyondTheEdge(page)).toEqual([]);
    await page.setViewportSize({ width: 1024, height: 768 });
    await expect.poll(() => beyondTheEdge(page)).toEqual([]);
    await page.setViewportSize({ width: 1280, height: 800 });
    expect(await faultsOf(page)).toEqual([]);
    expect(await faultsByNight(page)).toEqual([]);
  });
