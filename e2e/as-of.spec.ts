/** The record as it was: from an entry of the log every view opens as of then, and nothing can be altered. */
import { expect, test, type Page } from '@playwright/test';
import { BASE, revisionNow, signedIn } from './signed-in.js';

test.describe.configure({ mode: 'serial' });
let page: Page;
test.beforeAll(async ({ browser }) => (page = await signedIn(browser)));

const banner = () => page.getByRole('status').filter({ hasText: 'The record as it was' });

test('an entry of the log opens the record as it was then, in every view', async () => {
  const now = await revisionNow(page);
  await page.goto(`${BASE()}/log?type=guest.edit`);
  const last = page.getByRole('link', { name: /^The record after entry / }).first();
  await last.click();
  await expect(banner()).toContainText('after entry');
  await expect(page).toHaveURL(/asOf=\d+/);
  await page.getByRole('link', { name: 'Guests', exact: true }).first().click();
  await expect(page).toHaveURL(/guests.*asOf=\d+/);
  await expect(page.getByRole('columnheader', { name: 'Guest' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Plan a guest' })).toHaveCount(0);
  // The first entry only began the record.
  await page.getByLabel('Another time, or an entry of the log').fill('1');
  await page.getByRole('button', { name: 'Look', exact: true }).click();
  await expect(banner()).toContainText('after entry 1');
  await expect(page.getByText('0 in the list')).toBeVisible();
  expect(await revisionNow(page)).toBe(now);
});

test('a time that is none is said, and the way back leads to now', async () => {
  await page.getByLabel('Another time, or an entry of the log').fill('next week');
  await page.getByRole('button', { name: 'Look', exact: true }).click();
  await expect(banner().getByRole('alert')).toContainText('Say a revision, or a time');
  await page.getByRole('button', { name: 'Back to now' }).click();
  await expect(banner()).toHaveCount(0);
  await expect(page).not.toHaveURL(/asOf/);
  await expect(page.getByRole('link', { name: 'Plan a guest' })).toBeVisible();
});
