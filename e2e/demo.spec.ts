/** Promises that the demo shows: findings, workings, keyboard, other people's changes, roles, access. */
import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { BASE, revisionNow, signedIn, takeBackTo } from './signed-in.js';

test('the planted mistakes are found, with evidence, consequence, remedy and source', async ({
  browser,
}) => {
  const page = await signedIn(browser, 'reader');
  await page.keyboard.press('f');
  await expect(page.getByText('plover is short of')).toBeVisible();
  await expect(
    page.getByText(/172\.22\.14\.37 is held by desk-2 and lies in the dynamic range/),
  ).toBeVisible();
  await expect(
    page.getByText(/gauge-reader-2 is in service, a clone of gauge-master/),
  ).toBeVisible();
  await expect(page.getByText('(common practice, no source).').first()).toBeVisible();
});

test('the list is moved through by keyboard and figures open their workings', async ({
  browser,
}) => {
  const page = await signedIn(browser);
  await page.keyboard.press('2');
  await page.locator('[data-list]').focus();
  await expect(page.getByRole('rowgroup').getByText('skua')).toBeVisible();
  await page.keyboard.press('End');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('article', { name: 'Host skua' })).toBeVisible();
  await page.locator('article').getByText('Left for guests').click();
  await page.keyboard.press('w');
  await expect(page.getByText('Platform keeps, larger of 2048 MiB and 5 %')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByText('Platform keeps, larger of 2048 MiB and 5 %')).toHaveCount(0);
  await expect(page.locator('article [data-figure]:focus')).toHaveCount(1);
  await page.keyboard.press('/');
  await page.keyboard.type('172.22.14.37');
  await expect(page.getByText('held by desk-2')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('article', { name: 'Guest desk-2' })).toBeVisible();
  await page.keyboard.press('.');
  await page.getByRole('menuitem', { name: 'Keys' }).click();
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
});

test('what somebody else alters appears by itself, and two editors see both versions', async ({
  browser,
}) => {
  const [one, two] = [await signedIn(browser), await signedIn(browser, 'administrator')];
  for (const page of [one, two]) {
    await page.getByRole('rowgroup').getByText('kestrel').click();
    await expect(page.getByRole('article', { name: 'Host kestrel' })).toBeVisible();
  }
  await two.getByRole('button', { name: /^Model:/ }).click();
  await two.getByLabel('Model', { exact: true }).fill('mine');
  // The second editor's stream is cut, as on a bad line, so that the page cannot know of the first one's change.
  await two.route('**/api/hosts/*', (route) =>
    route.request().method() === 'GET' ? route.abort() : route.continue(),
  );
  await one.getByRole('button', { name: /^Model:/ }).click();
  await one.getByLabel('Model', { exact: true }).fill('theirs');
  await one.keyboard.press('Enter');
  await expect(one.getByRole('button', { name: 'Model: theirs, edit' })).toBeVisible();
  await two.getByLabel('Model', { exact: true }).press('Enter');
  await expect(two.getByRole('alert')).toContainText('theirs');
  await two.unroute('**/api/hosts/*');
  await two.getByRole('button', { name: 'Write mine' }).click();
  await expect(two.getByRole('button', { name: 'Model: mine, edit' })).toBeVisible();
  await expect(one.getByRole('button', { name: 'Model: mine, edit' })).toBeVisible();
});

test('what somebody else alters is asked for again where it shows, and nowhere else', async ({
  browser,
}) => {
  const [one, two] = [await signedIn(browser), await signedIn(browser, 'administrator')];
  const before = await revisionNow(two);
  await one.goto(`${BASE()}/hosts/places`);
  const tables = one.getByRole('main');
  await expect(tables.getByText('Lighthouse annex').first()).toBeVisible();
  const asked: string[] = [];
  one.on('request', (request) => asked.push(new URL(request.url()).pathname));
  const record = (type: string, name: string) =>
    two.evaluate(
      async ([path, input]) => {
        const answer = await fetch(`/api/changes/${path}`, {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ input }),
        });
        return answer.status;
      },
      [type, { name }] as const,
    );
  // What whole fleets are asked for is asked again after every change: then the rest would have been too.
  const heardOf = () => expect.poll(() => asked).toContain('/api/findings');
  expect(await record('power-feed.record', 'quayside')).toBe(201);
  await heardOf();
  expect(asked).toContain('/api/power-feeds');
  expect(asked).not.toContain('/api/sites');
  expect(asked).not.toContain('/api/waterline');
  asked.length = 0;
  expect(await record('site.record', 'Slipway')).toBe(201);
  await expect(tables.getByText('Slipway').first()).toBeVisible();
  await heardOf();
  expect(asked).toContain('/api/sites');
  expect(asked).not.toContain('/api/platforms');
  await takeBackTo(two, before);
  await one.context().close();
  await two.context().close();
});

test('a dropped connection loses nothing that was typed', async ({ browser }) => {
  const page = await signedIn(browser);
  await page.getByRole('rowgroup').getByText('tern').click();
  await page.getByRole('button', { name: /^Notes:/ }).click();
  await page.getByLabel('Notes', { exact: true }).fill('a long thought');
  await page.context().setOffline(true);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('alert')).toContainText('Insel cannot be reached');
  await expect(page.getByLabel('Notes', { exact: true })).toHaveValue('a long thought');
  await page.context().setOffline(false);
  await page.getByLabel('Notes', { exact: true }).press('Control+Enter');
  await expect(page.getByRole('button', { name: 'Notes: a long thought, edit' })).toBeVisible();
});

test('an answer that is lost on the way is looked up: it was recorded, and once', async ({
  browser,
}) => {
  const page = await signedIn(browser);
  await page.getByRole('rowgroup').getByText('tern').click();
  await page.getByRole('button', { name: /^Keyboard:/ }).click();
  await page.getByLabel('Keyboard', { exact: true }).fill('nordic');
  await page.route('**/api/changes/host.edit', async (route) => {
    await route.fetch();
    return route.abort('connectionreset');
  });
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Keyboard: nordic, edit' })).toBeVisible();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await page.goto(`${BASE()}/log`);
  await expect(page.getByText('edited host tern: keyboard')).toHaveCount(1);
});

test('a finding is mended by its button', async ({ browser }) => {
  const page = await signedIn(browser);
  await page.goto(`${BASE()}/findings`);
  const finding = page.locator('p', { hasText: '172.22.14.37 is held by desk-2' });
  await finding.getByRole('button', { name: /^Take 172\.22\.14\.\d+ instead$/ }).click();
  await expect(finding).toHaveCount(0);
});

test('findings are narrowed, and what is alike is told once', async ({ browser }) => {
  const page = await signedIn(browser);
  await page.goto(`${BASE()}/findings`);
  const missing = page.getByRole('region', { name: 'name missing' });
  await expect(missing.getByText('○ Note')).toHaveCount(1);
  await page.getByLabel('How grave').selectOption('blocker');
  await expect(missing).toHaveCount(0);
  await page.getByLabel('About').selectOption('guest');
  await page.getByLabel('Looked after by').selectOption('keeper of the gauges');
  await expect(page).toHaveURL(/owner=keeper/);
  await expect(page.getByText(/probe-05 and probe-04 have one machine identifier/)).toBeVisible();
  await page.getByLabel('Looked after by').selectOption('by anybody');
  await page.getByLabel('Site', { exact: true }).selectOption('Lighthouse annex');
  await expect(page.getByText(/probe-05 and probe-04/)).toHaveCount(0);
  await page.getByLabel('Site', { exact: true }).selectOption('at any site');
  await page.getByLabel('Words').fill('gauge-reader-2');
  await expect(page.getByText('1 finding', { exact: true })).toBeVisible();
  await expect(page.getByText('1 item of identity open: machine identifier')).toBeVisible();
  await expect(page).toHaveURL(/severity=blocker&kind=guest&q=gauge-reader-2/);
  await page.getByRole('button', { name: 'Show all' }).click();
  await expect(missing).toBeVisible();
  // The demo's history begins later than this.
  await page.getByLabel('New since the end of').fill('1999-12-31');
  await page.keyboard.press('Enter');
  await expect(page.getByText('The record had not begun by then.')).toBeVisible();
});

test('two choices in one moment are both kept', async ({ browser }) => {
  const page = await signedIn(browser);
  await page.goto(`${BASE()}/findings?owner=nobody`);
  const selects = ['How grave', 'About', 'Looked after by'].map((label) =>
    page.getByLabel(label, { exact: true }),
  );
  await expect(selects[0]!).toBeVisible();
  const elements = await Promise.all(selects.map((select) => select.elementHandle()));
  // All before anything is drawn anew: each begins from what the one before it said.
  await page.evaluate((found) => {
    for (const [i, value] of ['blocker', 'guest', ''].entries()) {
      const select = found[i] as HTMLSelectElement;
      select.value = value;
      select.dispatchEvent(new Event('change', { bubbles: true }));
    }
  }, elements);
  await expect(page).toHaveURL(/findings\?severity=blocker&kind=guest$/);
});

test('a finding is accepted for a while with a reason, and told again when somebody wants it', async ({
  browser,
}) => {
  const page = await signedIn(browser);
  await page.goto(`${BASE()}/findings`);
  const evidence = /The maintenance of \w+ was due on 2026-11-03/;
  const accept = page.getByRole('button', {
    name: new RegExp(`^Accept for a while: ${evidence.source}`),
  });
  await accept.click();
  await page.getByRole('button', { name: 'Accept it' }).click();
  await expect(page.getByText('Write why').first()).toBeVisible();
  await page.getByLabel('Because').fill('The engineer comes in January.');
  await page.getByLabel('Accepted until').fill('2027-01-31');
  await page.getByRole('button', { name: 'Accept it' }).click();
  await expect(page.getByText(evidence)).toBeHidden();
  await page.getByText(/^Accepted for a while/).click();
  await expect(page.getByText(/^Accepted until 2027-01-31 by/)).toContainText(
    'The engineer comes in January.',
  );
  await page
    .getByText(/^Accepted until 2027-01-31 by/)
    .getByRole('button', { name: 'Tell it again' })
    .click();
  await expect(accept).toBeVisible();
  await page.goto(`${BASE()}/log`);
  await expect(
    page.getByText(/accepted maintenance-due of \w+ until 2027-01-31/).first(),
  ).toBeVisible();
});

test('a list leaves as it stands on screen, and comes back into a table', async ({ browser }) => {
  const page = await signedIn(browser);
  await page.goto(`${BASE()}/guests?q=desk&sort=name&order=down`);
  await expect(page.getByText(/^\d+ in the list$/)).toBeVisible();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'CSV', exact: true }).click(),
  ]);
  expect(file.suggestedFilename()).toBe('guests.csv');
  const text = readFileSync(await file.path(), 'utf8');
  const [head, first] = text.split('\r\n');
  expect(head).toMatch(/^Guest,State,Role,Host,vCPU,Memory,Storage,Address/);
  expect(first).toMatch(/^visitor-desk-4,/);
  expect(text).not.toContain('tide-api');
  await page.goto(`${BASE()}/guests/table`);
  await page.getByLabel(/^Rows copied/).fill(text);
  await expect(page.getByLabel('What column Guest is')).toHaveValue('name');
  await expect(page.getByLabel('What column Memory is')).toHaveValue('memory');
  await expect(page.getByLabel('What column Until is')).toHaveValue('end');
  await page.getByLabel(/^Rows copied/).fill('');
  await page.close();
});

test('a reader sees no way to alter anything', async ({ browser }) => {
  const page = await signedIn(browser, 'reader');
  await page.getByRole('rowgroup').getByText('gannet').click();
  await expect(page.getByRole('article', { name: 'Host gannet' })).toBeVisible();
  await expect(page.locator('[data-editable]')).toHaveCount(0);
  await expect(page.getByRole('link', { name: 'Record a host' })).toHaveCount(0);
});
