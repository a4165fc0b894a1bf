/** At the widths people work at: nothing lies beyond the edge, and at 1280 nothing is cut off. */
import { expect, test, type Page } from '@playwright/test';
import { beyondTheEdge, cutOff, pathOf, SCREENS, shownIds, type ShownIds } from './screens.js';
import { BASE, signedIn } from './signed-in.js';

let page: Page;
let ids: ShownIds;
test.beforeAll(async ({ browser }) => {
  page = await signedIn(browser);
  ids = await shownIds(page);
});
test.afterAll(() => page.context().close());

for (const screen of SCREENS)
  test(`${screen} at 1280 and 1024`, async () => {
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.goto(`${BASE()}/${pathOf(screen, ids)}`);
    await expect(page.getByRole('main')).toHaveText(/\w/);
    await page.waitForLoadState('networkidle');
    expect(await cutOff(page)).toEqual([]);
    expect(await beyondTheEdge(page)).toEqual([]);
    await page.setViewportSize({ width: 1024, height: 768 });
    expect(await beyondTheEdge(page)).toEqual([]);
  });
