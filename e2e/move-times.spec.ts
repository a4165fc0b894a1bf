/** Times for planned moves are looked for, told with what no order can beat, and set as one. */
import { expect, test, type Page } from '@playwright/test';
import { BASE, revisionNow, signedIn, takeBackTo } from './signed-in.js';

test.describe.configure({ mode: 'serial' });
let page: Page;
let before: number;
test.beforeAll(async ({ browser }) => {
  page = await signedIn(browser);
  before = await revisionNow(page);
});
test.afterAll(() => takeBackTo(page, before));

const panel = () => page.getByRole('region', { name: 'Find times' });

test('hours that cannot be read are told in place', async () => {
  await page.goto(`${BASE()}/migrations/timetable`);
  await page.getByRole('button', { name: 'Find times' }).click();
  await panel().getByLabel('Somebody is there (UTC)').fill('whenever');
  await panel().getByRole('button', { name: 'Look for an order' }).click();
  await expect(panel()).toContainText('"whenever" is not a window');
});

test('hours that are too short are told with what is missing', async () => {
  await panel().getByLabel('Somebody is there (UTC)').fill('any day 02:00-02:05');
  await panel().getByRole('checkbox', { name: 'also those that have a time' }).check();
  await panel().getByRole('button', { name: 'Look for an order' }).click();
  await expect(panel()).toContainText('no window is longer than 5');
  await expect(panel()).toContainText(/Hours longer by \d+ minutes/);
});

test('an order is found with its bound, and set as one change', async () => {
  await panel().getByLabel('Somebody is there (UTC)').fill('');
  await panel().getByRole('button', { name: 'Look for an order' }).click();
  await expect(panel()).toContainText('no order ends');
  await panel()
    .getByRole('button', { name: /^Set these \d+ times$/ })
    .click();
  await expect(page.getByText(/^Set the times of \d+ moves$/)).toBeVisible();
  await expect(panel()).toHaveCount(0);
  await expect(page.getByText('Too many at once')).toHaveCount(0);
});
