/** A reason that stands for all that is done, whichever way it is done. */
import { expect, test } from '@playwright/test';
import { BASE, revisionNow, signedIn, takeBackTo } from './signed-in.js';

test('a reason said once goes into the log with all that is done, until it is dropped', async ({
  browser,
}) => {
  const page = await signedIn(browser);
  const before = await revisionNow(page);
  const why = page.getByLabel('Why, for all I do from here on');
  await page.goto(`${BASE()}/guests?q=desk-2`);
  await page.getByRole('rowgroup').getByText('desk-2', { exact: true }).click();
  const sheet = page.getByRole('article', { name: 'Guest desk-2' });
  await expect(sheet).toBeVisible();
  await page.keyboard.press('y');
  await expect(why).toBeFocused();
  await page.keyboard.type('the slipway floods on Friday');
  await page.keyboard.press('Enter');
  await page.reload();
  await expect(why).toHaveValue('the slipway floods on Friday');
  const purpose = async (text: string) => {
    await sheet.getByRole('button', { name: /^Purpose/ }).click();
    await page.getByLabel('Purpose', { exact: true }).fill(text);
    await page.keyboard.press('Enter');
    await expect(sheet.getByRole('button', { name: `Purpose: ${text}, edit` })).toBeVisible();
  };
  await purpose('desk in the boat shed');
  // What is taken back is done as well.
  await page.keyboard.press('u');
  await expect(sheet.getByRole('button', { name: /boat shed/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Drop it' }).click();
  await expect(why).toHaveCount(0);
  await purpose('desk in the hall');

  await page.goto(`${BASE()}/log`);
  await expect(page.getByText('the slipway floods on Friday')).toHaveCount(2);
  await takeBackTo(page, before);
});

test('who may alter nothing is asked no reason', async ({ browser }) => {
  const page = await signedIn(browser, 'reader');
  await page.keyboard.press('y');
  await expect(page.getByLabel('Why, for all I do from here on')).toHaveCount(0);
});
