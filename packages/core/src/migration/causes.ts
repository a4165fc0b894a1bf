/**
 * What may be wrong with a move, in the order in which it is common: for each the signs it gives, what in the record speaks
 * for it, the test that settles it, what mends it. Common practice, no source.
 */
import { adapterName } from '../guest/interface-name.js';
import type { Change } from '../change/index.js';
import type { Fleet, Row } from '../record/index.js';
import { kindOfMove, wayBetween } from './route.js';
import type { Sign } from './trouble.js';

export interface Case {
  fleet: Fleet;
  migration: Row<'migration'>;
  guest: Row<'guest'>;
  source: Row<'host'>;
  target: Row<'host'>;
  /** Of source and target. */
  platforms: [Row<'platform'>, Row<'platform'>];
  moved: readonly Row<'volume'>[];
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
  kindOfMove(fleet, migration) === 'between platforms';
/** Against it where both sides are alike. */
const onlyAcross = (say: (one: Case) => string | undefined) => (one: Case) =>
  across(one) ? say(one) : null;

/** The first of a guest's networks that a host does not carry. */
function notCarried(
  fleet: Fleet,
  guest: Row<'guest'>,
  host: Row<'host'>,
): Row<'network'> | undefined {
  const carried = new Set(
    fleet.referring('virtualSwitch', 'hostId', host.id).map(({ networkId }) => networkId),
  );
  const missing = fleet
    .referring('adapter', 'guestId', guest.id)
    .find(({ networkId }) => networkId !== null && !carried.has(networkId));
  return fleet.get('network', missing?.networkId);
}

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
    speaks: onlyAcross(({ guest, platforms: [, there] }) =>
      guest.firmware === 'unknown'
        ? 'Its boot mode is not recorded.'
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
    speaks: onlyAcross(({ fleet, guest, platforms: [, there] }) => {
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
    speaks: onlyAcross(({ fleet, guest }) => {
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
      if (!first || here.interfacePattern === there.interfacePattern) return undefined;
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
    speaks: ({ fleet, guest, target }) => {
      const missing = notCarried(fleet, guest, target);
      return missing ? `${target.name} does not carry ${missing.name}.` : undefined;
    },
    test: 'Ask Reach from the guest to its gateway.',
    mend: 'Carry the network on the host, and its VLAN on the port that the host hangs on.',
    change: ({ fleet, guest, target }) => {
      const missing = notCarried(fleet, guest, target);
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
    speaks: ({ fleet, source, target }) =>
      wayBetween(fleet, source.id, target.id)
        ? undefined
        : `The record knows no network that ${source.name} and ${target.name} both have an address in.`,
    test: 'Ask Reach from one host to the other.',
    mend: 'Cable both into one network, or type addresses that route to each other.',
  },
  {
    key: 'no-dhcp',
    of: ['the copying environment gets no address'],
    title: 'Nobody gives addresses out in that network',
    speaks: ({ fleet, source, target }) => {
      const way = wayBetween(fleet, source.id, target.id);
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
      const slow = [source, target].flatMap((host) =>
        fleet
          .referring('port', 'hostId', host.id)
          .filter(({ up, bitsPerSecond }) => up && bitsPerSecond !== null && bitsPerSecond < 1e9)
          .map(
            (port) => `${port.name} of ${host.name} runs at ${port.bitsPerSecond! / 1e6} Mbit/s.`,
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
      if (!move) return undefined;
      const [from, to] = [move.fromPoolId, move.toPoolId].map((id) => fleet.need('pool', id));
      return from!.arrayId !== null && from!.arrayId === to!.arrayId
        ? `${from!.name} and ${to!.name} lie on one array.`
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
      guest.graphics === 'accelerated' && !there.acceleratedGraphics
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
    speaks: onlyAcross(({ platforms: [here] }) => `It came from ${here.name}.`),
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
    speaks: ({ fleet, source, target }) => {
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
