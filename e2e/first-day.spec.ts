/** The whole thread on an empty record: machine → network → host → guest → clones → migration → log. */
import { expect, test, type Page } from '@playwright/test';
import { onSheet } from './signed-in.js';

const BASE = () => process.env.INSEL_E2E_EMPTY!;
const PASSWORD = 'a password for the tests';

test.describe.configure({ mode: 'serial' });
let page: Page;
test.beforeAll(async ({ browser }) => {
  page = await browser.newPage();
});
test.afterAll(() => page.close());

/** Chooses the option that begins so, once the list is there. */
async function choose(label: string, start: string): Promise<void> {
  const select = page.getByLabel(label, { exact: true });
  const option = select.locator('option').filter({ hasText: new RegExp(`^${start}`) });
  await option.waitFor({ state: 'attached' });
  await select.selectOption({ label: (await option.textContent())! });
}

/** Types a name into a searched choice and takes the first that is found. */
async function find(label: string, name: string): Promise<void> {
  const field = page.getByRole('combobox', { name: label, exact: true });
  await field.click();
  await field.fill(name);
  await expect(
    page.getByRole('listbox').getByRole('option', { selected: true }).filter({ hasText: name }),
  ).toBeVisible();
  await field.press('Enter');
  await expect(field).toHaveValue(name);
}

const fill = (label: string, text: string) => page.getByLabel(label, { exact: true }).fill(text);

test('the first administrator is made with the token from the console', async () => {
  await page.goto(`${BASE()}/set-up#${process.env.INSEL_E2E_TOKEN}`);
  await fill('Name', 'keeper');
  await page.getByLabel('Password, at least 12 characters').fill('short');
  await page.getByRole('button', { name: 'Begin the record' }).click();
  await expect(page.getByText('A password has 12 to 200 characters.')).toBeVisible();
  await page.getByLabel('Password, at least 12 characters').fill(PASSWORD);
  await page.getByRole('button', { name: 'Begin the record' }).click();
  await expect(page.getByText('Hosts are the machines that run your guests.')).toBeVisible();
});

test('the machine Insel runs on is read, shown and recorded', async () => {
  await page.getByRole('link', { name: 'record the machine Insel runs on' }).click();
  await expect(page.getByRole('heading', { name: 'The machine Insel runs on' })).toBeVisible();
  await expect(page.getByText('System sees')).toBeVisible();
  await page.getByRole('button', { name: 'Go on to record it' }).click();
  await fill('Name', 'this-machine');
  await expect(page.getByRole('heading', { name: 'What this does' })).toBeVisible();
  await page.getByRole('button', { name: 'Record the host' }).click();
  await expect(page.getByRole('article', { name: 'Host this-machine' })).toBeVisible();
});

test('a network with a dynamic range shows its runs and the next free address', async () => {
  await page.goto(`${BASE()}/networks/new`);
  await fill('Name', 'shore');
  await fill('Subnet', '198.51.100.5/24');
  await page.getByRole('button', { name: 'Record the network' }).click();
  await expect(
    page.getByText('the block is 198.51.100.0/24. Write 198.51.100.0/24.'),
  ).toBeVisible();
  await fill('Subnet', '198.51.100.0/24');
  await fill('Gateway', '198.51.100.1');
  await fill('Dynamic range, first', '198.51.100.100');
  await fill('Dynamic range, last', '198.51.100.199');
  await page.getByRole('button', { name: 'Record the network' }).click();
  const sheet = page.getByRole('article', { name: 'Network shore' });
  await expect(sheet.getByText('next free 198.51.100.2')).toBeVisible();
  await expect(sheet.getByText('198.51.100.100 – 198.51.100.199').first()).toBeVisible();
});

test('two hosts are recorded', async () => {
  for (const name of ['gannet', 'tern']) {
    await page.goto(`${BASE()}/hosts/new`);
    await fill('Name', name);
    await fill('Memory installed', '16 GB');
    await page.getByRole('button', { name: 'Record the host' }).click();
    await expect(page.getByText('Memory is counted in binary units: write 16 GiB.')).toBeVisible();
    await fill('Memory installed', '16 GiB');
    await fill('Pool', `${name}-data`);
    await page.getByRole('checkbox', { name: 'shore' }).check();
    await page.getByRole('button', { name: 'Record the host' }).click();
    await expect(page.getByRole('article', { name: `Host ${name}` })).toBeVisible();
  }
});

test('a guest that does not fit meets an objection with its workings; one that fits is planned', async () => {
  await page.goto(`${BASE()}/guests/new`);
  await fill('Name', 'tide');
  await find('Host', 'gannet');
  await page.getByLabel('Memory', { exact: true }).fill('40 GiB');
  await expect(page.getByText('This plan meets objections')).toBeVisible();
  await expect(page.getByText(/gannet would be short of/)).toBeVisible();
  await page.getByRole('button', { name: 'Plan the guest' }).click();
  await expect(page.getByRole('alert')).toContainText('gannet would be short of');
  await page.reload();
  await expect(page.getByLabel('Memory', { exact: true })).toHaveValue('40 GiB');
  await page.getByLabel('Memory', { exact: true }).fill('2 GiB');
  await expect(page.getByText('This fits')).toBeVisible();
  await page.getByRole('button', { name: 'Plan the guest' }).click();
  const sheet = page.getByRole('article', { name: 'Guest tide' });
  await expect(sheet.getByText('198.51.100.2/24')).toBeVisible();
  await expect(sheet.getByText('generated')).toBeVisible();
});

test('it is built, stopped and cloned three times with consecutive addresses', async () => {
  await onSheet(page, 'Set to building');
  await onSheet(page, 'Set to stopped');
  await expect(page.getByRole('button', { name: 'Set to in service' })).toBeVisible();
  await onSheet(page, 'Make clones');
  await expect(page.getByLabel('Address of clone 3')).toHaveValue('198.51.100.5');
  await page.getByRole('button', { name: 'Plan 3 clones' }).click();
  await expect(page.getByRole('heading', { name: '3 clones of tide' })).toBeVisible();
  await page.goto(`${BASE()}/clones`);
  await expect(
    page.getByRole('region', { name: 'Line of tide' }).getByText('12 of 12', { exact: true }),
  ).toHaveCount(3);
  await page.getByRole('link', { name: 'tide-1' }).click();
  await page.getByLabel('machine identifier', { exact: true }).press('Space');
  await expect(page.getByRole('button', { name: 'Tick all 11' })).toBeVisible();
  await page.getByRole('button', { name: 'Tick all 11' }).click();
  await expect(page.getByRole('button', { name: /Tick all/ })).toHaveCount(0);
});

test('it is migrated: checks, estimate, started, switched, accepted', async () => {
  await page.goto(`${BASE()}/guests`);
  await page.getByText('tide', { exact: true }).click();
  await onSheet(page, 'Migrate');
  await find('To host', 'tern');
  await expect(page.getByText('tern does not reach pool gannet-data')).toBeVisible();
  await choose('Volumes go to', 'tern-data');
  await page.getByText(/good, as the record knows$/).click();
  await expect(page.getByText('the target disk must be at least')).toBeVisible();
  await expect(page.getByText(/by no history/)).toBeVisible();
  await page.getByRole('button', { name: 'Plan the migration' }).click();
  const block = (name: string) => page.getByRole('region', { name, exact: true });
  await block('Before').getByRole('button', { name: 'Tick these 2' }).click();
  await block('Copy').getByRole('button', { name: 'Done', exact: true }).click();
  const first = block('Switch over').getByRole('listitem').filter({ hasText: 'First start' });
  await first.getByRole('button', { name: 'Done …' }).click();
  await first.getByRole('button', { name: 'Tick' }).click();
  await expect(page.getByRole('alert')).toContainText('both lose their connections');
  await block('Switch over')
    .getByRole('listitem')
    .filter({ hasText: 'What is left on gannet' })
    .getByRole('button', { name: 'Done', exact: true })
    .click();
  await first.getByLabel('The copy took, if it was measured').fill('9 min');
  await first.getByRole('button', { name: 'Tick' }).click();
  await expect(page.getByText('it must not start, or both lose their connections')).toBeVisible();
  await expect(page.getByText(/source, gannet-data/)).toBeVisible();
  const after = block('After');
  await after.getByRole('button', { name: 'Done', exact: true }).click();
  await after.getByRole('button', { name: 'Done …' }).click();
  await after.getByRole('button', { name: 'Tick' }).click();
  await expect(page.getByRole('button', { name: 'Record the deletion' })).toBeVisible();
});

test('the log tells all of it, and the last change is undone with u', async () => {
  await page.goto(`${BASE()}/log`);
  await expect(page.getByText('accepted tide on tern')).toBeVisible();
  await expect(page.getByText('planned 3 clones of tide: tide-1, tide-2, tide-3')).toBeVisible();
  await page.goto(`${BASE()}/hosts`);
  await page.getByRole('rowgroup').getByText('tern').click();
  await page.getByRole('button', { name: /^Purpose/ }).click();
  await page.getByLabel('Purpose', { exact: true }).fill('annex');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Purpose: annex, edit' })).toBeVisible();
  await page.keyboard.press('u');
  await expect(page.getByRole('button', { name: 'Purpose: empty, edit' })).toBeVisible();
});
