/** A computer that runs no guests: recorded, its facts pasted, made a guest, its disk named before it is destroyed. */
import { expect, test, type Page } from '@playwright/test';
import { BASE, choose, revisionNow, signedIn, takeBackTo } from './signed-in.js';

let page: Page;
let before: number;
test.describe.configure({ mode: 'serial' });
test.beforeAll(async ({ browser }) => {
  page = await signedIn(browser);
  before = await revisionNow(page);
});
test.afterAll(async () => {
  await takeBackTo(page, before);
  await page.context().close();
});

const FACTS = JSON.stringify({
  insel_facts: 1,
  host_name: 'attic-box',
  lscpu: {
    lscpu: [
      { field: 'Architecture:', data: 'x86_64' },
      { field: 'Socket(s):', data: '1' },
      { field: 'Core(s) per socket:', data: '2' },
      { field: 'Thread(s) per core:', data: '1' },
    ],
  },
  lsblk: {
    blockdevices: [
      {
        ...{ name: 'sda', type: 'disk', size: 120_034_123_776, 'log-sec': 512 },
        ...{ model: 'Invented 120', serial: 'A-7' },
        children: [{ name: 'sda1', type: 'part', fstype: 'ext4', mountpoint: '/', fsused: 9e9 }],
      },
    ],
  },
  meminfo: 'MemTotal: 2000000 kB',
  efi: false,
});

test('is recorded, and what it prints of itself fills its sheet', async () => {
  await page.goto(`${BASE()}/networks/devices`);
  await page.getByRole('button', { name: 'Record equipment' }).click();
  await page.getByLabel('Name of new equipment').fill('attic-box');
  await page.getByLabel('Kind of the new equipment').selectOption('computer');
  await page.getByRole('button', { name: 'Record it' }).click();
  const sheet = page.getByRole('article', { name: 'Equipment attic-box' });
  await expect(sheet).toContainText('Nothing is recorded of it yet');
  await sheet.getByText('Paste what it prints of itself', { exact: true }).click();
  await sheet.getByLabel('What the computer printed').fill('no facts at all');
  await sheet.getByRole('button', { name: 'Take the facts in' }).click();
  await expect(sheet.getByRole('alert')).toContainText('Nothing was altered');
  await sheet.getByLabel('What the computer printed').fill(FACTS);
  await sheet.getByRole('button', { name: 'Take the facts in' }).click();
  await expect(sheet).toContainText('Invented 120');
  await expect(sheet).toContainText('sectors of 512');
  await expect(sheet.getByRole('region', { name: 'As a guest' })).toContainText('2 vCPU');
});

test('what is measured makes its size as a guest smaller', async () => {
  const part = page.getByRole('region', { name: 'As a guest' });
  await part.getByRole('button', { name: 'Processors, P95: not measured, edit' }).click();
  await page.keyboard.type('20');
  await page.keyboard.press('Enter');
  await expect(part).toContainText('1 vCPU');
});

test('is planned as a guest by its name and a host, with what nobody knows beside it', async () => {
  await page.getByRole('link', { name: 'Make it a guest' }).click();
  await choose(page, 'To host', 'tern');
  const beside = page.getByRole('complementary', { name: 'Consequences' });
  await expect(beside).toContainText('Nobody knows. In which networks attic-box is');
  await expect(beside).toContainText('Copy at least');
  await expect(page.getByLabel('Size of the volume of sda')).toHaveAttribute(
    'placeholder',
    '113 GiB',
  );
  await page.getByRole('button', { name: 'Plan the migration' }).click();
  const sheet = page.getByRole('article', { name: 'Migration of attic-box' });
  await expect(sheet).toContainText('attic-box → tern, planned');
});

test('what is destroyed is named before it is ticked', async () => {
  const sheet = page.getByRole('article', { name: 'Migration of attic-box' });
  const copied = sheet.getByRole('listitem').filter({ hasText: 'Copy begun' });
  await expect(copied).toContainText('Invented 120 A-7');
  await copied.getByRole('button', { name: 'Done' }).click();
  await expect(sheet).toContainText('attic-box on tern-data');
});

test('computers are seen together: sizes, hosts, what comes first, windows; drawn as a plan', async () => {
  await page.goto(`${BASE()}/migrations/computers`);
  const list = page.getByRole('list', { name: 'Computers' });
  await expect(list.getByRole('listitem').filter({ hasText: 'attic-box' })).toContainText(
    'moves already: planned',
  );
  const till = list.getByRole('listitem').filter({ hasText: 'ferry-till' });
  // 8 threads × 14 % ÷ 60 % = 1.9; 5,200 MiB × 1.25.
  await expect(till).toContainText('2 vCPU, 6.5 GiB');
  await expect(page.getByRole('list', { name: 'Windows' })).toContainText('1, the pilot');
  await page.getByRole('checkbox', { name: 'Look at mast-logger' }).uncheck();
  await expect(page.getByRole('button', { name: 'Draw 2 computers as a plan' })).toBeVisible();
  await page.getByLabel('Hours of a window').fill('0');
  await expect(page.getByText('Write 1 to 168 whole hours.')).toBeVisible();
  await page.getByLabel('Hours of a window').fill('8');
  await page.getByLabel('Name of the plan').fill('the office machines');
  await page.getByRole('button', { name: 'Draw 2 computers as a plan' }).click();
  await expect(page.getByRole('heading', { name: 'the office machines' })).toBeVisible();
  await expect(
    page.getByText('Planned to make door-log the guest door-log on').first(),
  ).toBeVisible();
});

test('a change of platform: hosts emptied and rebuilt in turn, what cannot be and why', async () => {
  await page.goto(`${BASE()}/migrations/platform`);
  await page.getByLabel('From').selectOption('Generic bare-metal 2, lean');
  await page.getByLabel('To', { exact: true }).selectOption('Generic bare-metal 1');
  // Nothing runs on puffin; plover has three guests.
  await expect(page.getByText('Nothing runs on it: it is rebuilt at once.')).toBeVisible();
  const moves = page.getByRole('list', { name: 'Moves off plover' });
  await expect(moves.getByRole('listitem').first()).toContainText('→');
  await page.getByLabel('Ended by').fill('2026-11-21');
  await expect(page.getByText('■ After 2026-11-21, as was asked.')).toBeVisible();
  await page.getByLabel('Hours of a window').fill('900');
  await expect(page.getByText('Write 1 to 168.')).toBeVisible();
});

test('the search knows it by what people call it', async () => {
  await page.goto(`${BASE()}/migrations`);
  await page.getByRole('combobox', { name: 'Find or do' }).fill('physical');
  await expect(page.getByRole('option', { name: /Make a computer a guest/ })).toBeVisible();
  await page.keyboard.press('Escape');
});

test('a guest goes onto a laptop as a copy, its disk chosen by model and serial', async () => {
  await page.goto(`${BASE()}/migrations/new-physical?onto`);
  await choose(page, 'Guest', 'tide-api');
  await choose(page, 'Computer', 'attic', 'attic-box');
  const beside = page.getByRole('complementary', { name: 'Consequences' });
  await expect(beside).toContainText('attic-box has a migration that is planned.');
});
