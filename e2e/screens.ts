/** Every screen there is, for journeys that look at all of them. */
import type { Page } from '@playwright/test';
import { BASE } from './signed-in.js';

/** The screens, with `:host` and `:guest` for the sheet of one of each. */
export const SCREENS = [
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
  'plans/place',
  'plans/growth',
  'guests/start-order',
  'guests/shut-down',
  'findings',
  'account',
  'log',
  'nothing/here',
];

/** Records whose sheets are shown. */
export interface ShownIds {
  host: string;
  guest: string;
  move: string;
  plan: string;
}

export const pathOf = (screen: string, ids: ShownIds): string =>
  screen.replace(/:(host|guest|move|plan)\b/, (_, kind: keyof ShownIds) => ids[kind]);

export async function shownIds(page: Page): Promise<ShownIds> {
  const ids: ShownIds = { host: '', guest: '', move: '', plan: '' };
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
  return ids;
}

/** Elements beyond the right edge that no box of their own lets one reach by scrolling. */
export const beyondTheEdge = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const scrolls = (element: Element | null): boolean =>
      element !== null &&
      element !== document.body &&
      (['auto', 'scroll'].includes(getComputedStyle(element).overflowX)
        ? element.scrollWidth > element.clientWidth &&
          element.getBoundingClientRect().right <= innerWidth + 2
        : scrolls(element.parentElement));
    return [...document.querySelectorAll('header *, main *, footer *')]
      .filter((element) => {
        const { width, right } = element.getBoundingClientRect();
        return width > 0 && right > innerWidth + 2 && !scrolls(element.parentElement);
      })
      .map((element) => `${element.tagName} ${element.textContent?.slice(0, 40)}`);
  });

/** Rows that are wider than their list: what stands last in them is out of sight. */
export const tooWideRows = (page: Page): Promise<string[]> =>
  page.evaluate(() =>
    [...document.querySelectorAll('[data-list] [role=row]')]
      .filter(({ scrollWidth, clientWidth }) => scrollWidth > clientWidth + 1)
      .map((row) => `${row.textContent} (${row.clientWidth} of ${row.scrollWidth})`),
  );

/** Words that are cut off, of which nothing says the whole. */
export const cutOff = (page: Page): Promise<string[]> =>
  page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('header *, main *, footer *')]
      .filter((element) => {
        const { overflowX, textOverflow } = getComputedStyle(element);
        if (overflowX === 'visible' && textOverflow === 'clip') return false;
        const words = element.children.length === 0 || textOverflow === 'ellipsis';
        return (
          words &&
          overflowX !== 'auto' &&
          overflowX !== 'scroll' &&
          element.clientWidth > 1 &&
          element.scrollWidth > element.clientWidth + 1 &&
          !element.matches('input, select, textarea, .sr-only, .sr-only *') &&
          element.textContent !== ''
        );
      })
      .map(
        (element) =>
          `${element.textContent?.slice(0, 60)} (${element.clientWidth} of ${element.scrollWidth})`,
      ),
  );
