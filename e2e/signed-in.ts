/** A page of the demo on which the planner (or another) has signed in, and fields that are filled by searching. */
import { expect, type Browser, type Page, type TestInfo } from '@playwright/test';

/** The demo of this worker: no other alters it. */
export const BASE = () => process.env[`INSEL_E2E_DEMO_${process.env.TEST_PARALLEL_INDEX}`]!;
export const PASSWORD = 'a password for the tests';

/** Signs in without the form, which a journey of the own account fills. */
export async function signedIn(browser: Browser, name = 'planner'): Promise<Page> {
  const context = await browser.newContext();
  const data = { name, password: PASSWORD };
  const answer = await context.request.post(`${BASE()}/api/session`, { data });
  expect(answer.status()).toBe(201);
  const page = await context.newPage();
  await page.goto(BASE());
  await expect(page.getByRole('navigation', { name: 'Areas' })).toBeVisible();
  return page;
}

/** Types into a searched choice and takes the first record of that name. */
export async function choose(page: Page, label: string, text: string, name = text): Promise<void> {
  const field = page.getByRole('combobox', { name: label, exact: true });
  await field.click();
  await field.fill(text);
  await page.getByRole('option', { name }).first().click();
}

/** Does something with the record whose sheet is open: what one does there first is its button, the rest stands under one menu. */
export async function onSheet(page: Page, name: string): Promise<void> {
  const sheet = page.locator('article');
  const more = sheet.getByRole('button', { name: /^More/ });
  await expect(more).toBeVisible();
  const first = sheet.locator('.press').getByText(name, { exact: true });
  if ((await first.count()) > 0) return first.click();
  await more.click();
  await page.getByRole('menuitem', { name, exact: true }).click();
}

/** Undoes all that was done since a revision, newest first: other journeys find the demo as it was. */
export async function takeBackTo(page: Page, revision: number): Promise<void> {
  expect(await takenBack(page, revision)).toEqual([]);
}

/** Before a second try, which begins with the first journey of its file again: as far as it can be undone. */
export async function readyForRetry(page: Page, revision: number, info: TestInfo): Promise<void> {
  if (info.status !== info.expectedStatus) await takenBack(page, revision);
  await page.close();
}

/** What could not be undone. */
function takenBack(page: Page, revision: number): Promise<string[]> {
  return page.evaluate(async (since) => {
    const log = await (await fetch('/api/log?take=200')).json();
    const faults: string[] = [];
    // What a journey took back itself stands there twice: as it was done, and as it was undone.
    const undone: string[] = [];
    for (const row of log.rows.filter((one: { revision: number }) => one.revision > since)) {
      const place = undone.indexOf(row.title);
      if (place >= 0) {
        undone.splice(place, 1);
        continue;
      }
      if (row.title.startsWith('undid: ')) {
        undone.push(row.title.slice('undid: '.length));
        continue;
      }
      const answer = await fetch('/api/changes/undo', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ input: { revision: row.revision } }),
      });
      if (!answer.ok) faults.push(`${row.title}: ${await answer.text()}`);
    }
    return faults;
  }, revision);
}

export const revisionNow = (page: Page): Promise<number> =>
  page.evaluate(async () => (await (await fetch('/api/log?take=1')).json()).rows[0].revision);
