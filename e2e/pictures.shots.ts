import { test, type Page } from '@playwright/test';

const FOLDER = new URL('../docs/screenshots/', import.meta.url).pathname;

const open = (row: string) => async (page: Page) => {
  await page.getByRole('rowgroup').getByText(row, { exact: true }).first().click();
  await page.locator('article').waitFor();
};

const PICTURES: [string, string, ((page: Page) => Promise<unknown>)?][] = [
  ['hosts', 'hosts'],
  ['host', 'hosts', async (page) => {
    await open('plover')(page);
    await page.locator('article [data-figure]').first().click();
  }],
  ['network', 'networks', open('annex-guests')],
  ['guest', 'guests', open('gauge-reader-2')],
  ['plan-guest', 'guests/new', async (page) => {
    await page.getByLabel('Name', { exact: true }).fill('storm-watch');
    const host = page.getByLabel('Host', { exact: true });
    await host.selectOption({ label: (await host.locator('option').allTextContents()).find((text) => text.startsWith('tern'))! });
    await page.getByLabel('Memory', { exact: true }).fill('60 GiB');
    await page.getByText('This plan meets objections').waitFor();
  }],
  ['clones', 'clones'],
  ['make-clones', 'clones/new', async (page) => {
    const origin = page.getByLabel('Copy of');
    await origin.selectOption({ label: (await origin.locator('option').allTextContents()).find((text) => text.startsWith('gauge-master'))! });
    await page.getByLabel('Address of clone 3').waitFor();
  }],
  ['migration', 'migrations', open('weather-mirror')],
  ['log', 'log'],
  ['findings', 'findings'],
  ['night', 'networks', async (page) => {
    await page.evaluate(() => (document.documentElement.dataset.light = 'night'));
    await open('annex-guests')(page);
  }],
];

test('pictures of the main views', async ({ page }) => {
  const base = process.env.INSEL_E2E_DEMO!;
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
