/** Guests on the demo: sized, planned, built, measured, retired; media, pools, roles, tables. */
import { expect, test, type Page } from '@playwright/test';
import { createHash } from 'node:crypto';
import { BASE, readyForRetry, revisionNow, signedIn, takeBackTo, onSheet } from './signed-in.js';

test.describe.configure({ mode: 'serial' });
let page: Page;
let begun: number;
test.beforeAll(async ({ browser }) => {
  page = await signedIn(browser);
  begun = await revisionNow(page);
});
test.afterAll(({ browser: _ }, info) => readyForRetry(page, begun, info));

const region = (name: string) => page.getByRole('region', { name, exact: true });
const sheetOf = async (name: string) => {
  await page.goto(`${BASE()}/guests?q=${name}`);
  await page.getByRole('rowgroup').getByText(name, { exact: true }).click();
  await expect(page.getByRole('article', { name: `Guest ${name}` })).toBeVisible();
};
/** Edits a value where it stands. */
const edit = async (name: string | RegExp, text: string) => {
  await page.getByRole('button', { name }).first().click();
  await expect(page.locator('input:focus')).toBeVisible();
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.type(text);
  await page.keyboard.press('Enter');
};
const choice = async (name: string | RegExp, label: string) => {
  await page.getByRole('button', { name }).first().click();
  await page.locator('select:focus').selectOption({ label });
  await page.keyboard.press('Enter');
};

test('a role and a load become a size with workings, and hosts ranked with reasons', async () => {
  await page.goto(`${BASE()}/guests/size`);
  await page.getByLabel('Role', { exact: true }).selectOption({ label: 'database' });
  await page.getByLabel('Load, GB kept').fill('300');
  await page.getByLabel('Grows by % a year').fill('15');
  await page.getByLabel('For so many years').fill('3');
  // By hand: 300 × 1.15³ = 456.3, 377 above the 80 that the usual size serves: 4 + 3.77 × 0.5 vCPU, 8 + 3.77 × 4 GiB.
  await expect(
    page.getByText(
      'A database for 300 GB kept, which will be 457 in 3 years at 15 % a year gets 6 vCPU, 24 GiB of memory, 40 GiB for itself and 576 GiB for what it keeps.',
    ),
  ).toBeVisible();
  await region('Size')
    .getByRole('button', { name: /^Suggested memory/ })
    .click();
  await expect(page.getByText('377 GB kept above that, for each 100 of them 4 GiB')).toBeVisible();
  await page.keyboard.press('Escape');
  await page
    .getByLabel('Network', { exact: true })
    .selectOption({ label: 'harbour-guests, VLAN 212' });
  const hosts = page.getByRole('radiogroup', { name: 'Host for the guest' });
  await expect(hosts.getByRole('radio', { name: 'Put it on gannet' })).toBeChecked();
  await expect(hosts).toContainText('whatever could fail before still can');
  await expect(hosts).toContainText('it does not carry harbour-guests');
  await hosts.getByRole('button', { name: 'Reasons of fulmar' }).click();
  await expect(hosts.getByText('hosts of its group would differ by')).toBeVisible();
  await expect(
    region('Devices').getByText(
      'The highest level that all 3 hosts it may go to have, limited by razorbill.',
    ),
  ).toBeVisible();
});

test('a size of one’s own is judged, a number that cannot be read is told', async () => {
  await page.getByLabel('vCPU instead').fill('20');
  await expect(region('Size').getByText(/vCPU are more than the 16 cores/)).toBeVisible();
  await page.getByLabel('Memory instead').fill('much');
  await expect(region('Size').locator('.text-signal')).toBeVisible();
  await page.getByLabel('Memory instead').fill('');
  await page.getByLabel('vCPU instead').fill('');
});

test('it is planned in one go, and its build sheet follows', async () => {
  await page.getByLabel('Name', { exact: true }).fill('tide-history');
  await page.getByLabel('Installed from').selectOption({ label: 'linux-server-12.img' });
  await expect(
    page.getByRole('complementary', { name: 'Consequences' }).getByText('This fits'),
  ).toBeVisible();
  await expect(page.getByText(/Then it is built in \d+ steps, by full medium/)).toBeVisible();
  await page.getByRole('button', { name: 'Plan the guest' }).click();
  await expect(page.getByRole('heading', { name: 'Build sheet of tide-history' })).toBeVisible();
  await expect(region('Make the guest').getByText('level x86-64-v3')).toBeVisible();
  await expect(
    region('Type at the installer').getByText('tide-history.nordholm.example'),
  ).toBeVisible();
  await expect(
    region('Before it restarts').getByText('Left in, the installer starts again'),
  ).toBeVisible();
});

test('steps are ticked with their time; a failed check is kept and mended', async () => {
  await page.getByRole('checkbox', { name: 'Its size: done' }).check();
  await expect(page.getByText('1 of ', { exact: false }).first()).toBeVisible();
  await expect(
    region('Make the guest').getByText('done 2026-11-20 09:00 UTC, planner'),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Its gateway answers: failed' }).click();
  await page.getByLabel('What it said').fill('no route');
  await page.getByRole('button', { name: 'Keep' }).click();
  await expect(
    region('First checks').getByText('failed 2026-11-20 09:00 UTC, planner: no route'),
  ).toBeVisible();
  await page.reload();
  await page.getByRole('button', { name: 'It works now' }).click();
  await expect(region('First checks').getByText(/done .*on the second try/)).toBeVisible();
  await page.getByRole('checkbox', { name: 'Its size: done' }).uncheck();
  await expect(
    region('Make the guest').getByText('done 2026-11-20 09:00 UTC, planner'),
  ).toHaveCount(0);
});

test('the build sheet of a guest prints on A4 and Letter without the frame', async () => {
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('navigation', { name: 'Areas' })).toBeHidden();
  await expect(page.getByRole('heading', { name: 'What was different' })).toBeVisible();
  for (const format of ['A4', 'Letter']) {
    const pages = (await page.pdf({ format }))
      .toString('latin1')
      .match(/\/Type\s*\/Page\b/g)!.length;
    expect([format, pages >= 2 && pages <= 4]).toEqual([format, true]);
  }
  await page.emulateMedia({ media: 'screen' });
});

test('a plan that is dropped gives its room, address and medium back', async () => {
  await sheetOf('tide-history');
  await page.locator('article').getByRole('button', { name: /^More/ }).click();
  await expect(page.getByText(/frees 24\.\d GiB and 6 vCPU of gannet/)).toBeVisible();
  await page.keyboard.press('Escape');
  await onSheet(page, 'Retire');
  await expect(
    region('Cleared away with it').getByText('linux-server-12.img is attached to it'),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Retire tide-history' }).click();
  await expect(page.getByText('Nothing in its drives.')).toBeVisible();
});

test('an image is read in the browser, put on the shelf, and known when it comes again', async () => {
  await page.goto(`${BASE()}/guests/media`);
  const bytes = Buffer.alloc(3_000_000, 'sea');
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  const file = { name: 'lamp-rescue.img', mimeType: 'application/octet-stream', buffer: bytes };
  await page.getByLabel('An image to read').setInputFiles(file);
  await expect(page.getByText(sha256)).toBeVisible();
  await page.getByRole('button', { name: 'Put it on the shelf' }).click();
  await expect(page.getByRole('row', { name: /lamp-rescue\.img/ })).toBeVisible();
  await page.getByLabel('An image to read').setInputFiles({ ...file, name: 'another name.img' });
  await expect(page.getByText('The same image is on the shelf as lamp-rescue.img.')).toBeVisible();
  await page.getByRole('button', { name: 'Done' }).click();
  await page.getByLabel('An image to read').setInputFiles({ ...file, buffer: Buffer.from('torn') });
  await expect(page.getByText('lamp-rescue.img is on the shelf with another digest')).toBeVisible();
  await page.getByRole('button', { name: 'Drop it' }).click();
});

test('duplicates, old releases and who has an image attached are told on the shelf', async () => {
  await page.getByRole('button', { name: 'linux-server-11.img' }).click();
  const medium = page.getByRole('article', { name: 'Medium linux-server-11.img' });
  await expect(medium.getByText('storm-page will be installed from the old one.')).toBeVisible();
  await page.getByRole('button', { name: 'nt-server copy.img' }).click();
  await expect(
    page
      .getByRole('article', { name: 'Medium nt-server copy.img' })
      .getByText('have the same SHA-256'),
  ).toBeVisible();
  await page.getByRole('button', { name: 'lamp-rescue.img' }).click();
  await page.getByRole('button', { name: 'Take it off the shelf' }).click();
  await expect(page.getByRole('row', { name: /lamp-rescue\.img/ })).toHaveCount(0);
});

test('adapters are put in another order, and say switch, VLAN and name inside', async () => {
  await sheetOf('pen-gate');
  const adapters = region('Adapters');
  await expect(adapters.getByText('outside', { exact: true })).toBeVisible();
  await expect(adapters.getByText(/VLAN 290/)).toBeVisible();
  await expect(adapters.getByRole('link', { name: /^(pen|annex-guests)$/ }).first()).toHaveText(
    'pen',
  );
  await adapters.getByRole('button', { name: 'Adapter 2 one place earlier' }).click();
  await expect(adapters.getByRole('link', { name: /^(pen|annex-guests)$/ }).first()).toHaveText(
    'annex-guests',
  );
  await expect(adapters.getByText('enp1s0 (expected)')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(adapters.getByRole('link', { name: /^(pen|annex-guests)$/ }).first()).toHaveText(
    'pen',
  );
});

test('a medium left in is told at its guest and ejected there', async () => {
  await sheetOf('print-room');
  await expect(
    page.getByText(
      'linux-server-12.img is still attached to print-room, and the medium is first in its boot order.',
    ),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Eject linux-server-12.img' }).click();
  await expect(page.getByText('Nothing in its drives.')).toBeVisible();
  await choice(/^Looks first at: the medium/, 'the disk');
  await expect(page.getByRole('button', { name: /^Looks first at: the disk/ })).toBeVisible();
  await expect(page.getByText('the medium is first in its boot order')).toHaveCount(0);
});

test('volumes grow with a reminder, more are added, deletion asks for the name', async () => {
  const volumes = region('Volumes');
  await edit(/^Size of system/, '48 GiB');
  await expect(volumes.getByText('extend the partition, then the file system on it')).toBeVisible();
  await volumes.getByRole('button', { name: 'Add a volume' }).click();
  await volumes.getByLabel('Name of the new volume').fill('spool');
  await volumes.getByLabel('Size of the new volume').fill('20 GiB');
  await volumes.getByRole('button', { name: 'Keep' }).click();
  await volumes.getByRole('button', { name: 'spool was deleted' }).click();
  await expect(volumes.getByRole('button', { name: 'Its data is gone' })).toBeDisabled();
  await volumes.getByLabel('Name of the deleted volume').fill('spool');
  await volumes.getByRole('button', { name: 'Its data is gone' }).click();
  await expect(volumes.getByText('spool')).toHaveCount(0);
});

test('owner, window and end are kept; a window that cannot be read is told in place', async () => {
  const role = region('Role and owner');
  await edit(/^Owner/, 'office clerk');
  await expect(role.getByText('office clerk')).toBeVisible();
  await edit(/^May be down/, 'some time');
  await expect(role.getByText('"some time" is not a window')).toBeVisible();
  await page.keyboard.press('Escape');
  await edit(/^May be down/, 'Sat, Sun 22:00-04:00');
  await expect(role.getByText('Sat, Sun 22:00-04:00')).toBeVisible();
  await edit(/^Wanted until/, '2026-11-30');
  await expect(page.getByText('print-room is wanted until 2026-11-30, in 10 days.')).toBeVisible();
  await edit(/^Wanted until/, '2031-01-01');
  await expect(page.getByText('print-room is wanted until')).toHaveCount(0);
});

test('an edit that is saved while the next one is pressed neither moves it away nor takes the focus back', async () => {
  const changes = '**/api/changes/guest.edit';
  let answer = () => {};
  await page.route(changes, async (route) => {
    await new Promise<void>((resolve) => (answer = resolve));
    await route.continue();
  });
  const saved = page.waitForResponse(changes);
  await edit(/^Owner/, 'harbour office');
  const next = page.getByRole('button', { name: /^May be down/ });
  const before = (await next.boundingBox())!;
  await page.mouse.move(before.x + before.width / 2, before.y + before.height - 2);
  await page.mouse.down();
  answer();
  await saved;
  // Longer than React takes to show an answer, shorter than a press may last.
  await page.waitForTimeout(300);
  expect(await next.boundingBox()).toEqual(before);
  await page.mouse.up();
  await expect(page.getByRole('textbox', { name: 'May be down' })).toBeFocused();
  await expect(page.getByRole('button', { name: /^Owner: harbour office/ })).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'May be down' })).toBeFocused();
  await page.keyboard.press('Escape');
  await page.unroute(changes);
});

test('a volume is moved with the room of each pool in sight, and the list is narrowed by role', async () => {
  await sheetOf('chart-render');
  const volumes = region('Volumes');
  await volumes.getByRole('button', { name: 'Move system' }).click();
  await expect(
    volumes.getByText(/TiB left afterwards; others reach it when the host fails/),
  ).toBeVisible();
  await expect(
    volumes.getByText('Not every platform moves the disk of a running guest'),
  ).toBeVisible();
  await volumes.getByRole('button', { name: 'It lies in quay now' }).click();
  await expect(volumes.getByRole('link', { name: 'quay' })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(volumes.getByRole('link', { name: 'fulmar-data' })).toBeVisible();
  await page.goto(`${BASE()}/guests`);
  await page.getByLabel('Narrow by role').selectOption({ label: 'router' });
  await expect(page.getByText('2 in the list')).toBeVisible();
});

test('a snapshot is recorded and told when it grows old', async () => {
  await sheetOf('office-files');
  await expect(
    page.getByText(/Snapshot before the move of the office of office-files is 43 days old/),
  ).toBeVisible();
  const snapshots = region('Snapshots');
  await snapshots.getByRole('button', { name: 'Record a snapshot taken now' }).click();
  await snapshots.getByLabel('Name of the snapshot').fill('before the printer driver');
  await snapshots.getByRole('button', { name: 'Keep' }).click();
  await expect(snapshots.getByText('before the printer driver', { exact: true })).toBeVisible();
  await snapshots
    .getByRole('button', { name: 'before the move of the office was deleted' })
    .click();
  await expect(page.getByText(/is 43 days old/)).toHaveCount(0);
});

test('measured use: faulty lines are told and nothing is kept, a sound file leads to advice', async () => {
  await page.goto(`${BASE()}/guests/samples`);
  const file = (text: string) => ({
    name: 'watch-week.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(text),
  });
  await page
    .getByLabel('A CSV of samples')
    .setInputFiles(
      file('time,guest,cpu %\n2026-11-19 08:00,watch-post,7\n2026-11-19 08:05,watch-pots,7\n'),
    );
  await expect(page.getByText('1 line is faulty: nothing was kept.')).toBeVisible();
  await expect(page.getByText('There is no guest watch-pots in the record.')).toBeVisible();
  const lines = Array.from(
    { length: 4500 },
    (_, i) =>
      `${new Date(Date.parse('2026-11-01T00:00:00Z') + i * 300_000).toISOString()},watch-post,${10 + (i % 7)},${2000 + (i % 90)}`,
  );
  await page
    .getByLabel('A CSV of samples')
    .setInputFiles(file(`time,guest,cpu %,memory MiB\n${lines.join('\n')}\n`));
  await expect(page.getByText('4,500 lines read, 4,500 of them new.')).toBeVisible();
  await sheetOf('watch-post');
  await onSheet(page, 'Measured use');
  // By hand: P95 of 10 … 16 % is 16 % of 4 vCPU = 0.64; with 25 % headroom 0.8, in whole ones 1.
  await expect(region('Advice on processors')).toContainText('by what it uses 1 vCPU');
  await expect(
    region('Advice on memory').getByRole('button', { name: 'Give it 3 GiB' }),
  ).toBeVisible();
  await expect(page.locator('.recharts-surface').first()).toBeVisible();
  await page.goto(`${BASE()}/guests/samples`);
  await page.getByRole('button', { name: 'Take watch-week.csv out again' }).click();
  await expect(page.getByText('watch-week.csv')).toHaveCount(0);
  await expect(region('How long samples are kept')).toContainText(
    'As they were taken for 400 days, then summed up by the hour',
  );
});

test('pools tell their ratio and how long until full', async () => {
  await page.goto(`${BASE()}/guests/pools`);
  await page.getByRole('button', { name: 'eider-data', exact: true }).click();
  const pool = page.getByRole('article', { name: 'Pool eider-data' });
  await expect(
    pool.getByText(/nine times in ten \d{4}-\d\d-\d\d to (\d{4}-\d\d-\d\d|never)/),
  ).toBeVisible();
  await expect(pool.getByText('passed already')).toBeVisible();
  await pool.getByRole('button', { name: /^Until usable, pool eider-data/ }).click();
  await expect(page.getByText(/the median of 990 slopes between samples of 44 days/)).toBeVisible();
  await page.keyboard.press('Escape');
  await page
    .getByRole('button', { name: /^Promise ratio, pool eider-data/ })
    .first()
    .click();
  await expect(page.getByText('Promised to volumes, holds and snapshots').first()).toBeVisible();
  await page.keyboard.press('Escape');
});

test('a pool is recorded where pools are looked at, and what is typed in the search field leads to it', async () => {
  const before = await revisionNow(page);
  await page.getByPlaceholder('Find or do').fill('storage');
  await page.getByRole('option', { name: 'Pools: promised, used, until full' }).click();
  await page.getByRole('button', { name: 'Record a pool' }).click();
  await page.getByLabel('Name of the pool').fill('sluice');
  await page.getByLabel('Usable size').fill('4');
  await expect(page.getByText('Add the unit: GB (decimal) or GiB (binary).')).toBeVisible();
  await page.getByLabel('Usable size').fill('4 TB');
  await page.getByRole('checkbox', { name: 'tern', exact: true }).check();
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'sluice' })).toBeVisible();
  await expect(page.getByRole('row', { name: /^sluice tern/ })).toBeVisible();
  await takeBackTo(page, before);
});

test('roles are altered, and a group tells how it is spread', async () => {
  await page.goto(`${BASE()}/guests/roles`);
  await page.getByRole('button', { name: 'web server', exact: true }).click();
  await edit(/^vCPU usually/, '3');
  await expect(page.getByRole('row', { name: /^web server/ })).toContainText('3');
  await expect(
    region('Groups').getByText('4 of 4 in visitor desks are on host kestrel'),
  ).toBeVisible();
  await page.getByLabel('Name of a new group').fill('lamp keepers');
  await page.getByRole('button', { name: 'Record a group' }).click();
  await expect(region('Groups').getByText('lamp keepers')).toBeVisible();
});

test('numbers that can be read both ways are asked once for their column, never taken silently', async () => {
  await page.goto(`${BASE()}/guests/table`);
  const rows = page.getByLabel('Rows copied from a spreadsheet, or CSV, with a line of headings');
  await rows.fill(
    'Rechner\tWirt\tKerne\tArbeitsspeicher\tFestplatte\nfog-log\tkestrel\t2\t2,5 GiB\t1.000 GB',
  );
  await expect(page.getByText('as 1.234,5', { exact: true })).toBeVisible();
  await expect(
    page.getByText('1.000 GB: say at its head how column disk writes numbers'),
  ).toBeVisible();
  const disk = page.getByLabel('How column disk writes numbers');
  await disk.selectOption('comma');
  await expect(page.getByText('say at its head')).toHaveCount(0);
  await expect(page.getByText('every cell was read')).toBeVisible();
  await rows.fill('');
});

test('guests come from a table, cell by cell, and are edited together', async () => {
  await page.goto(`${BASE()}/guests/table`);
  await page
    .getByRole('textbox', { name: /Rows copied/ })
    .fill('VM\tnode\tCPUs\tRAM\tdisk\nfog-log\tkestrel\t2\t2\t40\nfog-cam\tskua9\t2\t2 GiB\t40');
  await expect(page.getByText('There is no host "skua9" in the record.')).toBeVisible();
  await page.getByRole('button', { name: 'Record 2 guests' }).click();
  await expect(page.getByRole('alert')).toContainText('1 cell could not be read');
  // The good rows alone; the other one stays, and is mended where it stands.
  await page.getByRole('button', { name: /^Record only the 1 good row/ }).click();
  await expect(page.getByText('1 row, 1 cell to mend')).toBeVisible();
  await expect(page.getByText('There is no host "skua9" in the record.')).toBeVisible();
  await page.getByRole('button', { name: 'Mend host of row 1' }).click();
  await page.getByRole('textbox', { name: 'host of row 1' }).fill('kestrel');
  await page.keyboard.press('Enter');
  await expect(page.getByText('every cell was read')).toBeVisible();
  await page.getByRole('button', { name: 'Record 1 guest' }).click();
  await expect(page).toHaveURL(/\/guests$/);
  await page.goto(`${BASE()}/guests?q=fog-`);
  await page.getByRole('checkbox', { name: 'Choose fog-log' }).check();
  await page.getByRole('checkbox', { name: 'Choose fog-cam' }).check();
  const bulk = page.getByRole('region', { name: 'Edit the chosen guests' });
  await bulk.getByLabel('Field').selectOption({ label: 'Group' });
  await bulk.getByLabel('Value').selectOption({ label: 'lamp keepers' });
  await bulk.getByRole('button', { name: 'Set for all 2' }).click();
  await expect(bulk).toHaveCount(0);
  await page.goto(`${BASE()}/guests/roles`);
  await expect(
    region('Groups').getByText('2 of 2 in lamp keepers are on host kestrel'),
  ).toBeVisible();
});

test('a long table goes in parts, by what is in sight, and is taken back as one', async () => {
  await page.goto(`${BASE()}/guests/table`);
  const lines = Array.from({ length: 1200 }, (_, n) => `spray-${n}\tkestrel\t1\t1`);
  lines[700] = 'spray-700\tkestrel\t1\tmuch';
  await page
    .getByRole('textbox', { name: /Rows copied/ })
    .fill(['VM\tnode\tCPUs\tRAM', ...lines].join('\n'));
  const table = page.getByRole('table', { name: 'Rows of the table of guests' });
  // Rows out of sight are not there.
  expect(await table.getByRole('row').count()).toBeLessThan(80);
  await page.getByRole('button', { name: 'Next one, row 701' }).click();
  await page.getByRole('button', { name: 'Mend memory of row 701' }).click();
  await page.getByRole('textbox', { name: 'memory of row 701' }).fill('1');
  await page.keyboard.press('Enter');
  await expect(page.getByText('are recorded in parts of 500')).toBeVisible();
  await page.getByRole('button', { name: 'Record 1200 guests' }).click();
  await expect(page).toHaveURL(/\/guests$/, { timeout: 120_000 });
  await page.goto(`${BASE()}/log`);
  await expect(page.getByText('from a table, part 3 of 3')).toBeVisible();
  await page.getByRole('link', { name: 'All parts of this import' }).first().click();
  await page.getByRole('button', { name: 'Take the whole import back' }).click();
  await expect(page.getByText('3 of 3 parts taken back')).toBeVisible({ timeout: 120_000 });
  await page.goto(`${BASE()}/guests?q=spray-`);
  await expect(page.getByRole('rowgroup').getByText('spray-1', { exact: true })).toHaveCount(0);
});

test('a row that is refused in a later part is named where it stands then', async () => {
  const before = await revisionNow(page);
  await page.goto(`${BASE()}/guests/table`);
  const lines = Array.from({ length: 600 }, (_, n) => `foam-${n}\tkestrel\t1\t1\t1`);
  // A purpose is read whole; the record holds so many characters of it.
  lines[3] = 'foam-3\tkestrel\t1\tmuch\t1';
  lines[520] += '\t' + 'so long '.repeat(2000);
  await page
    .getByRole('textbox', { name: /Rows copied/ })
    .fill(['VM\tnode\tCPUs\tRAM\tdisk\tpurpose', ...lines].join('\n'));
  await page.getByRole('button', { name: /^Record only the 599 good rows/ }).click();
  // 500 of the good ones are recorded; row 4 stays, so that row 521 is now the 21st.
  await expect(page.getByText('100 rows, 1 cell to mend')).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText('Row 21:')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Mend name of row 21' })).toHaveText('foam-520');
  await takeBackTo(page, before);
});

test('retiring lists what still refers to the guest and clears away what it holds', async () => {
  await sheetOf('names-1');
  await onSheet(page, 'Retire');
  await expect(
    region('What still refers to it').getByText(
      'it provides names of the houses, which 3 machines need',
    ),
  ).toBeVisible();
  await sheetOf('visitor-desk-1');
  await onSheet(page, 'Retire');
  await expect(page.getByText('Nothing needs it')).toBeVisible();
  await page.getByRole('button', { name: 'Retire visitor-desk-1' }).click();
  await expect(
    page
      .getByRole('article', { name: 'Guest visitor-desk-1' })
      .getByText('retired', { exact: true }),
  ).toBeVisible();
  await expect(page.getByText('was wanted until')).toHaveCount(0);
});

test('notes have lines, lists and emphasis, and nothing that is written in becomes part of the page', async ({
  browser,
}) => {
  const page = await signedIn(browser);
  const before = await revisionNow(page);
  await page.goto(`${BASE()}/guests?q=watch-post`);
  await page.getByRole('rowgroup').getByText('watch-post').click();
  await page.getByRole('button', { name: 'Notes: empty, edit' }).click();
  const field = page.getByLabel('Notes', { exact: true });
  await field.fill('## Before it is touched');
  await field.press('End');
  await field.press('Enter');
  await field.pressSequentially('- ask the *keeper*');
  await field.press('Enter');
  await field.pressSequentially('- <img src=x onerror=alert(1)> [where](javascript:alert(1))');
  await field.press('Control+Enter');
  const notes = page.locator('dd', { has: page.getByText('Before it is touched') });
  await expect(notes.getByRole('listitem')).toHaveCount(2);
  await expect(notes.locator('em')).toHaveText('keeper');
  // A heading of notes is none of the page, a picture is not fetched, and no link runs a script.
  await expect(notes.getByRole('heading')).toHaveCount(0);
  await expect(notes.locator('img, a[href^="javascript"]')).toHaveCount(0);
  await expect(notes).toContainText('<img src=x');

  // What is typed is dropped by Escape, as anywhere.
  await page.getByRole('button', { name: /^Notes: ## Before/ }).click();
  await field.fill('something else');
  await field.press('Escape');
  await expect(notes.getByRole('listitem')).toHaveCount(2);
  await takeBackTo(page, before);
  await page.close();
});
