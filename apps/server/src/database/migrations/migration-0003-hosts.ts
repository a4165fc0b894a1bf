import { Migration } from '@mikro-orm/migrations';
import { BASE, DESCRIBED, full, LATER, ref } from './columns.js';

/** Hardware, groups, backups and verifications of hosts. Log shape 2: what the new fields of old kinds hold is in the core's upcaster. */
export class Migration0003Hosts extends Migration {
  override up(): void {
    for (const sql of [...TABLES, ...COLUMNS, ...RULES]) this.addSql(sql);
    this.addSql(
      `grant select, insert, update, delete on ${NAMES.map((name) => `"${name}"`).join(', ')} to insel_app`,
    );
    this.addSql('update revision set shape = 2');
  }
}

const NAMES = [
  'rack',
  'medium',
  'host_group',
  'memory_module',
  'numa_node',
  'array',
  'disk',
  'port',
  'uplink',
  'placement_rule',
  'placement_member',
  'backup',
  'verification',
  'verification_test',
  'host_build',
];

const TABLES = [
  `create table rack (${BASE}, name text not null, site_id uuid ${ref('site')}, units integer not null check (units between 1 and 60),
    feed_watts bigint check (feed_watts >= 1), ups_minutes bigint check (ups_minutes >= 0), ${DESCRIBED})`,
  `create table medium (${BASE}, name text not null, bytes bigint not null check (bytes >= 1), sha256 text not null, kept text not null,
    platform_id uuid ${ref('platform')}, ${DESCRIBED})`,
  `create table host_group (${BASE}, name text not null, vcpu_per_core integer not null check (vcpu_per_core between 1 and 64),
    memory_percent integer not null check (memory_percent between 100 and 400),
    reserve_percent integer not null check (reserve_percent between 0 and 90), quorum integer check (quorum between 1 and 1000),
    witness text not null, restarts boolean not null, ${DESCRIBED})`,
  `create table memory_module (${BASE}, host_id uuid not null ${ref('host')}, slot text not null, size_mib bigint not null check (size_mib >= 1),
    speed text not null, unique (host_id, slot) ${LATER})`,
  `create table numa_node (${BASE}, host_id uuid not null ${ref('host')}, node integer not null check (node between 0 and 255),
    cores integer not null check (cores between 1 and 1024), memory_mib bigint not null check (memory_mib >= 1), unique (host_id, node) ${LATER})`,
  `create table "array" (${BASE}, host_id uuid not null ${ref('host')}, name text not null,
    "level" text not null check ("level" in ('0', '1', '10', '5', '6', '50', '60')), groups integer not null check (groups between 1 and 32),
    purpose text not null check (purpose in ('boot', 'guests', 'boot and guests', 'other')))`,
  `create table disk (${BASE}, host_id uuid not null ${ref('host')}, bay text not null, model text not null, serial text not null,
    bytes bigint not null check (bytes >= 0),
    "class" text not null check ("class" in ('consumer disk', 'enterprise disk', 'consumer flash', 'enterprise flash')),
    array_id uuid ${ref('array')}, spare boolean not null,
    purpose text not null check (purpose in ('none', 'boot', 'guests', 'boot and guests', 'other')), unique (host_id, bay) ${LATER})`,
  `create table port (${BASE}, host_id uuid not null ${ref('host')}, name text not null,
    connector text not null check (connector in ('unknown', '8P8C', 'SFP', 'SFP+', 'SFP28', 'QSFP', 'wireless', 'other')),
    bits_per_second bigint check (bits_per_second >= 1), wired boolean not null, mac macaddr, card text not null, management boolean not null,
    plugged_into text not null, unique (host_id, name) ${LATER})`,
  `create table uplink (${BASE}, switch_id uuid not null ${ref('virtual_switch')}, port_id uuid not null ${ref('port')}, unique (switch_id,
    port_id) ${LATER})`,
  `create table placement_rule (${BASE}, name text not null, "rule" text not null check ("rule" in ('together', 'apart', 'pinned')),
    scope text not null check (scope in ('host', 'rack', 'site')), host_id uuid ${ref('host')}, ${DESCRIBED})`,
  `create table placement_member (${BASE}, rule_id uuid not null ${ref('placement_rule')}, guest_id uuid not null ${ref('guest')}, unique (rule_id,
    guest_id) ${LATER})`,
  `create table backup (${BASE}, guest_id uuid not null ${ref('guest')}, way text not null check (way in ('backup', 'replica')),
    pool_id uuid ${ref('pool')}, place text not null, store_guest_id uuid ${ref('guest')}, every_minutes bigint not null check (every_minutes >= 1),
    takes_minutes bigint not null check (takes_minutes >= 0), restore_minutes bigint check (restore_minutes >= 0), last_success_at timestamptz,
    last_restore_test_at timestamptz)`,
  `create table verification (${BASE}, host_id uuid not null ${ref('host')}, "at" timestamptz not null, "by" text not null, remark text not null)`,
  `create table verification_test (${BASE}, verification_id uuid not null ${ref('verification')}, test text not null, passed boolean not null,
    remark text not null, unique (verification_id, test) ${LATER})`,
  `create table host_build (${BASE}, host_id uuid not null ${ref('host')}, started_at timestamptz not null, ended_at timestamptz not null,
    differences text not null)`,
];

const COLUMNS = [
  `alter table platform add column architecture text not null default 'x86-64' check (architecture in ('x86-64', 'aarch64', 'other')),
    add column minimum_level integer not null default 1 check (minimum_level between 1 and 4),
    add column needs_virtualisation boolean not null default true, add column needs_wired_port boolean not null default true,
    add column minimum_memory_mib bigint not null default 4096 check (minimum_memory_mib >= 0),
    add column footprint_bytes bigint not null default 32000000000 check (footprint_bytes >= 0),
    add column secure_boot text not null default 'either' check (secure_boot in ('either', 'must be off', 'must be on')),
    add column nat_shared boolean not null default true, add column console_port integer check (console_port between 1 and 65535),
    add column running_migration boolean not null default true, add column thin_volumes boolean not null default true,
    add column dependent_clones boolean not null default true, add column adapter_change_needs_restart boolean not null default false`,
  `alter table host add column group_id uuid ${ref('host_group')}, add column outer_guest_id uuid ${ref('guest')},
    add column rack_id uuid ${ref('rack')}, add column rack_unit integer check (rack_unit between 1 and 60),
    add column rack_height integer not null default 1 check (rack_height between 1 and 20), add column machine_model text not null default '',
    add column serial text not null default '', add column warranty_until date, add column weight_kg integer check (weight_kg between 1 and 500),
    add column power_supplies integer not null default 1 check (power_supplies between 0 and 8),
    add column draw_watts integer check (draw_watts between 1 and 100000), add column memory_slots integer check (memory_slots between 1 and 1024),
    add column bays integer check (bays between 0 and 1024), add column controller text not null default '',
    add column controller_mode text not null default 'unknown' check (controller_mode in ('unknown', 'AHCI', 'IDE', 'RAID', 'pass-through', 'NVMe')),
    add column boot_mode text not null default 'unknown' check (boot_mode in ('unknown', 'UEFI', 'legacy')),
    add column secure_boot text not null default 'unknown' check (secure_boot in ('unknown', 'on', 'off')),
    add column video_connector text not null default 'unknown' check (video_connector in ('unknown', 'none', 'DE-15 analogue', 'DVI', 'HDMI', 'DisplayPort', 'mini DisplayPort', 'USB-C')),
    add column pass_through text[] not null default '{}',
    add column architecture text not null default 'x86-64' check (architecture in ('x86-64', 'aarch64', 'other')),
    add column base_mhz integer check (base_mhz between 1 and 100000), add column flags text not null default '',
    add column stated_level integer check (stated_level between 1 and 4),
    add column virtualisation text not null default 'unknown' check (virtualisation in ('unknown', 'absent', 'switched off', 'on')),
    add column licence text not null default '', add column licence_until date, add column licence_key_kept text not null default '',
    add column domain text not null default '', add column time_zone text not null default '', add column keyboard text not null default '', add column gateway inet ${full('gateway')}, add column name_servers inet[] not null default '{}',
    add column console_port integer check (console_port between 1 and 65535), add column certificate_sha256 text not null default '',
    add column certificate_until date, add column network_changed_at timestamptz`,
  `alter table pool add column array_id uuid ${ref('array')}, add column disk_id uuid ${ref('disk')}, add column remote text not null default '',
    add column copies integer not null default 1 check (copies between 1 and 10),
    add column fill_alarm_percent integer not null default 85 check (fill_alarm_percent between 1 and 100),
    add column used_bytes bigint check (used_bytes >= 0)`,
  `alter table guest add column processor_mode text not null default 'unknown' check (processor_mode in ('unknown', 'host', 'v1', 'v2', 'v3', 'v4')),
    add column nested_virtualisation boolean not null default false`,
  `alter table address add column prefix_length integer check (prefix_length between 0 and 128)`,
];

const RULES = [
  `alter table address drop constraint address_use_check, add constraint address_use_check check ("use" in ('static', 'reservation', 'shared', 'lease'))`,
  `alter table host add constraint host_rack_place_once exclude using gist (rack_id with =, int4range(rack_unit, rack_unit + rack_height) with &&)
    where (rack_id is not null and rack_unit is not null and state <> 'retired') ${LATER}`,
  `alter table pool add constraint pool_lies_once check (array_id is null or disk_id is null)`,
];
