/** Networks by HTTP: switches, devices, addresses and their rest, reach and its mend, names, lists; what the database says again. */
import type {
  Problem,
  DeviceView,
  GuestSheet,
  MatrixView,
  NetworkSheet,
  PatchTableView,
  PhysicalSwitchView,
  ReadNamesView,
  Written,
  ZoneFilesView,
} from '@insel/contract';
import type { Finding, ReachAnswer } from '@insel/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  guestBody,
  Installation,
  recordSmall,
  type Person,
  type Small,
  type ByChange,
} from './support/server.js';

let here: Installation;
let keeper: Person;
let small: Small;
const guests: Record<string, string> = {};

const made = (answer: { body: Written }, kind: string) =>
  answer.body.created.find((found) => found.kind === kind)!.id;
const sheet = async (id = small.networkId) =>
  (await keeper.call<NetworkSheet>('GET', `networks/${id}`)).body;

beforeAll(async () => {
  here = new Installation();
  ({ administrator: keeper } = await here.begin());
  small = await recordSmall(keeper);
  for (const name of ['tide', 'ebb'])
    guests[name] = made(
      await keeper.make<Written>('guest.record', {
        ...guestBody(small, name),
        state: 'in service',
      }),
      'guest',
    );
});
afterAll(() => here.end());

it('a guest says what its platform does with a change of adapters', async () => {
  const caution = async () =>
    (await keeper.call<GuestSheet>('GET', `guests/${guests.tide}`)).body.adapterCaution;
  expect(await caution()).toBe('');
  const platforms = (
    await keeper.call<{ id: string; adapterChangeNeedsRestart: boolean }[]>('GET', 'platforms')
  ).body;
  const used = platforms.filter((platform) => !platform.adapterChangeNeedsRestart);
  for (const { id } of used)
    expect(
      (await keeper.make('platform.edit', { id, adapterChangeNeedsRestart: true })).status,
    ).toBe(201);
  expect(await caution()).toMatch(/takes up a change of adapters only when tide is restarted\.$/);
});

describe('subnets and addresses', () => {
  it('say which address comes next and how long released ones rest', async () => {
    const edit = await keeper.make('subnet.edit', {
      id: small.subnetId,
      policy: 'after last',
      quarantineDays: 10,
      domain: 'shore.example',
    });
    expect(edit.status).toBe(201);
    expect(
      (await keeper.make<Problem>('subnet.edit', { id: small.subnetId, policy: 'whatever' })).body
        .field,
    ).toBe('policy');
    const found = await keeper.make<Written>('guest.plan', guestBody(small, 'slack'));
    const held = (await sheet()).subnets[0]!.held.find((one) => one.holder.name === 'slack')!;
    expect(held.ip).toBe('192.0.2.4');
    expect((await keeper.make('address.release', { id: held.id })).status).toBe(201);
    const [subnet] = (await sheet()).subnets;
    expect(subnet!.resting).toMatchObject([{ ip: '192.0.2.4', was: 'slack' }]);
    expect(subnet!.runs.find((run) => run.kind === 'resting')).toMatchObject({
      first: '192.0.2.4',
    });
    expect((await keeper.make('address.end-rest', { id: subnet!.resting[0]!.id })).status).toBe(
      201,
    );
    await keeper.make('guest.set-state', { id: made(found, 'guest'), state: 'retired' });
  });
  it('are cut and joined', async () => {
    const recorded = await keeper.make<Written>('network.record', {
      name: 'spare',
      subnet: { prefix: '10.7.0.0/24' },
    });
    const [networkId, subnetId] = [made(recorded, 'network'), made(recorded, 'subnet')];
    await keeper.make('subnet.split', { id: subnetId, length: 25 });
    const parts = (await sheet(networkId)).subnets;
    expect(parts.map((part) => [part.prefix, part.joinable.map((other) => other.prefix)])).toEqual([
      ['10.7.0.0/25', ['10.7.0.128/25']],
      ['10.7.0.128/25', ['10.7.0.0/25']],
    ]);
    expect(
      (await keeper.make<Problem>('subnet.join', { id: parts[0]!.id, otherId: small.subnetId }))
        .body.code,
    ).toBe('not-joinable');
    await keeper.make('subnet.join', { id: parts[0]!.id, otherId: parts[1]!.id });
    expect((await sheet(networkId)).subnets.map((part) => part.prefix)).toEqual(['10.7.0.0/24']);
    expect((await keeper.make('network.remove', { id: networkId })).status).toBe(201);
  });
  it('may repeat across routing domains, not inside one', async () => {
    const domainId = made(
      await keeper.make<Written>('routing-domain.record', { name: 'lab' }),
      'routingDomain',
    );
    expect(
      (
        await keeper.make<Problem>('network.record', {
          name: 'same',
          subnet: { prefix: '192.0.2.0/26' },
        })
      ).body.code,
    ).toBe('subnet-overlaps');
    expect(
      (
        await keeper.make('network.record', {
          name: 'same',
          subnet: { prefix: '192.0.2.0/26', domainId },
        })
      ).status,
    ).toBe(201);
  });
  it('a whole plan is recorded at once or not at all', async () => {
    const networks = (second: string) => [
      { name: 'one', subnet: { prefix: '10.8.0.0/26' } },
      { name: 'two', vlanId: 12, subnet: { prefix: second } },
    ];
    expect(
      (await keeper.make<Written>('network.record-many', { networks: networks('10.8.0.0/27') }))
        .status,
    ).toBeGreaterThanOrEqual(409);
    expect(
      (await keeper.make('network.record-many', { networks: networks('10.8.0.64/27') })).status,
    ).toBe(201);
  });
});

describe('switches and cables', () => {
  it('ports are kept as a list, cables are plugged once, the patch table says what is wrong', async () => {
    const id = made(
      await keeper.make<Written>('physical-switch.record', { name: 'core' }),
      'physicalSwitch',
    );
    const read = async () =>
      (await keeper.call<PhysicalSwitchView[]>('GET', 'physical-switches')).body.find(
        (found) => found.id === id,
      )!;
    const ports = [
      { name: '1', taggedVlans: '14', untaggedVlan: null },
      { name: '2', untaggedVlan: 12 },
    ];
    expect((await keeper.saying('physical-switch.set-ports', { id, ports })).status).toBe(428);
    expect((await keeper.make('physical-switch.set-ports', { id, ports })).status).toBe(201);
    expect(
      (
        await keeper.make<Written>('physical-switch.set-ports', {
          id,
          ports: [{ name: '1', taggedVlans: '4095' }],
        })
      ).body,
    ).toMatchObject({ status: 422, field: 'ports.0.taggedVlans' });
    await keeper.make('host.set-hardware', {
      hostId: small.hostId,
      hardware: {
        ports: [
          { name: 'p1', bitsPerSecond: 1e9 },
          { name: 'p2', bitsPerSecond: 1e9 },
        ],
      },
    });
    const now = (
      await keeper.call<{ ports: { id: string }[]; networks: { id: string }[] }>(
        'GET',
        `hosts/${small.hostId}`,
      )
    ).body;
    await keeper.make('switch.set-uplinks', {
      switchId: now.networks[0]!.id,
      portIds: [now.ports[0]!.id],
    });
    const [one] = (await read()).ports;
    expect(
      (await keeper.make('port.edit', { id: now.ports[0]!.id, switchPortId: one!.id })).status,
    ).toBe(201);
    expect(
      (await keeper.make<Problem>('port.edit', { id: now.ports[1]!.id, switchPortId: one!.id }))
        .body.code,
    ).toBe('port-taken');
    const table = (await keeper.call<PatchTableView>('GET', 'patch-table')).body;
    const column = table.networks.findIndex((network) => network.name === 'shore');
    expect(table.rows[0]!.cells[column]).toMatchObject({
      mode: 'bridged',
      ports: 'p1',
      single: true,
      fault: 'Port 1 of core drops frames without a tag.',
    });
    await keeper.make('port.edit', { id: now.ports[0]!.id, switchPortId: null });
  });
  it('the database says again that a cable has one end at a port', async () => {
    const client = await here.connect();
    const [port] = (await client.query<{ id: string }>('select id from switch_port limit 1')).rows;
    await expect(client.query('update port set switch_port_id = $1', [port!.id])).rejects.toThrow(
      /port_plugged_once/,
    );
    await expect(
      client.query('update switch_port set untagged_vlan = 4095 where id = $1', [port!.id]),
    ).rejects.toThrow(/untagged_vlan/);
    await expect(client.query('update address set host_id = $1', [small.hostId])).rejects.toThrow(
      /address_one_holder/,
    );
    await client.end();
  });
});

describe('reach', () => {
  const ask = async (query: string) =>
    (await keeper.call<ReachAnswer>('GET', `reach?${query}`)).body;
  it('answers from the worker, with the change that mends it, and makes that change', async () => {
    expect((await ask(`from=${guests.tide}&to=${guests.ebb}`)).verdict).toBe('yes');
    const [adapter] = (
      await keeper.call<{ adapters: { id: string }[] }>('GET', `guests/${guests.ebb}`)
    ).body.adapters;
    await keeper.make('adapter.edit', { id: adapter!.id, connected: false });
    const answer = await ask(`from=${guests.tide}&to=${guests.ebb}`);
    expect(answer).toMatchObject({
      verdict: 'no',
      failure: { code: 'adapter-unplugged' },
      mend: { label: 'Connect adapter 1 on shore of ebb' },
    });
    const mended = await keeper.mend(answer.mend!);
    expect([mended.status, mended.body.title]).toEqual([
      201,
      'edited an adapter of ebb: connected',
    ]);
    expect((await ask(`from=${guests.tide}&to=${guests.ebb}`)).verdict).toBe('yes');
    expect((await keeper.mend<Problem>(answer.mend!)).body.code).toBe('stale');
  });
  it('says what it cannot answer', async () => {
    expect(await ask(`from=${guests.tide}&ip=192.0.2.300`)).toEqual({
      sentence: '192.0.2.300: each part is 0 to 255.',
    });
    expect(await ask(`from=${guests.tide}`)).toMatchObject({
      sentence: expect.stringContaining('whom') as string,
    });
    expect((await keeper.call('GET', 'reach')).status).toBe(422);
  });
  it('asks a port, which another machine leads on', async () => {
    const written = await keeper.make('forwarded-port.record', {
      ...{ guestId: guests.ebb, port: 8443, toPort: 443, purpose: 'pages of tide' },
      toIp: (await ask(`from=${guests.ebb}&to=${guests.tide}`)).to.ip,
    });
    expect(written.body.title).toMatch(
      /^recorded that port 8443\/tcp of ebb leads to .*, port 443$/,
    );
    expect((await ask(`from=${guests.ebb}&to=${guests.tide}`)).waysIn).toEqual([]);
    expect(await ask(`from=outside&to=${guests.tide}`)).toMatchObject({
      sentence: expect.stringContaining('No port of any equipment is recorded') as string,
    });
    const asked = await ask(`from=${guests.tide}&to=${guests.ebb}&service=8443`);
    expect(asked.failure?.code).toBe('does-not-forward');
    expect(await ask(`from=${guests.tide}&to=${guests.ebb}&service=web`)).toEqual({
      sentence: 'web is no port: write it as 443/tcp or 53/udp.',
    });
    const again = await keeper.make('forwarded-port.record', {
      ...{ guestId: guests.ebb, port: 8443, toIp: '192.0.2.99', toPort: 80 },
    });
    expect(again.body).toMatchObject({ code: 'port-leads-on' });
    const sheet = await keeper.call<{ forwardedPorts: { id: string; revision: number }[] }>(
      'GET',
      `guests/${guests.ebb}`,
    );
    const [row] = sheet.body.forwardedPorts;
    expect((await keeper.make('forwarded-port.remove', { id: row!.id })).status).toBe(201);
  });
  it('a matrix of a group', async () => {
    const matrix = (
      await keeper.call<MatrixView>('POST', 'reach/matrix', { ids: Object.values(guests) })
    ).body;
    expect(matrix.machines.map((machine) => machine.name)).toEqual(['tide', 'ebb']);
    expect(matrix.cells[matrix.classOf[0]!]![matrix.classOf[1]!]!.verdict).toBe('yes');
  });
  it('a reader may ask, not mend', async () => {
    await keeper.call('POST', 'people', {
      name: 'looker',
      role: 'reader',
      password: 'a long enough password',
    });
    const { Person } = await import('./support/server.js');
    const reader = await new Person(here.servers[0]!.base).signIn('looker');
    expect((await reader.call('GET', `reach?from=${guests.tide}&to=${guests.ebb}`)).status).toBe(
      200,
    );
    await keeper.make('guest.edit', { id: guests.ebb, gateway: '192.0.9.1' });
    const found = (
      await reader.call<{ findings: Finding[] }>('GET', 'findings')
    ).body.findings.find(({ rule }) => rule === 'machine-gateway');
    expect((await reader.mend(found!.mend as ByChange)).status).toBe(403);
  });
});

describe('findings are mended by their own change', () => {
  it('once, and not when they no longer stand', async () => {
    const all = async () =>
      (await keeper.call<{ findings: Finding[] }>('GET', 'findings')).body.findings;
    const finding = (await all()).find((found) => found.rule === 'machine-gateway')!;
    expect(finding.mend).toMatchObject({ kind: 'change', label: 'Record 192.0.2.1' });
    const mend = finding.mend as ByChange;
    expect((await keeper.mend(mend)).status).toBe(201);
    expect((await all()).some((found) => found.rule === 'machine-gateway')).toBe(false);
    expect((await keeper.mend<Problem>(mend)).body.code).toBe('stale');
  });
});

describe('devices, lists and names', () => {
  it('a pasted list is seen first and taken whole', async () => {
    const text = 'lamp 192.0.2.60 00-00-5E-00-53-01\nhorn 192.0.2.300\ntide 192.0.2.2';
    const seenFirst = (
      await keeper.call<{ rows: { does: string }[]; faults: number }>('POST', 'lists/read', {
        text,
      })
    ).body;
    expect([seenFirst.rows.map((row) => row.does), seenFirst.faults]).toEqual([
      ['new device', 'device to look at', 'known already'],
      1,
    ]);
    expect((await keeper.make('list.take', { text })).status).toBe(201);
    const rows = (
      await keeper.call<{
        rows: { id: string; name: string; addresses: string[]; finding: object | null }[];
      }>('GET', 'devices?q=')
    ).body.rows;
    expect(rows.map((row) => [row.name, row.addresses, row.finding !== null])).toEqual([
      ['horn', [], true],
      ['lamp', ['192.0.2.60'], false],
    ]);
  });
  it('a device keeps its ports with what was found on them', async () => {
    const id = made(
      await keeper.make<Written>('device.record', {
        name: 'gate',
        kind: 'router',
        forwards: true,
        ports: [
          {
            name: 'inner',
            networkId: small.networkId,
            addresses: [{ ip: '192.0.2.1', prefixLength: 24 }],
          },
        ],
      }),
      'device',
    );
    const read = async () =>
      (await keeper.call<{ device: DeviceView }>('GET', `devices/${id}`)).body.device;
    expect((await read()).ports).toMatchObject([
      { name: 'inner', addresses: [{ ip: '192.0.2.1', assigned: false }] },
    ]);
    const changed = await keeper.make('device.set-ports', {
      id,
      ports: [
        {
          name: 'inner',
          networkId: small.networkId,
          addresses: [{ ip: '192.0.2.1', prefixLength: 16 }, { ip: '192.0.2.254' }],
        },
      ],
    });
    expect(changed.status).toBe(201);
    expect(
      (await read()).ports[0]!.addresses.map((address) => [address.ip, address.prefixLength]),
    ).toEqual([
      ['192.0.2.1', 16],
      ['192.0.2.254', 24],
    ]);
    expect(
      (
        await keeper.make<Written>('device.set-ports', {
          id,
          ports: [{ name: 'a', addresses: [{ ip: '1.2.3' }] }],
        })
      ).body,
    ).toMatchObject({ status: 422, field: 'ports.0.addresses.0.ip' });
    await keeper.make('route.record', {
      deviceId: id,
      destination: '10.9.0.0/16',
      via: '192.0.2.9',
    });
    expect((await read()).routes).toMatchObject([{ destination: '10.9.0.0/16', via: '192.0.2.9' }]);
    expect(
      (
        await keeper.make<Written>('route.record', {
          deviceId: id,
          destination: '10.9.0.1/16',
          via: '192.0.2.9',
        })
      ).status,
    ).toBe(422);
    expect((await keeper.make('device.remove', { id })).status).toBe(201);
  });
  it('zones are written with a serial that goes on', async () => {
    const query =
      'domain=shore.example&primary=ns1.shore.example&mailbox=hostmaster.shore.example&servers=ns1.shore.example&oldSerial=2999010100&prefix=192.0.2.0/24';
    const zones = (await keeper.call<ZoneFilesView>('GET', `names/zones?${query}`)).body;
    expect([zones.serial, zones.files.map((file) => file.name)]).toEqual([
      2999010101,
      ['shore.example', '2.0.192.in-addr.arpa.'],
    ]);
    expect(zones.files[0]!.text).toContain('tide IN A 192.0.2.2');
    expect(
      (
        await keeper.call(
          'GET',
          `names/zones?${query.replace('domain=shore.example', 'domain=a%0Ab')}`,
        )
      ).status,
    ).toBe(422);
    expect(
      (
        await keeper.call<Problem>(
          'GET',
          `names/zones?${query.replace('2999010100', '4294967295')}`,
        )
      ).body.code,
    ).toBe('serial-wraps');
  });
  it('names of a file are compared, taken, and forgotten', async () => {
    const text = '$ORIGIN shore.example.\ntide IN A 192.0.2.2\nebb IN A 192.0.2.33\n';
    const read = (await keeper.call<ReadNamesView>('POST', 'names/read', { text })).body;
    expect([read.agree, read.differ]).toEqual([
      1,
      [{ line: 3, sentence: 'ebb.shore.example is 192.0.2.3 in the record, not 192.0.2.33.' }],
    ]);
    expect((await keeper.make('names.take', { text, source: 'zone' })).status).toBe(201);
    const { findings } = (await keeper.call<{ findings: Finding[] }>('GET', 'findings')).body;
    expect(findings.find((found) => found.rule === 'name-differs')!.evidence).toContain(
      'ebb.shore.example leads to 192.0.2.33 (zone)',
    );
    expect((await keeper.make('names.forget', { source: 'zone' })).status).toBe(201);
    expect(
      (await keeper.make<Written>('names.take', { text: 'nothing', source: 'zone' })).status,
    ).toBe(422);
  });
  it('reservations come as JSON and as text', async () => {
    const found = (
      await keeper.call<{ json: string; text: string }>(
        'GET',
        `subnets/${small.subnetId}/reservations`,
      )
    ).body;
    expect(JSON.parse(found.json)).toMatchObject({
      Dhcp4: { subnet4: [{ subnet: '192.0.2.0/24' }] },
    });
  });
});

it('the record of all of it replays', () =>
  expect(here.checkRecord().stdout).toContain('The three agree.'));
