/** Plans: drawn in pencil over every view, looked at, put in order, carried out. */
import { expect, test, type Page } from '@playwright/test';
import { BASE, revisionNow, signedIn, takeBackTo, onSheet } from './signed-in.js';

test.describe.configure({ mode: 'serial' });
let page: Page;
let before: number;
test.beforeAll(async ({ browser }) => {
  page = await signedIn(browser);
  before = await revisionNow(page);
});
test.afterAll(() => takeBackTo(page, before));

const pencil = () => page.getByRole('status').filter({ hasText: 'Drawn in pencil' });
const plan = () => page.getByRole('article', { name: 'Plan Quieter nights' });

test('a plan is begun, and without a name it says so', async () => {
  await page.goto(`${BASE()}/plans`);
  await page.getByRole('button', { name: 'Begin a plan' }).click();
  await expect(page.getByLabel('Name of a new plan')).toHaveAccessibleDescription(/Write a name/);
  await page.getByLabel('Name of a new plan').fill('Quieter nights');
  await page.getByLabel('What for', { exact: true }).fill('Fewer guests are up at night.');
  await page.getByRole('button', { name: 'Begin a plan' }).click();
  await expect(plan()).toBeVisible();
  await expect(plan()).toContainText('No step yet');
});

test('what is altered in any view becomes a step, and the record stays', async () => {
  await plan().getByRole('link', { name: 'Draw in this plan' }).click();
  await expect(pencil()).toContainText('Quieter nights');
  await page.getByRole('link', { name: 'Guests', exact: true }).first().click();
  await expect(page).toHaveURL(/plan=/);
  await page.getByLabel('Filter by name').first().fill('storm-page');
  await page.getByRole('rowgroup').getByText('storm-page', { exact: true }).click();
  const guest = page.getByRole('article', { name: 'Guest storm-page' });
  await guest.getByRole('button', { name: /^vCPU: / }).click();
  await guest.getByRole('textbox', { name: 'vCPU' }).fill('3');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/Drew in Quieter nights/)).toBeVisible();
  await expect(guest.getByRole('button', { name: /^vCPU: 3/ })).toBeVisible();
  await expect(page.getByRole('rowgroup').getByText('✎ altered')).toBeVisible();
  await page.getByRole('link', { name: 'Chart', exact: true }).first().click();
  await expect(page.getByRole('img', { name: /^razorbill: .*; without the plan/ })).toBeVisible();
  await expect(page.getByText('□ is where a course ends without it')).toBeVisible();
  // What the plan leaves alone stands at one level.
  await expect(
    page
      .getByRole('contentinfo', { name: 'Waterline' })
      .getByRole('img', { name: /^Storage \d+ %$/ }),
  ).toBeVisible();
  await page.goBack();
  await page.getByRole('button', { name: 'Leave the plan' }).click();
  await expect(pencil()).toHaveCount(0);
  await expect(guest.getByRole('button', { name: /^vCPU: 3/ })).toHaveCount(0);
});

test('in the middle of an edit it is drawn instead of done, and what is typed stays', async () => {
  await page.goto(`${BASE()}/guests?q=storm-page`);
  await page.getByRole('rowgroup').getByText('storm-page', { exact: true }).click();
  const guest = page.getByRole('article', { name: 'Guest storm-page' });
  await guest.getByRole('button', { name: /^vCPU: 2/ }).click();
  const vcpu = guest.getByRole('textbox', { name: 'vCPU' });
  await vcpu.fill('5');
  await page.getByRole('button', { name: 'Draw instead' }).click();
  await expect(page.getByText('Draw this in a plan instead of doing it')).toBeVisible();
  await page.getByRole('menuitem', { name: 'A new plan' }).click();
  await expect(pencil()).toContainText(/the plan Plan \d+, 0 open steps/);
  await expect(vcpu).toHaveValue('5');
  await vcpu.press('Enter');
  await expect(page.getByText(/Drew in Plan \d+/)).toBeVisible();
  await expect(guest.getByRole('button', { name: /^vCPU: 5/ })).toBeVisible();
  // While one is drawn in, everything is.
  await expect(page.getByRole('button', { name: 'Draw instead' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Leave the plan' }).click();
  await expect(guest.getByRole('button', { name: /^vCPU: 2/ })).toBeVisible();
  // By its key, another one that is there already.
  await page.keyboard.press('d');
  await page.getByRole('menuitem', { name: 'Quieter nights' }).click();
  await expect(pencil()).toContainText('Quieter nights');
  await page.getByRole('button', { name: 'Leave the plan' }).click();
  await expect(pencil()).toHaveCount(0);
});

test('a plan is copied, compared with the other, and printed to be carried along', async () => {
  await page.goto(`${BASE()}/plans`);
  await page.getByRole('link', { name: 'Before the storms' }).click();
  await onSheet(page, 'Copy it');
  await page.getByLabel('Name of the copy').fill('Before the storms');
  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('There is a plan named Before the storms');
  await page.getByLabel('Name of the copy').fill('Calmer storms');
  await page.keyboard.press('Enter');
  const copy = page.getByRole('article', { name: 'Plan Calmer storms' });
  await expect(copy.getByRole('listitem')).toHaveCount(3);
  await copy.getByRole('button', { name: 'Drop step 3' }).click();
  await expect(copy.getByRole('listitem')).toHaveCount(2);
  await copy.getByLabel('Beside').selectOption({ label: 'Before the storms' });
  const compared = copy.getByRole('region', { name: 'Compared' });
  await expect(compared.getByRole('row', { name: /^Steps/ })).toContainText('23');
  await expect(compared).toContainText('Hosts that may fail');
  await copy.getByRole('button', { name: /^More/ }).click();
  const href = await page
    .getByRole('menuitem', { name: 'Page to carry along' })
    .getAttribute('href');
  await page.keyboard.press('Escape');
  const answer = await page.request.get(`${BASE()}${href}`);
  const text = await answer.text();
  expect(text).toContain('Plan Calmer storms');
  expect(text).not.toContain('<script');
});

test('steps are put in order, dropped, and carried out', async () => {
  await page.goto(`${BASE()}/plans`);
  await page.getByRole('link', { name: 'Before the storms' }).click();
  const storms = page.getByRole('article', { name: 'Plan Before the storms' });
  await expect(storms.getByRole('listitem')).toHaveCount(3);
  await storms.getByRole('button', { name: 'Step 3 earlier' }).click();
  await expect(storms.getByRole('listitem').nth(1)).toContainText('tide-db');
  // Dragged by its handle to the end, and back by the arrows.
  await storms
    .getByRole('button', { name: 'Move step 1' })
    .dragTo(storms.getByRole('listitem').nth(2), { targetPosition: { x: 20, y: 60 } });
  await expect(storms.getByRole('listitem').nth(2)).toContainText('tide-cache');
  for (const number of [3, 2]) {
    await storms.getByRole('button', { name: `Move step ${number}` }).press('ArrowUp');
    await expect(storms.getByRole('listitem').nth(number - 2)).toContainText('tide-cache');
  }
  await page.getByRole('link', { name: 'Quieter nights' }).click();
  await expect(plan().getByRole('listitem')).toHaveCount(1);
  await plan().getByRole('button', { name: 'Carry out step 1' }).click();
  // The objection that was gone past when it was drawn is raised again.
  await expect(plan().getByRole('listitem')).toContainText('Refused');
  await plan().getByLabel('Reason to do it all the same').fill('memory is ordered');
  await plan().getByRole('button', { name: 'Do it all the same' }).click();
  await expect(plan().getByRole('listitem')).toContainText('carried out');
  await expect(page.getByText(/Quieter nights, step 1/).first()).toBeVisible();
});

test('a step that the record has overtaken says so in its place, the others go on', async () => {
  await page.getByRole('link', { name: 'Night watch' }).click();
  const watch = page.getByRole('article', { name: 'Plan Night watch' });
  await expect(watch.getByRole('listitem').first()).toContainText('Can no longer be done');
  await expect(watch.getByRole('listitem').nth(1)).toContainText(/Edited guest ledger/);
  await watch.getByRole('button', { name: 'Carry out step 1' }).click();
  await expect(watch.getByRole('alert').first()).toContainText('night watch');
});

test('a plan on another is approved, paused, and a step of it ticked by hand', async () => {
  await page.getByRole('link', { name: 'More memory in razorbill' }).click();
  const modules = page.getByRole('article', { name: 'Plan More memory in razorbill' });
  await expect(modules).toContainText('steps of it still to be done');
  await expect(modules).toContainText('2 steps not approved');
  await modules.getByRole('button', { name: 'Approve it as it is now' }).click();
  // The keeper of the demo drew it: going past that takes a reason.
  const reason = modules.getByLabel('Reason to do it all the same');
  await expect(reason.or(modules.getByText(/^Approved by/))).toBeVisible();
  if (await reason.isVisible()) {
    await reason.fill('nobody else is on the island');
    await modules.getByRole('button', { name: 'Do it all the same' }).click();
  }
  await expect(modules.getByText(/^Approved by/)).toBeVisible();
  await modules.getByRole('button', { name: /^Stands on/ }).click();
  await page.locator('select:focus').selectOption({ label: 'the record as it is' });
  await page.keyboard.press('Enter');
  // What its second step replaces is another value now: the approval of that step has lapsed.
  await expect(modules).toContainText('1 step not approved');
  await modules.getByRole('button', { name: 'Pause it' }).click();
  await modules.getByLabel('Why it is paused').fill('the ferry is late');
  await page.keyboard.press('Enter');
  await expect(modules).toContainText('the ferry is late');
  await expect(modules.getByRole('button', { name: /^Tick step 1/ })).toHaveCount(0);
  await modules.getByRole('button', { name: 'Go on with it' }).click();
  await modules.getByLabel('What was found at step 1').fill('slot 6 was dusty');
  await modules.getByRole('button', { name: 'Tick step 1 as done' }).click();
  await expect(modules.getByRole('listitem').first()).toContainText('found: slot 6 was dusty');
});

test('a plan is split: the last steps stand on the first', async () => {
  await page.getByRole('link', { name: 'Before the storms' }).click();
  const storms = page.getByRole('article', { name: 'Plan Before the storms' });
  await storms.getByRole('button', { name: 'Split from step 3 on' }).click();
  await storms.getByLabel('Name of the plan that is split off').fill('After the storms');
  await page.keyboard.press('Enter');
  const after = page.getByRole('article', { name: 'Plan After the storms' });
  await expect(after.getByRole('listitem')).toHaveCount(1);
  await expect(after.getByRole('button', { name: /^Stands on/ })).toContainText(
    'the plan Before the storms',
  );
});

test('the moves of a plan are given times, as a step of it', async () => {
  await page.goto(`${BASE()}/plans`);
  await page.getByRole('link', { name: 'Patch round, razorbill first' }).click();
  const round = page.getByRole('article', { name: 'Plan Patch round, razorbill first' });
  await expect(round.getByRole('listitem')).toHaveCount(5);
  await onSheet(page, 'Times for its moves');
  const times = page.getByRole('region', { name: 'Find times' });
  await times.getByLabel('Within').selectOption({ label: '31 days' });
  await times.getByRole('button', { name: 'Look for an order' }).click();
  await expect(times.getByRole('row', { name: /^watch-post razorbill fulmar/ })).toBeVisible();
  await times.getByRole('button', { name: /^Set these/ }).click();
  await expect(page.getByText(/Drew in Patch round, razorbill first/)).toBeVisible();
  await page.getByRole('link', { name: 'Steps of the plan' }).click();
  await expect(round.getByRole('listitem')).toHaveCount(6);
  await expect(round.getByRole('listitem').last()).toContainText(/times/);
});
