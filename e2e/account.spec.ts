/** One's own account on the demo: a token made and revoked, a password that is changed and changed back, what was done. */
import { expect, test } from '@playwright/test';
import { faultsOf } from './axe.js';
import { beyondTheEdge } from './screens.js';
import { BASE, PASSWORD, signedIn } from './signed-in.js';

const NEW = 'another password for the tests';

test('a token is shown once and revoked, a password is changed with the old one', async ({
  browser,
}) => {
  const page = await signedIn(browser);
  await page.getByRole('button', { name: 'planner' }).click();
  await page.getByRole('menuitem', { name: 'Password and tokens' }).click();
  const tokens = page.getByRole('region', { name: 'Tokens for scripts' });
  await tokens.getByLabel('A new one, for').fill('harbour export');
  await tokens.getByRole('button', { name: 'Make it' }).click();
  await expect(tokens.getByText(/^[\w-]{43}$/)).toBeVisible();
  await tokens.getByRole('button', { name: 'Revoke the token harbour export' }).click();
  await expect(tokens.getByText(/^You have none/)).toBeVisible();

  const password = page.getByRole('region', { name: 'Password' });
  const change = async (old: string, wanted: string) => {
    await password.getByLabel('The one you have').fill(old);
    await password.getByLabel('The new one, at least 12 characters').fill(wanted);
    await password.getByRole('button', { name: 'Change it' }).click();
  };
  await change('wrong', NEW);
  await expect(password.getByText('This is not your password.').first()).toBeVisible();
  await change(PASSWORD, 'short');
  await expect(password.getByText('A password has 12 to 200 characters.')).toBeVisible();
  await change(PASSWORD, NEW);
  await expect(password.getByRole('status')).toContainText('The password is changed');
  await change(NEW, PASSWORD);
  await expect(password.getByLabel('The one you have')).toHaveValue('');
  await page.close();
});

test('night is chosen, stays when the page is read anew, and is given back', async ({
  browser,
}) => {
  const page = await signedIn(browser);
  const choose = async () => {
    await page.getByRole('button', { name: 'planner' }).click();
    await page.getByRole('menuitem', { name: 'Day or night' }).click();
  };
  const html = page.locator('html');
  await expect(html).toHaveAttribute('data-light', 'day');
  await choose();
  await expect(html).toHaveAttribute('data-light', 'night');
  await page.reload();
  await expect(html).toHaveAttribute('data-light', 'night');
  await choose();
  await page.reload();
  await expect(html).toHaveAttribute('data-light', 'day');
  await page.close();
});

test('an administrator sees all tokens and what was done to accounts', async ({ browser }) => {
  const page = await (await browser.newContext()).newPage();
  await page.goto(BASE());
  await page.getByLabel('Name').fill('administrator');
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.getByRole('navigation', { name: 'Areas' }).waitFor();
  await page.goto(`${BASE()}/people`);
  const done = page.getByRole('region', { name: 'What was done to accounts' });
  await expect(done.getByText('revoked the token harbour export')).toBeVisible();
  await expect(page.getByText('Nobody has one.')).toBeVisible();
  await page.getByRole('button', { name: 'administrator' }).click();
  await page.getByRole('menuitem', { name: 'The server' }).click();
  await expect(page.getByRole('region', { name: 'Memory' })).toContainText(
    /that of its worker [\d,]+ MiB, each of at most [\d,]+ MiB/,
  );
  await expect(page.getByRole('region', { name: 'What the worker keeps' })).toContainText(
    'guest: findings',
  );
  const kept = page.getByRole('region', { name: 'What is kept' });
  await expect(kept.getByRole('row')).not.toHaveCount(1);
  // Low enough to be scrolled, whatever was counted by then.
  await page.setViewportSize({ width: 1280, height: 400 });
  for (const path of ['people', 'server']) {
    await page.goto(`${BASE()}/${path}`);
    await expect(page.getByRole('table').first()).toBeVisible();
    await expect.poll(() => beyondTheEdge(page)).toEqual([]);
    expect(await faultsOf(page)).toEqual([]);
  }
  await page.close();
});
