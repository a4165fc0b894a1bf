/** Why a host is none for a guest, by level, platform and rules. */
import { type FailureDomain, processorFit, sameScope, failureLine } from '../placement/index.js';
import type { Fleet, Row } from '../record/index.js';
import { platformOf } from '../host/index.js';
import { drivesOf } from './devices.js';
import { BUDGET, type Placing } from './placing.js';

export interface PlaceReason {
  check: 'state' | 'processors' | 'memory' | 'pool' | 'networks' | 'level' | 'platform' | 'rules';
  fits: boolean;
  sentence: string;
}

export function platformReason(fleet: Fleet, host: Row<'host'>, placing: Placing): PlaceReason {
  const platform = platformOf(fleet, host.id);
  const profile = fleet.get('profile', placing.profileId);
  const drives = drivesOf(placing.family, profile);
  const no = (sentence: string): PlaceReason => ({ check: 'platform', fits: false, sentence });
  if (!(drives.uefi && platform.uefiGuests) && !(drives.legacyBoot && platform.legacyGuests))
    return no(`${platform.name} offers no firmware that it starts from`);
  if (profile?.nested && host.virtualisation !== 'on')
    return no(
      host.virtualisation === 'unknown'
        ? 'nobody knows whether it can pass virtualisation through'
        : `virtualisation is ${host.virtualisation}`,
    );
  return { check: 'platform', fits: true, sentence: platform.name };
}

/** Spread of its group, likes of its role that stay apart, and the rules that it joins. */
export function rulesReason(fleet: Fleet, host: Row<'host'>, placing: Placing): PlaceReason {
  const no = (sentence: string): PlaceReason => ({ check: 'rules', fits: false, sentence });
  const there = fleet
    .referring('guest', 'hostId', host.id)
    .filter((guest) => guest.state !== 'retired' && !guest.template);
  const profile = fleet.get('profile', placing.profileId);
  const like = profile?.apart ? there.find((guest) => guest.profileId === profile.id) : undefined;
  if (like) return no(`${like.name} is a ${profile!.name} too, and they stay apart`);
  const group = fleet.get('guestGroup', placing.groupId);
  if (group && group.spread !== 'none') {
    const mate = fleet
      .referring('guest', 'groupId', group.id)
      .find(
        (guest) =>
          guest.state !== 'retired' &&
          sameScope(fleet, group.spread as 'host', host.id, guest.hostId),
      );
    if (mate) return no(`${mate.name} of ${group.name} is on the same ${group.spread}`);
  }
  for (const id of placing.ruleIds) {
    const rule = fleet.get('placementRule', id);
    if (!rule) continue;
    if (rule.rule === 'pinned' && rule.hostId !== host.id)
      return no(
        `${rule.name} pins it to ${fleet.get('host', rule.hostId)?.name ?? 'another host'}`,
      );
    for (const member of fleet.referring('placementMember', 'ruleId', id)) {
      const guest = fleet.need('guest', member.guestId);
      if (
        rule.rule !== 'pinned' &&
        guest.state !== 'retired' &&
        (rule.rule === 'apart') === sameScope(fleet, rule.scope, host.id, guest.hostId)
      )
        return no(`${rule.name}: ${guest.name} is on ${fleet.need('host', guest.hostId).name}`);
    }
  }
  return { check: 'rules', fits: true, sentence: 'nothing against it' };
}

/** Whether a host could fail before, asked once for all that are ranked. */
export function heldBefore(fleet: Fleet): (domain: FailureDomain) => boolean {
  const kept = new Map<string, boolean>();
  return (domain) => {
    const held =
      kept.get(domain.id) ??
      failureLine(fleet, domain, { budget: BUDGET }).answer === 'all restart';
    kept.set(domain.id, held);
    return held;
  };
}

export function levelReason(host: Row<'host'>, { processorMode }: Placing): PlaceReason {
  const guest = { name: 'it', processorMode, nestedVirtualisation: false };
  const [point] = processorFit(guest, null, host, 'new');
  if (!point) return { check: 'level', fits: true, sentence: 'none asked' };
  return { check: 'level', fits: point.fits === true, sentence: point.sentence };
}
