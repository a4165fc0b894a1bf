/** Templates on the demo: from one to five clones by keyboard, a version sealed, clones proved, promoted, licences counted. */
import { expect, test, type Page } from '@playwright/test';
import { BASE, revisionNow, signedIn, takeBackTo } from './signed-in.js';

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

test('from a template to five clones with names, addresses and identity lists in 25 keystrokes', async () => {
  await page.goto(`${BASE()}/clones/templates`);
  await expect(page.getByRole('link', { name: /^Make clones of v2/ })).toBeVisible();
  let keys = 0;
  const press = async (...pressed: string[]) => {
    for (const key of pressed) await page.keyboard.press(key);
    keys += pressed.length;
  };
  await press('c');
  await expect(page.getByLabel('How many')).toBeFocused();
  await press('5');
  await expect(page.getByLabel('Address of clone 5')).toHaveValue(/^172\.22\.12\./);
  await expect(page.getByText('This fits')).toBeVisible();
  await press('Enter', 'Enter');
  const first = page.getByRole('region', { name: 'gauge-1 first: make it and prove it' });
  await expect(first.getByText('gauge-1-system')).toBeVisible();
  expect(keys).toBeLessThanOrEqual(25);
  const { names, items } = await page.evaluate(async () => {
    const lines = await (await fetch('/api/clones')).json();
    const made = lines
      .flatMap((line: { clones: object[] }) => line.clones)
      .filter((clone: { guest: { name: string } }) => /^gauge-\d$/.test(clone.guest.name));
    return {
      names: made.map((clone: { guest: { name: string } }) => clone.guest.name),
      items: made.map((clone: { items: number }) => clone.items),
    };
  });
  expect(names.sort()).toEqual(['gauge-1', 'gauge-2', 'gauge-3', 'gauge-4', 'gauge-5']);
  expect(Math.min(...items)).toBeGreaterThan(5);
});

test('the first-start files stand side by side, what differs between siblings is marked', async () => {
  const files = page.getByRole('region', { name: 'First-start files' });
  await files.getByRole('button', { name: 'First-start files of all' }).click();
  await expect(files.getByLabel('meta-data of gauge-2').locator('mark')).toHaveCount(2);
  await expect(files.getByLabel('meta-data of gauge-1').locator('mark')).toHaveCount(0);
  await files.getByRole('button', { name: 'Close the first-start files' }).click();
});

test('the first is ticked through in three steps, then the rest come', async () => {
  const first = page.getByRole('region', { name: 'gauge-1 first: make it and prove it' });
  await first.getByLabel('Copying took').fill('90 s');
  await first.getByRole('button', { name: 'Tick for 1 clone' }).click();
  await first.getByRole('button', { name: /^Tick \d+ open items$/ }).click();
  // What was ticked is back before the next is pressed: otherwise it meets an older revision.
  await expect(first.getByText('done', { exact: true })).toHaveCount(2);
  await first.getByRole('button', { name: 'Set 1 clone in service' }).click();
  const rest = page.getByRole('region', { name: 'Then the rest' });
  await expect(rest.getByRole('button', { name: 'Tick for 4 clones' })).toBeVisible();
});

test('the next batch is estimated by how long that really took', async () => {
  await page.goto(`${BASE()}/clones/templates`);
  await page.getByRole('link', { name: /^Make clones of v2/ }).click();
  await page.getByRole('button', { name: /^Made: disks copied/ }).click();
  await expect(page.getByText('Rate reached, median of 1 past copy')).toBeVisible();
  await page.keyboard.press('Escape');
});

test('what a clone prints is compared before it is taken in', async () => {
  await page.goto(`${BASE()}/guests?q=probe-07`);
  await page.getByRole('rowgroup').getByText('probe-07', { exact: true }).first().click();
  const known = page.getByRole('region', { name: 'Known by' });
  await known.getByRole('button', { name: 'Paste what it prints' }).click();
  await known.getByLabel('What it printed').fill('nonsense');
  await expect(known.getByText(/^This is not what the script prints/)).toBeVisible();
  await known
    .getByLabel('What it printed')
    .fill(`insel-identity: 1\nname: probe-07\nmachine-id: ${'71ae20'.padEnd(32, '4d8e')}`);
  await expect(known.getByText(/machine identifier .* which probe-04 has too$/)).toBeVisible();
  await known.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByLabel('computer name')).toBeChecked();
  await expect(page.getByText(/probe-07 and probe-04 have one machine identifier/)).toBeVisible();
});

test('a version is not sealed with open items without a reason, nor by what is joined to a directory', async () => {
  await page.goto(`${BASE()}/clones/templates`);
  const v3 = page.getByRole('region', { name: 'v3' });
  await v3.getByRole('button', { name: 'Seal v3' }).click();
  await expect(v3.getByRole('alert')).toContainText('gauge-v3 is planned: only a stopped guest');
  for (const state of ['building', 'stopped'])
    await page.evaluate(async (wanted) => {
      const [template] = await (await fetch('/api/templates')).json();
      const { guest } = template.versions[0];
      const { guest: row } = await (await fetch(`/api/guests/${guest.id}`)).json();
      await fetch('/api/changes/guest.set-state', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({
          input: { id: row.id, state: wanted },
          expects: [{ id: row.id, revision: row.revision }],
        }),
      });
    }, state);
  await page.reload();
  await v3.getByRole('button', { name: 'Seal v3' }).click();
  await expect(v3.getByRole('alert')).toContainText('what is joined is never sealed');
  await v3.getByLabel('joined to no directory').click();
  await expect(v3.getByLabel('joined to no directory')).toBeChecked();
  await v3.getByRole('button', { name: 'Seal v3' }).click();
  await expect(v3.getByRole('alert')).toContainText('Not seen to yet: disk copied');
  await v3.getByRole('button', { name: /^Tick all/ }).click();
  await expect(v3.getByRole('button', { name: /^Tick all/ })).toHaveCount(0);
  await v3.getByRole('button', { name: 'Seal v3' }).click();
  await expect(v3.getByText('generalised', { exact: true })).toBeVisible();
  await expect(page.getByRole('link', { name: /^Make clones of v3/ })).toBeVisible();
});

test('clones that are behind are remade, dependent ones promoted, with what it costs first', async () => {
  const v2 = page.getByRole('region', { name: 'v2' });
  await v2.getByRole('button', { name: 'Show all 14' }).click();
  await v2.getByLabel('Choose probe-08').check();
  await v2.getByRole('button', { name: 'Promote 1 to independent …' }).click();
  await expect(v2.getByText(/^Copied in/)).toBeVisible();
  await expect(v2.getByText('pool quay, really free')).toBeVisible();
  await v2.getByRole('button', { name: 'Promote 1 clone' }).click();
  await expect(v2.getByRole('row', { name: /probe-08/ })).toContainText('full');
  await v2.getByLabel('Choose probe-09').check();
  await v2.getByRole('button', { name: 'Remake 1 from v3 …' }).click();
  await v2.getByLabel('Reason, for the log').fill('updates of the autumn');
  await v2.getByRole('button', { name: 'Remake probe-09' }).click();
  await expect(page.getByRole('region', { name: 'v3' }).getByText('probe-09')).toBeVisible();
});

test('lineage shows what hangs where; a licence says what takes it', async () => {
  await page.goto(`${BASE()}/clones/lineage`);
  const line = page.getByRole('region', { name: 'Line of gauge' });
  await expect(line.getByRole('link', { name: 'gauge-reader-2' })).toBeVisible();
  await expect(line.getByText(/^base of \d+, saves/).first()).toBeVisible();
  await page.goto(`${BASE()}/clones/licences`);
  await expect(page.getByText(/allows 16, counted by core pair; \d+ are used/)).toBeVisible();
  await page.getByRole('button', { name: /^Used of NT-family server/ }).click();
  await expect(page.getByText(/\d+ a time, \d+ times?$/).first()).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByLabel('Name', { exact: true }).fill('desk suite');
  await page.getByLabel('Allowed', { exact: true }).fill('12');
  await page.getByRole('button', { name: 'Record the licence' }).click();
  await expect(page.getByRole('button', { name: 'Name: desk suite, edit' })).toBeVisible();
});
