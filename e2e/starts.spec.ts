/** Start order on the demo: waves, a circle and its mends, services, needs of a guest. */
import { expect, test, type Page } from '@playwright/test';
import { BASE, choose, readyForRetry, revisionNow, signedIn } from './signed-in.js';

test.describe.configure({ mode: 'serial' });
let page: Page;
let begun: number;
test.beforeAll(async ({ browser }) => {
  page = await signedIn(browser);
  begun = await revisionNow(page);
});
test.afterAll(({ browser: _ }, info) => readyForRetry(page, begun, info));

const never = () => page.getByRole('region', { name: 'What never starts' });

test('waves follow the needs, and a circle is told with what breaks it', async () => {
  await page.goto(`${BASE()}/guests`);
  await page.getByRole('link', { name: 'Start order' }).click();
  await expect(
    page.getByRole('region', { name: 'Wave 1' }).getByRole('link', { name: 'fulmar' }),
  ).toBeVisible();
  // By hand: fulmar up after 5 min, names after 6, directory 7 min later.
  const directory = page
    .getByRole('region', { name: 'Wave 3' })
    .locator('div', { has: page.getByRole('link', { name: 'directory', exact: true }) });
  await expect(directory).toContainText('13 min');
  await expect(directory).toContainText('after names of the houses');
  await expect(page.getByText('■ 4 machines never start by themselves;')).toBeVisible();
  await expect(never().getByText('media share comes from backup alone')).toBeVisible();
  await expect(never().getByText('radar-db waits for eider, which cannot start.')).toBeVisible();
});

test('a second provider breaks the circle', async () => {
  await page.getByRole('button', { name: 'Add who provides media share' }).click();
  await choose(page, 'Who provides media share', 'gannet');
  await expect(page.getByText('gannet is a host: choose the guest on it')).toBeVisible();
  await choose(page, 'Who provides media share', 'archive');
  await expect(never().getByText('Nothing: every machine in service comes up.')).toBeVisible();
  await page.getByRole('button', { name: 'archive no longer provides media share' }).click();
  await expect(never().getByText('A circle.')).toBeVisible();
});

test('the finding of the circle stands at its guest; the need is dropped', async () => {
  await page.goto(`${BASE()}/findings`);
  await expect(page.getByText(/backup runs on eider\./).first()).toBeVisible();
  await page.goto(`${BASE()}/guests/start-order`);
  await never().getByRole('button', { name: 'Drop that need' }).click();
  await expect(never().getByText('Nothing: every machine in service comes up.')).toBeVisible();
});

test('a service is recorded, needed by a guest, and a need twice is refused', async () => {
  await page.getByRole('button', { name: 'Record a service' }).click();
  await page.getByLabel('Name of the service').fill('Time');
  await page.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByText('There is a service named Time already.')).toBeVisible();
  await page.getByLabel('Name of the service').fill('lamp messages');
  await page.getByLabel('What the service is').selectOption('other');
  await page.getByRole('button', { name: 'Keep' }).click();
  await expect(
    page.getByRole('region', { name: 'Services' }).getByText('lamp messages'),
  ).toBeVisible();
  await page.goto(`${BASE()}/guests?q=light-ctl`);
  await page.getByRole('rowgroup').getByText('light-ctl').click();
  const part = page.getByRole('region', { name: 'Needs to start' });
  await part.getByRole('button', { name: 'Record what it needs' }).click();
  await part.getByLabel('Service that light-ctl needs').selectOption({ label: 'lamp messages' });
  await part.getByRole('button', { name: 'Keep' }).click();
  await expect(part.getByText('whoever provides it')).toBeVisible();
  await part.getByRole('button', { name: 'Record what it needs' }).click();
  await part.getByLabel('Service that light-ctl needs').selectOption({ label: 'lamp messages' });
  await part.getByRole('button', { name: 'Keep' }).click();
  await expect(part.getByText('That is recorded already.')).toBeVisible();
  await page.goto(`${BASE()}/guests/start-order`);
  await expect(
    page.getByText(
      'lamp messages: one machine needs it, and nobody who provides it is in service.',
    ),
  ).toBeVisible();
  await expect(
    never().getByText('light-ctl waits for lamp messages, which has no provider.'),
  ).toBeVisible();
});
