/** What is wrong at one machine, whoever asks it: off, unplugged, an address on the wrong network or carried by another too. */
import { formatAddress, type Address } from '../address/index.js';
import type { Change } from '../change/index.js';
import type { Row } from '../record/index.js';
import { ifaceInfo } from './machine-parts.js';
import type { Iface, Machine } from './machine.js';
import { Mending, type Explained, type Mend } from './mending.js';

export class MachineFaults extends Mending {
  protected off(machine: Machine): Explained {
    const { kind, id, name } = this.info(machine);
    const state = kind === 'outside' ? '' : String(this.fleet.get(kind, id)?.state ?? '');
    const label = `Record ${name} as in service`;
    const change: Change = { type: 'guest.set-state', input: { id, state: 'in service' } };
    const mends =
      kind === 'guest' ? [{ label, change }] : this.edits(machine, { state: 'in service' }, label);
    const host =
      kind === 'guest' && state === 'in service'
        ? this.fleet.get('host', this.fleet.need('guest', id).hostId)
        : undefined;
    return {
      code: 'powered-off',
      sentence: host
        ? `${name} does not run: its host ${host.name} is ${host.state}.`
        : `${name} is ${state}, not running.`,
      at: this.at(machine),
      mends: host ? [] : mends,
    };
  }

  protected unplugged(machine: Machine, iface: Iface): Explained {
    const info = ifaceInfo(iface)!;
    const mends: Mend[] =
      info.kind === 'adapter'
        ? [
            {
              label: `Connect ${iface.name} of ${machine.name}`,
              change: { type: 'adapter.edit', input: { id: info.rowId, connected: true } },
            },
          ]
        : [];
    return {
      code: 'adapter-unplugged',
      sentence: `${iface.name} of ${machine.name} is not connected.`,
      at: this.at(machine),
      mends,
    };
  }

  /** An address that belongs to another network than the one its adapter is on. */
  protected onWrongNetwork(machine: Machine, iface: Iface, address: Address): Explained | null {
    const info = ifaceInfo(iface)!;
    const row = this.rowsOf(iface).find((found) => found.ip === formatAddress(address));
    const subnet = this.fleet.get('subnet', row?.subnetId);
    if (!row || !subnet || subnet.networkId === info.networkId) return null;
    const [home, here] = [
      this.fleet.need('network', subnet.networkId).name,
      this.networkName(iface),
    ];
    return {
      code: 'address-on-wrong-network',
      sentence: `${machine.name} has ${row.ip}, which belongs to ${home}, on its ${iface.name.replace(/ on .*/, '')}, which is on ${here}.`,
      at: this.at(machine),
      mends: this.putRight(
        machine,
        info.kind === 'adapter' ? info.rowId : null,
        info.kind === 'devicePort' ? info.rowId : null,
        subnet.networkId,
      ),
    };
  }

  protected ownOnWrongNetwork(machine: Machine, iface: Iface): Explained | null {
    for (const row of this.rowsOf(iface)) {
      const subnet = this.fleet.get('subnet', row.subnetId);
      const networkId = ifaceInfo(iface)?.networkId;
      if (!subnet || !networkId || subnet.networkId === networkId) continue;
      return this.onWrongNetwork(machine, iface, {
        ...iface.addresses.find((own) => formatAddress(own) === row.ip)!,
      });
    }
    return null;
  }

  contested(address: Address, machines: readonly Machine[], target: Machine | null): Explained {
    const ip = formatAddress(address);
    const wrong = machines.find((machine) => machine !== target) ?? machines[0]!;
    const row = this.rowWith(wrong, ip);
    const subnet = this.fleet.get('subnet', row?.subnetId);
    const mends: Mend[] =
      row && subnet
        ? [
            {
              label: `Give ${wrong.name} the next free address instead`,
              change: {
                type: 'address.set',
                input: {
                  ...holderFields(row),
                  networkId: subnet.networkId,
                  subnetId: subnet.id,
                  assigned: true,
                  replaces: row.id,
                },
              },
            },
          ]
        : [];
    return {
      code: 'address-twice',
      sentence: `${ip} is carried by ${machines.map((machine) => machine.name).join(' and by ')}.`,
      at: this.at(wrong),
      mends,
    };
  }

  stranger(to: Address, answered: Machine, target: Machine): Explained {
    const ip = formatAddress(to);
    const asker = this.echo.request.hops[0]!.machine;
    const sentence =
      answered === asker
        ? `${asker.name} has ${ip} itself, and answers itself.`
        : `${answered.name} answers for ${ip}, which ${target.name} is meant to have.`;
    const { mends } = this.contested(to, [answered, target], target);
    return {
      code: answered === asker ? 'own-twin' : 'answered-by-another',
      sentence,
      at: this.at(answered),
      mends,
    };
  }

  wentAstray(arrived: Machine, sender: Machine): Explained {
    return {
      code: 'reply-astray',
      sentence: `The reply goes to ${arrived.name}, which has the address of ${sender.name} too.`,
      at: this.at(arrived),
      mends: [],
    };
  }
}

function holderFields(row: Row<'address'>): {
  hostId?: string;
  adapterId?: string;
  devicePortId?: string;
} {
  if (row.hostId) return { hostId: row.hostId };
  return row.adapterId ? { adapterId: row.adapterId } : { devicePortId: row.devicePortId! };
}
