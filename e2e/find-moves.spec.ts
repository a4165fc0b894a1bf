/** Moves are looked for, shown with their proof, and drawn as a plan. */
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

const found = () => page.getByRole('article', { name: 'What was found' });
const findMoves = () => page.getByRole('button', { name: 'Find moves' }).click();

test('from a host: what leaves, what makes room, what cannot, and what is proved', async () => {
  await page.goto(`${BASE()}/hosts`);
  await page.getByRole('rowgroup').getByText('razorbill', { exact: true }).click();
  await onSheet(page, 'Empty it');
  await expect(page.getByRole('checkbox', { name: 'razorbill' })).toBeChecked();
  await findMoves();
  await expect(found()).toContainText('razorbill can be emptied by');
  await expect(found().getByRole('row', { name: /storm-page/ })).toContainText('leaves');
  await expect(found()).toContainText('One host may fail without a guest left down');
});

test('drawn as a plan, each move is a step of it', async () => {
  const moves = await found().getByRole('table').first().getByRole('row').count();
  await page.getByRole('button', { name: /^Draw \d+ moves as a plan$/ }).click();
  const plan = page.getByRole('article', { name: 'Plan empty razorbill' });
  await expect(plan.getByRole('listitem')).toHaveCount(moves - 1);
  await expect(plan).toContainText('Planned to migrate archive from razorbill');
});

test('a host that cannot be emptied is told with what is lacking', async () => {
  await page.goto(`${BASE()}/plans/moves`);
  await page.getByRole('checkbox', { name: 'tern' }).check();
  await findMoves();
  await expect(found()).toContainText(
    'Proved: no placement of all guests on the other hosts exists',
  );
  await expect(found().getByRole('region', { name: 'Not placed' })).toContainText('of memory more');
});

test('evening out says what each move gains; fewer hosts what binds', async () => {
  await page.getByRole('radio', { name: 'Even out' }).check();
  await findMoves();
  await expect(found()).toContainText(/bring the fullest host from/);
  await expect(found().getByRole('table').first()).toContainText('fullest host');
  await page.getByLabel('And so much travels, in GiB').fill('1');
  await findMoves();
  await expect(found()).toContainText('No move makes it more even');
  await page.getByLabel('And so much travels, in GiB').fill('');
  await page.getByLabel('By', { exact: true }).selectOption('what they use, hour by hour');
  await findMoves();
  await expect(found()).toContainText(/Measured: \d+ of the \d+ guests that count/);
  await expect(
    found().getByRole('columnheader', { name: 'Used, in its fullest hour' }),
  ).toBeVisible();
  await page.getByRole('radio', { name: 'Get by with fewer hosts' }).check();
  await findMoves();
  await expect(found()).toContainText(
    'Proved: no placement uses fewer than 3 (counted over every way guests can share a host)',
  );
});

test('without a host chosen it says so, and nothing is lost', async () => {
  await page.getByRole('radio', { name: 'Empty hosts' }).check();
  await page.getByRole('checkbox', { name: 'tern' }).uncheck();
  await findMoves();
  await expect(page.getByRole('alert')).toContainText('Choose the host that is to be emptied');
  await expect(found()).toBeVisible();
});

test('a round of work: host after host, what may fail meanwhile, and a plan for each stop', async () => {
  await page.goto(`${BASE()}/plans/moves`);
  await page.getByRole('radio', { name: 'Work at hosts in turn' }).check();
  await page.getByLabel('Hosts that back each other').selectOption({ label: 'harbour, 4' });
  await expect(page.getByRole('checkbox', { name: 'gannet' })).toBeChecked();
  await page.getByLabel('Minutes of work at each').fill('45');
  await findMoves();
  await expect(found()).toContainText(
    /^2 of 4 hosts can be worked at in turn; not fulmar, gannet: 14 moves, /,
  );
  const stop = found().getByRole('region', { name: '2. razorbill' });
  await expect(stop).toContainText('Meanwhile 0 of 2 of the others may fail');
  await expect(found().getByRole('region', { name: '3. fulmar' })).toContainText(
    'razorbill would take it with',
  );
  await page.getByRole('checkbox', { name: 'fulmar' }).uncheck();
  await page.getByRole('checkbox', { name: 'gannet' }).uncheck();
  await page.getByRole('checkbox', { name: 'Guests come back to their host' }).uncheck();
  await page
    .getByLabel('Each takes the release')
    .selectOption({ label: 'Generic bare-metal 2, lean' });
  await findMoves();
  await expect(found()).toContainText(/^2 hosts can be worked at in turn: 7 moves, .* about 4 h/);
  await expect(found()).toContainText('Releases stay mixed afterwards');
  await expect(stop).toContainText(/of 3 hosts have the new release while it is worked at/);
  await stop.getByText('7 moves in order').click();
  await stop.getByRole('button', { name: 'Draw 7 moves as a plan' }).click();
  await expect(page.getByRole('article', { name: 'Plan work at razorbill' })).toContainText(
    'Stop 2 of 2: razorbill is emptied, worked at for 45 minutes.',
  );
});

test('new guests: placed with the bound beside, who has no place and what it lacks, drawn as a plan', async () => {
  await page.goto(`${BASE()}/plans/place`);
  await page.getByLabel('Hosts that back each other').selectOption({ label: 'harbour, 4' });
  await page.getByLabel('Names').fill('');
  await page.getByRole('button', { name: 'Find places' }).click();
  await expect(page.getByText('Write names, such as net-{n}.')).toBeVisible();
  await page.getByLabel('Names').fill('spray-{nn}');
  await page.getByLabel('How many').fill('2');
  await page.getByLabel('Pool', { exact: true }).selectOption({ label: 'quay' });
  await page.getByLabel('Network', { exact: true }).selectOption({ label: 'harbour-guests' });
  await page.getByLabel('No two in one').selectOption({ label: 'host' });
  await page.getByLabel('Labels').fill('sea, wet');
  await page.getByLabel('Hosts that may fail now').uncheck();
  await page.getByRole('button', { name: 'Find places' }).click();
  await expect(found()).toContainText('2 guests go to 2 hosts; no empty host is taken into use.');
  await expect(found()).toContainText('Proved: no placing gets by with fewer than 3 hosts in use.');
  await found().getByText('Each by name').click();
  await expect(found()).toContainText(/spray-01 on \w+, in pool quay/);
  // A third has no host of its own; what is typed stays through a reload.
  await page.getByLabel('How many').fill('3');
  await page.reload();
  await expect(page.getByLabel('How many')).toHaveValue('3');
  await expect(page.getByLabel('Labels')).toHaveValue('sea, wet');
  await page.getByRole('button', { name: 'Find places' }).click();
  await expect(found()).toContainText('2 of 3 guests have a place; 1 has none.');
  await expect(found()).toContainText('1 without a place: rules keep it from');
  await found().getByRole('button', { name: 'Draw 2 guests as a plan' }).click();
  const plan = page.getByRole('article', { name: 'Plan place spray-{nn}' });
  await expect(plan.getByRole('listitem')).toHaveCount(3);
  await expect(plan).toContainText('spray-02');
});

test('in a plan: two guests have to change places, and one of them stops over', async () => {
  await page.goto(`${BASE()}/plans`);
  await page.getByText('Boat house', { exact: true }).first().click();
  await expect(page.getByRole('article', { name: 'Plan Boat house' })).toContainText('swell');
  await page.getByRole('link', { name: 'Draw in this plan' }).click();
  await page.waitForURL(/plan=/);
  await page.goto(`${BASE()}/plans/moves${new URL(page.url()).search}`);
  await page.getByLabel('Hosts that back each other').selectOption({ label: 'boat house, 4' });
  await page.getByRole('checkbox', { name: 'ruff' }).check();
  await findMoves();
  await expect(found()).toContainText('ruff can be emptied by 5 moves');
  const moves = found().getByRole('table').first();
  await expect(moves.getByRole('row', { name: /sound-map/ })).toHaveCount(2);
  await expect(moves.getByRole('row', { name: /sound-map/ }).first()).toContainText('stops over');
  await expect(moves.getByRole('row', { name: /surf/ })).toContainText('makes room');
});
