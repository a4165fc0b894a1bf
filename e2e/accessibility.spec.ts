/**
 * Every screen against WCAG 2.2 AA as far as a machine can tell, by day and by night: one test a screen, each with
 * its own time, so that a slow machine or one fault does not take the others with it.
 */
import { AxeBuilder } from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { BASE, signedIn } from './signed-in.js';

/** The screens, with `:host` and `:guest` for the sheet of one of each. */
const SCREENS = [
  'chart',
  'chart?fails=host::host',
  'hosts',
  'hosts/new',
  'hosts/:host',
  'hosts/:host/hardware',
  'hosts/:host/build-sheet',
  'hosts/:host/alike',
  'hosts/facts',
  'hosts/table',
  'hosts/arrays',
  'hosts/places',
  'networks',
  'networks/new',
  'networks/patch',
  'networks/reach',
  'networks/matrix?state=stopped',
  'networks/plan',
  'networks/switches',
  'networks/devices',
  'networks/names',
  'networks/list',
  'guests',
  'guests/new',
  'guests/size',
  'guests/media',
  'guests/pools',
  'guests/roles',
  'guests/samples',
  'guests/table',
  'guests/:guest',
  'guests?plan=:plan',
  'guests?asOf=100',
  'guests/:guest/build',
  'guests/:guest/end',
  'guests/:guest/use',
  'clones',
  'clones/new?of=:guest',
  'clones/templates',
  'clones/lineage',
  'clones/licences',
  'clones/batch?ids=:guest',
  'migrations',
  'migrations/new?guest=:guest',
  'migrations/new-physical',
  'migrations/new-physical?onto',
  'migrations/computers',
  'migrations/platform',
  'migrations/actual',
  'migrations/timetable',
  'migrations/:move',
  'plans',
  'plans/:plan',
  'plans/moves',
  'plans/growth',
  'guests/start-order',
  'findings',
  'account',
  'log',
];

let page: Page;
const ids = { host: '', guest: '', move: '', plan: '' };

test.beforeAll(async ({ browser }) => {
  page = await signedIn(browser);
  for (const [kind, path, name] of [
    ['host', 'hosts', 'gannet'],
    ['guest', 'guests', 'storm-page'],
    ['move', 'migrations', 'bird-song'],
  ] as const) {
    await page.goto(`${BASE()}/${path}?q=${name}`);
    await page.getByRole('rowgroup').getByText(name, { exact: true }).first().click();
    await page.waitForURL(new RegExp(`/${path}/[0-9a-f-]+`));
    ids[kind] = new URL(page.url()).pathname.split('/').pop()!;
  }
  await page.goto(`${BASE()}/plans`);
  await page.getByRole('link', { name: 'Before the storms' }).click();
  await page.waitForURL(/plans\/[0-9a-f-]+/);
  ids.plan = new URL(page.url()).pathname.split('/').pop()!;
});
test.afterAll(() => page.close());

for (const screen of SCREENS)
  test(`${screen} meets WCAG 2.2 AA by day and by night`, async () => {
    const path = screen
      .replace(':host', ids.host)
      .replace(':guest', ids.guest)
      .replace(':move', ids.move)
      .replace(':plan', ids.plan);
    for (const light of ['day', 'night']) {
      await page.evaluate((wanted) => localStorage.setItem('light', wanted), light);
      await page.goto(`${BASE()}/${path}`);
      await expect(page.locator('html')).toHaveAttribute('data-light', light);
      await expect(page.getByRole('main')).toHaveText(/\w/);
      await page.waitForTimeout(400);
      const { violations } = await new AxeBuilder({ page })
        .setLegacyMode() // No frames here: a second page for the verdict would cost a second each time.
        .withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'])
        .analyze();
      expect(violations.map(({ id, nodes }) => `${light}: ${id} ${nodes[0]?.html}`)).toEqual([]);
    }
  });
