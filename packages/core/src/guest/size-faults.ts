/** What speaks against a size: on one host, or by what the role needs. */
import { own, practice, type Source } from '../figure/index.js';
import { cores, numaFit, type NodeSize, memoryDemand } from '../host/index.js';
import { formatMemory, type MiB } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';

export interface SizeFault {
  fault:
    | 'more than its threads'
    | 'more than a node'
    | 'does not fit its nodes'
    | 'uneven over nodes'
    | 'odd number'
    | 'below the minimum';
  severity: 'blocker' | 'caution' | 'note';
  sentence: string;
  source: Source;
}

export interface Size {
  vcpu: number;
  memoryMiB: MiB;
}

/** @param profile its role, if one is known; @param host where it is to run, if that is decided */
export function sizeFaults(
  fleet: Fleet,
  size: Size,
  profile: Row<'profile'> | null,
  host: Row<'host'> | null,
): SizeFault[] {
  return [
    ...(profile ? belowMinimum(size, profile) : []),
    ...(host ? onHost(fleet, size, host) : []),
  ];
}

function belowMinimum({ vcpu, memoryMiB }: Size, profile: Row<'profile'>): SizeFault[] {
  const short = [
    vcpu < profile.minimumVcpu ? `${vcpu} vCPU of at least ${profile.minimumVcpu}` : '',
    memoryMiB < profile.minimumMemoryMiB
      ? `${formatMemory(memoryMiB)} of at least ${formatMemory(profile.minimumMemoryMiB)}`
      : '',
  ].filter(Boolean);
  if (short.length === 0) return [];
  return [
    {
      fault: 'below the minimum',
      severity: 'caution',
      sentence: `A ${profile.name} would have ${short.join(' and ')}: it may not install, or crawl.`,
      source: practice(`Minimum of the profile ${profile.name}`),
    },
  ];
}

function onHost(fleet: Fleet, { vcpu, memoryMiB }: Size, host: Row<'host'>): SizeFault[] {
  const threads = cores(host) * host.threadsPerCore;
  if (vcpu > threads) {
    return [
      {
        fault: 'more than its threads',
        severity: 'blocker',
        sentence: `${vcpu} vCPU are more than the ${threads} threads of ${host.name}: the guest waits for itself, and some platforms refuse it.`,
        source: practice('No guest has more vCPU than its host has threads'),
      },
    ];
  }
  const nodes = nodesOf(fleet, host);
  if (!nodes) return oddOver(vcpu, host);
  const fit = numaFit(nodes, vcpu, memoryDemand(fleet, host.id, vcpu, memoryMiB));
  if (!fit.fits) {
    return [
      {
        fault: 'does not fit its nodes',
        severity: 'blocker',
        sentence: `It takes ${Number.isFinite(fit.nodes) ? fit.nodes : 'more'} NUMA nodes, ${host.name} has ${nodes.length}: part of its memory or processors would have no room of its own.`,
        source: own('Nodes needed: the larger of vCPU ÷ cores and memory ÷ memory of a node'),
      },
    ];
  }
  if (fit.nodes === 1) return [];
  const why =
    vcpu > nodes[0]!.cores
      ? `${vcpu} vCPU are more than the ${nodes[0]!.cores} cores`
      : `${formatMemory(memoryMiB)} with overhead are more than the ${formatMemory(nodes[0]!.memoryMiB, 'down')}`;
  const spread: SizeFault = {
    fault: 'more than a node',
    severity: 'note',
    sentence: `${why} of one NUMA node of ${host.name}: it is spread over ${fit.nodes}, and part of its memory is farther away. Show the guest its nodes.`,
    source: practice('A guest that fits one NUMA node has all its memory near'),
  };
  if (fit.even) return [spread];
  return [
    spread,
    {
      fault: 'uneven over nodes',
      severity: 'caution',
      sentence: `Over ${fit.nodes} nodes it comes to ${fit.vcpuPerNode.join(' + ')} vCPU and unequal memory: choose numbers that ${fit.nodes} divides.`,
      source: practice('vCPU and memory are divided evenly over NUMA nodes'),
    },
  ];
}

/** Recorded nodes; without any, the sockets of a host with several, each with its share of memory. */
function nodesOf(fleet: Fleet, host: Row<'host'>): NodeSize[] | null {
  const recorded = fleet.referring('numaNode', 'hostId', host.id);
  if (recorded.length > 0)
    return recorded.map(({ cores: count, memoryMiB }) => ({ cores: count, memoryMiB }));
  if (host.sockets === 1) return null;
  const memoryMiB = Math.floor((host.visibleMiB ?? host.installedMiB) / host.sockets);
  return Array.from({ length: host.sockets }, () => ({ cores: host.coresPerSocket, memoryMiB }));
}

/** With all threads of one socket open to it, an odd number above a core's threads only splits a core. */
function oddOver(vcpu: number, host: Row<'host'>): SizeFault[] {
  if (vcpu <= cores(host) || vcpu % host.threadsPerCore === 0) return [];
  return [
    {
      fault: 'odd number',
      severity: 'note',
      sentence: `${vcpu} vCPU on ${cores(host)} cores of ${host.threadsPerCore} threads leave one core half used: take an even number.`,
      source: practice('vCPU beyond the cores come in whole cores'),
    },
  ];
}
