import { Migration } from '@mikro-orm/migrations';
import { BASE, LATER, ref } from './columns.js';

/** Hardware and system of computers that run no guests; moves of theirs into guests, and of guests onto them. Log shape 12. */
export class Migration0019Computers extends Migration {
  override up(): void {
    this.addSql('update revision set shape = 12');
    this.addSql(
      `alter table device drop constraint device_kind_check, add constraint device_kind_check
        check (kind in ('router', 'firewall', 'printer', 'access point', 'storage', 'computer', 'other'))`,
    );
    this.addSql(
      `alter table device_port add column bits_per_second bigint check (bits_per_second >= 1),
        add column duplex text not null default 'unknown' check (duplex in ('unknown', 'full', 'half'))`,
    );
    this.addSql(
      `create table "computer" (${BASE}, device_id uuid not null ${ref('device')}, family text, work text not null,
        processor_model text not null, architecture text, sockets integer check (sockets >= 1),
        cores_per_socket integer check (cores_per_socket >= 1), threads_per_core integer check (threads_per_core >= 1),
        memory_mib bigint check (memory_mib >= 1), serial text not null, controller text not null, controller_mode text not null,
        boot_mode text not null, secure_boot text not null, encryption text not null, recovery_key_kept text not null,
        attached text[] not null, licence_tied text not null, drivers_at_hand text[] not null, restarted_at timestamptz,
        backup_at timestamptz, restore_proven_at timestamptz, cpu_p95_percent integer check (cpu_p95_percent between 0 and 100),
        memory_peak_mib bigint check (memory_peak_mib >= 1), rack_height integer check (rack_height between 0 and 60),
        draw_watts integer check (draw_watts >= 1), unique (device_id) ${LATER})`,
    );
    this.addSql(
      `create table "computer_disk" (${BASE}, device_id uuid not null ${ref('device')}, bay text not null check (bay <> ''),
        model text not null, serial text not null, bytes bigint not null check (bytes between 1 and 9007199254740991),
        used_bytes bigint check (used_bytes >= 0), sector_bytes integer check (sector_bytes >= 512), boot boolean not null,
        health text not null, layout text not null, unique (device_id, bay) ${LATER})`,
    );
    this.addSql(
      `alter table migration alter column source_host_id drop not null, alter column target_host_id drop not null,
        add column source_device_id uuid ${ref('device')}, add column target_device_id uuid ${ref('device')},
        add column keeps_both boolean not null default false,
        add constraint migration_one_source check (num_nonnulls(source_host_id, source_device_id) = 1),
        add constraint migration_one_target check (num_nonnulls(target_host_id, target_device_id) = 1)`,
    );
    this.addSql(
      `alter table volume_move alter column from_pool_id drop not null, alter column to_pool_id drop not null,
        add column computer_disk_id uuid ${ref('computer_disk')}`,
    );
    this.addSql(
      `alter table hold drop constraint hold_check, add column device_id uuid ${ref('device')},
        add constraint hold_of_one check (num_nonnulls(host_id, pool_id, device_id) = 1)`,
    );
    this.addSql('create index on migration (source_device_id)');
    this.addSql('create index on migration (target_device_id)');
    this.addSql('create index on hold (device_id)');
    for (const table of ['computer', 'computer_disk'])
      this.addSql(`grant select, insert, update, delete on "${table}" to insel_app`);
  }
}
