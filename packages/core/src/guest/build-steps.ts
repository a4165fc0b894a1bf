/**
 * The steps of building one guest, with every value to type, a caution where one is due, and the first checks. Each step
 * has a key of its own, under which it is ticked with its time. Common practice throughout, no source.
 */
import { contains, addressOf, prefixOf } from '../address/index.js';
import { machineName } from '../names/machine-names.js';
import { formatBinary, formatBoth, formatMemory, GIB, type MiB } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import type { GuestBuild, BuildStep } from './build-step.js';
import { platformOf } from './demand.js';
import { drivesOf, type Drives } from './devices.js';
import { adapterName } from './interface-name.js';

interface At {
  fleet: Fleet;
  guest: Row<'guest'>;
  host: Row<'host'>;
  platform: Row<'platform'>;
  drives: Drives;
  volumes: Row<'volume'>[];
  adapters: Row<'adapter'>[];
  media: Row<'medium'>[];
}

export function guestBuild(fleet: Fleet, guestId: string): GuestBuild {
  const guest = fleet.need('guest', guestId);
  const host = fleet.need('host', guest.hostId);
  const at: At = {
    fleet,
    guest,
    host,
    platform: platformOf(fleet, host.id),
    drives: drivesOf(guest.family, fleet.get('profile', guest.profileId)),
    volumes: fleet.referring('volume', 'guestId', guestId).sort((a, b) => a.id.localeCompare(b.id)),
    adapters: fleet
      .referring('adapter', 'guestId', guestId)
      .sort((a, b) => a.position - b.position),
    media: fleet
      .referring('drive', 'guestId', guestId)
      .map((drive) => fleet.need('medium', drive.mediumId)),
  };
  const [clone] = fleet.referring('clone', 'guestId', guestId);
  const installer = at.media.find(
    (medium) => medium.install === 'full' || medium.install === 'network',
  );
  const way = clone
    ? 'copy'
    : !installer
      ? 'no medium'
      : installer.install === 'network'
        ? 'network install'
        : 'full medium';
  const sections = [
    { title: 'Make the guest', steps: making(at) },
    ...(clone
      ? [{ title: 'Give the copy an identity of its own', steps: identity(at, clone) }]
      : [
          { title: 'Start the installer', steps: starting(at, installer) },
          { title: 'Type at the installer', steps: installing(at, way) },
          { title: 'Before it restarts', steps: leaving(at) },
        ]),
    { title: 'In the guest', steps: inside(at, Boolean(clone)) },
    { title: 'First checks', steps: checks(at) },
  ];
  const undecided = sections.flatMap(({ steps }) =>
    steps.flatMap((step) => (step.value === null ? [step.text] : [])),
  );
  return {
    guest: guest.name,
    host: host.name,
    platform: at.platform.name,
    way,
    sections,
    undecided,
  };
}

function making({ fleet, guest, host, platform, drives, volumes, adapters }: At): BuildStep[] {
  const mode =
    guest.processorMode === 'host'
      ? 'the host’s own model'
      : guest.processorMode === 'unknown'
        ? null
        : `level x86-64-${guest.processorMode}`;
  const steps: BuildStep[] = [
    { key: 'create', text: `On ${host.name}: a guest named`, value: guest.name },
    {
      key: 'size',
      text: 'Its size',
      value: `${guest.vcpu} vCPU, ${formatMemory(guest.memoryMiB)}`,
    },
    {
      key: 'processor',
      text: 'Processor it sees',
      value: mode,
      caution:
        guest.processorMode === 'host' && platform.runningMigration
          ? 'The host’s own model: it moves while running only to a host with the same processor.'
          : undefined,
    },
    {
      key: 'firmware',
      text: 'Firmware',
      value: guest.firmware === 'unknown' ? null : guest.firmware,
      caution: 'Altered after the installation, it no longer finds its system.',
    },
  ];
  if (guest.nestedVirtualisation)
    steps.push({
      key: 'nested',
      text: 'Pass virtualisation through',
      caution:
        host.virtualisation === 'on'
          ? undefined
          : `Virtualisation of ${host.name} is ${host.virtualisation}: switch it on in its firmware first.`,
    });
  for (const [i, volume] of volumes.entries()) {
    const undriven = volume.bus === 'paravirtual' && !drives.paravirtualDisk;
    steps.push({
      key: `volume ${i + 1}`,
      text: `Volume ${volume.label} in pool ${fleet.need('pool', volume.poolId).name}`,
      value: `${formatBoth(volume.bytes)}, ${volume.thin ? 'grows later' : 'allocated now'}${volume.split ? ', in several files' : ''}${volume.bus === 'unknown' ? '' : `, bus ${volume.bus}`}`,
      caution: undriven
        ? 'Its installer does not drive this bus: attach the medium with the drivers too, or take an emulated bus.'
        : undefined,
    });
  }
  for (const [i, adapter] of adapters.entries()) {
    const network = fleet.get('network', adapter.networkId);
    steps.push({
      key: `adapter ${i + 1}`,
      text: `Adapter ${i + 1} on`,
      value: network
        ? [
            network.name,
            network.vlanId ? `VLAN ${network.vlanId}` : '',
            adapter.mac ?? '',
            adapter.model === 'unknown' ? '' : adapter.model,
          ]
            .filter(Boolean)
            .join(', ')
        : null,
    });
  }
  return steps;
}

function starting(
  { fleet, guest, drives, volumes, media }: At,
  installer: Row<'medium'> | undefined,
): BuildStep[] {
  const steps: BuildStep[] = [
    {
      key: 'attach',
      text: 'Attach the medium, connected at power-on',
      value: installer?.name ?? null,
      caution: 'Attached but not connected, it is not there when the guest starts.',
    },
  ];
  if (installer)
    steps.push({
      key: 'compare',
      text: 'Its SHA-256: compare all of it, not the last digits',
      value: installer.sha256 || null,
    });
  const needsDrivers =
    (volumes.some((volume) => volume.bus === 'paravirtual') && !drives.paravirtualDisk) ||
    (fleet
      .referring('adapter', 'guestId', guest.id)
      .some((adapter) => adapter.model === 'paravirtual') &&
      !drives.paravirtualNetwork);
  if (needsDrivers)
    steps.push({
      key: 'drivers',
      text: 'Attach the medium with the drivers as well',
      value: media.find((medium) => medium.install === 'drivers')?.name ?? null,
    });
  steps.push(
    { key: 'medium first', text: 'Boot order: the medium first' },
    { key: 'power on', text: 'Switch it on and open its console' },
  );
  return steps;
}

/** A rule of thumb handed on by installers: twice a small memory, as much as a middling one, 4 GiB for a large one. */
export const swapAdvice = (memoryMiB: MiB): MiB =>
  memoryMiB <= 2048 ? 2 * memoryMiB : memoryMiB <= 8192 ? memoryMiB : 4096;

function diskLayout({ guest, drives, volumes }: At): string {
  const disks = volumes.filter((volume) => volume.use === 'disk');
  const [first, ...more] = disks;
  if (!first) return 'no disk: it runs from its medium';
  const boot = guest.firmware === 'legacy' ? '' : 'EFI system partition 1 GiB, ';
  const swap = swapAdvice(guest.memoryMiB) * 1024 ** 2;
  const system =
    drives.family === 'NT family'
      ? `whole of ${first.label}: it keeps its page file itself`
      : drives.family === 'appliance'
        ? `as its image says, on ${first.label}`
        : first.bytes < 2 * swap + 4 * GIB
          ? `${first.label}: ${boot}a swap file instead of a partition, the rest for the system`
          : `${first.label}: ${boot}swap ${formatBinary(swap)}, the rest for the system`;
  return [system, ...more.map((volume) => `${volume.label}: whole, for what it keeps`)].join('; ');
}

function installing(at: At, way: GuestBuild['way']): BuildStep[] {
  const { fleet, guest, host } = at;
  const steps: BuildStep[] = [];
  if (way === 'network install')
    steps.push({
      key: 'network install',
      text: 'Network install: it is current at once, and needs gateway and name server while it installs',
      caution: placeOf(at).gateway
        ? undefined
        : 'No gateway is decided: it cannot reach anything to install from.',
    });
  if (way === 'full medium')
    steps.push({
      key: 'full medium',
      text: 'Full medium: it installs offline; updates follow afterwards',
    });
  const disks = at.volumes.filter((volume) => volume.use === 'disk');
  if (disks[0])
    steps.push({
      key: 'target',
      text: 'Target disk',
      value: `${disks[0].label}, ${formatBoth(disks[0].bytes)}`,
      caution:
        disks.length > 1 ? 'Compare the size: the other volumes must stay untouched.' : undefined,
    });
  steps.push({ key: 'layout', text: 'Disk layout (swap by rule of thumb)', value: diskLayout(at) });
  steps.push({
    key: 'name',
    text: 'Full name',
    value: machineName(fleet, 'guest', guest.id)?.full ?? guest.name,
  });
  steps.push(...addressSteps(at));
  steps.push({ key: 'time zone', text: 'Time zone', value: host.timeZone || null });
  steps.push({
    key: 'administrator',
    text: 'Administrator: a new password',
    caution: 'Not on this sheet. Note in the record only where it is kept and who may open it.',
  });
  return steps;
}

function addressSteps(at: At): BuildStep[] {
  const { fleet, guest, adapters } = at;
  const place = placeOf(at);
  const steps = adapters.map((adapter, i): BuildStep => {
    const { name, expected } = adapterName(fleet, guest, adapter);
    const addresses = fleet.referring('address', 'adapterId', adapter.id).map((address) => {
      const subnet = fleet.get('subnet', address.subnetId);
      const length = address.prefixLength ?? (subnet ? prefixOf(subnet.prefix).length : null);
      return `${address.ip}${length === null ? '' : `/${length}`}${address.use === 'static' ? '' : ` (${address.use})`}`;
    });
    return {
      key: `address ${i + 1}`,
      text: `Adapter ${i + 1}${name ? `, ${expected ? 'expected as' : 'known as'} ${name}` : ''}: address and prefix`,
      value: addresses.join(', ') || null,
      caution:
        guest.forwards && adapter.id !== place.adapter?.id
          ? 'An inside: no gateway here, or its answers leave by the wrong side.'
          : undefined,
    };
  });
  if (adapters.length === 0) return steps;
  steps.push({
    key: 'gateway',
    text: guest.forwards ? 'Gateway, on the outside only' : 'Gateway',
    value: guest.noGateway ? 'none, on purpose' : place.gateway,
  });
  steps.push({
    key: 'name servers',
    text: 'Name servers',
    value: place.nameServers.join(', ') || (guest.noGateway ? 'none' : null),
  });
  return steps;
}

/**
 * Gateway and name servers: on the adapter on whose subnet the noted gateway lies, or else by the first address whose subnet
 * names one that is not the guest itself.
 */
export function placeOf({ fleet, guest, adapters }: Pick<At, 'fleet' | 'guest' | 'adapters'>): {
  gateway: string | null;
  nameServers: readonly string[];
  adapter: Row<'adapter'> | undefined;
} {
  const own = new Set<string>();
  const places = adapters.flatMap((adapter) =>
    fleet.referring('address', 'adapterId', adapter.id).flatMap((address) => {
      own.add(address.ip);
      const subnet = fleet.get('subnet', address.subnetId);
      return subnet ? [{ adapter, subnet }] : [];
    }),
  );
  const noted = guest.gateway === null ? undefined : addressOf(guest.gateway);
  const place =
    places.find(({ subnet }) => noted && contains(prefixOf(subnet.prefix), noted)) ??
    places.find(({ subnet }) => subnet.gateway && !own.has(subnet.gateway));
  return {
    gateway: guest.gateway ?? place?.subnet.gateway ?? null,
    nameServers: place?.subnet.nameServers ?? [],
    adapter: place?.adapter,
  };
}

function leaving({ media, volumes }: At): BuildStep[] {
  const live = volumes.filter((volume) => volume.use === 'disk').length === 0;
  if (live)
    return [
      {
        key: 'stays',
        text: 'It has no disk: its medium stays attached and first in the boot order',
      },
    ];
  return [
    {
      key: 'eject',
      text: `Eject ${media.map((medium) => medium.name).join(' and ') || 'the medium'} before it restarts`,
      caution:
        'Left in, the installer starts again, and at worst overwrites what it has just installed.',
    },
    { key: 'disk first', text: 'Boot order: the disk first again' },
  ];
}

function identity({ fleet }: At, clone: Row<'clone'>): BuildStep[] {
  const origin = fleet.need('guest', clone.originId).name;
  const items = fleet
    .referring('identityItem', 'cloneId', clone.id)
    .sort((a, b) => a.id.localeCompare(b.id));
  return [
    {
      key: 'apart',
      text: `Start it without a network first: until then it is ${origin} a second time`,
      caution: 'Two of one identity on one network break both.',
    },
    ...items.map((item): BuildStep => ({ key: `item ${item.item}`, text: `A new ${item.item}` })),
  ];
}

function inside(at: At, copied: boolean): BuildStep[] {
  const { guest, adapters, fleet, drives } = at;
  const steps: BuildStep[] = [
    ...(copied ? addressSteps(at) : []),
    {
      key: 'bring up',
      text: `Its ${adapters.length > 1 ? 'interfaces come' : 'interface comes'} up at boot: say so, restart once and look`,
    },
  ];
  if (guest.forwards) {
    const out = placeOf(at).adapter;
    const translating = adapters
      .filter((adapter) => adapter.masquerade)
      .map((adapter) => adapters.indexOf(adapter) + 1);
    steps.push({
      key: 'forwarding',
      text: `Forwarding on; adapter ${out ? adapters.indexOf(out) + 1 : '?'} is the outside${translating.length ? `, translation on adapter ${translating.join(' and ')}` : ''}`,
      caution:
        'No answer for clients behind it: the likeliest cause is that the two adapters are swapped. Look which address sits on which network.',
    });
  }
  steps.push(
    { key: 'updates', text: 'Read all updates, restart' },
    { key: 'automatic', text: 'Security updates by themselves from now on' },
  );
  if (drives.family === 'NT family')
    steps.push({
      key: 'drivers inside',
      text: 'Install the paravirtual drivers; change disk and adapter over only when they are in',
    });
  if (fleet.referring('volume', 'guestId', guest.id).some((volume) => volume.thin))
    steps.push({
      key: 'discard',
      text: 'Let it report freed blocks to its storage (discard), or its volumes only grow',
    });
  return steps;
}

function checks(at: At): BuildStep[] {
  const { fleet, guest, adapters } = at;
  const place = placeOf(at);
  const own = adapters.flatMap((adapter) =>
    fleet.referring('address', 'adapterId', adapter.id).map((address) => address.ip),
  );
  const peer = peerOf(fleet, guest, adapters);
  const steps: BuildStep[] = [
    {
      key: 'check address',
      text: 'It has its own address, and no other',
      value: own.join(', ') || undefined,
      check: true,
    },
  ];
  if (place.gateway && !guest.noGateway)
    steps.push({
      key: 'check gateway',
      text: 'Its gateway answers',
      value: place.gateway,
      check: true,
    });
  if (place.nameServers.length)
    steps.push({
      key: 'check names',
      text: 'Its name server resolves its own full name',
      value: place.nameServers.join(', '),
      check: true,
    });
  if (place.gateway && !guest.noGateway)
    steps.push({ key: 'check outside', text: 'A name outside resolves and answers', check: true });
  if (peer)
    steps.push({
      key: 'check peer',
      text: `From a peer, ${peer.name}: it answers`,
      value: own[0],
      check: true,
    });
  if (guest.forwards)
    steps.push({
      key: 'check behind',
      text: 'From a machine behind it: the outside answers',
      check: true,
    });
  steps.push({
    key: 'check restart',
    text: 'Restart it once: it comes back by itself',
    check: true,
  });
  return steps;
}

/** Another guest in service on the same network. */
function peerOf(
  fleet: Fleet,
  guest: Row<'guest'>,
  adapters: readonly Row<'adapter'>[],
): Row<'guest'> | undefined {
  for (const { networkId } of adapters) {
    if (!networkId) continue;
    for (const adapter of fleet.referring('adapter', 'networkId', networkId)) {
      const other = fleet.need('guest', adapter.guestId);
      if (other.id !== guest.id && other.state === 'in service') return other;
    }
  }
  return undefined;
}
