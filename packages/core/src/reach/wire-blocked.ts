/** Why frames do not pass a port or a line, with the change that would let them. */
import { formatVlans } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import { taggedVlans, type Blocked } from './wiring.js';

/** A host of which every wired port is down is joined to nothing, whichever of them it would go out by. */
export function allPortsDown(fleet: Fleet, host: Row<'host'>): Blocked | null {
  const ports = fleet.referring('port', 'hostId', host.id).filter((port) => port.wired);
  if (ports.length === 0 || ports.some((port) => port.up)) return null;
  const [only, ...others] = ports;
  return {
    code: 'port-down',
    sentence:
      others.length === 0
        ? `Port ${only!.name} of ${host.name}, its only one, is down.`
        : `All ${ports.length} ports of ${host.name} are down.`,
    mends: ports.map((port) => ({
      label: `Record ${port.name} of ${host.name} as up`,
      change: { type: 'port.edit', input: { id: port.id, up: true } },
    })),
    at: { kind: 'host', id: host.id, name: host.name },
  };
}

/** Frames of a network on a cable: with its VLAN tag, or without one. */
export type Tag = number | null;

/** A port of a host that is down, or one by which no bridge goes. */
export function hostPortBlocked(port: Row<'port'>, host: Row<'host'>): Blocked | null {
  const at = { kind: 'host' as const, id: host.id, name: host.name };
  return !port.up
    ? {
        code: 'port-down',
        sentence: `Port ${port.name} of ${host.name} is down.`,
        mends: [
          {
            label: `Record ${port.name} of ${host.name} as up`,
            change: { type: 'port.edit', input: { id: port.id, up: true } },
          },
        ],
        at,
      }
    : !port.wired
      ? {
          code: 'wireless-bridge',
          sentence: `${port.name} of ${host.name} is wireless: an access point takes frames only from the station that joined it, so it carries no bridge.`,
          mends: [],
          at,
        }
      : null;
}

export function dropped(
  port: Row<'switchPort'>,
  found: Row<'physicalSwitch'>,
  network: Row<'network'>,
): Blocked {
  return {
    code: 'untagged-nowhere',
    sentence: `Port ${port.name} of ${found.name} drops frames without a tag.`,
    mends:
      network.vlanId === null
        ? []
        : [
            {
              label: `Let port ${port.name} of ${found.name} take untagged frames as VLAN ${network.vlanId}`,
              change: portChange(port, { untaggedVlan: network.vlanId }),
            },
          ],
    at: { kind: 'physicalSwitch', id: found.id, name: found.name },
  };
}

export function portBlocked(
  port: Row<'switchPort'>,
  found: Row<'physicalSwitch'>,
  missing: Tag,
  network: { name: string },
): Blocked | null {
  const at = { kind: 'physicalSwitch' as const, id: found.id, name: found.name };
  if (!port.up) {
    return {
      code: 'switch-port-down',
      sentence: `Port ${port.name} of ${found.name} is down.`,
      mends: [
        {
          label: `Record port ${port.name} of ${found.name} as up`,
          change: portChange(port, { up: true }),
        },
      ],
      at,
    };
  }
  if (missing === null) return null;
  return {
    code: 'vlan-missing',
    sentence: `Port ${port.name} of ${found.name} does not carry VLAN ${missing} (${network.name}).`,
    mends: [
      {
        label: `Carry VLAN ${missing} on port ${port.name} of ${found.name}`,
        change: portChange(port, {
          taggedVlans: formatVlans([...taggedVlans(port), missing]),
        }),
      },
    ],
    at,
  };
}

export const lineDown = (line: Row<'switchLine'>): Blocked | null =>
  line.up
    ? null
    : {
        code: 'line-down',
        sentence: `The line ${line.name} is down.`,
        mends: [
          {
            label: `Record the line ${line.name} as up`,
            change: { type: 'line.edit', input: { id: line.id, up: true } },
          },
        ],
        at: { kind: 'switchLine', id: line.id, name: line.name },
      };

function portChange(port: Row<'switchPort'>, fields: Partial<Row<'switchPort'>>) {
  return { type: 'switch-port.edit' as const, input: { ids: [port.id], ...fields } };
}
