/** Power: what goes down with a feed, what trips after it, and who stops when before the UPS ends. */
import { expect, test, type Page } from '@playwright/test';
import { BASE, revisionNow, signedIn, takeBackTo } from './signed-in.js';

test.describe.configure({ mode: 'serial' });
let page: Page;
let begun: number;
test.beforeAll(async ({ browser }) => {
  page = await signedIn(browser);
  begun = await revisionNow(page);
});
test.afterAll(() => takeBackTo(page, begun));

const feed = (name: string) =>
  page
    .locator('div.border-b', { has: page.getByRole('button', { name: `Name: ${name}` }) })
    .first();

test('a feed shows what it carries, what comes over from another, and what it takes down', async () => {
  await page.goto(`${BASE()}/hosts/places`);
  // By hand: half of 620 + 620 + 380; all of it when the other fails.
  await expect(feed('harbour left')).toContainText('810 W');
  await expect(feed('harbour left')).toContainText('1,620 W when harbour right fails');
  await expect(feed('harbour left')).toContainText(
    'When harbour right fails, harbour left carries 1,620 W; it may carry 1,500 W.',
  );
  await expect(feed('annex turbine')).toContainText('no host');
  await feed('harbour left').getByRole('link', { name: 'What then' }).click();
  await expect(page.getByLabel('What fails')).toHaveValue(/^feed:/);
  await expect(
    page.getByText('harbour right trips after it: 1620 W, 1500 W allowed.'),
  ).toBeVisible();
});

test('when a host fails, what restarts is of use after what it needs', async () => {
  await page.goto(`${BASE()}/chart`);
  await page.getByLabel('What fails').selectOption({ label: 'razorbill' });
  const panel = page.getByRole('region', { name: 'If razorbill fails' });
  await expect(panel).toContainText(/All that come up are of use \d+ min after they are started/);
  await expect(panel).toContainText(/of use after 1 min/);
});

test('a second supply is plugged into another feed, and the finding goes', async () => {
  await page.goto(`${BASE()}/hosts?q=eider`);
  await page.getByRole('rowgroup').getByText('eider', { exact: true }).click();
  const host = page.getByRole('article', { name: 'Host eider' });
  const finding = host.getByText('eider has 2 supplies: 2 are plugged into annex mains');
  await expect(finding).toBeVisible();
  await host.getByLabel('Feed of supply 2').selectOption({ label: 'annex turbine' });
  await expect(finding).toHaveCount(0);
  await expect(host.getByLabel('Feed of supply 2')).toContainText('annex turbine');
});

test('the order of stopping stands against the minutes of the UPS', async () => {
  await page.goto(`${BASE()}/guests`);
  await page.getByRole('link', { name: 'Shutdown', exact: true }).click();
  const main = page.getByRole('main');
  // Who is up there alters with the journeys before; tide-db takes five minutes, its host two more, and users come before.
  await expect(main).toContainText(/\d+ guests and \d+ hosts are off after \d+ min\./);
  await expect(main).toContainText(/Longest: .*tide-db, then /);
  await expect(main).toContainText(
    /Stopping must begin \d min after the power went at the latest\./,
  );
  await page.getByLabel('Wait for it, minutes').fill('8');
  await page.keyboard.press('Enter');
  await expect(main).toContainText(/machines are still up then/);
  await page.getByLabel('UPS holds, minutes').fill('soon');
  await expect(page.getByText('A whole number.')).toBeVisible();
  await page.getByLabel('UPS holds, minutes').fill('30');
  await page.keyboard.press('Enter');
  await expect(main).toContainText('The UPS holds 30 minutes (as typed).');
  await page.getByLabel('Without power is').selectOption({ label: 'a power feed' });
  await expect(page.getByLabel('Which')).toContainText('annex turbine');
  await page.getByLabel('Which').selectOption({ label: 'annex turbine' });
  await expect(main).toContainText('No host that runs guests goes down with annex turbine.');
});
