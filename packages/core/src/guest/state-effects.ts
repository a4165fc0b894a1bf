/** What each state that may follow needs and frees, in words, so that nobody has to know it by heart. */
import { formatBinary, formatMemory } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import { GUEST_STATE_FOLLOWS } from './set-guest-state.js';
import { countsOnHost, memoryDemand, volumeBytes } from '../host/index.js';
import { checkedAt } from './tick-step.js';

export interface StateEffect {
  state: Row<'guest'>['state'];
  effect: string;
}

export function stateEffects(fleet: Fleet, guest: Row<'guest'>): StateEffect[] {
  const host = fleet.need('host', guest.hostId);
  const room = `${formatMemory(memoryDemand(fleet, host.id, guest.vcpu, guest.memoryMiB), 'up')} and ${guest.vcpu} vCPU of ${host.name}`;
  const disk = volumeBytes(fleet, guest.id);
  const counts = countsOnHost(guest);
  const volumes =
    disk > 0
      ? `its volumes keep ${formatBinary(disk)} until their deletion is recorded`
      : 'it has no volumes';
  const effect: Record<StateEffect['state'], () => string> = {
    planned: () => `promises ${room}, so that nothing else takes them`,
    building: () => `promises ${room}; its build sheet says what to do`,
    'in service': () => {
      const { passed, failed } = checkedAt(fleet.referring('buildTick', 'guestId', guest.id));
      const needs = [
        host.state === 'in service' ? '' : `${host.name} is ${host.state}`,
        failed.length
          ? 'a first check failed'
          : passed === 0 && !counts
            ? ''
            : passed === 0 && guest.state !== 'stopped'
              ? 'no first check is ticked yet'
              : '',
      ].filter(Boolean);
      return `uses ${room}${needs.length ? `; but ${needs.join(', and ')}` : ''}`;
    },
    stopped: () =>
      guest.heldWhenStopped
        ? 'keeps disk, addresses and MACs, and its memory still counts: somebody will start it'
        : `frees ${room}; keeps disk, addresses and MACs`,
    retired: () => `${counts ? `frees ${room}` : 'frees nothing more on its host'}; ${volumes}`,
  };
  return GUEST_STATE_FOLLOWS[guest.state].map((state) => ({ state, effect: effect[state]() }));
}
