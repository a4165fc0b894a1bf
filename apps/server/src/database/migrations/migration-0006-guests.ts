import { Migration } from '@mikro-orm/migrations';
import { BASE, DESCRIBED, LATER, ref } from './columns.js';

/** Profiles, groups, devices, media in drives, snapshots, builds of guests; measured samples beside the record. Log shape 4. */
export class Migration0006Guests extends Migration {
  override up(): void {
    for (const sql of SQL) this.addSql(sql);
    this.addSql(
      'grant select, insert, update, delete on "profile", "guest_group", "drive", "snapshot", "build_tick", "sample", "sample_import" to insel_app',
    );
    this.addSql('update revision set shape = 4');
  }
}

const FAMILIES = `'Linux', 'BSD', 'NT family', 'appliance', 'other'`;
const flag = (name: string, initial: boolean) => `${name} boolean not null default ${initial}`;

const SQL = [
  `create table "profile" (${BASE}, name text not null, family text not null check (family in (${FAMILIES})), display text not null check (display in ('text', 'graphical')),
    minimum_vcpu integer not null check (minimum_vcpu between 1 and 4096), minimum_memory_mib bigint not null check (minimum_memory_mib >= 1), minimum_bytes bigint not null check (minimum_bytes >= 0),
    usual_vcpu integer not null check (usual_vcpu between 1 and 4096), usual_memory_mib bigint not null check (usual_memory_mib >= 1), usual_bytes bigint not null check (usual_bytes >= 0), usual_data_bytes bigint not null check (usual_data_bytes >= 0),
    load_unit text not null, usual_load bigint not null check (usual_load >= 0), load_step bigint not null check (load_step >= 1),
    step_milli_vcpu bigint not null check (step_milli_vcpu >= 0), step_memory_mib bigint not null check (step_memory_mib >= 0), step_data_bytes bigint not null check (step_data_bytes >= 0),
    adapters integer not null check (adapters between 1 and 16), ${['paravirtual_disk', 'paravirtual_network', 'uefi', 'legacy_boot'].map((name) => flag(name, true)).join(', ')}, ${['nested', 'forwards', 'apart'].map((name) => flag(name, false)).join(', ')},
    start_seconds integer not null check (start_seconds between 0 and 86400), identity text[] not null default '{}', ${DESCRIBED})`,
  `create table "guest_group" (${BASE}, name text not null, purpose text not null, spread text not null check (spread in ('none', 'host', 'rack', 'site')), needed integer not null check (needed between 0 and 1000), ${DESCRIBED})`,
  `alter table platform add column disk_buses text[] not null default '{paravirtual,SATA,IDE}', add column adapter_models text[] not null default '{paravirtual,emulated}',
    add column ${flag('uefi_guests', true)}, add column ${flag('legacy_guests', true)}, add column ${flag('accelerated_graphics', false)},
    add column interface_pattern text not null default 'enp{n}s0', add column interface_first integer not null default 1 check (interface_first between 0 and 255)`,
  `alter table medium add column family text not null default 'none' check (family in ('none', ${FAMILIES})), add column system text not null default '', add column release text not null default '',
    add column released_on date, add column install text not null default 'full' check (install in ('full', 'network', 'drivers', 'other')), add column pool_id uuid ${ref('pool')}`,
  `alter table guest add column profile_id uuid ${ref('profile')}, add column group_id uuid ${ref('guest_group')},
    add column firmware text not null default 'unknown' check (firmware in ('unknown', 'UEFI', 'legacy')), add column boot_first text not null default 'unknown' check (boot_first in ('unknown', 'disk', 'medium', 'network')),
    add column graphics text not null default 'unknown' check (graphics in ('unknown', 'none', 'basic', 'accelerated')), add column criticality text not null default 'not said' check (criticality in ('not said', 'low', 'normal', 'high')),
    add column outage_window text not null default '', add column end_date date, add column state_at timestamptz`,
  `create index on guest (profile_id)`,
  `create index on guest (group_id)`,
  `alter table volume add column bus text not null default 'unknown' check (bus in ('unknown', 'paravirtual', 'SATA', 'IDE', 'SCSI', 'NVMe')), add column use text not null default 'disk' check (use in ('disk', 'UEFI variables')),
    add column ${flag('split', false)}, add column base_id uuid ${ref('volume')}, add column used_bytes bigint check (used_bytes >= 0)`,
  `alter table adapter add column model text not null default 'unknown' check (model in ('unknown', 'paravirtual', 'emulated')), add column name_inside text not null default ''`,
  `create table "drive" (${BASE}, guest_id uuid not null ${ref('guest')}, medium_id uuid not null ${ref('medium')}, ${flag('at_power_on', true)}, unique (guest_id, medium_id) ${LATER})`,
  `create table "snapshot" (${BASE}, guest_id uuid not null ${ref('guest')}, pool_id uuid not null ${ref('pool')}, name text not null, taken_at timestamptz not null, why text not null,
    bytes bigint not null check (bytes >= 0), growth_bytes_per_day bigint not null check (growth_bytes_per_day >= 0), keep_until date)`,
  `create table "build_tick" (${BASE}, guest_id uuid not null ${ref('guest')}, step text not null, outcome text not null check (outcome in ('done', 'failed', 'not needed')), at timestamptz not null, by text not null, remark text not null,
    unique (guest_id, step) ${LATER})`,
  // Measured, not recorded: outside the log and outside the fleet. A guest or pool has at most one sample at a time. No foreign
  // keys: checked row by row they double the time of an import; whoever takes one out again takes its samples with it.
  `create table "sample_import" (id uuid primary key, at timestamptz not null, by text not null, source text not null, rows bigint not null, added bigint not null, first_at timestamptz, last_at timestamptz)`,
  `create table "sample" (subject_id uuid not null, at timestamptz not null, cpu_percent real check (cpu_percent between 0 and 100), memory_mib integer check (memory_mib >= 0), disk_bytes bigint check (disk_bytes >= 0),
    import_id uuid not null, primary key (subject_id, at))`,
];
