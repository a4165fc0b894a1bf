/** Moves on the demo: two sides, steps that fail and are skipped, a window, pre-copy, planned against actual. */
import { expect, test, type Page, type Route } from '@playwright/test';
import { BASE, choose, readyForRetry, revisionNow, signedIn } from './signed-in.js';

test.describe.configure({ mode: 'serial' });
let page: Page;
let begun: number;
test.beforeAll(async ({ browser }) => {
  page = await signedIn(browser);
  begun = await revisionNow(page);
  expect(begun).toBeGreaterThan(0);
});
test.afterAll(({ browser: _ }, info) => readyForRetry(page, begun, info));

test('what the record knows is folded, what fails stands in full; nobody knows is no yes', async () => {
  await page.goto(`${BASE()}/migrations/new`);
  await choose(page, 'Guest', 'tide-api');
  await choose(page, 'To host', 'eider');
  const aside = page.getByRole('complementary', { name: 'Consequences' });
  await expect(aside.getByText('eider does not carry harbour-guests.')).toBeVisible();
  await expect(aside.getByText(/^✓ \d+ good, as the record knows$/)).toBeVisible();
  await expect(aside.getByText('Nobody knows.').first()).toBeVisible();
  await expect(aside.getByText('eider is in service.')).toBeHidden();
});

test('a running guest that writes faster than is copied does not converge, and the reason is told', async () => {
  await choose(page, 'Guest', 'tide-db');
  await choose(page, 'To host', 'gannet');
  await page.getByLabel('How', { exact: true }).selectOption('while it runs');
  await page.getByLabel('Memory it writes, MB/s').fill('20');
  await expect(
    page.getByText(/rounds, then it stands still for .* it converges easily/),
  ).toBeVisible();
  await page.getByLabel('Memory it writes, MB/s').fill('400');
  await expect(page.getByText(/will not converge, because it writes faster/)).toBeVisible();
});

test('the estimate has learnt from past runs of its route', async () => {
  await page.getByLabel('Memory it writes, MB/s').fill('');
  const pattern = page.getByRole('region', { name: 'As last time' });
  await expect(pattern).toContainText(/memory copied while it runs, 1 Gbit\/s, the copy took/);
  await pattern.getByRole('button', { name: 'As last time' }).click();
  await expect(page.getByLabel('Method')).toHaveValue('running pre-copy');
  await page.getByRole('button', { name: /^Expected: / }).click();
  await expect(
    page.getByText(/Rate reached, median of \d+ past copies on this route/),
  ).toBeVisible();
  await page.keyboard.press('Escape');
  await page.goto(`${BASE()}/migrations/actual`);
  await expect(page.getByText(/^\d+ of \d+ moves fell into the range/)).toBeVisible();
  await expect(
    page.getByRole('row', { name: /tide-db .* running pre-copy/ }).first(),
  ).toBeVisible();
});

test('a window that ends before it begins is refused in words, and nothing typed is lost', async () => {
  await page.goto(`${BASE()}/migrations/new`);
  await page.getByLabel('Window from').fill('2027-01-16 06:00');
  await page.getByLabel('Window until').fill('2027-01-16 02:00');
  await page.getByRole('button', { name: 'Plan the migration' }).click();
  await expect(page.getByRole('alert')).toContainText('The window ends before it begins.');
  await expect(page.getByLabel('Window from')).toHaveValue('2027-01-16 06:00');
  await page.getByLabel('Window from').fill('tomorrow');
  await page.getByRole('button', { name: 'Plan the migration' }).click();
  await expect(page.getByText('Write a time as 2026-11-20T08:00:00Z.').first()).toBeVisible();
});

test('between platforms each step says at which console, and what is destroyed is typed', async () => {
  await page.goto(`${BASE()}/migrations?state=planned`);
  await page.getByRole('rowgroup').getByText('bird-song', { exact: true }).first().click();
  const copy = page.getByRole('region', { name: 'Copy', exact: true });
  await expect(copy.getByText('at both')).toBeVisible();
  const image = copy.getByRole('listitem').filter({ hasText: 'Copy begun' });
  await image.getByRole('button', { name: 'Done …' }).click();
  await expect(image.getByLabel(/^Destroys what lies there; type bird-song on /)).toBeVisible();
  await image.getByRole('button', { name: 'Tick' }).click();
  await expect(page.getByRole('alert')).toContainText('Type its name');
  const switching = page.getByRole('region', { name: 'Switch over' });
  await expect(switching.getByText(/^Rehearsal: started with its adapters/)).toBeVisible();
  await switching
    .getByRole('listitem')
    .filter({ hasText: 'Rehearsal' })
    .getByRole('button', { name: 'Skip …' })
    .click();
  await switching.getByLabel('Why').fill('the guest is a test');
  await switching.getByRole('button', { name: 'Skip it' }).click();
  await expect(switching.getByText(/skipped, .*: the guest is a test/)).toBeVisible();
  await switching.getByRole('button', { name: 'Open again' }).click();
  await expect(switching.getByText(/skipped, /)).toHaveCount(0);
});

test('one that was taken back keeps what failed, and the time that it had to be decided by', async () => {
  await page.goto(`${BASE()}/migrations?state=rolled%20back`);
  await page.getByRole('rowgroup').getByText('archive', { exact: true }).first().click();
  const sheet = page.getByRole('article', { name: 'Migration of archive' });
  await expect(sheet.getByText(/to be decided by .*before its end/)).toBeVisible();
  await expect(sheet.getByText(/failed, .*It came up without its second network/)).toBeVisible();
});

test('from the sign that is seen to the causes that the record makes likely', async () => {
  const trouble = page.getByRole('region', { name: 'In trouble' });
  await trouble.getByRole('combobox').selectOption('the target is refused as smaller');
  await expect(trouble.getByText('The new disk has fewer bytes than the old one.')).toBeVisible();
  await page.goto(`${BASE()}/migrations?state=planned`);
  await page.getByRole('rowgroup').getByText('bird-song', { exact: true }).first().click();
  await trouble.getByRole('combobox').selectOption('no network');
  await expect(trouble.getByRole('listitem').first()).toContainText('◆');
  await expect(page).toHaveURL(/sign=no/);
  // What was found is kept, and orders the others.
  const likeliest = trouble.getByRole('listitem').first();
  const title = (await likeliest.locator('b').first().textContent())!.replace(/\.$/, '');
  await likeliest.getByRole('button', { name: 'It was not this' }).click();
  await expect(trouble.getByRole('listitem').last()).toContainText(title);
  await expect(trouble.getByRole('listitem').last()).toContainText('It was not this.');
});

test('a planned bar is moved by keys, with what follows; the calendar is taken', async () => {
  await page.goto(`${BASE()}/migrations/timetable`);
  await expect(page.getByText(/Too many at once at \w+ from/).first()).toBeVisible();
  const lane = page.getByRole('list', { name: 'Moves to razorbill' });
  const bar = lane.getByRole('button', { name: /^tide-ingest, planned/ });
  const before = await bar.getAttribute('aria-label');
  // The answer is slow: what is pressed until it comes is recorded after it.
  const edits = '**/api/changes/migration.edit';
  const late = async (route: Route) => {
    await new Promise((resolve) => setTimeout(resolve, 1500));
    await route.continue();
  };
  await page.route(edits, late, { times: 1 });
  await bar.focus();
  const sent = page.waitForRequest(edits);
  for (let step = 0; step < 4; step += 1) await bar.press('ArrowRight');
  await expect(bar).toHaveAttribute('aria-label', / 04:06 to /);
  await sent;
  await bar.press('ArrowRight');
  await expect(bar).toHaveAttribute('aria-label', / 04:36 to /);
  await expect(page.getByText(/Too many at once at razorbill/)).toHaveCount(0);
  await expect(bar).toHaveAttribute('aria-label', / 04:36 to /);
  await bar.press('ArrowLeft');
  await expect(bar).toHaveAttribute('aria-label', / 04:06 to /);
  for (let step = 0; step < 4; step += 1) await bar.press('ArrowLeft');
  await expect(page.getByText(/Too many at once at razorbill/)).toBeVisible();
  await expect(bar).toHaveAttribute('aria-label', before!);
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Take as a calendar' }).click(),
  ]);
  expect(file.suggestedFilename()).toBe('migrations.ics');
});

test('a planned bar is dragged, by quarters of an hour; a click alone opens it', async () => {
  await page.goto(`${BASE()}/migrations/timetable`);
  const lane = page.getByRole('list', { name: 'Moves to razorbill' });
  const bar = lane.getByRole('button', { name: /^tide-ingest, planned/ });
  const before = (await bar.getAttribute('aria-label'))!;
  const dragBy = async (pixels: number) => {
    const box = (await bar.boundingBox())!;
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x + pixels / 2, y);
    await page.mouse.move(x + pixels, y);
    await page.mouse.up();
  };
  const recorded = () =>
    page.waitForResponse((answer) => answer.url().endsWith('/changes/migration.edit'));
  await Promise.all([recorded(), dragBy(-60)]);
  await expect(bar).not.toHaveAttribute('aria-label', before);
  await expect(bar).toHaveAttribute('aria-label', /:(06|21|36|51) to /);
  await page.reload();
  await expect(bar).not.toHaveAttribute('aria-label', before);
  await Promise.all([recorded(), dragBy(60)]);
  await page.reload();
  await expect(bar).toHaveAttribute('aria-label', before);
  await bar.click();
  await page.waitForURL(/\/migrations\/[0-9a-f-]{36}/);
});

test('what a guest prints before and after stands compared; a reading out of its time is refused in words', async () => {
  await page.goto(`${BASE()}/migrations?state=rolled+back`);
  await page.getByRole('rowgroup').getByText('archive', { exact: true }).first().click();
  const compared = page.getByRole('group', { name: 'Compared' });
  await expect(compared.getByText('missing: tcp 2049')).toBeVisible();
  await expect(compared.getByText('failed now: storage-net.service')).toBeVisible();
  await page.goto(`${BASE()}/migrations?state=planned`);
  await page.getByRole('rowgroup').getByText('tide-ingest', { exact: true }).first().click();
  await page.getByRole('button', { name: 'Paste what it prints before its move' }).click();
  await page.getByLabel('What it printed before its move').fill('uptime: 1');
  await page.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByRole('alert')).toContainText('This is not what the script prints');
  await expect(page.getByLabel('What it printed before its move')).toHaveValue('uptime: 1');
});
