/**
 * A history in which every change that there is happens at least once, for tests: recorded decisions, dumps of
 * installations and undo are checked against it. Each step reads the fleet as the steps before left it.
 */
import type { Fleet, Kind, Row } from '../record/index.js';
import type { Change } from './decide.js';

type NamedRow = { id: string; name: string };

/** Yields one change after another; the caller makes each before asking for the next. */
export function* everyChange(fleet: Fleet): Generator<Change, void> {
  const id = (kind: Kind, name: string): string => {
    for (const row of fleet.all(kind) as Iterable<unknown> as Iterable<NamedRow>)
      if (row.name === name) return row.id;
    throw new Error(`no ${kind} ${name}`);
  };
  const of = <K extends Kind>(kind: K, wanted: (row: Row<K>) => boolean): Row<K> => {
    const found = [...fleet.all(kind)].find(wanted);
    if (!found) throw new Error(`no such ${kind}`);
    return found;
  };
  const guest = (name: string) => id('guest', name);
  const adapterOf = (name: string, position = 0) =>
    of('adapter', (row) => row.guestId === guest(name) && row.position === position).id;
  const addressOf = (ip: string) => of('address', (row) => row.ip === ip).id;

  yield { type: 'record.begin', input: {} };
  yield* places();
  yield* networks();
  yield* hosts();
  yield* guests();
  yield* parts();
  yield* clones();
  yield* migrations();
  yield* lists();
  yield* log();
  yield* later();
  yield* plans();
  yield* computers();
  yield* ports();

  function* places(): Generator<Change, void> {
    yield { type: 'site.record', input: { name: 'Pier house' } };
    const siteId = id('site', 'Pier house');
    yield { type: 'rack.record', input: { name: 'P1', siteId, units: 24, feedWatts: 3000 } };
    yield { type: 'host-group.record', input: { name: 'pair', reservePercent: 10 } };
    yield {
      type: 'host-group.edit',
      input: { id: id('hostGroup', 'pair'), quorum: 1, witness: 'desk' },
      reason: 'two of three votes',
    };
    yield { type: 'routing-domain.record', input: { name: 'inside' } };
    yield { type: 'routing-domain.remove', input: { id: id('routingDomain', 'inside') } };
    yield { type: 'profile.edit', input: { id: of('profile', () => true).id, notes: 'seen' } };
  }

  function* networks(): Generator<Change, void> {
    yield {
      type: 'network.record',
      input: {
        name: 'shore',
        vlanId: 10,
        siteId: id('site', 'Pier house'),
        subnet: {
          prefix: '192.0.2.0/24',
          gateway: '192.0.2.1',
          nameServers: ['192.0.2.53'],
          domain: 'pier.example',
          quarantineDays: 7,
          ranges: [{ use: 'dynamic', firstIp: '192.0.2.100', lastIp: '192.0.2.199' }],
        },
      },
    };
    yield {
      type: 'network.record-many',
      input: {
        networks: [
          {
            name: 'sea',
            vlanId: 20,
            subnet: { prefix: '198.51.100.0/24', gateway: '198.51.100.1' },
          },
          { name: 'spare', subnet: { prefix: '203.0.113.0/24' } },
        ],
      },
    };
    yield {
      type: 'network.edit',
      input: {
        id: id('network', 'sea'),
        mtu: 9000,
        purpose: 'storage',
        alsoAt: [id('site', 'Pier house')],
      },
    };
    yield {
      type: 'subnet.record',
      input: { networkId: id('network', 'sea'), prefix: '2001:db8:5::/64', gateway: null },
    };
    yield {
      type: 'subnet.edit',
      input: {
        id: of('subnet', (row) => row.prefix === '198.51.100.0/24').id,
        policy: 'after last',
        nameServers: ['192.0.2.53', '192.0.2.54'],
      },
    };
    yield {
      type: 'range.record',
      input: {
        subnetId: of('subnet', (row) => row.prefix === '198.51.100.0/24').id,
        use: 'reserved',
        firstIp: '198.51.100.240',
        lastIp: '198.51.100.254',
        purpose: 'later',
      },
    };
    yield {
      type: 'range.remove',
      input: { id: of('range', (row) => row.firstIp === '198.51.100.240').id },
    };
    const spare = () => of('subnet', (row) => row.prefix.startsWith('203.0.113.0/'));
    yield { type: 'subnet.split', input: { id: spare().id, length: 25 } };
    yield {
      type: 'subnet.join',
      input: {
        id: spare().id,
        otherId: of('subnet', (row) => row.prefix === '203.0.113.128/25').id,
      },
    };
    yield { type: 'subnet.remove', input: { id: spare().id } };
    yield { type: 'network.remove', input: { id: id('network', 'spare') } };
    yield {
      type: 'physical-switch.record',
      input: { name: 'core', siteId: id('site', 'Pier house') },
    };
    yield {
      type: 'physical-switch.set-ports',
      input: {
        id: id('physicalSwitch', 'core'),
        ports: [
          { name: '1', untaggedVlan: 10, taggedVlans: '20' },
          { name: '2', untaggedVlan: 10 },
          { name: '3' },
        ],
      },
    };
    yield {
      type: 'switch-port.edit',
      input: {
        ids: [id('switchPort', '2'), id('switchPort', '3')],
        purpose: 'hosts',
        addVlans: [20],
      },
    };
    yield {
      type: 'device.record',
      input: {
        name: 'gate',
        kind: 'router',
        forwards: true,
        ports: [
          { name: 'inner', networkId: id('network', 'shore'), addresses: [{ ip: '192.0.2.1' }] },
        ],
      },
    };
    yield {
      type: 'device.set-ports',
      input: {
        id: id('device', 'gate'),
        ports: [
          { name: 'inner', networkId: id('network', 'shore'), addresses: [{ ip: '192.0.2.1' }] },
          { name: 'outer', outside: true, masquerade: true },
        ],
      },
    };
    yield {
      type: 'route.record',
      input: { deviceId: id('device', 'gate'), destination: '198.51.100.0/24', via: '192.0.2.9' },
    };
  }

  function* hosts(): Generator<Change, void> {
    const platformId = id('platform', 'Generic bare-metal 1');
    const [shore, sea] = [id('network', 'shore'), id('network', 'sea')];
    const machine = {
      platformId,
      sockets: 2,
      coresPerSocket: 8,
      threadsPerCore: 2,
      installedMiB: 131_072,
      state: 'in service' as const,
      groupId: id('hostGroup', 'pair'),
      siteId: id('site', 'Pier house'),
    };
    yield {
      type: 'host.record',
      input: {
        ...machine,
        name: 'gannet',
        statedLevel: 3,
        rackId: id('rack', 'P1'),
        rackUnit: 3,
        warrantyUntil: '2028-01-31',
        pools: [{ name: 'gannet-data', usableBytes: 4e12 }],
        networks: [{ networkId: shore }, { networkId: sea }],
        management: { networkId: shore, ip: '192.0.2.11' },
        outOfBand: { ip: '192.0.2.12' },
        hardware: {
          ports: [{ name: 'p1', mac: '02:00:5e:00:53:01', bitsPerSecond: 1e9 }, { name: 'p2' }],
          modules: [
            { slot: 'A1', sizeMiB: 65_536 },
            { slot: 'A2', sizeMiB: 65_536 },
          ],
        },
      },
    };
    yield {
      type: 'host.record-many',
      input: {
        hosts: [
          {
            ...machine,
            name: 'tern',
            statedLevel: 3,
            state: 'building',
            pools: [{ name: 'tern-data', usableBytes: 4e12 }],
            networks: [{ networkId: shore }, { networkId: sea }],
          },
          { ...machine, name: 'skua', state: 'planned', pools: [], reaches: [] },
        ],
      },
    };
    yield {
      type: 'host.edit',
      input: { id: id('host', 'gannet'), purpose: 'tides', owner: 'planner' },
    };
    yield {
      type: 'host.edit-many',
      input: {
        ids: [id('host', 'gannet'), id('host', 'tern')],
        timeZone: 'UTC',
        labels: ['pier', 'tides'],
      },
    };
    yield {
      type: 'host.set-hardware',
      input: {
        hostId: id('host', 'tern'),
        hardware: {
          arrays: [{ name: 'a', level: '1', purpose: 'guests' }],
          disks: [
            { bay: '0', bytes: 4e12, class: 'enterprise disk', array: 'a' },
            { bay: '1', bytes: 4e12, class: 'enterprise disk', array: 'a' },
          ],
          ports: [{ name: 'p1' }, { name: 'p2' }],
        },
      },
    };
    yield {
      type: 'host.take-facts',
      input: {
        hostId: id('host', 'tern'),
        text: JSON.stringify({
          insel_facts: 1,
          dmi: 'product_serial=T-1',
          meminfo: 'MemTotal: 132096000 kB',
          nodes: 'node0|0-7|67108864\nnode1|8-15|67108864',
        }),
        chosen: ['serial', 'visibleMiB', 'nodes'],
      },
    };
    yield {
      type: 'host.verify',
      input: {
        hostId: id('host', 'gannet'),
        at: '2026-11-19T12:00:00+02:00',
        tests: [
          { test: 'gateway answers', passed: true },
          { test: 'own name resolves', passed: false, remark: 'reverse is missing' },
        ],
      },
    };
    yield {
      type: 'host.built',
      input: {
        hostId: id('host', 'tern'),
        startedAt: '2026-11-18T08:00:00Z',
        endedAt: '2026-11-18T09:10:00Z',
        differences: 'longer rails',
        tests: [{ test: 'gateway answers', passed: true }],
      },
    };
    yield {
      type: 'host.carry',
      input: { hostId: id('host', 'skua'), networkId: shore, mode: 'bridged' },
    };
    yield {
      type: 'host.switches-alike',
      input: { likeId: id('host', 'gannet'), hostIds: [id('host', 'skua')] },
    };
    const skuaSea = () =>
      of('virtualSwitch', (row) => row.hostId === id('host', 'skua') && row.networkId === sea).id;
    yield { type: 'switch.edit', input: { id: skuaSea(), untagged: true } };
    yield { type: 'host.drop-switch', input: { id: skuaSea() } };
    yield {
      type: 'host.add-inside',
      input: { hostId: id('host', 'gannet'), name: 'behind', mode: 'NAT', prefix: '10.77.0.0/24' },
    };
    const gannetShore = of(
      'virtualSwitch',
      (row) => row.hostId === id('host', 'gannet') && row.networkId === shore,
    ).id;
    const gannetPort = (name: string) =>
      of('port', (row) => row.hostId === id('host', 'gannet') && row.name === name).id;
    yield {
      type: 'switch.set-uplinks',
      input: { switchId: gannetShore, portIds: [gannetPort('p1'), gannetPort('p2')] },
    };
    yield {
      type: 'port.edit',
      input: { id: gannetPort('p1'), switchPortId: id('switchPort', '1') },
    };
    yield {
      type: 'pool.record',
      input: {
        name: 'shelf',
        usableBytes: 8e12,
        promiseLimitPercent: 150,
        remote: 'storage shelf',
        hostIds: [id('host', 'gannet'), id('host', 'tern')],
      },
    };
    yield {
      type: 'pool.edit',
      input: {
        id: id('pool', 'shelf'),
        fillAlarmPercent: 80,
        usedBytes: 1e12,
        hostIds: [id('host', 'gannet'), id('host', 'tern'), id('host', 'skua')],
      },
    };
  }

  function* guests(): Generator<Change, void> {
    const [shore, sea] = [id('network', 'shore'), id('network', 'sea')];
    const [gannet, tern] = [id('host', 'gannet'), id('host', 'tern')];
    const onShelf = (bytes: number) => ({ poolId: id('pool', 'shelf'), bytes });
    yield { type: 'profile.remove', input: { id: id('profile', 'desktop') } };
    yield { type: 'profile.add-usual', input: {} };
    yield {
      type: 'medium.record',
      input: { name: 'linux-12.img', bytes: 4e9, family: 'Linux', sha256: 'ab'.repeat(32) },
    };
    yield {
      type: 'guest.plan',
      input: {
        name: 'tide',
        hostId: gannet,
        family: 'Linux',
        vcpu: 2,
        memoryMiB: 4096,
        processorMode: 'v2',
        profileId: id('profile', 'general server'),
        nestedVirtualisation: true,
        volumes: [
          onShelf(50e9),
          { ...onShelf(4_194_304), use: 'UEFI variables', label: 'variables' },
        ],
        adapters: [
          { networkId: shore, address: { as: 'next' } },
          { networkId: sea, address: { as: 'given', ip: '198.51.100.20' } },
        ],
        mediumIds: [id('medium', 'linux-12.img')],
      },
    };
    yield {
      type: 'guest.plan',
      input: {
        name: 'whale',
        hostId: id('host', 'skua'),
        family: 'Linux',
        vcpu: 2,
        memoryMiB: 500_000,
        volumes: [],
        adapters: [],
      },
      override: 'modules arrive tomorrow',
    };
    yield {
      type: 'guest.record',
      input: {
        name: 'ferry',
        hostId: tern,
        family: 'NT family',
        vcpu: 4,
        memoryMiB: 8192,
        state: 'in service',
        volumes: [{ poolId: id('pool', 'tern-data'), bytes: 100e9, thin: true }],
        adapters: [
          {
            networkId: shore,
            mac: '02:00:5e:00:53:20',
            address: { as: 'given', ip: '192.0.2.30' },
          },
        ],
      },
    };
    yield {
      type: 'guest.record-many',
      input: {
        guests: ['camera-1', 'camera-2', 'camera-3'].map((name, i) => ({
          name,
          hostId: i % 2 ? tern : gannet,
          family: 'Linux' as const,
          vcpu: 1,
          memoryMiB: 2048,
          state: 'in service' as const,
          volumes: [onShelf(20e9)],
          adapters: [
            { networkId: shore, address: { as: 'given' as const, ip: `192.0.2.${40 + i}` } },
          ],
        })),
      },
    };
    yield { type: 'guest-group.record', input: { name: 'cameras', needed: 2 } };
    yield {
      type: 'guest.edit-many',
      input: {
        ids: [guest('camera-1'), guest('camera-2')],
        groupId: id('guestGroup', 'cameras'),
        criticality: 'high',
      },
    };
    yield {
      type: 'guest.edit',
      input: {
        id: guest('tide'),
        memoryMiB: 6144,
        purpose: 'tide ingest',
        confirmedAt: '2026-11-19T10:00:00+02:00',
        confirmedBy: 'planner',
      },
      happenedAt: '2026-11-19T10:00:00+02:00',
    };
    yield {
      type: 'guest.set-state',
      input: { id: guest('tide'), state: 'building' },
      happenedAt: '2026-11-20T09:00:00+02:00',
    };
    yield {
      type: 'guest.tick',
      input: { guestId: guest('tide'), step: 'create', outcome: 'done' },
    };
    yield { type: 'guest.set-state', input: { id: guest('tide'), state: 'in service' } };
    yield {
      type: 'rule.set',
      input: {
        name: 'cameras apart',
        rule: 'apart',
        guestIds: [guest('camera-1'), guest('camera-2')],
      },
    };
    yield {
      type: 'rule.set',
      input: { name: 'tide stays', rule: 'pinned', hostId: gannet, guestIds: [guest('tide')] },
    };
    yield { type: 'rule.remove', input: { id: id('placementRule', 'tide stays') } };
    yield { type: 'guest.set-state', input: { id: guest('camera-3'), state: 'stopped' } };
    yield { type: 'guest.retire', input: { id: guest('camera-3'), clear: ['addresses'] } };
    yield { type: 'service.record', input: { name: 'tide times', what: 'other' } };
    yield {
      type: 'provider.record',
      input: { serviceId: id('service', 'tide times'), guestId: guest('tide') },
    };
    yield {
      type: 'need.record',
      input: {
        guestId: guest('ferry'),
        serviceId: id('service', 'tide times'),
        purpose: 'timetable',
      },
    };
    yield {
      type: 'backup.record',
      input: {
        guestId: guest('ferry'),
        way: 'backup',
        poolId: id('pool', 'shelf'),
        everyMinutes: 1440,
        takesMinutes: 30,
        lastSuccessAt: '2026-11-19T23:30:00+01:00',
      },
    };
    yield {
      type: 'snapshot.record',
      input: {
        guestId: guest('ferry'),
        poolId: id('pool', 'tern-data'),
        name: 'before',
        takenAt: '2026-11-18T05:00:00-03:00',
        bytes: 1e9,
      },
    };
  }

  function* parts(): Generator<Change, void> {
    yield {
      type: 'volume.add',
      input: {
        guestId: guest('tide'),
        poolId: id('pool', 'shelf'),
        bytes: 30e9,
        label: 'data',
        thin: true,
      },
    };
    const data = () =>
      of('volume', (row) => row.guestId === guest('tide') && row.label === 'data').id;
    yield { type: 'volume.edit', input: { id: data(), bytes: 40e9, usedBytes: 12e9 } };
    yield {
      type: 'adapter.add',
      input: { guestId: guest('tide'), networkId: id('network', 'shore'), address: { as: 'next' } },
    };
    yield {
      type: 'adapter.edit',
      input: { id: adapterOf('tide', 2), model: 'paravirtual', mac: '' },
    };
    yield { type: 'adapter.swap', input: { aId: adapterOf('tide', 0), bId: adapterOf('tide', 1) } };
    yield {
      type: 'adapter.order',
      input: {
        guestId: guest('tide'),
        ids: [adapterOf('tide', 1), adapterOf('tide', 0), adapterOf('tide', 2)],
      },
    };
    yield { type: 'adapter.remove', input: { id: adapterOf('tide', 2) } };
    yield { type: 'volume.delete', input: { id: data() } };
    yield {
      type: 'address.set',
      input: {
        adapterId: adapterOf('ferry'),
        networkId: id('network', 'shore'),
        ip: '192.0.2.31',
        assigned: true,
      },
    };
    yield {
      type: 'address.edit',
      input: { id: addressOf('192.0.2.31'), use: 'shared', purpose: 'failover' },
    };
    yield { type: 'address.release', input: { id: addressOf('192.0.2.31') } };
    yield { type: 'address.end-rest', input: { id: of('quarantine', () => true).id } };
  }

  function* clones(): Generator<Change, void> {
    yield {
      type: 'guest.record',
      input: {
        name: 'master',
        hostId: id('host', 'gannet'),
        family: 'Linux',
        vcpu: 1,
        memoryMiB: 1024,
        state: 'stopped',
        template: true,
        volumes: [{ poolId: id('pool', 'gannet-data'), bytes: 12e9 }],
        adapters: [
          { networkId: id('network', 'shore'), address: { as: 'given', ip: '192.0.2.60' } },
        ],
      },
    };
    yield {
      type: 'clone.make',
      input: {
        originId: guest('master'),
        copy: 'full',
        pattern: 'gauge-##',
        start: 1,
        taking: 'run',
        clones: [{}, {}, { name: 'gauge-spare' }],
      },
    };
    yield {
      type: 'clone.make',
      input: {
        originId: guest('master'),
        copy: 'dependent',
        pattern: 'light-#',
        start: 1,
        taking: 'single',
        clones: [{}],
      },
    };
    const items = [...fleet.all('identityItem')].filter(
      (row) => row.item === 'computer name' || row.item === 'MAC address',
    );
    yield {
      type: 'clone.tick',
      input: { itemIds: items.map((row) => row.id), done: true, remark: 'by script' },
    };
  }

  function* migrations(): Generator<Change, void> {
    const move = () =>
      of('migration', (row) => row.state !== 'accepted' && row.state !== 'rolled back').id;
    const plan = (name: string, targetPoolId: string | null): Change => ({
      type: 'migration.plan',
      input: {
        guestId: guest(name),
        targetHostId: id('host', 'gannet'),
        targetPoolId,
        running: false,
        linkBitsPerSecond: 1e9,
      },
    });
    yield plan('ferry', id('pool', 'gannet-data'));
    yield {
      type: 'migration.step',
      input: { id: move(), step: 'start' },
      happenedAt: '2026-11-20T08:00:00+02:00',
    };
    yield {
      type: 'migration.step',
      input: { id: move(), step: 'switch' },
      happenedAt: '2026-11-20T07:30:00+01:00',
    };
    yield {
      type: 'migration.step',
      input: { id: move(), step: 'accept', keepUntil: '2026-11-21' },
    };
    yield { type: 'hold.release', input: { id: of('hold', (row) => row.poolId !== null).id } };
    yield plan('camera-2', null);
    yield { type: 'migration.step', input: { id: move(), step: 'roll back' } };
  }

  /** A computer becomes a guest, and a guest goes onto a computer. */
  function* computers(): Generator<Change, void> {
    yield {
      type: 'device.record',
      input: {
        name: 'old-desk',
        kind: 'computer',
        ports: [
          {
            name: 'eth0',
            networkId: id('network', 'shore'),
            addresses: [{ ip: '192.0.2.77', prefixLength: 24 }],
          },
        ],
      },
    };
    const deviceId = id('device', 'old-desk');
    yield {
      type: 'computer.set',
      input: {
        id: deviceId,
        family: 'Linux',
        sockets: 1,
        coresPerSocket: 4,
        memoryMiB: 2048,
        disks: [{ bay: 'sda', bytes: 20e9, sectorBytes: 512, boot: true }],
      },
    };
    yield {
      type: 'computer.take-facts',
      input: { id: deviceId, text: JSON.stringify({ insel_facts: 1, host_name: 'old-desk' }) },
    };
    const diskId = () => of('computerDisk', (row) => row.deviceId === deviceId).id;
    yield {
      type: 'migration.plan-from-physical',
      input: {
        deviceId,
        targetHostId: id('host', 'gannet'),
        name: 'old-desk',
        vcpu: 1,
        memoryMiB: 512,
        disks: [{ computerDiskId: diskId(), poolId: of('pool', () => true).id, bytes: 22e9 }],
        linkBitsPerSecond: 1e9,
      },
      override: 'it is small',
    };
    const move = () =>
      of(
        'migration',
        (row) =>
          row.state !== 'rolled back' &&
          [row.sourceDeviceId, row.targetDeviceId].includes(deviceId),
      ).id;
    for (const step of ['start', 'switch', 'roll back'] as const)
      yield { type: 'migration.step', input: { id: move(), step }, override: 'a try' };
    yield {
      type: 'plan.draw-programme',
      input: {
        name: 'the attic',
        moves: [
          {
            deviceId,
            targetHostId: id('host', 'gannet'),
            name: 'old-desk-2',
            vcpu: 1,
            memoryMiB: 512,
            disks: [{ computerDiskId: diskId(), poolId: of('pool', () => true).id, bytes: 22e9 }],
            linkBitsPerSecond: 1e9,
            remark: 'window 1',
          },
        ],
      },
    };
    const waiting = of('migration', (row) => row.guestId === guest('gauge-01')).id;
    yield { type: 'migration.step', input: { id: waiting, step: 'roll back' } };
    yield {
      type: 'migration.plan-to-physical',
      input: {
        guestId: guest('gauge-01'),
        deviceId,
        disks: [
          {
            volumeId: of('volume', (row) => row.guestId === guest('gauge-01')).id,
            computerDiskId: diskId(),
          },
        ],
        linkBitsPerSecond: 1e9,
        method: 'files only',
        keepsBoth: true,
      },
      override: 'a practice machine',
    };
    yield { type: 'migration.step', input: { id: move(), step: 'roll back' } };
  }

  function* lists(): Generator<Change, void> {
    yield {
      type: 'list.take',
      input: {
        text: 'printer-1 192.0.2.70\nferry 192.0.2.71\nbroken 192.0.2.999',
        networkId: id('network', 'shore'),
      },
    };
    yield {
      type: 'names.take',
      input: {
        source: 'pier.example',
        text: '$ORIGIN pier.example.\ntide IN A 192.0.2.2\ntimes IN CNAME tide\n',
      },
    };
    yield { type: 'names.forget', input: { source: 'pier.example' } };
  }

  function* log(): Generator<Change, void> {
    yield {
      type: 'log.note',
      input: {
        text: 'the port light flickers',
        subject: { kind: 'host', id: id('host', 'gannet') },
      },
    };
    yield {
      type: 'attachment.redact',
      input: { sha256: 'cd'.repeat(32) },
      reason: 'it named a person',
    };
    yield { type: 'site.record', input: { name: 'Mistake' } };
    yield { type: 'undo', input: { revision: fleet.revision } };
  }

  /** Later than the decisions that were recorded. */
  function* later(): Generator<Change, void> {
    const hostId = id('host', 'gannet');
    yield { type: 'host.edit', input: { id: hostId, nextMaintenanceOn: '2026-01-01' } };
    yield {
      type: 'finding.accept',
      input: { findingId: `maintenance-due|${hostId}`, until: '2027-01-31' },
      reason: 'The crane is free in January.',
    };
    yield { type: 'finding.end-acceptance', input: { id: of('acceptance', () => true).id } };
    yield* templates();
    yield* moves();
  }

  function* moves(): Generator<Change, void> {
    yield {
      type: 'migration.plan',
      input: {
        guestId: guest('gauge-01'),
        targetHostId: id('host', 'tern'),
        targetPoolId: null,
        running: false,
        linkBitsPerSecond: 1e9,
        method: 'shared storage switched over',
        windowFrom: '2026-11-21T02:00:00.000Z',
        windowUntil: '2026-11-21T06:00:00.000Z',
      },
      override: 'a history of every change',
    };
    yield {
      type: 'migration.edit',
      input: {
        id: of('migration', (row) => row.guestId === guest('gauge-01')).id,
        windowUntil: '2026-11-21T07:00:00.000Z',
      },
    };
    yield {
      type: 'migration.set-times',
      input: {
        ids: [of('migration', (row) => row.guestId === guest('gauge-01')).id],
        times: [{ from: '2026-11-21T03:00:00.000Z', until: '2026-11-21T07:30:00.000Z' }],
      },
    };
    const waiting = of('migration', (row) => row.guestId === guest('gauge-01')).id;
    yield { type: 'migration.pause', input: { id: waiting, why: 'the ferry does not go' } };
    yield { type: 'migration.resume', input: { id: waiting } };
    const [step] = [...fleet.all('moveStep')].filter(({ key }) => key === 'backup').slice(-1);
    yield {
      type: 'migration.tick',
      input: { stepIds: [step!.id], state: 'skipped', remark: 'nothing to save' },
    };
    yield {
      type: 'migration.take-reading',
      input: {
        id: of('migration', (row) => row.guestId === guest('gauge-01')).id,
        when: 'before',
        text: 'insel-reading: 1\nname: gauge-01\n',
      },
    };
  }

  function* templates(): Generator<Change, void> {
    const version = (number: number) => of('templateVersion', (row) => row.number === number).id;
    const itemIds = (number: number) =>
      [...fleet.all('sealItem')].flatMap((row) =>
        row.versionId === version(number) ? row.id : [],
      );
    yield {
      type: 'template.begin',
      input: { guestId: guest('master'), name: 'gauge', installed: 'time, monitoring' },
    };
    yield { type: 'template.tick', input: { itemIds: itemIds(1), done: true, remark: 'by hand' } };
    yield { type: 'template.seal', input: { id: version(1) } };
    yield {
      type: 'template.edit-version',
      input: { id: version(1), changed: 'The first one.' },
    };
    const templateId = id('template', 'gauge');
    yield { type: 'template.new-version', input: { templateId, changed: 'Updates of November.' } };
    for (const state of ['building', 'stopped'] as const)
      yield { type: 'guest.set-state-many', input: { ids: [guest('gauge-v2')], state } };
    yield { type: 'template.tick', input: { itemIds: itemIds(2), done: true } };
    yield { type: 'template.seal', input: { id: version(2) } };
    yield {
      type: 'clone.remake',
      input: { guestIds: [guest('gauge-01')] },
      reason: 'Updates.',
    };
    yield { type: 'clone.promote', input: { guestIds: [guest('light-1')] } };
    yield {
      type: 'clone.record-times',
      input: { guestIds: [guest('gauge-01')], copySeconds: 70 },
    };
    yield {
      type: 'guest.take-proof',
      input: { guestId: guest('gauge-01'), text: 'insel-identity: 1\nname: gauge-01\n' },
    };
    yield { type: 'template.retire-version', input: { id: version(1) } };
    yield {
      type: 'entitlement.record',
      input: { name: 'Linux support', unit: 'processor', count: 2, family: 'Linux' },
    };
  }
  /** Split, approved by somebody else, paused, gone on with, kept as it is, ticked. */
  function* carriedTogether(): Generator<Change, void> {
    const later = id('plan', 'more memory, later');
    yield { type: 'plan.edit', input: { id: later, needsApproval: true, onPlanId: null } };
    const guest = [...fleet.all('guest')].find(({ name }) => name === 'tide')!;
    for (const [purpose, byHand] of [
      ['watched', true],
      ['watched closely', false],
    ] as const)
      yield {
        type: 'plan-step.draw',
        input: {
          planId: later,
          type: 'guest.edit',
          input: JSON.stringify({ id: guest.id, purpose }),
          byHand,
        },
      };
    const open = () =>
      [...fleet.all('planStep')]
        .filter((step) => step.planId === later && step.doneAt === null)
        .sort((a, b) => a.position - b.position);
    yield {
      type: 'plan.split',
      input: { id: later, name: 'more memory, last', ids: [open().at(-1)!.id] },
    };
    yield { type: 'plan.pause', input: { id: later, why: 'modules are late' } };
    yield { type: 'plan.resume', input: { id: later } };
    yield { type: 'guest.edit', input: { id: guest.id, purpose: 'tides, seen to' } };
    yield { type: 'plan-step.keep', input: { id: open().at(-1)!.id } };
    for (const step of open().slice(0, -1))
      yield { type: 'plan-step.remove', input: { id: step.id } };
    yield { type: 'plan.approve', input: { id: later }, override: 'nobody else is here' };
    yield { type: 'plan-step.tick', input: { id: open()[0]!.id, found: 'as expected' } };
    const [first] = fleet.all('migration');
    for (const was of [false, true])
      yield {
        type: 'migration.answer',
        input: {
          migrationId: first!.id,
          sign: 'the copy stalls or crawls',
          cause: 'link-negotiated-down',
          was,
        },
      };
  }

  function* ports(): Generator<Change, void> {
    yield {
      type: 'forwarded-port.record',
      input: { deviceId: id('device', 'gate'), port: 8443, toIp: '192.0.2.21', toPort: 443 },
    };
    yield {
      type: 'forwarded-port.remove',
      input: { id: [...fleet.all('forwardedPort')][0]!.id },
    };
  }

  function* plans(): Generator<Change, void> {
    yield {
      type: 'plan.record',
      input: { name: 'more memory', purpose: 'The gauges ask for it.', owner: 'desk' },
    };
    const planId = id('plan', 'more memory');
    const tide = of('guest', (row) => row.name === 'tide');
    for (const [type, input] of [
      ['guest.edit', { id: tide.id, memoryMiB: tide.memoryMiB + 512 }],
      ['site.record', { name: 'Quay house' }],
      ['guest.edit', { id: tide.id, notes: 'has more memory' }],
    ] as const)
      yield { type: 'plan-step.draw', input: { planId, type, input: JSON.stringify(input) } };
    const steps = () =>
      [...fleet.all('planStep')].sort((a, b) => a.position - b.position).map((row) => row.id);
    const [first, second, third] = steps();
    yield { type: 'plan-step.edit', input: { id: first!, day: '2027-01-16', person: 'planner' } };
    yield { type: 'plan.order', input: { planId, ids: [second!, first!, third!] } };
    yield { type: 'plan-step.carry-out', input: { id: second! } };
    yield { type: 'plan-step.remove', input: { id: third! } };
    yield { type: 'plan.copy', input: { id: planId, name: 'more memory, later' } };
    yield* carriedTogether();
    yield { type: 'plan.edit', input: { id: planId, state: 'given up' } };
    yield {
      type: 'plan.draw-moves',
      input: {
        name: 'empty gannet',
        purpose: 'new modules',
        linkBitsPerSecond: 1e9,
        moves: [
          {
            guestId: tide.id,
            targetHostId: id('host', 'tern'),
            targetPoolId: null,
            running: false,
            remark: 'leaves',
          },
        ],
      },
    };
    yield {
      type: 'plan.draw-batch',
      input: {
        name: 'two for the shore',
        linkBitsPerSecond: 1e9,
        moves: [],
        lots: [
          {
            ...{ family: 'Linux', vcpu: 1, memoryMiB: 512, bytes: 1e9, thin: true },
            networkIds: [id('network', 'shore')],
            apart: 'none',
          },
        ],
        guests: ['shore-1', 'shore-2'].map((name) => ({
          ...{ lot: 0, name, hostId: id('host', 'tern') },
          poolId: id('pool', 'tern-data'),
        })),
      },
    };
    yield { type: 'power-feed.record', input: { name: 'P1 left', watts: 2000, upsMinutes: 12 } };
    yield { type: 'power-feed.record', input: { name: 'P1 right' } };
    const feedId = of('powerFeed', ({ name }) => name === 'P1 left').id;
    yield { type: 'power-feed.edit', input: { id: feedId, watts: 1800 } };
    yield { type: 'host.set-cords', input: { id: id('host', 'tern'), cords: [{ feedId }] } };
    yield {
      type: 'power-feed.remove',
      input: { id: of('powerFeed', ({ name }) => name === 'P1 right').id },
    };
  }
}
