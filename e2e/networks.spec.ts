/** The networks area on the demo: patch table, ruler, reach with its mend, matrix, plan, switches, devices, names, a list. */
import { expect, test, type Page } from '@playwright/test';
import { BASE, choose as chooseOn, revisionNow, signedIn, takeBackTo } from './signed-in.js';

test.describe.configure({ mode: 'serial' });
let page: Page;
let before: number;
test.beforeAll(async ({ browser }) => {
  page = await signedIn(browser);
  before = await revisionNow(page);
});
// Also before a second try, which begins with the first journey again.
test.afterAll(() => takeBackTo(page, before));

const room = async (title: string) => {
  await page.goto(`${BASE()}/networks`);
  await page
    .getByRole('navigation', { name: 'Networks' })
    .getByRole('link', { name: title, exact: true })
    .click();
};

const choose = (label: string, text: string, name = text) => chooseOn(page, label, text, name);

test('the patch table shows modes, single paths and faults, and is walked by arrows', async () => {
  await room('Patch table');
  const cell = page.getByRole('gridcell', { name: /^fulmar, harbour-guests:/ });
  await expect(cell).toHaveAttribute(
    'aria-label',
    /Port 4 of harbour switch 2 does not carry VLAN 212/,
  );
  await expect(
    page.getByRole('gridcell', { name: /^gannet, model-wire: guests only/ }),
  ).toBeVisible();
  await cell.focus();
  await page.keyboard.press('ArrowDown');
  await expect(
    page.getByRole('gridcell', { name: /^gannet, harbour-guests: bridged by p2 \+ p4/ }),
  ).toBeFocused();
  await page.getByLabel('Site').selectOption({ label: 'Lighthouse annex' });
  await expect(page.getByRole('gridcell', { name: /^fulmar/ })).toHaveCount(0);
  await page.getByLabel('Host to take as the model').selectOption({ label: 'tern' });
  await page.getByRole('button', { name: 'Add the 2 that are missing' }).click();
  await expect(page.getByRole('button', { name: 'nothing is missing' })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: 'Add the 2 that are missing' })).toBeVisible();
});

test('reach says why not, hop by hop, and its button mends it', async () => {
  await room('Reach');
  await choose('From', 'horn-ctl');
  await choose('To', 'tide-api');
  await expect(
    page.getByText(/horn-ctl's gateway 172\.22\.41\.1 is not in its own subnet 172\.22\.14\.0\/24/),
  ).toBeVisible();
  await expect(page).toHaveURL(/from=.*to=/);
  await page.getByRole('button', { name: 'Record that' }).click();
  await expect(
    page.getByText('Yes: horn-ctl reaches tide-api through annex-gate, harbour-gate.'),
  ).toBeVisible();
  await expect(
    page.getByText('Addressing and routing permit it; filters are not recorded.'),
  ).toBeVisible();
  const way = page.getByRole('region', { name: 'Request to 172.22.12.33' });
  await way.getByRole('button', { name: 'with cables' }).click();
  await expect(way.getByText('line sea cable')).toBeVisible();
  // What nobody recorded of a machine on the way is named where the answer rests on it.
  await choose('To', 'annex-gate');
  await page.getByLabel('or its address').fill('172.22.250.2');
  await expect(
    page.getByText(/^Rests on annex-gate answering for each of its addresses by any adapter/),
  ).toBeVisible();
  await choose('To', 'tide-api');
  await page.getByRole('button', { name: 'Ask the other way round' }).click();
  await expect(page.getByText('Yes: tide-api reaches horn-ctl')).toBeVisible();
});

test('a missing route is offered at the router that lacks it, and the outside can be asked', async () => {
  await room('Reach');
  await choose('From', 'office-files');
  await choose('To', 'lamp-log');
  await expect(
    page.getByText('Give office-gate a route to 172.22.14.0/24 by 172.22.250.2 (annex-gate).'),
  ).toBeVisible();
  await page.getByRole('button', { name: 'a machine outside' }).first().click();
  await expect(page.getByText(/172\.22\.14\.110 is private \(RFC 1918/)).toBeVisible();
  await page.getByLabel('or its address').fill('172.22.12.300');
  await expect(page.getByText('172.22.12.300: each part is 0 to 255.')).toBeVisible();
});

test('from outside a guest is reached by the port that leads to it, and the way is shown', async () => {
  await room('Reach');
  await page.getByRole('button', { name: 'a machine outside' }).first().click();
  await choose('To', 'tide-api');
  const ways = page.getByRole('region', { name: 'Ports that lead there' });
  await expect(ways).toContainText('203.0.113.10, 443/tcp');
  await expect(ways).toContainText('tide levels for everybody');
  await ways.getByRole('link', { name: 'It answers: see the way' }).click();
  await expect(page.getByRole('status').first()).toContainText(
    /^✓Yes: a machine outside reaches office-gate, port 443\/tcp, which leads on to tide-api, port 8443/,
  );
  await expect(page.getByText('leads on to').first()).toBeVisible();
  await page.getByLabel('Port', { exact: true }).fill('80');
  await expect(page.getByRole('status').first()).toContainText('reaches office-gate, port 80/tcp');
  await page.getByLabel('Port', { exact: true }).fill('eighty');
  await expect(page.getByText('eighty is no port: write it as 443/tcp or 53/udp.')).toBeVisible();
});

test('a network that no host carries is carried from its own sheet', async () => {
  const carried = await revisionNow(page);
  await page.goto(`${BASE()}/networks/new`);
  await page.getByLabel('Name', { exact: true }).fill('skerry');
  await page.getByRole('button', { name: 'Record the network' }).click();
  const sheet = page.getByRole('article', { name: 'Network skerry' });
  await expect(sheet).toContainText('No host carries it');
  await sheet.getByLabel('Let a host carry it, bridged').selectOption({ label: 'tern' });
  await expect(sheet.getByRole('region', { name: 'Carried by' })).toContainText('tern bridged');
  await takeBackTo(page, carried);
});

test('the matrix gives a reason on every cell', async () => {
  await room('Matrix');
  await page.getByLabel('Network', { exact: true }).selectOption({ label: 'annex-guests' });
  const cell = page.getByRole('gridcell', { name: /^lamp-log to seal-count: / });
  await cell.click();
  await expect(page.getByText(/lamp-log → seal-count:/)).toBeVisible();
  await page.keyboard.press('ArrowLeft');
  await page.getByRole('link', { name: 'Why, and the way' }).click();
  await expect(page.getByRole('heading', { name: 'Reach' })).toBeVisible();
});

test('prefixes are planned for needs, and a plan becomes networks', async () => {
  await room('Divide a subnet');
  await page.getByLabel('Block to cut from').fill('172.22.64.9/22');
  await expect(page.getByText(/Write 172\.22\.64\.0\/22/).first()).toBeVisible();
  await page.getByLabel('Block to cut from').fill('172.22.64.0/22');
  await page.getByLabel('Needs').fill('60 buoys, 2 links, 30 % growth');
  await expect(page.getByRole('cell', { name: '172.22.64.0/25' })).toBeVisible();
  await expect(page.getByText('172.22.64.132/30')).toBeVisible();
  await page.getByLabel('VLAN ids from').fill('400');
  await page.getByRole('button', { name: 'Record these 3 networks' }).click();
  await expect(page.getByRole('rowgroup').getByText('buoys')).toBeVisible();
  await page.keyboard.press('/');
  await page.keyboard.type('10.20.0.0/22 / 26');
  await expect(
    page.getByRole('option', { name: '10.20.0.0/22 makes 16 × /26, each for 62 machines' }),
  ).toBeVisible();
  await page.keyboard.press('Escape');
});

test('a local IPv6 block is drawn, subnets are summarised, and a MAC makes its address', async () => {
  await page.goto(`${BASE()}/networks/plan`);
  await expect(page.getByText(/subnets summarised, address for address, to \d+/)).toBeVisible();
  await page.getByRole('button', { name: 'Draw a local IPv6 block' }).click();
  await expect(page.getByLabel('Block to cut from')).toHaveValue(/^fd[0-9a-f:]+\/48$/);
  const drawn = await page.getByLabel('Block to cut from').inputValue();
  await page.getByLabel('Needs').fill('40 sensors, 5 loggers');
  await expect(
    page.getByRole('cell', { name: drawn.replace('/48', '/64'), exact: true }),
  ).toBeVisible();
  await page.goto(`${BASE()}/networks?q=annex-six`);
  await page.getByRole('rowgroup').getByText('annex-six').click();
  // RFC 4291, appendix A, gives the rule; 34-56-78-9A-BC-DE is the example of RFC 2464, section 4.
  await page.getByLabel('MAC to make an address of in 2001:db8:14::/64').fill('3456.789a.bcde');
  await expect(page.getByText('2001:db8:14:0:3656:78ff:fe9a:bcde')).toBeVisible();
});

test('the next free run of several is found and set apart', async () => {
  await page.goto(`${BASE()}/networks?q=harbour-mgmt`);
  await page.getByRole('rowgroup').getByText('harbour-mgmt').click();
  const wanted = page.getByLabel('Addresses in a row in 172.22.10.0/24');
  await wanted.fill('none');
  await expect(page.getByText('A whole number from 1 to 4,096.')).toBeVisible();
  await wanted.fill('300');
  await expect(page.getByText('No 300 free addresses in a row are left here.')).toBeVisible();
  await wanted.fill('8');
  await page.getByRole('button', { name: 'Set it apart' }).click();
  const first = await page.getByLabel('First address').inputValue();
  await page.getByRole('button', { name: 'Keep' }).click();
  await expect(
    page.getByText(new RegExp(`reserved ${first.replaceAll('.', '\\.')} – `)),
  ).toBeVisible();
});

test('a range is dragged on the ruler, or typed, and a subnet is cut', async () => {
  await page.goto(`${BASE()}/networks?q=buoys`);
  await page.getByRole('rowgroup').getByText('buoys').click();
  const ruler = page.getByRole('img', { name: /^Address ruler of 172\.22\.64\.0\/25/ });
  const box = (await ruler.locator('div.cursor-crosshair').first().boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.4, box.y + 8);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.6, box.y + 8, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByLabel('First address')).toHaveValue(/^172\.22\.64\.5\d$/);
  await page.getByLabel('Use of the range').selectOption('static');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByText('aside').first()).toBeVisible();
  await page.getByLabel('Prefix length to cut 172.22.64.0/25 into').fill('26');
  await page.getByRole('button', { name: 'Cut into these' }).click();
  await expect(page.getByRole('alert')).toContainText('would lie in two parts');
});

test('a switch gets its ports, and what is no VLAN is said at its field', async () => {
  await room('Switches');
  await page.getByLabel('Name of a new switch').fill('spare switch');
  await page.getByRole('button', { name: 'Record a switch' }).click();
  await page.getByRole('button', { name: /spare switch/ }).click();
  const part = page.getByRole('region', { name: 'Switch spare switch' });
  await part.getByRole('button', { name: 'Edit the ports' }).click();
  await part.getByRole('button', { name: 'Add a port' }).click();
  await part.getByLabel('Tagged VLANs of port 1').fill('10-12,4095');
  await expect(part.getByText('Tagged VLANs: "4095": a VLAN id is 1 to 4094.')).toBeVisible();
  await part.getByLabel('Tagged VLANs of port 1').fill('10-12');
  await part.getByLabel('How many ports to add').fill('3');
  await part.getByRole('button', { name: 'Add so many alike' }).click();
  await part.getByRole('button', { name: 'Keep these ports' }).click();
  await expect(part.getByRole('row', { name: /^4 / })).toContainText('10-12');
});

test('a device is recorded with a port, and a list with its faults', async () => {
  await room('Equipment');
  await page.getByRole('button', { name: 'Record equipment' }).click();
  await page.getByLabel('Name of new equipment').fill('buoy-gate');
  await page.getByRole('button', { name: 'Record it' }).click();
  const device = page.getByRole('article', { name: 'Equipment buoy-gate' });
  await device.getByRole('button', { name: 'Edit the ports' }).click();
  await device.getByRole('button', { name: 'Add a port' }).click();
  // Its last column is in sight too.
  const last = (await device.getByRole('button', { name: 'Drop port 1' }).boundingBox())!;
  expect(last.x + last.width).toBeLessThanOrEqual(1280);
  await device.getByLabel('Addresses found of port 1').fill('172.22.64.1/25');
  await device.getByLabel('Network of port 1').selectOption({ label: 'buoys' });
  await device.getByRole('button', { name: 'Keep these ports' }).click();
  await expect(device.getByText('172.22.64.1/25')).toBeVisible();
  // What goes to a block that is nobody's is dropped there, on purpose.
  await device.getByRole('button', { name: 'Record a static route' }).click();
  await device.getByLabel('Destination of a route of buoy-gate').fill('10.0.0.0/8');
  await device.getByLabel('What a route of buoy-gate does').selectOption('leads nowhere');
  await device.getByLabel('Metric of a route of buoy-gate').fill('soon');
  await device.getByRole('button', { name: 'Record the route' }).click();
  await expect(device.getByText('Metric: Write a whole number.')).toBeVisible();
  await device.getByLabel('Metric of a route of buoy-gate').fill('50');
  await device.getByRole('button', { name: 'Record the route' }).click();
  await expect(device.getByText('leads nowhere, on purpose')).toBeVisible();
  await device.getByRole('button', { name: 'Record a forwarded port' }).click();
  await device.getByLabel('Port of a forwarded port of buoy-gate', { exact: true }).fill('2222');
  await device
    .getByLabel('Address of a forwarded port of buoy-gate', { exact: true })
    .fill('172.22.64.300');
  await device.getByRole('button', { name: 'Record the forwarded port' }).click();
  await expect(device.getByText('172.22.64.300: each part is 0 to 255.')).toBeVisible();
  await device
    .getByLabel('Address of a forwarded port of buoy-gate', { exact: true })
    .fill('172.22.64.30');
  await device.getByRole('button', { name: 'Record the forwarded port' }).click();
  // Nobody has that address: the finding's own button takes the port away again.
  await expect(device.getByText(/which nobody in the record has/).first()).toBeVisible();
  await device.getByRole('button', { name: 'Remove the forwarded port', exact: true }).click();
  await expect(device.getByText('2222/tcp')).toHaveCount(0);
  await device.getByRole('button', { name: /^Answers for/ }).click();
  await page.locator('select:focus').selectOption({ label: 'an address by its own adapter only' });
  await page.keyboard.press('Enter');
  await expect(device.getByText('an address by its own adapter only')).toBeVisible();
  await room('Take a list in');
  await page
    .getByLabel('Lines copied from wherever they are')
    .fill('buoy-7 172.22.64.7\nbuoy-8 172.22.64.800');
  await expect(page.getByText('172.22.64.800: each part is 0 to 255.')).toBeVisible();
  await page.getByRole('button', { name: 'Take 2 lines in' }).click();
  await page.getByRole('button', { name: /^buoy-8/ }).click();
  await expect(page.getByRole('article', { name: 'Equipment buoy-8' })).toContainText(
    'line 2: 172.22.64.800: each part is 0 to 255.',
  );
});

test('a network inside a host is added, its mode explained, and a guest gets an adapter on it', async () => {
  await page.goto(`${BASE()}/hosts?q=plover`);
  await page.getByRole('rowgroup').getByText('plover', { exact: true }).click();
  const part = page.getByRole('region', { name: 'Networks carried' });
  await part.getByRole('button', { name: 'Add a network inside this host' }).click();
  await expect(part.getByText(/each guest is alone behind translation/)).toBeVisible();
  await part.getByLabel('Name of the inside network').fill('lamp-wire');
  await part.getByLabel('Mode of the inside network').selectOption('host and guests');
  await part.getByLabel('Block of the inside network').fill('192.168.70.0/24');
  await part.getByRole('button', { name: 'Record it' }).click();
  await expect(part.getByRole('link', { name: 'lamp-wire' })).toBeVisible();
  await page.goto(`${BASE()}/guests?q=lamp-log`);
  await page.getByRole('rowgroup').getByText('lamp-log').click();
  const guest = page.getByRole('article', { name: 'Guest lamp-log' });
  await guest.getByRole('button', { name: 'Add an adapter' }).click();
  await choose('Network of the new adapter', 'lamp-wire');
  await guest.getByRole('button', { name: 'Add it' }).click();
  await expect(guest.getByText('192.168.70.2')).toBeVisible();
});

test('several networks travel over one adapter of a guest, told apart by their tags', async () => {
  await page.goto(`${BASE()}/guests?q=visitor-gate`);
  await page.getByRole('rowgroup').getByText('visitor-gate').click();
  const guest = page.getByRole('article', { name: 'Guest visitor-gate' });
  await expect(guest.getByText('tagged on adapter 1, VLAN 232')).toBeVisible();
  await guest.getByRole('button', { name: 'Add an adapter' }).click();
  await guest.getByLabel('How its frames travel').selectOption('tagged on adapter 1');
  await guest.getByRole('button', { name: 'Add it' }).click();
  await expect(guest.getByRole('alert').first()).toContainText('Choose the network.');
  await guest.getByRole('button', { name: 'Drop' }).click();
});

test('zones are made from the record, and a file of names is compared with it', async () => {
  await room('Names');
  for (const [label, text] of [
    ['Domain', 'nordholm.example'],
    ['Primary server', 'names-1.nordholm.example'],
    ['Mailbox', 'hostmaster.nordholm.example'],
    ['Servers of the zone', 'names-1.nordholm.example'],
  ] as const)
    await page.getByLabel(label, { exact: true }).fill(text);
  await page.locator('summary').filter({ hasText: 'nordholm.example.zone' }).click();
  await expect(page.getByText('tide-db IN A 172.22.12.31')).toBeVisible();
  await page
    .getByLabel('Zone file or hosts file', { exact: true })
    .fill('tide-db IN A 172.22.12.13');
  await page.getByLabel('Origin, where the file says none').fill('nordholm.example');
  await expect(
    page.getByText(
      'line 1: tide-db.nordholm.example is 172.22.12.31 in the record, not 172.22.12.13.',
    ),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Take these names in' }).click();
  await expect(page.getByText('pasted', { exact: true })).toBeVisible();
});

test('a finding of a switched-over router is mended from the list of findings', async () => {
  await page.goto(`${BASE()}/findings`);
  await page.getByRole('button', { name: 'Change adapters 1 and 2 over' }).click();
  await expect(page.getByText(/pen-gate carries 172\.22\.14\.140/)).toHaveCount(0);
});
