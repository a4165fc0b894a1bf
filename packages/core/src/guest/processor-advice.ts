/** Which processor model a guest is shown, by the hosts it may go to. */
import { standard } from '../figure/index.js';
import { commonLevel } from '../host/index.js';
import type { Fleet, Row } from '../record/index.js';
import type { DeviceAdvice, Moves } from './devices.js';

export function processor(
  fleet: Fleet,
  platform: Row<'platform'>,
  hosts: readonly string[],
  moves: Moves,
): DeviceAdvice {
  const source = standard('x86-64 psABI 1.0, section 3.1.1: microarchitecture levels');
  const models = new Set(hosts.map((id) => fleet.need('host', id).processorModel));
  if (moves === 'stopped' || !platform.runningMigration) {
    return {
      device: 'processor',
      choice: 'host',
      reason:
        moves === 'stopped'
          ? 'It changes hosts only while it is off.'
          : `${platform.name} does not move running guests.`,
      consequence:
        'The host’s own model is the fastest; moved while running it would have to find the very same one.',
      source,
    };
  }
  const { level, limitedBy, unknown } = commonLevel(fleet, hosts);
  if (hosts.length > 1 && models.size === 1 && ![...models][0])
    return {
      device: 'processor',
      choice: level ? `v${level}` : 'v2',
      reason: 'The processors of the hosts it may go to are not recorded.',
      consequence: 'A level is safe where the hosts reach it; take facts of the hosts first.',
      source,
    };
  if (hosts.length <= 1 || (models.size === 1 && unknown.length === 0)) {
    return {
      device: 'processor',
      choice: 'host',
      reason:
        hosts.length <= 1
          ? 'There is no other host it may go to.'
          : 'The hosts it may go to have the same processor.',
      consequence: 'Fastest; a host of another model bought later breaks running migration.',
      source,
    };
  }
  if (level === null)
    return {
      device: 'processor',
      choice: 'v2',
      reason: `The level of ${unknown.join(', ') || 'its hosts'} is not known.`,
      consequence:
        'Level 2 is what nearly every server of the last fifteen years reaches; take facts of the hosts and look again.',
      source,
    };
  return {
    device: 'processor',
    choice: `v${level}`,
    reason: `${hosts.length === 1 ? 'The highest level that the one host it may go to has' : `The highest level that all ${hosts.length} hosts it may go to have`}${limitedBy.length < hosts.length ? `, limited by ${limitedBy.join(' and ')}` : ''}.`,
    consequence:
      'It moves while running between all of them; instructions above that level stay unused.',
    source,
  };
}
