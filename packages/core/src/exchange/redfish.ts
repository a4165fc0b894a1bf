/**
 * Understands a DMTF Redfish ComputerSystem resource (DSP0268), with its processors, memory, drives and Ethernet
 * interfaces either in place (expanded with `$expand`) or given as the resources themselves in one list. Property names
 * are the standard's, from memory; units are in the names (GiB, MiB, Bytes, Mbps).
 */
import { parseMac } from '../address/index.js';
import { NO_FACTS, type FactsResult, type MachineFacts } from './machine-facts.js';

type Resource = Record<string, unknown>;

const isResource = (value: unknown): value is Resource =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const words = (value: unknown): string | null =>
  typeof value === 'string' && value.trim() ? value.trim().slice(0, 200) : null;
const count = (value: unknown): number | null =>
  typeof value === 'number' && Number.isSafeInteger(value) && value > 0 ? value : null;

/** Whether a document looks like a Redfish system. */
export const isRedfish = (json: Resource): boolean =>
  typeof json['@odata.type'] === 'string' ||
  'ProcessorSummary' in json ||
  'MemorySummary' in json ||
  'Members' in json;

export function understandRedfish(json: Resource): FactsResult {
  const all = [...resources(json, 0)];
  const ofType = (type: string, ...properties: string[]) =>
    all.filter(
      (found) =>
        String(found['@odata.type'] ?? '').startsWith(`#${type}.`) ||
        (!found['@odata.type'] && properties.every((property) => property in found)),
    );
  const system = ofType('ComputerSystem').concat(
    all.filter((found) => 'ProcessorSummary' in found || 'MemorySummary' in found),
  )[0];
  if (!system)
    return {
      ok: false,
      sentence:
        'This Redfish document holds no ComputerSystem: give the system resource, such as /redfish/v1/Systems/1, with its parts.',
    };
  const processors = ofType('Processor', 'TotalCores', 'TotalThreads').filter(
    (one) => one.ProcessorType === undefined || one.ProcessorType === 'CPU',
  );
  const summary = isResource(system.ProcessorSummary) ? system.ProcessorSummary : {};
  const sockets = processors.length || count(summary.Count);
  const cores =
    count(processors[0]?.TotalCores) ??
    (sockets && count(summary.CoreCount) ? Math.round(count(summary.CoreCount)! / sockets) : null);
  const threads =
    count(processors[0]?.TotalThreads) ??
    (sockets && count(summary.LogicalProcessorCount)
      ? Math.round(count(summary.LogicalProcessorCount)! / sockets)
      : null);
  const modules = ofType('Memory', 'CapacityMiB', 'MemoryDeviceType').flatMap((found) => {
    const sizeMiB = count(found.CapacityMiB);
    const speed = count(found.OperatingSpeedMhz);
    return sizeMiB
      ? [
          {
            slot: (words(found.DeviceLocator) ?? words(found.Id) ?? 'module').slice(0, 100),
            sizeMiB,
            speed: [words(found.MemoryDeviceType), speed && `${speed} MHz`]
              .filter(Boolean)
              .join(' '),
          },
        ]
      : [];
  });
  const memory = isResource(system.MemorySummary)
    ? system.MemorySummary.TotalSystemMemoryGiB
    : null;
  const boot = isResource(system.Boot) ? system.Boot : {};
  const [name = '', ...domain] = (words(system.HostName) ?? '').split('.');
  const installed = modules.length
    ? modules.reduce((sum, module) => sum + module.sizeMiB, 0)
    : typeof memory === 'number' && memory > 0
      ? Math.round(memory * 1024)
      : null;
  const facts: MachineFacts = {
    ...NO_FACTS,
    hostName: name || null,
    domain: domain.join('.') || null,
    machineModel:
      [words(system.Manufacturer), words(system.Model)].filter(Boolean).join(' ') || null,
    serial: words(system.SerialNumber),
    architecture: architectureOf(processors[0]),
    processorModel: words(processors[0]?.Model) ?? words(summary.Model),
    sockets: sockets || null,
    coresPerSocket: cores,
    threadsPerCore: cores && threads ? Math.max(1, Math.round(threads / cores)) : null,
    baseMhz: count(processors[0]?.BaseSpeedMHz) ?? count(processors[0]?.OperatingSpeedMHz),
    installedMiB: installed,
    bootMode:
      boot.BootSourceOverrideMode === 'UEFI'
        ? 'UEFI'
        : boot.BootSourceOverrideMode === 'Legacy'
          ? 'legacy'
          : null,
    secureBoot: secureBootOf(all),
    modules: modules.length ? modules : null,
    disks: disksOf(ofType('Drive', 'CapacityBytes', 'MediaType')),
    ports: portsOf(ofType('EthernetInterface', 'MACAddress')),
    unread: [
      'what the running system sees of the memory',
      'processor flags',
      'virtualisation extension',
    ],
    isGuest:
      system.SystemType === 'Virtual'
        ? 'The system says that it is virtual: its capacity is part of its host’s.'
        : null,
  };
  return { ok: true, facts, from: 'Redfish' };
}

/** Every resource in a document, however deep it was expanded. */
function* resources(value: unknown, depth: number): Generator<Resource> {
  if (depth > 12) return;
  if (Array.isArray(value)) for (const item of value) yield* resources(item, depth + 1);
  else if (isResource(value)) {
    yield value;
    for (const [name, part] of Object.entries(value))
      if (name !== 'Status' && typeof part === 'object') yield* resources(part, depth + 1);
  }
}

function architectureOf(processor: Resource | undefined): MachineFacts['architecture'] {
  const set = words(processor?.InstructionSet);
  if (!set) return null;
  return set === 'x86-64' ? 'x86-64' : set === 'ARM-A64' ? 'aarch64' : 'other';
}

function secureBootOf(all: Resource[]): MachineFacts['secureBoot'] {
  const found = all.find((one) => 'SecureBootEnable' in one || 'SecureBootCurrentBoot' in one);
  if (!found) return null;
  return found.SecureBootCurrentBoot === 'Enabled' ||
    (found.SecureBootCurrentBoot === undefined && found.SecureBootEnable === true)
    ? 'on'
    : 'off';
}

function disksOf(drives: Resource[]): MachineFacts['disks'] {
  const disks = drives.flatMap((drive, i) => {
    const bytes = count(drive.CapacityBytes);
    const place =
      isResource(drive.PhysicalLocation) && isResource(drive.PhysicalLocation.PartLocation)
        ? words(drive.PhysicalLocation.PartLocation.ServiceLabel)
        : null;
    return bytes
      ? [
          {
            bay: (place ?? words(drive.Id) ?? `drive ${i + 1}`).slice(0, 100),
            model: words(drive.Model) ?? '',
            serial: words(drive.SerialNumber) ?? '',
            bytes,
            class:
              drive.MediaType === 'SSD'
                ? ('enterprise flash' as const)
                : ('enterprise disk' as const),
          },
        ]
      : [];
  });
  return disks.length ? disks : null;
}

function portsOf(interfaces: Resource[]): MachineFacts['ports'] {
  const ports = interfaces.flatMap((one, i) => {
    const read = parseMac(words(one.PermanentMACAddress) ?? words(one.MACAddress) ?? '');
    const megabits = count(one.SpeedMbps);
    return [
      {
        name: (words(one.Id) ?? `port ${i + 1}`).slice(0, 100),
        wired: true,
        connector: 'unknown' as const,
        bitsPerSecond: megabits ? megabits * 1e6 : null,
        mac: read.ok ? read.value : null,
        card: '',
      },
    ];
  });
  return ports.length ? ports : null;
}
