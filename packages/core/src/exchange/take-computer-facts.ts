import { onlyComputers, draftComputer } from '../computer/index.js';
import { draftDevicePorts, subnetOf, type DevicePortInput } from '../network/index.js';
import {
  change,
  draftOf,
  noSuch,
  pasted,
  ref,
  refuse,
  type DeciderOf,
  type Fleet,
  type Row,
  type Values,
} from '../record/index.js';
import { readFacts } from './compare-facts.js';
import type { MachineFacts } from './machine-facts.js';

/** What a computer printed of itself goes into its hardware sheet and its ports. What it does not say stays as it is. */
export const takeComputerFacts = change({
  type: 'computer.take-facts',
  title: 'Take the facts of the computer in',
  alters: ['id'],
  input: {
    id: ref('device'),
    /** What the script printed, a Redfish document, or the output of general tools. */
    text: pasted(2_000_000),
  },
});

export const decideTakeComputerFacts: DeciderOf<typeof takeComputerFacts> = (
  fleet,
  { id: deviceId, text },
  context,
) => {
  const device = fleet.get('device', deviceId);
  if (!device) return noSuch('device');
  const other = onlyComputers(device, 'id');
  if (other) return other;
  const read = readFacts(text);
  if (!read.ok)
    return refuse({
      code: 'facts-not-read',
      field: 'text',
      sentence: read.sentence,
      remedy: 'Nothing was altered.',
    });
  const { facts, from } = read;
  const draft = draftOf(fleet, context);
  draftComputer(fleet, draft, device.id, fieldsFrom(facts), disksFrom(fleet, device, facts));
  const fault = draftDevicePorts(fleet, draft, device.id, portsFrom(fleet, device, facts));
  if (fault) return fault;
  draft.update('device', device.id, {
    ...(facts.machineModel && !device.model ? { model: facts.machineModel } : {}),
    ...(facts.gateway && !device.gateway ? { gateway: facts.gateway } : {}),
    confirmedAt: context.now,
    confirmedBy: `import (${from})`,
  });
  return {
    draft,
    title: `took the facts of ${device.name} from the ${from}`,
    subjects: [{ kind: 'device', id: device.id, name: device.name }],
  };
};

/** Only what is known. */
const known = (values: Values): Values =>
  Object.fromEntries(Object.entries(values).filter(([, value]) => value !== null));

function fieldsFrom(facts: MachineFacts): Values {
  const encrypted = facts.diskUse.map((use) => use.encrypted);
  return known({
    // The tools are those of a Linux system; where it lies on no disk of the machine it was only started to look.
    family: facts.systemBays.length > 0 ? 'Linux' : null,
    processorModel: facts.processorModel,
    architecture: facts.architecture,
    sockets: facts.sockets,
    coresPerSocket: facts.coresPerSocket,
    threadsPerCore: facts.threadsPerCore,
    memoryMiB: facts.installedMiB ?? facts.visibleMiB,
    serial: facts.serial,
    bootMode: facts.bootMode,
    secureBoot: facts.secureBoot,
    encryption: encrypted.includes(true)
      ? 'asks for its key'
      : encrypted.length > 0 && encrypted.every((one) => one === false)
        ? 'none'
        : null,
  });
}

function disksFrom(
  fleet: Fleet,
  device: Row<'device'>,
  { disks, diskUse, systemBays }: MachineFacts,
): Values[] | undefined {
  if (!disks) return undefined;
  const held = fleet.referring('computerDisk', 'deviceId', device.id);
  return disks.map(({ bay, model, serial, bytes }): Values => {
    const use = diskUse.find((one) => one.bay === bay);
    const { usedBytes = null, sectorBytes = null, softwareArray = null } = use ?? {};
    const before = held.find((disk) => disk.bay === bay);
    return {
      bay,
      bytes,
      ...known({
        model: model || null,
        serial: serial || null,
        usedBytes,
        sectorBytes,
        layout:
          softwareArray === null ? null : softwareArray ? 'member of a software array' : 'plain',
      }),
      boot: systemBays.includes(bay) || (before?.boot ?? false),
    };
  });
}

/** Ports keep what is recorded of them; new ones get the addresses that were found on them, in the networks of these. */
function portsFrom(fleet: Fleet, device: Row<'device'>, facts: MachineFacts): DevicePortInput[] {
  const [domain] = fleet.all('routingDomain');
  const networkOf = (ip: string) => (domain && subnetOf(fleet, domain.id, ip)?.networkId) ?? null;
  const held = fleet.referring('devicePort', 'deviceId', device.id);
  const found = facts.ports ?? [];
  const kept = held.map(({ name }): DevicePortInput => {
    const now = found.find((port) => port.name === name);
    return { name, ...(now ? known({ mac: now.mac, bitsPerSecond: now.bitsPerSecond }) : {}) };
  });
  const fresh = found
    .filter(({ name }) => !held.some((port) => port.name === name))
    .map(({ name, mac, bitsPerSecond }): DevicePortInput => {
      const addresses = facts.addresses
        .filter(({ port, ip }) => port === name && !ip.toLowerCase().startsWith('fe80'))
        .map(({ ip, prefixLength }) => ({ ip, prefixLength }));
      const networkId = addresses.flatMap(({ ip }) => networkOf(ip) ?? [])[0] ?? null;
      return { name, mac, bitsPerSecond, networkId, addresses };
    });
  return [...kept, ...fresh];
}
