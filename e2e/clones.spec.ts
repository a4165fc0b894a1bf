/** A batch of clones on the demo: names by pattern, hosts by a rule, a table whose cells are altered, pasted into, taken back. */
import { expect, test, type Page } from '@playwright/test';
import { BASE, choose, revisionNow, signedIn, takeBackTo, onSheet } from './signed-in.js';

test.describe.configure({ mode: 'serial' });
let page: Page;
let before: number;
test.beforeAll(async ({ browser }) => {
  page = await signedIn(browser);
  before = await revisionNow(page);
});
test.afterAll(async () => {
  await takeBackTo(page, before);
  await page.close();
});

const cell = (what: 'Name' | 'Host' | 'Address' | 'MAC' | 'Memory', clone: number) =>
  page.getByLabel(`${what} of clone ${clone}`, { exact: true });
const table = () => page.getByRole('region', { name: 'What will be made' });

test('names and hosts follow from a pattern and a rule, and are shown as they will be', async () => {
  await page.goto(`${BASE()}/clones/new`);
  await choose(page, 'Copy of', 'gauge-master');
  await page.getByLabel('How many').fill('4');
  await page.getByLabel('Names', { exact: true }).fill('{host}-gauge-{nn}');
  await page.getByLabel('Hosts', { exact: true }).selectOption('one host after the other');
  await expect(cell('Name', 4)).toHaveValue(/^[a-z]+-gauge-0\d$/);
  await expect(cell('Address', 4)).toHaveValue(/^172\.22\./);
  await page.getByLabel('Hosts', { exact: true }).selectOption('one a host, in turns');
  await expect
    .poll(async () => new Set(await hosts()).size, { message: 'different hosts' })
    .toBeGreaterThan(1);
  await page.getByLabel('Names', { exact: true }).fill('probe-{m}');
  await expect(page.getByText(/^\{m\} is no field of a name/).first()).toBeVisible();
  await page.getByLabel('Names', { exact: true }).fill('probe-{a..c}');
  await expect(page.getByText(/gives 3 names that are free, 4 are needed/).first()).toBeVisible();
  // What was there stays in sight meanwhile.
  await expect(cell('Name', 4)).toHaveValue(/^[a-z]+-gauge-0\d$/);
  await page.getByLabel('Names', { exact: true }).fill('probe-{a..d}');
  await expect(cell('Name', 4)).toHaveValue('probe-d');
});

const hosts = () => Promise.all([1, 2, 3, 4].map((clone) => cell('Host', clone).inputValue()));

test('a problem stands at its cell, and a jump leads there', async () => {
  await cell('Name', 2).fill('gauge-master');
  await cell('Name', 2).press('ArrowDown');
  await expect(cell('Name', 3)).toBeFocused();
  await expect(cell('Name', 2)).toHaveAttribute('aria-invalid', 'true');
  await page.getByRole('button', { name: '■ 1 problem: to the first' }).click();
  await expect(cell('Name', 2)).toBeFocused();
  await page.getByRole('button', { name: 'Take the last alteration back' }).click();
  await expect(cell('Name', 2)).toHaveValue('probe-b');
});

test('a block from a spreadsheet fills the cells from where it is pasted', async () => {
  await cell('Name', 3).focus();
  await page.evaluate((text) => {
    const data = new DataTransfer();
    data.setData('text/plain', text);
    document.activeElement!.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  }, 'probe-x\tgannet\tquay\t172.22.14.77\nprobe-y\tnowhere');
  await expect(cell('Name', 3)).toHaveValue('probe-x');
  await expect(cell('Host', 3)).toHaveValue('gannet');
  await expect(cell('Address', 3)).toHaveValue('172.22.14.77');
  await expect(cell('Name', 4)).toHaveValue('probe-y');
  await expect(page.getByText('Nothing is called nowhere.')).toBeVisible();
  await cell('Memory', 4).fill('1 GiB');
  await cell('Memory', 4).press('Tab');
  await expect(cell('Memory', 4)).toHaveValue('1 GiB');
});

test('they are planned in one change', async () => {
  const names = await Promise.all([1, 2, 3, 4].map((clone) => cell('Name', clone).inputValue()));
  await page.getByLabel('Address of clone 3').fill('');
  await page.getByLabel('Address of clone 3').press('Tab');
  await expect(table().getByText('■')).toHaveCount(0);
  await page.getByRole('button', { name: 'Plan 4 clones' }).click();
  const first = page.getByRole('region', { name: /first: make it and prove it$/ });
  await expect(first.getByRole('link', { name: names[0]! })).toBeVisible();
  await expect(page.getByText(/^Then the other 3:/)).toBeVisible();
  await page.getByRole('button', { name: 'All at once instead' }).click();
  const all = page.getByRole('region', { name: 'All of them' });
  for (const name of names) await expect(all.getByRole('link', { name })).toBeVisible();
  await expect(all.getByText(`${names[0]!}-system`)).toBeVisible();
  await page.getByRole('button', { name: 'First-start files of all' }).click();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Take them, one folder each' }).click(),
  ]);
  expect(file.suggestedFilename()).toBe('first-start-gauge-master.zip');
});

const item = (name: string, clone: string) =>
  page.getByLabel(`${name} of ${clone}`, { exact: true });

test('the board is ticked cell by cell, by column and by row, from the keyboard', async () => {
  await page.goto(`${BASE()}/clones`);
  await item('computer name', 'probe-a').focus();
  await page.keyboard.press('Space');
  await expect(item('computer name', 'probe-a')).toBeChecked();
  await item('computer name', 'probe-a').press('ArrowRight');
  // Its version was generalised; the older copies on the board beside it were not.
  await item('MAC address', 'probe-a').focus();
  await item('MAC address', 'probe-a').press('ArrowDown');
  await expect(item('MAC address', 'probe-b')).toBeFocused();
  await page.getByRole('button', { name: 'Tick all open items of probe-b' }).click();
  await expect(item('licence key', 'probe-b')).toBeChecked();
  await page
    .getByRole('region', { name: 'Line of gauge-master' })
    .getByRole('button', { name: 'MAC', exact: true })
    .click();
  await expect(item('MAC address', 'probe-a')).toBeChecked();
  await expect(item('MAC address', 'probe-y')).toBeChecked();
});

test('a clone with its origin’s identity is not put in service by a planner', async () => {
  await page.getByRole('link', { name: 'probe-a', exact: true }).click();
  await onSheet(page, 'Set to in service');
  await expect(page.getByRole('alert')).toContainText('probe-a still has of its origin:');
  await expect(page.getByRole('alert')).toContainText(
    'An administrator may go past it with a written reason.',
  );
  await expect(page.getByRole('button', { name: 'Do it all the same' })).toHaveCount(0);
});

test('its first-start files are shown, taken, and tick what they set', async () => {
  await page.getByRole('button', { name: 'Show the files' }).click();
  const network = page.getByRole('region', { name: 'network-config' });
  await expect(network.getByText(/macaddress: 02:4e:/)).toBeVisible();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    network.getByRole('link', { name: 'Take network-config' }).click(),
  ]);
  expect(file.suggestedFilename()).toBe('network-config');
  await expect(
    page.getByRole('region', { name: 'own-identity.sh' }).getByText("hostname 'probe-a'"),
  ).toBeVisible();
  await page.getByRole('button', { name: /^It has started with them: tick/ }).click();
  await expect(page.getByLabel('static address')).toBeChecked();
  await expect(page.getByLabel('licence key')).not.toBeChecked();
});
