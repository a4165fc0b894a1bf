/** At the width of a telephone, standing in a server room: nothing lies beyond the edge, lists are rows of two lines, steps are ticked. */
import { expect, test, type Page } from '@playwright/test';
import { beyondTheEdge } from './screens.js';
import { BASE, revisionNow, signedIn, takeBackTo } from './signed-in.js';

let page: Page;
test.describe.configure({ mode: 'serial' });
test.beforeAll(async ({ browser }) => {
  page = await signedIn(browser);
  await page.setViewportSize({ width: 390, height: 844 });
});
test.afterAll(() => page.context().close());

for (const path of [
  ...['hosts', 'hosts/pools', 'hosts/new', 'guests', 'guests/new', 'guests/start-order'],
  'guests/shut-down',
  ...['guests/media', 'networks', 'networks/reach', 'networks/devices', 'networks/switches'],
  ...['networks/names', 'networks/patch', 'clones', 'clones/new', 'migrations'],
  ...[
    'migrations/new',
    'migrations/new-physical',
    'migrations/computers',
    'migrations/platform',
    'plans',
    'plans/moves',
    'plans/place',
  ],
  ...['log', 'findings', 'account'],
])
  test(`${path}: nothing lies beyond the edge`, async () => {
    await page.goto(`${BASE()}/${path}`);
    await expect(page.getByRole('main')).toHaveText(/\w/);
    await page.waitForLoadState('networkidle');
    await expect.poll(() => beyondTheEdge(page)).toEqual([]);
  });

test('log: what stood in a step of a plan that is gone wraps', async () => {
  const before = await revisionNow(page);
  await page.evaluate(async () => {
    const ask = async (method: string, path: string, body?: object) =>
      (
        await fetch(`/api/${path}`, {
          method,
          headers: { 'Content-Type': 'application/json' },
          body: body && JSON.stringify(body),
        })
      ).json();
    const plan = await ask('POST', 'changes/plan.record', { input: { name: 'on the way' } });
    const { rows } = await ask('GET', 'guests?take=1');
    const { id, revision } = rows[0];
    const drawn = await ask('POST', `changes/guest.edit?plan=${plan.created[0].id}`, {
      input: { id, notes: 'unbroken'.repeat(30) },
      expects: [{ id, revision }],
    });
    if (!drawn.revision) throw new Error(JSON.stringify(drawn));
  });
  await takeBackTo(page, before);
  await page.goto(`${BASE()}/log`);
  await expect(page.getByText('undid: ').first()).toBeVisible();
  await expect.poll(() => beyondTheEdge(page)).toEqual([]);
  for (const difference of await page.locator('details').all())
    await difference.evaluate((element: HTMLDetailsElement) => (element.open = true));
  await expect.poll(() => beyondTheEdge(page)).toEqual([]);
});

for (const [area, name] of [
  ['hosts', 'gannet'],
  ['guests', 'storm-page'],
  ['networks', 'harbour-guests'],
  ['migrations', 'bird-song'],
])
  test(`the sheet of ${name} fits`, async () => {
    await page.goto(`${BASE()}/${area}?q=${name}`);
    await page.getByRole('rowgroup').getByText(name!, { exact: true }).first().click();
    await page.waitForURL(new RegExp(`/${area}/[0-9a-f-]+`));
    await page.waitForLoadState('networkidle');
    await expect.poll(() => beyondTheEdge(page)).toEqual([]);
  });

test('moves are asked for, what is found takes the place of the question, and gives it back', async () => {
  await page.goto(`${BASE()}/plans/moves`);
  await page.getByRole('checkbox', { name: 'tern' }).check();
  await page.getByRole('button', { name: 'Find moves' }).click();
  await expect(page.getByRole('article', { name: 'What was found' })).toContainText('cannot leave');
  await page.getByRole('button', { name: 'Ask something else' }).click();
  await expect(page.getByRole('checkbox', { name: 'tern' })).toBeChecked();
});

test('areas and views are chosen from what they are folded into', async () => {
  await page.getByRole('combobox', { name: 'Areas' }).selectOption('Guests');
  await page.waitForURL(/\/guests$/);
  await page.getByRole('combobox', { name: 'Views of Guests' }).selectOption('Start order');
  await page.waitForURL(/\/guests\/start-order$/);
});

test('a row says its name, and below what else is known; the order is chosen', async () => {
  await page.goto(`${BASE()}/hosts`);
  const row = page.getByRole('row').filter({ hasText: 'gannet' });
  await expect(row).toContainText('Harbour house');
  await page.getByRole('combobox', { name: 'In the order of' }).selectOption('by host');
  await page.getByRole('button', { name: 'first to last' }).click();
  await expect(page.getByRole('button', { name: 'last to first' })).toBeVisible();
  await expect(page.getByRole('rowgroup').getByRole('row').first()).toContainText('tern');
});

test('the search finds, and steps of a move are ticked', async () => {
  await page.getByRole('combobox', { name: 'Find or do' }).fill('bird-song');
  await page
    .getByRole('option', { name: /bird-song/ })
    .first()
    .click();
  await page.getByRole('link', { name: /tern/ }).first().waitFor();
  await page.goto(`${BASE()}/migrations?q=bird-song`);
  await page.getByRole('rowgroup').getByText('bird-song', { exact: true }).click();
  const step = page
    .getByRole('article')
    .getByRole('listitem')
    .filter({ hasText: 'A backup of it was restored' });
  await step.getByRole('button', { name: 'Done' }).click();
  await expect(step).toContainText('done,');
  await step.getByRole('button', { name: 'Open again' }).click();
  await expect(step.getByRole('button', { name: 'Done' })).toBeVisible();
});
