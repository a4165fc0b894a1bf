/** Whether a machine can be a host on a platform, asked before anything is downloaded: each point with its reason and what would make it pass. */
import { formatBoth, formatMemory } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import { hostLevel, missingFor, flagSet, type PsabiLevel } from './level.js';

export interface SuitabilityPoint {
  point:
    | 'architecture'
    | 'level'
    | 'virtualisation'
    | 'memory'
    | 'disk'
    | 'wired port'
    | 'secure boot'
    | 'outer guest';
  /** Null: not known yet. */
  passes: boolean | null;
  sentence: string;
  /** What would make it pass. */
  remedy?: string;
}

export function suitability(
  fleet: Fleet,
  hostId: string,
  platformId = fleet.need('host', hostId).platformId,
): SuitabilityPoint[] {
  const host = fleet.need('host', hostId);
  const platform = fleet.need('platform', platformId);
  const points = [
    architecture(host, platform),
    level(host, platform),
    virtualisation(host, platform),
    memory(host, platform),
    disk(fleet, host, platform),
    wired(fleet, host, platform),
    secureBoot(host, platform),
  ];
  if (host.outerGuestId) points.push(outer(fleet, host));
  return points;
}

type Host = Row<'host'>;
type Platform = Row<'platform'>;

function architecture(host: Host, platform: Platform): SuitabilityPoint {
  const passes = host.architecture === platform.architecture;
  return {
    point: 'architecture',
    passes,
    sentence: `The processor is ${host.architecture}; ${platform.name} is made for ${platform.architecture}.`,
    remedy: passes ? undefined : 'Choose a platform made for this architecture.',
  };
}

function level(host: Host, platform: Platform): SuitabilityPoint {
  const { level: has, from } = hostLevel(host);
  const wants = platform.minimumLevel as PsabiLevel;
  if (platform.architecture !== 'x86-64')
    return { point: 'level', passes: true, sentence: 'Levels are a matter of x86-64 only.' };
  if (has === null)
    return {
      point: 'level',
      passes: null,
      sentence: `${platform.name} starts on level v${wants} and above; the level of this processor is not known.`,
      remedy: 'Take the facts in, or state the level from the data sheet.',
    };
  const passes = has >= wants;
  const missing = passes || from !== 'flags' ? [] : missingFor(wants, flagSet(host.flags));
  return {
    point: 'level',
    passes,
    sentence: `The processor reaches ${has === 0 ? 'less than v1' : `v${has}`}; ${platform.name} starts on v${wants} and above.${missing.length ? ` Missing: ${missing.join(', ')}.` : ''}`,
    remedy: passes
      ? undefined
      : 'Nothing can be switched on for this: take an older release of the platform, or another machine.',
  };
}

function virtualisation(host: Host, platform: Platform): SuitabilityPoint {
  const point = 'virtualisation' as const;
  if (!platform.needsVirtualisation)
    return {
      point,
      passes: true,
      sentence: `${platform.name} does without virtualisation extensions.`,
    };
  switch (host.virtualisation) {
    case 'on':
      return {
        point,
        passes: true,
        sentence: 'The virtualisation extension is present and switched on.',
      };
    case 'switched off':
      return {
        point,
        passes: false,
        sentence: 'The virtualisation extension is present, but switched off.',
        remedy: 'Switch it on in the firmware set-up, then power off fully once.',
      };
    case 'absent':
      return {
        point,
        passes: false,
        sentence: 'The processor has no virtualisation extension.',
        remedy: host.outerGuestId
          ? 'Pass virtualisation through in the outer host.'
          : 'Take another machine.',
      };
    case 'unknown':
      return {
        point,
        passes: null,
        sentence: 'Whether the virtualisation extension is present and on is not known.',
        remedy: 'Take the facts in from the machine.',
      };
  }
}

function memory(host: Host, platform: Platform): SuitabilityPoint {
  const passes = host.installedMiB >= platform.minimumMemoryMiB;
  return {
    point: 'memory',
    passes,
    sentence: `${formatMemory(host.installedMiB)} are installed; ${platform.name} takes at least ${formatMemory(platform.minimumMemoryMiB)}.`,
    remedy: passes ? undefined : 'Add memory modules.',
  };
}

function disk(fleet: Fleet, host: Host, platform: Platform): SuitabilityPoint {
  const disks = fleet.referring('disk', 'hostId', host.id);
  const wants = formatBoth(platform.footprintBytes);
  if (disks.length === 0)
    return {
      point: 'disk',
      passes: null,
      sentence: `${platform.name} takes a disk of at least ${wants}; no disk of this machine is recorded.`,
      remedy: 'Record the disks, or take the facts in.',
    };
  const largest = Math.max(...disks.map((found) => found.bytes));
  const passes = largest >= platform.footprintBytes;
  return {
    point: 'disk',
    passes,
    sentence: `The largest disk has ${formatBoth(largest)}; ${platform.name} takes at least ${wants}.`,
    remedy: passes ? undefined : 'Put a larger disk in for the hypervisor.',
  };
}

function wired(fleet: Fleet, host: Host, platform: Platform): SuitabilityPoint {
  const point = 'wired port' as const;
  if (!platform.needsWiredPort)
    return { point, passes: true, sentence: `${platform.name} does without a wired port.` };
  const ports = fleet.referring('port', 'hostId', host.id);
  if (ports.length === 0)
    return {
      point,
      passes: null,
      sentence: 'No port of this machine is recorded.',
      remedy: 'Record the ports, or take the facts in.',
    };
  const passes = ports.some((port) => port.wired);
  return {
    point,
    passes,
    sentence: passes
      ? `It has a wired port, ${ports.find((port) => port.wired)!.name}.`
      : 'It has wireless ports only: an access point accepts frames of the station alone, so a bridge does not work.',
    remedy: passes ? undefined : 'Add a wired adapter that the platform knows.',
  };
}

function secureBoot(host: Host, platform: Platform): SuitabilityPoint {
  const point = 'secure boot' as const;
  if (platform.secureBoot === 'either')
    return { point, passes: true, sentence: `${platform.name} starts with secure boot on or off.` };
  const wants = platform.secureBoot === 'must be on' ? 'on' : 'off';
  if (host.secureBoot === 'unknown')
    return {
      point,
      passes: null,
      sentence: `Secure boot must be ${wants} for ${platform.name}; how it is set is not known.`,
      remedy: 'Look into the firmware set-up.',
    };
  const passes = host.secureBoot === wants;
  return {
    point,
    passes,
    sentence: `Secure boot is ${host.secureBoot}; ${platform.name} wants it ${wants}.`,
    remedy: passes ? undefined : `Switch secure boot ${wants} in the firmware set-up.`,
  };
}

function outer(fleet: Fleet, host: Host): SuitabilityPoint {
  const guest = fleet.need('guest', host.outerGuestId!);
  return {
    point: 'outer guest',
    passes: guest.nestedVirtualisation,
    sentence: guest.nestedVirtualisation
      ? `The outer guest ${guest.name} has virtualisation passed through.`
      : `The outer guest ${guest.name} has no virtualisation passed through.`,
    remedy: guest.nestedVirtualisation
      ? undefined
      : `Pass virtualisation through to ${guest.name} on its host, and record that.`,
  };
}
