/**
 * The steps of building one guest, with every value to type, a caution where one is due, and the first checks. Each step
 * has a key of its own, under which it is ticked with its time. Common practice throughout, no source.
 */
import { formatBoth, formatMemory } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import { placeOf, addressSteps } from './build-addresses.js';
import { checks } from './build-checks.js';
import { starting, installing, leaving } from './build-installer.js';
import type { GuestBuild, BuildStep, Building } from './build-step.js';
import { platformOf } from '../host/index.js';
import { drivesOf } from './devices.js';

export function guestBuild(fleet: Fleet, guestId: string): GuestBuild {
  const guest = fleet.need('guest', guestId);
  const host = fleet.need('host', guest.hostId);
  const at: Building = {
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

function making({
  fleet,
  guest,
  host,
  platform,
  drives,
  volumes,
  adapters,
}: Building): BuildStep[] {
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

function identity({ fleet }: Building, clone: Row<'clone'>): BuildStep[] {
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

function inside(at: Building, copied: boolean): BuildStep[] {
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
