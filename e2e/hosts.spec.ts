/** Hosts from taking stock to a verified one, on the demo: chart, facts, hardware, table, build sheet, fingerprint. */
import { execFileSync } from 'node:child_process';
import { expect, test, type Page } from '@playwright/test';
import { BASE, readyForRetry, revisionNow, signedIn, takeBackTo, onSheet } from './signed-in.js';

test.describe.configure({ mode: 'serial' });
let page: Page;
let begun: number;
test.beforeAll(async ({ browser }) => {
  page = await signedIn(browser);
  begun = await revisionNow(page);
});
test.afterAll(({ browser: _ }, info) => readyForRetry(page, begun, info));

async function openHost(name: string): Promise<void> {
  await page.goto(`${BASE()}/hosts?q=${name}`);
  await page.getByRole('rowgroup').getByText(name, { exact: true }).click();
  await expect(page.getByRole('article', { name: `Host ${name}` })).toBeVisible();
}

test('the chart shows what may fail, and where guests land', async () => {
  await page.keyboard.press('1');
  await expect(page.getByRole('heading', { name: 'What may fail' })).toBeVisible();
  await expect(
    page.getByRole('img', { name: /^gannet: .* vCPU and .* taken by \d+ guests$/ }),
  ).toBeVisible();
  await page.getByLabel('What fails').selectOption({ label: 'gannet' });
  const panel = page.getByRole('region', { name: 'If gannet fails' });
  await expect(panel.getByText('restarts on fulmar').first()).toBeVisible();
  await expect(panel.getByText(/backup 9 h old, about 5 h to restore/)).toBeVisible();
  await expect(page.getByRole('img', { name: /^fulmar: .*\d+ more arriving$/ })).toBeVisible();
  await expect(page).toHaveURL(/fails=host/);
  await panel.locator('[data-figure]').first().click();
  await expect(page.getByText('Taken before')).toBeVisible();
  await page.keyboard.press('Escape');
});

test('guests of a host are walked along its course, and opened', async () => {
  await page.goto(`${BASE()}/chart`);
  const course = page.getByRole('listbox', { name: /^Guests of gannet/ });
  await course.focus();
  await page.keyboard.press('ArrowRight');
  const largest = course.getByRole('option');
  await expect(largest).toHaveText(/^model-run, \d+ vCPU, /);
  await page.keyboard.press('ArrowRight');
  await expect(largest).not.toHaveText(/^model-run/);
  await page.keyboard.press('Home');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('article', { name: 'Guest model-run' })).toBeVisible();
  await page.goto(`${BASE()}/chart`);
  await page.getByLabel('Narrow by site').selectOption({ label: 'Lighthouse annex' });
  await expect(page.getByRole('img', { name: /^gannet:/ })).toHaveCount(0);
  await expect(page.getByRole('img', { name: /^tern:/ })).toBeVisible();
});

test('a sheet has one thing to do first, and the rest in its menu, by keyboard as well', async () => {
  await openHost('gannet');
  const sheet = page.getByRole('article', { name: 'Host gannet' });
  await expect(sheet.locator('.press')).toHaveText(['Plan a guest here']);
  // Also from far below.
  await sheet.getByRole('region', { name: 'Needs to start' }).scrollIntoViewIfNeeded();
  await page.keyboard.press('m');
  await expect(page.getByRole('menuitem', { name: 'Whom does it reach' })).toBeInViewport();
  await page.getByRole('menuitem', { name: 'Whom does it reach' }).click();
  await expect(page.getByRole('heading', { name: 'Reach' })).toBeVisible();
  await openHost('puffin');
  await expect(page.getByRole('article').locator('.press')).toHaveText(['Build sheet']);
});

test('two hosts at once, and a switch: what is missing is said as the least that would mend it', async () => {
  await page.goto(`${BASE()}/chart?fails=`);
  await page.getByRole('button', { name: 'And any two hosts at once?' }).click();
  const pairs = page.getByRole('region', { name: 'Two hosts at once' });
  await expect(pairs).toContainText(/\d+ of \d+ pairs may fail without a guest left down/);
  await page.getByLabel('What fails').selectOption({ label: 'fulmar' });
  await page.getByLabel('And at once').selectOption({ label: 'and gannet' });
  const both = page.getByRole('region', { name: 'If fulmar and gannet fail' });
  await expect(both).toContainText(/more of memory .*on razorbill all that wait for room/);
  await page.getByLabel('What fails').selectOption({ label: 'switch annex switch' });
  await expect(page.getByRole('region', { name: 'If annex switch fails' })).toContainText(
    'Paths to storage are not asked',
  );
});

test('on a sheet a finding takes a line, and opens for what follows, what to do and since when', async () => {
  await page.goto(`${BASE()}/hosts`);
  await page.getByRole('row').filter({ hasText: 'plover' }).first().click();
  const findings = page.getByRole('list', { name: 'Findings' });
  const line = findings.getByRole('button', {
    name: /^Note: plover is in service and was never verified/,
  });
  await expect(findings.getByText('Run the first checks', { exact: false })).toHaveCount(0);
  await line.click();
  await expect(line).toHaveAttribute('aria-expanded', 'true');
  await expect(findings.getByText(/^Since 2026-/)).toBeVisible();
  await expect(findings.getByRole('button', { name: /^Accept for a while: plover/ })).toBeVisible();
  await page.goto(`${BASE()}/findings`);
  await page
    .getByRole('button', { name: /^Since when: / })
    .first()
    .click();
  await expect(page.getByText(/^(Since 2026-|There )/).first()).toBeVisible();
  await page.goto(`${BASE()}/hosts`);
});

test('the waterline says which host may not fail', async () => {
  await expect(
    page.getByRole('contentinfo', { name: 'Waterline' }).getByText(/one host may fail/),
  ).toBeVisible();
});

test('bays, arrays and their risks stand on the sheet, with workings', async () => {
  await openHost('eider');
  const bays = page.getByRole('region', { name: 'Bays' });
  await expect(bays.getByText('one parity disk, no spare')).toBeVisible();
  await bays.getByRole('button', { name: /^Unreadable sector while rebuilding/ }).click();
  await expect(page.getByText('Bits that must be read')).toBeVisible();
  await page.keyboard.press('Escape');
  await bays.getByRole('link', { name: 'Compare array levels with these disks' }).click();
  await expect(page.getByRole('heading', { name: 'Array levels compared' })).toBeVisible();
  await page.getByLabel('Disks').fill('8 x 4 TB');
  await expect(page.getByRole('row', { name: /^6 / })).toContainText('21.8 TiB');
  await page.getByLabel('Disks').fill('8 x 4 T');
  await expect(page.getByText('write one of them')).toBeVisible();
});

test('a sum is worked out in the search field', async () => {
  await page.keyboard.press('Escape');
  await page.goto(`${BASE()}/hosts`);
  await expect(page.getByRole('rowgroup').getByText('eider')).toBeVisible();
  await page.keyboard.press('/');
  await page.keyboard.type('raid 6 8x4tb');
  await expect(
    page.getByText('Level 6 of 8 disks: 24 TB = 21.8 TiB usable, survives 2'),
  ).toBeVisible();
});

test('hardware is typed in; an impossible array is refused and nothing typed is lost', async () => {
  await openHost('skua');
  await page.getByRole('link', { name: 'Record disks, ports, modules' }).click();
  await page.getByRole('button', { name: 'Add an array' }).click();
  await page.getByLabel('Level of array 1').selectOption('5');
  await page.getByRole('button', { name: 'Add a disk' }).click();
  await page.getByLabel('Array of disk 1').selectOption('guests');
  await page.getByRole('button', { name: 'Keep these parts' }).click();
  await expect(page.getByText(/takes at least 3 disks, not 1/).first()).toBeVisible();
  for (let i = 0; i < 2; i += 1)
    await page
      .getByRole('region', { name: 'Disks' })
      .getByRole('button', { name: 'Same again' })
      .click();
  await expect(page.getByLabel('Bay of disk 3')).toHaveValue('3');
  await page.getByRole('button', { name: 'Add a port' }).click();
  await page.getByLabel('Mgmt of port 1').check();
  await page.reload();
  await expect(page.getByLabel('Bay of disk 3')).toHaveValue('3');
  await page.getByRole('button', { name: 'Keep these parts' }).click();
  await expect(
    page.getByRole('region', { name: 'Bays' }).getByText('one parity disk, no spare'),
  ).toBeVisible();
});

test('facts of a machine are pasted, shown next to the record, and some are taken', async () => {
  const script = await page.evaluate(async () => (await fetch('/api/facts/script')).text());
  const printed = execFileSync('sh', ['-c', script], { encoding: 'utf8' });
  await page.getByRole('link', { name: 'Take facts in' }).click();
  await page.getByLabel('What it printed').fill(printed.slice(0, 300));
  await expect(page.getByRole('alert')).toContainText('breaks off before its last }');
  await page.getByLabel('What it printed').fill(printed);
  await expect(page.getByRole('checkbox', { name: 'Take Processor flags' })).toBeChecked();
  for (const fact of ['Ports', 'Disks', 'Sockets', 'Cores per socket']) {
    const box = page.getByRole('checkbox', { name: `Take ${fact}`, exact: true });
    if (await box.isChecked()) await box.uncheck();
  }
  await page.getByRole('button', { name: /^Take \d+ facts?$/ }).click();
  await expect(page.getByText('by its flags')).toBeVisible();
  await expect(page.getByText(/by import \(facts script\)/)).toBeVisible();
});

test('a fingerprint is compared in full', async () => {
  await openHost('kestrel');
  const field = page.getByLabel('Fingerprint seen elsewhere');
  await field.fill('15ad');
  await expect(page.getByText('SHA-256 has 64')).toBeVisible();
  await field.fill(`${'0'.repeat(60)}e092`);
  await expect(page.getByText(/first in group 1 of 16.*The last four are equal\./)).toBeVisible();
  await expect(page.getByText('65,536')).toBeVisible();
  await field.fill('7F1C0A3BE95D44C2860B7EA1D3590F28B6C4127E8DD0935FA14BE20C76A3E092');
  await expect(page.getByText('Equal in all 64 digits.')).toBeVisible();
});

test('hosts come from a table: a fault stands at its cell, and all or none are recorded', async () => {
  await page.goto(`${BASE()}/hosts`);
  await page.getByRole('button', { name: 'More ways' }).click();
  await page.getByRole('menuitem', { name: 'From a table' }).click();
  const rows = page.getByLabel(/^Rows copied from a spreadsheet/);
  await rows.fill(
    'Hostname\tLocation\tCores\tRAM\nskerry-1\tHarbour house\t16\t128\nskerry-2\tMoon\t16\t128',
  );
  await expect(page.getByText('There is no site "Moon" in the record.')).toBeVisible();
  await page.getByRole('button', { name: 'Record 2 hosts' }).click();
  await expect(page.getByRole('alert')).toContainText('nothing was recorded');
  await rows.fill(
    'Hostname\tLocation\tCores\tRAM\nskerry-1\tHarbour house\t16\t128\nskerry-2\tMainland office\t16\t128',
  );
  await page.getByRole('button', { name: 'Record 2 hosts' }).click();
  await expect(page.getByRole('rowgroup').getByText('skerry-2')).toBeVisible();
});

test('several hosts are edited at once from the list, by keyboard', async () => {
  await page.goto(`${BASE()}/hosts?q=skerry`);
  await expect(page.getByRole('rowgroup').getByText('skerry-1')).toBeVisible();
  await page.locator('[data-list]').focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('x');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('x');
  const bulk = page.getByRole('region', { name: 'Edit the chosen hosts' });
  await bulk.getByLabel('Field').selectOption('purpose');
  await bulk.getByLabel('Value').fill('spare');
  await bulk.getByRole('button', { name: 'Set for all 2' }).click();
  await expect(bulk).toHaveCount(0);
  await openHost('skerry-1');
  await expect(page.getByRole('button', { name: 'Purpose: spare, edit' })).toBeVisible();
});

test('a list is ordered by its headings, and a range is chosen by keys or with Shift', async () => {
  await page.goto(`${BASE()}/hosts`);
  const names = () => page.getByRole('gridcell').filter({ hasText: /^[a-z]+(-\d)?$/ });
  const heading = page.getByRole('columnheader', { name: 'Host' });
  await heading.getByRole('button').click();
  await expect(heading).toHaveAttribute('aria-sort', 'ascending');
  const first = await names().first().innerText();
  await heading.getByRole('button').click();
  await expect(heading).toHaveAttribute('aria-sort', 'descending');
  await expect(page).toHaveURL(/sort=name&order=down/);
  await expect(names().first()).not.toHaveText(first);
  await page.locator('[data-list]').focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('x');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Shift+X');
  const bulk = page.getByRole('region', { name: 'Edit the chosen hosts' });
  await expect(bulk).toContainText('3 chosen');
  const ticks = page.getByRole('checkbox', { name: /^Choose / });
  await ticks.nth(4).click({ modifiers: ['Shift'] });
  await expect(bulk).toContainText('5 chosen');
  // Chosen rows stay chosen in another order, and where they are out of sight.
  await heading.getByRole('button').click();
  await expect(bulk).toContainText('5 chosen');
  await ticks.first().check();
  await ticks.first().uncheck();
  await expect(bulk).toContainText('5 chosen');
});

test('a refused form marks the field and goes there, until it is altered; a reload loses nothing', async () => {
  await page.goto(`${BASE()}/hosts/new`);
  await page.getByLabel('Name', { exact: true }).fill('fulmar');
  await page.getByLabel('Memory installed').fill('lots');
  await page.getByRole('button', { name: 'Record the host' }).click();
  const memory = page.getByLabel('Memory installed');
  await expect(memory).toHaveAttribute('aria-invalid', 'true');
  await expect(memory).toBeFocused();
  await expect(page.getByRole('alert')).toContainText('Not sent: what is marked above');
  await page.reload();
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('fulmar');
  await expect(memory).toHaveValue('lots');
  await page.getByRole('button', { name: 'Record the host' }).click();
  await expect(memory).toHaveAttribute('aria-invalid', 'true');
  await memory.fill('64 GiB');
  await expect(memory).not.toHaveAttribute('aria-invalid');
  await expect(page.getByRole('alert')).toHaveCount(0);
  // What only the server knows stands at its field as well.
  await page.getByLabel('State', { exact: true }).selectOption('planned');
  await page.getByLabel('Name', { exact: true }).fill('ful mar');
  await page.getByRole('button', { name: 'Record the host' }).click();
  const name = page.getByLabel('Name', { exact: true });
  await expect(name).toHaveAttribute('aria-invalid', 'true');
  await name.fill('fulmar');
  await expect(name).not.toHaveAttribute('aria-invalid');
  await page.evaluate(() => sessionStorage.removeItem('draft:host'));
});

test('what is wrong within a part is said beneath the form, and the form of another name begins anew', async () => {
  await openHost('kestrel');
  await onSheet(page, 'Next like this');
  await page.getByLabel('Unit of host 1').fill('high');
  await page.getByRole('button', { name: 'Plan 1 host' }).click();
  await expect(page.getByLabel('Unit of host 1')).toHaveAttribute('aria-invalid', 'true');
  await expect(page.getByRole('alert').filter({ hasText: 'whole number' })).toBeVisible();
  await page.getByLabel('Unit of host 1').fill('');
  await expect(page.getByRole('alert')).toHaveCount(0);
  await page.goto(`${BASE()}/guests/new`);
  await page.getByLabel('Name', { exact: true }).fill('planned-one');
  await page.evaluate(() => {
    history.pushState(null, '', '/guests/new?record');
    dispatchEvent(new PopStateEvent('popstate'));
  });
  await expect(page.getByRole('heading', { name: 'Record a guest that exists' })).toBeVisible();
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('');
  await page.goBack();
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('planned-one');
  await page.evaluate(() => sessionStorage.clear());
});

test('the next host like one is planned, built from its sheet and put into service', async () => {
  await openHost('kestrel');
  await onSheet(page, 'Next like this');
  await expect(page.getByLabel('Name of host 1')).toHaveAttribute('placeholder', 'kestrel-2');
  await page.getByRole('button', { name: 'Plan 1 host' }).click();
  await expect(
    page.getByRole('heading', { name: 'Build sheet of kestrel-2.nordholm.example' }),
  ).toBeVisible();
  await expect(page.getByRole('region', { name: 'Type at the installer' })).toContainText(
    'kestrel-2.nordholm.example',
  );
  await expect(page.getByRole('region', { name: 'Type at the installer' })).toContainText(
    '172.22.32.1',
  );
  await expect(page.getByText('serial not recorded').first()).toBeVisible();
  const results = page.getByRole('region', { name: 'Results of the build' });
  await results.getByLabel('Began').fill('2026-11-20 08:00');
  await results.getByLabel('Ended').fill('2026-11-20T08:24');
  await results.getByLabel('What was different from the sheet').fill('port p2 has no link');
  await results.getByLabel(/^Result: The gateway/).selectOption('passed');
  await results.getByLabel(/^Result: The console/).selectOption('failed');
  await results.getByRole('button', { name: 'Put kestrel-2 into service' }).click();
  await expect(results.getByRole('alert')).toContainText('console port answers did not pass');
  await results
    .getByLabel('Reason to put it into service all the same')
    .fill('certificate comes on Monday');
  await results.getByRole('button', { name: 'Put kestrel-2 into service' }).click();
  await expect(page.getByRole('article', { name: 'Host kestrel-2' })).toContainText('in service');
  await expect(page.getByRole('region', { name: 'Verification' })).toContainText(
    '1 of 2 tests failed',
  );
});

test('a run of tests is recorded at a host', async () => {
  await openHost('tern');
  const part = page.getByRole('region', { name: 'Verification' });
  await part.getByRole('button', { name: 'Record a run of tests' }).click();
  await part.getByRole('button', { name: 'All passed' }).click();
  await part.getByRole('button', { name: 'Record the run' }).click();
  await expect(part.getByText('all 6 tests passed')).toBeVisible();
});

test('what is not decided is decided at the build sheet', async () => {
  const before = await revisionNow(page);
  await openHost('skua');
  await page.getByRole('link', { name: 'Build sheet' }).click();
  await page.getByRole('button', { name: /^Disk controller mode: not decided/ }).click();
  await page.locator('select:focus').selectOption('AHCI');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Set the firmware' })).toContainText('AHCI');
  await page.reload();
  await page.getByRole('button', { name: /^Machine: not decided/ }).click();
  await page.keyboard.type('Invented server, 1 unit');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Invented server, 1 unit').first()).toBeVisible();
  await takeBackTo(page, before);
});

test('the build sheet prints on A4 and Letter without the frame', async () => {
  await openHost('puffin');
  await page.getByRole('link', { name: 'Build sheet' }).click();
  await expect(page.getByRole('heading', { name: /^Build sheet of/ })).toBeVisible();
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('navigation', { name: 'Areas' })).toBeHidden();
  await expect(page.getByRole('heading', { name: 'What was different' })).toBeVisible();
  for (const format of ['A4', 'Letter']) {
    const pdf = await page.pdf({ format });
    const pages = pdf.toString('latin1').match(/\/Type\s*\/Page\b/g)!.length;
    expect([format, pages >= 2 && pages <= 4]).toEqual([format, true]);
  }
  await page.emulateMedia({ media: 'screen' });
});

test('a group gets its policy, and a rule its guests', async () => {
  await page.goto(`${BASE()}/hosts/places`);
  await page.getByLabel('Name of a new host group').fill('skerries');
  await page.getByRole('button', { name: 'Record a host group' }).click();
  await expect(page.getByRole('button', { name: 'Name: skerries, edit' })).toBeVisible();
  await page.getByLabel('Name of a new rule').fill('desks apart');
  const guest = page.getByRole('combobox', { name: 'Add a guest to the rule' });
  for (const name of ['visitor-desk-1', 'visitor-desk-2']) {
    await guest.fill(name);
    await page.getByRole('option').filter({ hasText: name }).click();
  }
  await page.getByRole('button', { name: 'Record the rule' }).click();
  await expect(page.getByText('desks apart', { exact: true })).toBeVisible();
});

test('a backup is recorded at a guest and its finding goes when it ran', async () => {
  await page.goto(`${BASE()}/guests?q=bird-song`);
  await page.getByRole('rowgroup').getByText('bird-song').click();
  const part = page.getByRole('region', { name: 'Backups' });
  await part.getByRole('button', { name: 'Record a backup or replica' }).click();
  await part.getByLabel('Pool it lies on').selectOption({ label: 'tern-data' });
  await part.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByText('has never succeeded')).toBeVisible();
  await part.getByRole('button', { name: 'It ran just now' }).click();
  await expect(page.getByText('has never succeeded')).toHaveCount(0);
});

test('a long pasted text is kept beside the log and opened there', async () => {
  await page.goto(`${BASE()}/log?note=yes`);
  await page
    .getByLabel('What you saw or did')
    .fill(`output of the self-test\n${'all is well here\n'.repeat(60)}`);
  await page.getByRole('button', { name: 'Write it down' }).click();
  // The form closes, and the newest entry is the first one only once it is there.
  await expect(page.getByLabel('What you saw or did')).toHaveCount(0);
  await expect(page.getByRole('main').getByText('output of the self-test').first()).toBeVisible();
  await page
    .getByRole('button', { name: /^Open the pasted text/ })
    .first()
    .click();
  await expect(page.getByText('all is well here').first()).toBeVisible();
});
