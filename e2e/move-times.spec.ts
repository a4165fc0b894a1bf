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
  await expect(panel()).toContainText(/A window longer by \d+ minutes/);
});

test('days begin by the clock that is chosen, hours are meant by it; a site says when work is done there', async () => {
  await page.getByLabel('Clock').selectOption('Atlantic/Azores');
  await panel().getByLabel('Somebody is there (Atlantic/Azores)').fill('Sat 20:00-23:00');
  await panel().getByRole('button', { name: 'Look for an order' }).click();
  await expect(panel()).toContainText('and somebody is there Sat 20:00-23:00 (Atlantic/Azores)');
  await expect(
    panel()
      .getByText(/2026-11-21 20:00/)
      .first(),
  ).toBeVisible();
  await page.getByLabel('Clock').selectOption('UTC');
  await panel().getByLabel('Somebody is there (UTC)').fill('Sat 21:00-24:00');
  await panel().getByRole('button', { name: 'Look for an order' }).click();
  await expect(
    panel()
      .getByText(/2026-11-21 21:00/)
      .first(),
  ).toBeVisible();
});

test('what cannot be read as a window or a clock is told where it is written, and nothing is lost', async () => {
  await page.goto(`${BASE()}/hosts/places`);
  await page.getByRole('button', { name: /^Work window of Harbour house/ }).click();
  const window = page.getByRole('textbox', { name: 'Work window of Harbour house' });
  await window.fill('at night');
  await window.press('Enter');
  await expect(page.getByText('"at night" is not a window (no hours)')).toBeVisible();
  await expect(window).toHaveValue('at night');
  await window.fill('Sat, Sun 08:00-20:00; not 2026-11-22');
  await window.press('Enter');
  // As it closes, what stands below moves up.
  await expect(window).toHaveCount(0);
  await page.getByRole('button', { name: /^Time zone of Mainland office/ }).click();
  const clock = page.getByRole('textbox', { name: 'Time zone of Mainland office' });
  await clock.fill('summer time');
  await clock.press('Enter');
  await expect(page.getByText('"summer time" is no time zone')).toBeVisible();
  await clock.press('Escape');
  // Two moves of the demo stand on a Wednesday.
  await page.goto(`${BASE()}/migrations/timetable`);
  await expect(page.getByText('At another time than allowed').first()).toBeVisible();
  await expect(
    page.getByText(/work is done at Harbour house Sat, Sun 08:00-20:00; not 2026-11-22/).first(),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Find times' }).click();
  await panel().getByRole('checkbox', { name: 'also those that have a time' }).check();
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

test('where the copying environment gets its addresses is asked of the record', async () => {
  await page.goto(`${BASE()}/migrations`);
  await page.getByText('accounts', { exact: true }).first().click();
  const checks = page.getByRole('region', { name: 'Checks before' });
  await expect(checks).toContainText(
    'The copying environment is 172.22.32.62 and 172.22.32.4: they reach each other.',
  );
  await page
    .getByRole('button', { name: /^Address of the copying environment at the target/ })
    .click();
  const field = page.getByRole('textbox', {
    name: 'Address of the copying environment at the target',
  });
  await field.fill('172.22.32');
  await field.press('Enter');
  await expect(
    page.getByText('172.22.32: an IPv4 address has four parts, this has 3.'),
  ).toBeVisible();
  await field.fill('172.22.32.11');
  await field.press('Enter');
  await expect(checks).toContainText(
    "172.22.32.11 is another machine's already: both would lose their connections.",
  );
});

test('a move that waits says why, and goes on; the calendar tells how a program subscribes', async () => {
  await page.goto(`${BASE()}/migrations`);
  await page.getByText('accounts', { exact: true }).first().click();
  const sheet = page.getByRole('article');
  await sheet.getByRole('button', { name: 'Pause it' }).click();
  await sheet.getByRole('button', { name: 'Pause the migration' }).click();
  await expect(sheet.getByText('Write why it waits.')).toBeVisible();
  await sheet.getByLabel('Why it is paused').fill('the ferry is late');
  await sheet.getByRole('button', { name: 'Pause the migration' }).click();
  await expect(sheet.getByText('Paused', { exact: false }).first()).toContainText('◆ Paused');
  await expect(sheet).toContainText('the ferry is late');
  await sheet.getByRole('button', { name: 'Done' }).first().click();
  await expect(sheet).toContainText('The migration is paused: the ferry is late.');
  await sheet.getByRole('button', { name: 'Go on with it' }).click();
  await expect(sheet.getByRole('button', { name: 'Pause it' })).toBeVisible();
  await page.goto(`${BASE()}/migrations/timetable`);
  await page.getByRole('button', { name: 'Subscribe' }).click();
  await expect(page.getByText(/\/api\/migrations\/migrations\.ics by your name/)).toBeVisible();
});
