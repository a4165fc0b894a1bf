/**
 * What may be wrong with a move, in the order in which it is common: for each the signs it gives, what in the record speaks
 * for it, the test that settles it, what mends it. Common practice, no source.
 */
import { adapterName } from '../names/index.js';
import type { Change } from '../change/index.js';
import type { Fleet, Row } from '../record/index.js';
import { kindOfMove, wayBetween } from './route.js';
import type { MoveSide } from './sides.js';
import type { Sign } from './trouble.js';

export interface Case {
  fleet: Fleet;
  migration: Row<'migration'>;
  guest: Row<'guest'>;
  source: MoveSide;
  target: MoveSide;
  /** Of both sides; null: a computer that runs no guests. */
  hosts: [source: Row<'host'> | null, target: Row<'host'> | null];
  platforms: [source: Row<'platform'> | null, target: Row<'platform'> | null];
  /** The computer of the one or the other side, with what is recorded of it. */
  computer: Row<'computer'> | null;
  /** What the target must hold: volumes, or the disks of a computer. */
  moved: readonly { label: string; bytes: number }[];
}

export interface Known {
  /** Stable name: "controller-differs". */
  key: string;
  title: string;
  /** How it is settled. */
  test: string;
  mend: string;
  of: readonly Sign[];
  /** What the record says for it: nothing where it says nothing, null where it speaks against it. */
  speaks: (one: Case) => string | null | undefined;
  /** What mends it as far as the record goes. */
  change?: (one: Case) => { label: string; change: Change } | undefined;
}

const across = ({ fleet, migration }: Case): boolean =>
  !['between hosts', 'storage only'].includes(kindOfMove(fleet, migration));
/** Against it where both sides are alike. */
const onlyAcross = (say: (one: Case) => string | undefined) => (one: Case) =>
  across(one) ? say(one) : null;

/** The first of a guest's networks that a host does not carry. */
function notCarried(
  fleet: Fleet,
  guest: Row<'guest'>,
  host: Row<'host'> | null,
): Row<'network'> | undefined {
  if (!host) return undefined;
  const carried = new Set(
    fleet.referring('virtualSwitch', 'hostId', host.id).map(({ networkId }) => networkId),
  );
  const missing = fleet
    .referring('adapter', 'guestId', guest.id)
    .find(({ networkId }) => networkId !== null && !carried.has(networkId));
  return fleet.get('network', missing?.networkId);
}

interface PortLike {
  name: string;
  up: boolean;
  bitsPerSecond: number | null;
  half: boolean;
}

const portsOf = (fleet: Fleet, kind: MoveSide['kind'], id: string): PortLike[] =>
  kind === 'host'
    ? fleet.referring('port', 'hostId', id).map((port) => ({ ...port, half: false }))
    : fleet
        .referring('devicePort', 'deviceId', id)
        .map((port) => ({ ...port, half: port.duplex === 'half' }));

export const CAUSES: readonly Known[] = [
  {
    key: 'medium-first',
    of: ['the installer starts again', 'no disk to start from is found'],
    title: 'A medium is still in its drive, and first in its boot order',
    speaks: ({ fleet, guest }) => {
      const [drive] = fleet.referring('drive', 'guestId', guest.id);
      if (drive) return `${fleet.need('medium', drive.mediumId).name} is in its drive.`;
      return guest.bootFirst === 'medium' ? 'Its boot order has the medium first.' : undefined;
    },
    test: 'Look into its drives and its boot order at the console.',
    mend: 'Eject the medium, put the disk first, start it again.',
    change: ({ fleet, guest }) => {
      const [drive] = fleet.referring('drive', 'guestId', guest.id);
      if (drive)
        return {
          label: `Eject ${fleet.need('medium', drive.mediumId).name}`,
          change: { type: 'drive.remove', input: { id: drive.id } },
        };
      return guest.bootFirst === 'medium'
        ? {
            label: 'Record the disk as first',
            change: { type: 'guest.edit', input: { id: guest.id, bootFirst: 'disk' } },
          }
        : undefined;
    },
  },
  {
    key: 'firmware-differs',
    of: ['no disk to start from is found', 'the installer starts again'],
    title: 'Its boot mode is the other one',
    speaks: onlyAcross(({ guest, computer, source, target, platforms: [, there] }) =>
      guest.firmware === 'unknown'
        ? 'Its boot mode is not recorded.'
        : computer && computer.bootMode !== 'unknown' && computer.bootMode !== guest.firmware
          ? `${source.kind === 'device' ? source.name : target.name} starts by ${computer.bootMode}, ${guest.name} by ${guest.firmware}.`
          : !there
            ? undefined
            : (guest.firmware === 'UEFI' ? there.uefiGuests : there.legacyGuests)
              ? undefined
              : `${there.name} does not start guests by ${guest.firmware}.`,
    ),
    test: 'Compare UEFI or legacy boot in the settings of both.',
    mend: 'Set it as at the source; a boot entry may have to be made again.',
  },
  {
    key: 'controller-differs',
    of: ['a stop error at its start', 'no disk to start from is found', 'no disk is seen'],
    title: 'Its disks hang on another controller, for which it has no driver',
    speaks: onlyAcross(({ fleet, guest, computer, target, platforms: [, there] }) => {
      if (!there)
        return computer && computer.controllerMode !== 'unknown'
          ? `The controller of ${target.name} runs as ${computer.controllerMode}.`
          : `How the controller of ${target.name} is set is not recorded.`;
      const buses = fleet.referring('volume', 'guestId', guest.id).map(({ bus }) => bus);
      const missing = buses.find((bus) => bus !== 'unknown' && !there.diskBuses.includes(bus));
      if (missing) return `${there.name} does not offer ${missing}.`;
      return buses.includes('unknown') ? 'On which its disks hung is not recorded.' : undefined;
    }),
    test: 'Compare IDE, SATA, SCSI and paravirtual in the settings of both.',
    mend: 'Set the controller of the source; put the driver in, then change to the faster one.',
  },
  {
    key: 'driver-missing',
    of: ['a stop error at its start', 'no network'],
    title: 'The driver of its new devices is missing',
    speaks: onlyAcross(({ fleet, guest, computer, target }) => {
      if (target.kind === 'device')
        return computer?.driversAtHand.length
          ? undefined
          : `That drivers of ${target.name} are at hand is not recorded.`;
      const profile = fleet.get('profile', guest.profileId);
      return profile && (!profile.paravirtualDisk || !profile.paravirtualNetwork)
        ? `A ${profile.name} brings no paravirtual drivers.`
        : undefined;
    }),
    test: 'Start it with an emulated adapter and disk.',
    mend: 'Put the driver in from there, the one of its network first.',
  },
  {
    key: 'interface-renamed',
    of: ['no network'],
    title: 'Its interface is called something else now: the configuration names one that is gone',
    speaks: onlyAcross(({ fleet, guest, platforms: [here, there] }) => {
      const [first] = fleet.referring('adapter', 'guestId', guest.id);
      if (!first || !here || !there || here.interfacePattern === there.interfacePattern)
        return undefined;
      const { name } = adapterName(fleet, guest, first);
      return `Interfaces are named ${here.interfacePattern} there and ${there.interfacePattern} here${name ? `; it should be ${name} now` : ''}.`;
    }),
    test: 'List its interfaces: which has an address, which is configured?',
    mend: 'Put the new name into its network configuration; look for services that name the old one.',
    change: ({ fleet, guest }) => {
      const [first] = fleet.referring('adapter', 'guestId', guest.id);
      const name = first && adapterName(fleet, guest, first).name;
      return name && first.nameInside && first.nameInside !== name
        ? {
            label: `Record that it is named ${name} now`,
            change: { type: 'adapter.edit', input: { id: first.id, nameInside: name } },
          }
        : undefined;
    },
  },
  {
    key: 'network-not-carried',
    of: ['no network', 'the copying environment gets no address'],
    title: 'Its network is not carried there, or under another name',
    speaks: ({ fleet, guest, target, hosts: [, host] }) => {
      const missing = notCarried(fleet, guest, host);
      return missing ? `${target.name} does not carry ${missing.name}.` : undefined;
    },
    test: 'Ask Reach from the guest to its gateway.',
    mend: 'Carry the network on the host, and its VLAN on the port that the host hangs on.',
    change: ({ fleet, guest, target, hosts: [, host] }) => {
      const missing = notCarried(fleet, guest, host);
      return (
        missing && {
          label: `Let ${target.name} carry ${missing.name}`,
          change: {
            type: 'host.carry',
            input: { hostId: target.id, networkId: missing.id, mode: 'bridged' },
          },
        }
      );
    },
  },
  {
    key: 'adapter-disconnected',
    of: ['no network'],
    title: 'Its adapter is not connected: left so from the rehearsal',
    speaks: ({ fleet, guest, migration }) => {
      const off = fleet
        .referring('adapter', 'guestId', guest.id)
        .some(({ connected }) => !connected);
      const rehearsed = fleet
        .referring('moveStep', 'migrationId', migration.id)
        .some(({ key, state }) => key === 'rehearsal' && state === 'done');
      return off
        ? 'An adapter of it is recorded as unplugged.'
        : rehearsed
          ? 'It was rehearsed with its adapters disconnected.'
          : undefined;
    },
    test: 'Look at its adapters at the console.',
    mend: 'Connect them, once the source is off.',
    change: ({ fleet, guest }) => {
      const off = fleet
        .referring('adapter', 'guestId', guest.id)
        .find(({ connected }) => !connected);
      return (
        off && {
          label: `Record adapter ${off.position + 1} as connected`,
          change: { type: 'adapter.edit', input: { id: off.id, connected: true } },
        }
      );
    },
  },
  {
    key: 'source-still-on',
    of: ['both lost their connection', 'no network'],
    title: 'The source is on again, with the same MAC and address',
    speaks: ({ fleet, migration, source }) => {
      const off = fleet
        .referring('moveStep', 'migrationId', migration.id)
        .find(({ key }) => key === 'source-off');
      return off && off.state !== 'done'
        ? `That what is left on ${source.name} stays off is not ticked.`
        : undefined;
    },
    test: 'Look at the console of the source; ask the switch where the MAC was seen.',
    mend: 'Shut the source down, disconnect its adapters, announce the address of the target.',
  },
  {
    key: 'hidden-adapter',
    of: ['no network'],
    title: 'A hidden adapter of the old hardware still holds its static address',
    speaks: ({ source }) =>
      source.kind === 'device' ? `${source.name} was a machine of its own.` : null,
    test: 'Show devices that are not present: is the old adapter among them?',
    mend: 'Remove the hidden adapter, then set the address on the new one.',
  },
  {
    key: 'sectors-differ',
    of: ['no disk to start from is found', 'a stop error at its start'],
    title: 'The logical sectors of its new disk have another size',
    speaks: ({ fleet, migration, source, target }) => {
      if (source.kind === 'host' && target.kind === 'host') return null;
      const odd = fleet
        .referring('volumeMove', 'migrationId', migration.id)
        .flatMap(({ computerDiskId }) => fleet.get('computerDisk', computerDiskId) ?? [])
        .find(({ sectorBytes }) => sectorBytes !== null && sectorBytes !== 512);
      return odd && `${odd.bay} has sectors of ${odd.sectorBytes} bytes.`;
    },
    test: 'Compare the logical sector size of both disks: 512 or 4096.',
    mend: 'Copy volumes or files instead of blocks.',
  },
  {
    key: 'neighbours-remember',
    of: ['no network', 'both lost their connection'],
    title: 'Neighbours still send to the old MAC address',
    speaks: onlyAcross(() => undefined),
    test: 'Ask the router for its table of neighbours; wait up to four hours, or clear it.',
    mend: 'Announce the address (RFC 5227), or clear the entry at the router.',
  },
  {
    key: 'no-common-network',
    of: ['the copying environment gets no address', 'the receiving side does not find the sender'],
    title: 'Both sides are in no common network',
    speaks: ({ fleet, migration, source, target }) =>
      wayBetween(fleet, migration)
        ? undefined
        : `The record knows no network that ${source.name} and ${target.name} both have an address in.`,
    test: 'Ask Reach from one host to the other.',
    mend: 'Cable both into one network, or type addresses that route to each other.',
  },
  {
    key: 'no-dhcp',
    of: ['the copying environment gets no address'],
    title: 'Nobody gives addresses out in that network',
    speaks: ({ fleet, migration }) => {
      const way = wayBetween(fleet, migration);
      if (!way) return undefined;
      const dynamic = fleet
        .referring('subnet', 'networkId', way.id)
        .some(({ id }) =>
          fleet.referring('range', 'subnetId', id).some(({ use }) => use === 'dynamic'),
        );
      return dynamic ? undefined : `${way.name} has no dynamic range.`;
    },
    test: 'Look whether it shows 169.254.x.x: then nobody answered.',
    mend: 'Type an address of the network that is free.',
  },
  {
    key: 'wrong-address-typed',
    of: ['the receiving side does not find the sender'],
    title: 'The address was mistyped, or is that of the system instead of the environment',
    speaks: () => undefined,
    test: 'Read the address off the console of the receiving side once more.',
    mend: 'Type it again; look at its prefix length as well.',
  },
  {
    key: 'target-too-small',
    of: ['the target is refused as smaller'],
    title: 'The new disk has fewer bytes than the old one',
    speaks: ({ moved }) =>
      moved.length > 0
        ? `It needs ${moved.map(({ label, bytes }) => `${label} ${bytes.toLocaleString('en-GB')} bytes`).join(', ')}.`
        : undefined,
    test: 'Compare both in bytes: GB and GiB differ by 7 %.',
    mend: 'Make the new disk 1 GiB larger than the old one.',
  },
  {
    key: 'link-negotiated-down',
    of: ['the copy stalls or crawls', 'it is slower than before'],
    title: 'A port has negotiated 100 Mbit/s, or half duplex',
    speaks: ({ fleet, source, target }) => {
      const slow = [source, target].flatMap(({ kind, id, name }) =>
        portsOf(fleet, kind, id)
          .filter(
            (port) =>
              port.up && (port.half || (port.bitsPerSecond !== null && port.bitsPerSecond < 1e9)),
          )
          .map(
            (port) =>
              `${port.name} of ${name} runs ${port.half ? 'half duplex' : `at ${port.bitsPerSecond! / 1e6} Mbit/s`}.`,
          ),
      );
      return slow[0];
    },
    test: 'Read the speed of both ports and of their switch.',
    mend: 'Change the cable; let both sides negotiate by themselves.',
  },
  {
    key: 'same-disks',
    of: ['the copy stalls or crawls'],
    title: 'Source and target share the same disks: they read and write against each other',
    speaks: ({ fleet, migration }) => {
      const [move] = fleet.referring('volumeMove', 'migrationId', migration.id);
      const [from, to] = [move?.fromPoolId, move?.toPoolId].map((id) =>
        fleet.get('pool', id ?? null),
      );
      return from && to && from.arrayId !== null && from.arrayId === to.arrayId
        ? `${from.name} and ${to.name} lie on one array.`
        : undefined;
    },
    test: 'Look at the load of the disks of both pools.',
    mend: 'Copy one after the other; leave other copies until it is done.',
  },
  {
    key: 'disk-fails',
    of: ['read errors', 'the copy stalls or crawls'],
    title: 'The source disk is failing',
    speaks: () => undefined,
    test: 'Read its own error counts at the source.',
    mend: 'Stop. Make a rescue copy that skips what cannot be read, then restore what is missing from the backup.',
  },
  {
    key: 'graphics-changed',
    of: ['the desktop fails, text works'],
    title: 'Its graphics device is another one',
    speaks: onlyAcross(({ guest, platforms: [, there] }) =>
      there && guest.graphics === 'accelerated' && !there.acceleratedGraphics
        ? `${there.name} offers no accelerated graphics.`
        : undefined,
    ),
    test: 'Start it in text mode and look at the log of the desktop.',
    mend: 'Choose the basic device; take the driver of the old one out.',
    change: ({ guest }) =>
      guest.graphics === 'accelerated'
        ? {
            label: 'Record the basic device',
            change: { type: 'guest.edit', input: { id: guest.id, graphics: 'basic' } },
          }
        : undefined,
  },
  {
    key: 'old-agent',
    of: ['it is slower than before', 'its clock is wrong', 'a stop error at its start'],
    title: 'Agents and drivers of the old platform are still in it',
    speaks: onlyAcross(({ source, platforms: [here] }) =>
      here
        ? `It came from ${here.name}.`
        : `${source.name} had hardware of its own, and programs that watch it.`,
    ),
    test: 'List what starts with it.',
    mend: 'Take them out, put those of the new platform in.',
  },
  {
    key: 'two-time-sources',
    of: ['its clock is wrong'],
    title: 'Two set its clock: its host and a time server',
    speaks: () => undefined,
    test: 'Look whether it jumps by the same amount again and again.',
    mend: 'Leave one: the time server.',
  },
  {
    key: 'crowded-host',
    of: ['it is slower than before'],
    title: 'Its new host is fuller than the old one',
    speaks: ({ fleet, hosts: [source, target] }) => {
      if (!source || !target) return undefined;
      const guests = (host: Row<'host'>) =>
        fleet
          .referring('guest', 'hostId', host.id)
          .filter(({ state }) => state === 'in service')
          .reduce((sum, { vcpu }) => sum + vcpu, 0) /
        Math.max(1, host.sockets * host.coresPerSocket);
      return guests(target) > guests(source) * 1.2
        ? `${guests(target).toFixed(1)} vCPU run on each core of ${target.name}, ${guests(source).toFixed(1)} on ${source.name}.`
        : undefined;
    },
    test: 'Compare ready and waiting time of its processors.',
    mend: 'Move something else away, or move it on.',
  },
];
