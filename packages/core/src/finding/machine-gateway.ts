import { addressOf, contains, containing, prefixOf } from '../address/index.js';
import { STAND_ALONE_DESCRIPTIONS, type Fleet, type Row } from '../record/index.js';
import { standard } from '../figure/index.js';
import { editGuest } from '../guest/index.js';
import { addressesOf } from '../names/index.js';
import { mendBy } from './mend.js';
import { ruleAt, type RuleFinding } from './rule-at.js';

/** A guest's or device's own gateway lies in none of its subnets, or is not the one its subnet says. Hosts have a rule of their own. */
export const guestGateway = ruleAt('guest', 'machine-gateway', (fleet, guest) =>
  guest.gateway || guest.gateway6
    ? look(fleet, guest, addressesOf(fleet, 'guest', guest.id), editGuest)
    : [],
);

export const deviceGateway = ruleAt('device', 'machine-gateway', (fleet, device) =>
  look(
    fleet,
    device,
    addressesOf(fleet, 'device', device.id),
    STAND_ALONE_DESCRIPTIONS['device.edit'],
  ),
);

function look(
  fleet: Fleet,
  machine: Row<'guest'> | Row<'device'>,
  addresses: readonly Row<'address'>[],
  edit: typeof editGuest | (typeof STAND_ALONE_DESCRIPTIONS)['device.edit'],
): RuleFinding[] {
  return (['gateway', 'gateway6'] as const).flatMap((field): RuleFinding[] => {
    const gateway = machine[field];
    if (!gateway) return [];
    const family = gateway.includes(':') ? 6 : 4;
    const mine = addresses.filter((row) => row.ip.includes(':') === (family === 6));
    if (mine.length === 0) return [];
    const blockOf = (row: Row<'address'>) =>
      row.prefixLength !== null
        ? containing(addressOf(row.ip), row.prefixLength)
        : fleet.get('subnet', row.subnetId)
          ? prefixOf(fleet.need('subnet', row.subnetId!).prefix)
          : undefined;
    const inside = mine.some((row) => {
      const block = blockOf(row);
      return block && contains(block, addressOf(gateway));
    });
    const said = mine
      .map((row) => fleet.get('subnet', row.subnetId)?.gateway)
      .find((found) => found && found.includes(':') === (family === 6));
    const mend = said
      ? mendBy(fleet, `Record ${said}`, edit, { id: machine.id, [field]: said })
      : undefined;
    if (!inside && !machine.gatewayOnLink) {
      return [
        {
          at: field,
          severity: 'blocker',
          evidence: `The gateway ${gateway} of ${machine.name} lies in none of its own subnets.`,
          consequence:
            'It does not install that route: it reaches its own subnets and nothing else.',
          remedy: said
            ? `The gateway of its subnet is ${said}.`
            : 'Correct the gateway or the prefix length; a digit is often swapped.',
          source: standard('A first hop is on a connected network: RFC 1122, section 3.3.1.1'),
          mend,
        },
      ];
    }
    if (!said || said === gateway || machine.forwards) return [];
    return [
      {
        at: field,
        severity: 'note',
        evidence: `${machine.name} goes out by ${gateway}, the gateway of its subnet is ${said}.`,
        consequence: 'What is right for its neighbours need not be right for it.',
        remedy: 'Correct it, or note why it goes another way.',
        source: standard('Default gateways: RFC 1122, section 3.3.1.2'),
        mend,
      },
    ];
  });
}
