import { Migration } from '@mikro-orm/migrations';
import { BASE, DESCRIBED, LATER, ref } from './columns.js';

/** Services, providers, needs; how long machines take to start. Still log shape 3. */
export class Migration0005Starts extends Migration {
  override up(): void {
    for (const sql of SQL) this.addSql(sql);
    this.addSql(
      'grant select, insert, update, delete on "service", "provider", "dependency" to insel_app',
    );
  }
}

const SQL = [
  `create table "service" (${BASE}, name text not null, what text not null check (what in ('names', 'directory', 'time', 'storage', 'backup', 'management', 'other')),
    host_group_id uuid ${ref('host_group')}, ${DESCRIBED})`,
  `create table "provider" (${BASE}, service_id uuid not null ${ref('service')}, guest_id uuid ${ref('guest')}, device_id uuid ${ref('device')},
    check (num_nonnulls(guest_id, device_id) = 1), unique nulls not distinct (service_id, guest_id, device_id) ${LATER})`,
  `create table "dependency" (${BASE}, host_id uuid ${ref('host')}, guest_id uuid ${ref('guest')}, service_id uuid ${ref('service')}, on_guest_id uuid ${ref('guest')}, purpose text not null,
    check (num_nonnulls(host_id, guest_id) = 1), check (num_nonnulls(service_id, on_guest_id) = 1), check (guest_id <> on_guest_id),
    unique nulls not distinct (host_id, guest_id, service_id, on_guest_id) ${LATER})`,
  `alter table guest add column start_seconds integer not null default 60 check (start_seconds between 0 and 86400)`,
  `alter table host add column boot_seconds integer not null default 300 check (boot_seconds between 0 and 86400)`,
  `alter table pool add column server_guest_id uuid ${ref('guest')}`,
];
