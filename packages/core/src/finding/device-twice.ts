import { practice, standard } from '../figure/index.js';
import { isOneMachine } from '../migration/index.js';
import type { Fleet, MacKind } from '../record/index.js';
import { ruleAt, type RuleFinding } from './rule-at.js';

/** A device shares its name with another machine, or one of its ports a MAC with another adapter. Guests have a rule of their own. */
export const deviceTwice = ruleAt('device', 'device-twice', (fleet, device) => {
  const found: RuleFinding[] = [];
  const twin = fleet
    .named(device.name)
    .find(
      (other) =>
        other.id !== device.id &&
        !(other.kind === 'guest' && isOneMachine(fleet, other.id, device.id)) &&
        fleet.need(other.kind, other.id).state !== 'retired' &&
        (other.kind !== 'device' || other.id < device.id),
    );
  if (twin) {
    found.push({
      at: 'name',
      severity: 'caution',
      evidence: `${device.name} is also the name of another ${twin.kind}.`,
      consequence: 'Names resolve to one of them, and people alter the wrong machine.',
      remedy: 'Rename one of them.',
      source: practice('One name, one machine'),
    });
  }
  for (const port of fleet.referring('devicePort', 'deviceId', device.id)) {
    const other = port.mac
      ? fleet
          .macHolders(port.mac)
          .find((same) => same.id !== port.id && (same.kind !== 'devicePort' || same.id < port.id))
      : undefined;
    if (other)
      found.push({
        at: port.id,
        severity: 'blocker',
        evidence: `${port.mac} is carried by ${device.name} and by ${carrier(fleet, other)}.`,
        consequence: 'On one network the switch sends frames now to one, now to the other.',
        remedy: 'Find out which of them was copied, and give it a MAC of its own.',
        source: standard('A MAC address is unique on its network: IEEE Std 802, clause 8'),
      });
  }
  return found;
});

/** Name of the machine that has an adapter or port. */
function carrier(fleet: Fleet, { kind, id }: { kind: MacKind; id: string }): string {
  if (kind === 'adapter') return fleet.need('guest', fleet.need('adapter', id).guestId).name;
  if (kind === 'port') return fleet.need('host', fleet.need('port', id).hostId).name;
  return fleet.need('device', fleet.need('devicePort', id).deviceId).name;
}
