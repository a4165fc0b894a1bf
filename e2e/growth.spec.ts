/** When places run out by the record's history, and what buying something would change. */
import { expect, test } from '@playwright/test';
import { BASE, signedIn } from './signed-in.js';

test('places stand with what is taken and when it runs out; what is bought moves the day', async ({
  browser,
}) => {
  const page = await signedIn(browser);
  await page.goto(`${BASE()}/plans`);
  await page.getByRole('link', { name: 'When it runs out' }).click();
  await page.getByLabel('Of which resource').selectOption('processors');
  const harbour = page.getByRole('button', { name: 'harbour', exact: true });
  // Of everything it stands there more than once.
  await expect(harbour).toHaveCount(1);
  await harbour.click();
  const place = page.getByRole('article', { name: 'processors of harbour' });
  await expect(place).toContainText(/\d+ vCPU taken of \d+ vCPU that may be/);
  const first = page.getByRole('region', { name: 'Candidate 1' });
  await expect(first).toContainText('Say what it gives');
  await first.getByLabel('Room of candidate 1').fill('128');
  await first.getByLabel('Rack units of candidate 1').fill('2');
  await expect(first).toContainText('64 vCPU for each rack unit');
  await expect(first).toContainText('Runs out then');
  await page.reload();
  // What was typed is still there.
  await expect(page.getByLabel('Room of candidate 1')).toHaveValue('128');

  // What was measured in pools has a day of its own, and disks move it.
  await page.goto(`${BASE()}/plans/growth`);
  await page.getByLabel('Of which resource').selectOption('storage in use');
  const rows = page.locator('tbody tr');
  await expect(rows.filter({ hasText: 'storage in use' })).not.toHaveCount(0);
  await expect(rows.filter({ hasNotText: 'storage in use' })).toHaveCount(0);
  await rows.first().getByRole('button').click();
  const pool = page.getByRole('article', { name: /^storage in use of / });
  await expect(pool).toContainText('nine times in ten');
  await page.getByLabel('Room of candidate 1').fill('20000');
  await expect(page.getByRole('region', { name: 'Candidate 1' })).toContainText('days later by its trend'); // prettier-ignore

  // Of groups, what was measured inside their guests.
  await page.goto(`${BASE()}/plans/growth`);
  await page.getByLabel('Of which resource').selectOption('memory in use');
  await page.getByRole('button', { name: 'harbour', exact: true }).click();
  await expect(page.getByRole('article', { name: 'memory in use of harbour' })).toContainText(
    /Measured inside \d+ of \d+ guests in service/,
  );
  await page.close();
});
