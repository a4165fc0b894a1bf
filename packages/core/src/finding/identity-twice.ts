import { practice, standard } from '../figure/index.js';
import { isOneMachine } from '../migration/index.js';
import type { Finding, Rule } from './finding.js';

/** A guest shares its name with another machine, or a MAC with another adapter. */
export const identityTwice: Rule<'guest'> = {
  name: 'identity-twice',
  kind: 'guest',
  look: (fleet, id) => {
    const guest = fleet.need('guest', id);
    if (guest.state === 'retired') return [];
    const about = { kind: 'guest' as const, id, name: guest.name };
    const found: Finding[] = [];
    const [twin] = fleet
      .named(guest.name)
      .filter(
        (other) =>
          other.id !== id &&
          fleet.need(other.kind, other.id).state !== 'retired' &&
          !(other.kind === 'device' && isOneMachine(fleet, id, other.id)),
      );
    if (twin && (twin.kind === 'host' || twin.id < id)) {
      found.push({
        id: `duplicate-name|${id}`,
        rule: 'duplicate-name',
        severity: 'caution',
        about,
        evidence: `${guest.name} is also the name of another ${twin.kind}.`,
        consequence: 'Names resolve to one of them, and people alter the wrong machine.',
        remedy: 'Rename one of them.',
        source: practice('One name, one machine'),
        mend: { label: `Open ${guest.name}`, kind: 'open', id },
      });
    }
    for (const adapter of fleet.referring('adapter', 'guestId', id)) {
      const other =
        adapter.mac && fleet.macCarriers(adapter.mac) > 1
          ? fleet.withMac(adapter.mac).find((same) => same.id < adapter.id)
          : undefined;
      if (!other) continue;
      found.push({
        id: `duplicate-mac|${id}|${adapter.id}`,
        rule: 'duplicate-mac',
        severity: 'blocker',
        about,
        evidence: `${adapter.mac} is carried by ${guest.name} and by ${fleet.need('guest', other.guestId).name}.`,
        consequence: 'On one network the switch sends frames now to one, now to the other.',
        remedy: 'Have a new MAC generated for one of them.',
        source: standard('A MAC address is unique on its network: IEEE Std 802, clause 8'),
        mend: { label: `Open ${guest.name}`, kind: 'open', id },
      });
    }
    return found;
  },
};
