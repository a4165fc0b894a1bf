import {
  STAND_ALONE_DESCRIPTIONS,
  holderName,
  machineOf,
  type Fleet,
  type Row,
} from '../record/index.js';
import { practice } from '../figure/index.js';
import { mendBy } from './mend.js';
import { ruleAt, type RuleFinding } from './rule-at.js';

/**
 * A port of a machine leads on to an address that nobody has, or whose machine is there no more. Guests that do not forward lead
 * nothing on and are not asked: there are very many.
 */
const ruleOf = (kind: 'host' | 'guest' | 'device') =>
  ruleAt(kind, 'port-leads-nowhere', (fleet, machine) =>
    kind === 'guest' && !machine.forwards
      ? []
      : fleet
          .referring('forwardedPort', `${kind}Id`, machine.id)
          .flatMap((row) => look(fleet, machine.name, row)),
  );

export const hostPortLeadsNowhere = ruleOf('host');
export const guestPortLeadsNowhere = ruleOf('guest');
export const devicePortLeadsNowhere = ruleOf('device');

function look(fleet: Fleet, name: string, row: Row<'forwardedPort'>): RuleFinding[] {
  const holders = [...fleet.all('routingDomain')].flatMap(({ id }) => fleet.withIp(id, row.toIp));
  const gone = holders.find((found) => isRetired(fleet, found));
  if (holders.some((found) => !isRetired(fleet, found))) return [];
  const whose = gone
    ? `${holderName(fleet, gone)} had, which is retired`
    : 'nobody in the record has';
  return [
    {
      at: row.id,
      severity: 'caution',
      evidence: `Port ${row.port}/${row.protocol} of ${name} leads to ${row.toIp}, port ${row.toPort}, which ${whose}.`,
      consequence:
        'Who asks there waits in vain; and whoever is given that address next is open to the other side without anybody having meant it.',
      remedy: 'Remove it, or record who has that address.',
      source: practice('A port is closed when what it led to goes'),
      mend: mendBy(
        fleet,
        'Remove the forwarded port',
        STAND_ALONE_DESCRIPTIONS['forwarded-port.remove'],
        { id: row.id },
      ),
    },
  ];
}

function isRetired(fleet: Fleet, address: Row<'address'>): boolean {
  const { kind, id } = machineOf(fleet, address);
  const row = fleet.need(kind, id);
  return 'state' in row && row.state === 'retired';
}
