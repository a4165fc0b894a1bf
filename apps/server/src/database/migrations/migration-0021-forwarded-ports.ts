import { Migration } from '@mikro-orm/migrations';
import { BASE, full, ref } from './columns.js';

/** Ports that lead on, what is translated and by which uplink. Log shape 14. */
export class Migration0021ForwardedPorts extends Migration {
  override up(): void {
    this.addSql('update revision set shape = 14');
    this.addSql(
      `create table "forwarded_port" (${BASE}, host_id uuid ${ref('host')}, guest_id uuid ${ref('guest')},
        device_id uuid ${ref('device')}, protocol text not null check (protocol in ('tcp', 'udp')),
        port integer not null check (port between 1 and 65535), at_ip inet ${full('at_ip')},
        to_ip inet not null ${full('to_ip')}, to_port integer not null check (to_port between 1 and 65535),
        purpose text not null, check (num_nonnulls(host_id, guest_id, device_id) = 1))`,
    );
    for (const table of ['adapter', 'device_port'])
      this.addSql(`alter table ${table} add column masquerade_from text not null default ''`);
    this.addSql(
      `alter table virtual_switch add column nat_uplink_id uuid ${ref('virtual_switch')}, add check (nat_uplink_id <> id)`,
    );
    for (const column of ['host_id', 'guest_id', 'device_id'])
      this.addSql(`create index on forwarded_port (${column})`);
    this.addSql('create index on virtual_switch (nat_uplink_id)');
    this.addSql('grant select, insert, update, delete on "forwarded_port" to insel_app');
  }
}
