/** A host as it is typed, and what is sent of it. */
import type { ThisMachine, Named } from '@insel/contract';
import { type Input, parseMemory, parseBytes } from '@insel/core';
import type { Errors } from '../../components/field.js';

export const STATES = ['planned', 'building', 'in service', 'maintenance'] as const;

export const EMPTY = {
  name: '',
  state: 'in service' as (typeof STATES)[number],
  site: '',
  platformId: '',
  purpose: '',
  processorModel: '',
  sockets: '1',
  coresPerSocket: '8',
  threadsPerCore: '2',
  installed: '64 GiB',
  visible: '',
  poolName: '',
  poolSize: '2 TB',
  ip: '',
  networkId: '',
  networks: [] as string[],
  reason: '',
  override: '',
};

export type Draft = typeof EMPTY;

/** What is sent that is typed in a field of another name. */
export const TYPED_IN = {
  siteId: 'site',
  installedMiB: 'installed',
  visibleMiB: 'visible',
  'pools.0.name': 'poolName',
  'pools.0.usableBytes': 'poolSize',
  'management.ip': 'ip',
  'management.networkId': 'networkId',
} as const;

/** Facts that have no field in the form: parts, flags, firmware. */
function restOf(machine: ThisMachine | undefined): Partial<Input<'host.record'>> {
  if (!machine) return {};
  const {
    machineModel,
    serial,
    domain,
    architecture,
    baseMhz,
    flags,
    virtualisation,
    bootMode,
    secureBoot,
    modules,
    nodes,
    disks,
    ports,
  } = machine;
  const hardware = Object.fromEntries(
    Object.entries({ modules, nodes, disks, ports }).filter(([, list]) => list !== null),
  );
  const known = Object.fromEntries(
    Object.entries({
      machineModel,
      serial,
      domain,
      architecture,
      baseMhz,
      flags,
      virtualisation,
      bootMode,
      secureBoot,
    }).filter(([, value]) => value !== null),
  );
  return { ...known, hardware };
}

export function inputOf(
  draft: Draft,
  firstPlatform: string,
  sites: Named[],
  machine: ThisMachine | undefined,
): [Input<'host.record'>, Errors] {
  const faults: Errors = {};
  const memory = (text: string, field: string) => {
    const read = parseMemory(text);
    if (!read.ok) faults[field] = read.sentence;
    return read.ok ? read.value : 0;
  };
  const size = parseBytes(draft.poolSize);
  if (draft.poolName && !size.ok) faults['pools.0.usableBytes'] = size.sentence;
  const input = {
    ...restOf(machine),
    name: draft.name.trim(),
    state: draft.state,
    siteId: sites.find((site) => site.name.toLowerCase() === draft.site.trim().toLowerCase())?.id,
    platformId: draft.platformId || firstPlatform,
    purpose: draft.purpose,
    processorModel: draft.processorModel,
    sockets: Number(draft.sockets),
    coresPerSocket: Number(draft.coresPerSocket),
    threadsPerCore: Number(draft.threadsPerCore),
    installedMiB: memory(draft.installed, 'installedMiB'),
    visibleMiB: draft.visible.trim() === '' ? null : memory(draft.visible, 'visibleMiB'),
    pools: draft.poolName && size.ok ? [{ name: draft.poolName, usableBytes: size.value }] : [],
    networks: draft.networks.map((networkId) => ({ networkId })),
    ...(draft.ip || draft.networkId
      ? {
          management: { ip: draft.ip.trim() || undefined, networkId: draft.networkId || undefined },
        }
      : {}),
  };
  return [input, faults];
}

/** What the live system said, as the beginning of a form. */
export function draftFrom(machine: ThisMachine): Partial<Draft> {
  // The largest disk that is not the system's own.
  const [disk] = (machine.disks ?? [])
    .filter(({ bay }) => !machine.systemBays.includes(bay))
    .sort((a, b) => b.bytes - a.bytes);
  return {
    name: machine.hostName ?? '',
    processorModel: machine.processorModel ?? '',
    sockets: machine.sockets?.toString() ?? '',
    coresPerSocket: machine.coresPerSocket?.toString() ?? '',
    threadsPerCore: machine.threadsPerCore?.toString() ?? '',
    installed: machine.installedMiB
      ? `${machine.installedMiB} MiB`
      : machine.visibleMiB
        ? `${machine.visibleMiB} MiB`
        : '',
    visible: machine.visibleMiB ? `${machine.visibleMiB} MiB` : '',
    poolName: disk ? `${disk.bay}-disk` : '',
    poolSize: disk ? `${disk.bytes} B` : '',
    ip: machine.addresses.find((address) => !address.ip.includes(':'))?.ip ?? '',
    purpose: machine.isGuest ? 'itself a guest: not additional capacity' : '',
  };
}
