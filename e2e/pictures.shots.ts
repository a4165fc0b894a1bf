import { test, type Page } from '@playwright/test';
import { BASE, choose, onSheet } from './signed-in.js';

const FOLDER = new URL('../docs/screenshots/', import.meta.url).pathname;

const open = (row: string) => async (page: Page) => {
  await page.getByRole('rowgroup').getByText(row, { exact: true }).first().click();
  await page.locator('article').waitFor();
};

const PICTURES: [string, string, ((page: Page) => Promise<unknown>)?][] = [
  ['chart', 'chart', (page) => page.getByLabel('What fails').selectOption({ label: 'gannet' })],
  [
    'host',
    'hosts',
    async (page) => {
      await open('plover')(page);
      await page.locator('article [data-figure]').first().click();
    },
  ],
  ['network', 'networks', open('annex-guests')],
  [
    'reach',
    'networks/reach',
    async (page) => {
      await choose(page, 'From', 'office-files');
      await choose(page, 'To', 'lamp-log');
      await page.getByText('Give office-gate a route').waitFor();
    },
  ],
  [
    'names',
    'networks/names',
    (page) => page.locator('summary').filter({ hasText: 'nordholm.example.zone' }).click(),
  ],
  ['guest', 'guests', open('gauge-reader-2')],
  [
    'size-guest',
    'guests/size',
    async (page) => {
      await page.getByLabel('Role', { exact: true }).selectOption({ label: 'database' });
      await page.getByLabel('Load, GB kept').fill('300');
      await page.getByLabel('Grows by % a year').fill('15');
      await page.getByLabel('For so many years').fill('3');
      await page
        .getByLabel('Network', { exact: true })
        .selectOption({ label: 'harbour-guests, VLAN 212' });
      await page.getByLabel('Name', { exact: true }).fill('tide-history');
      await page.getByText('This fits').waitFor();
      await page
        .getByRole('heading', { name: 'Size a guest' })
        .evaluate((heading) => heading.scrollIntoView());
    },
  ],
  ['start-order', 'guests/start-order'],
  [
    'make-clones',
    'clones/new',
    async (page) => {
      await choose(page, 'Copy of', 'gauge-master');
      await page.getByLabel('Address of clone 3').waitFor();
    },
  ],
  ['clones', 'clones'],
  ['templates', 'clones/templates'],
  ['migration', 'migrations', open('bird-song')],
  ['timetable', 'migrations/timetable'],
  [
    'find-moves',
    'plans/moves',
    async (page) => {
      await page.getByLabel('Hosts that back each other').selectOption({ label: 'harbour, 4' });
      await page.getByRole('checkbox', { name: 'razorbill' }).check();
      await page.getByRole('button', { name: 'Find moves' }).click();
      await page.getByRole('article', { name: 'What was found' }).waitFor();
    },
  ],
  [
    'place-guests',
    'plans/place',
    async (page) => {
      await page.getByLabel('Hosts that back each other').selectOption({ label: 'harbour, 4' });
      await page.getByLabel('Names').fill('spray-{nn}');
      await page.getByLabel('Pool', { exact: true }).selectOption({ label: 'quay' });
      await page.getByLabel('Network', { exact: true }).selectOption({ label: 'harbour-guests' });
      await page.getByLabel('Hosts that may fail now').uncheck();
      await page.getByRole('button', { name: 'Another lot' }).click();
      await page.getByLabel('Names').nth(1).fill('tide-{nn}');
      await page.getByLabel('How many').nth(1).fill('6');
      await page.getByLabel('Memory').nth(1).fill('8 GiB');
      await page.getByRole('button', { name: 'Find places' }).click();
      await page.getByRole('article', { name: 'What was found' }).waitFor();
    },
  ],
  ['plans', 'plans', (page) => page.getByRole('link', { name: 'Before the storms' }).click()],
  ['log', 'log'],
  [
    'findings',
    'findings',
    async (page) => {
      await page.getByRole('button', { name: /^Accept for a while: The maintenance of/ }).click();
    },
  ],
  [
    'measured-use',
    'guests?q=tide-api',
    async (page) => {
      await open('tide-api')(page);
      await onSheet(page, 'Measured use');
      await page.locator('.recharts-surface').first().waitFor();
      await page.evaluate(() => (document.documentElement.dataset.light = 'night'));
    },
  ],
];

test('pictures of the main views', async ({ page }) => {
  const base = BASE();
  await page.goto(base);
  await page.getByLabel('Name').fill('planner');
  await page.getByLabel('Password').fill('a password for the tests');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.getByRole('navigation', { name: 'Areas' }).waitFor();
  for (const [name, path, act] of PICTURES) {
    await page.goto(`${base}/${path}`);
    await page.locator('footer [data-figure]').first().waitFor();
    await page.waitForTimeout(500);
    await act?.(page);
    await page.waitForTimeout(700);
    await page.screenshot({ path: `${FOLDER}${name}.png`, animations: 'disabled' });
  }
});
