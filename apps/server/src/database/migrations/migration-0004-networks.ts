import { Migration } from '@mikro-orm/migrations';
import { BASE, DESCRIBED, full, LATER, ref } from './columns.js';

/** Switches, devices, lines, routes, names, rests of addresses. Log shape 3: what the new fields of old kinds hold is in the core's upcaster. */
export class Migration0004Networks extends Migration {
  override up(): void {
    for (const sql of [...TABLES, ...COLUMNS, ...RULES]) this.addSql(sql);
    this.addSql(
      `grant select, insert, update, delete on ${NAMES.map((name) => `"${name}"`).join(', ')} to insel_app`,
    );
    this.addSql('update revision set shape = 3');
  }
}

const NAMES = [
  'network_site',
  'quarantine',
  'physical_switch',
  'switch_port',
  'switch_line',
  'device',
  'device_port',
  'route',
  'name_record',
];

const ROUTING = `gateway inet ${full('gateway')}, gateway6 inet ${full('gateway6')}, no_gateway boolean not null, gateway_on_link boolean not null, forwards boolean not null`;

const TABLES = [
  `create table network_site (${BASE}, network_id uuid not null ${ref('network')}, site_id uuid not null ${ref('site')}, unique (network_id, site_id) ${LATER})`,
  `create table quarantine (${BASE}, subnet_id uuid not null ${ref('subnet')}, ip inet not null ${full('ip')}, until date not null, was text not null,
    unique (subnet_id, ip) ${LATER})`,
  `create table physical_switch (${BASE}, name text not null, site_id uuid ${ref('site')}, rack_id uuid ${ref('rack')}, model text not null,
    mtu integer not null check (mtu between 68 and 65535), ${DESCRIBED})`,
  `create table switch_port (${BASE}, physical_switch_id uuid not null ${ref('physical_switch')}, name text not null, bits_per_second bigint check (bits_per_second >= 1),
    untagged_vlan integer check (untagged_vlan between 1 and 4094), tagged_vlans text not null, up boolean not null, purpose text not null,
    unique (physical_switch_id, name) ${LATER})`,
  `create table switch_line (${BASE}, name text not null, a_port_id uuid not null ${ref('switch_port')}, b_port_id uuid not null ${ref('switch_port')}, up boolean not null,
    ${DESCRIBED}, check (a_port_id <> b_port_id), unique (a_port_id) ${LATER}, unique (b_port_id) ${LATER})`,
  `create table device (${BASE}, name text not null, name_assigned boolean not null,
    kind text not null check (kind in ('router', 'firewall', 'printer', 'access point', 'storage', 'other')),
    state text not null check (state in ('in service', 'off', 'retired')), site_id uuid ${ref('site')}, model text not null, domain text not null,
    unread text[] not null default '{}', ${ROUTING}, ${DESCRIBED},
    constraint device_name_once exclude using btree (lower(name) with =) where (name_assigned) ${LATER})`,
  `create table device_port (${BASE}, device_id uuid not null ${ref('device')}, name text not null, network_id uuid ${ref('network')}, mac macaddr, up boolean not null,
    tagged boolean not null, switch_port_id uuid ${ref('switch_port')}, outside boolean not null, masquerade boolean not null, purpose text not null,
    unique (device_id, name) ${LATER}, unique (switch_port_id) ${LATER})`,
  `create table "route" (${BASE}, host_id uuid ${ref('host')}, guest_id uuid ${ref('guest')}, device_id uuid ${ref('device')}, destination cidr not null,
    via inet not null ${full('via')}, purpose text not null, check (num_nonnulls(host_id, guest_id, device_id) = 1))`,
  `create table name_record (${BASE}, owner text not null, type text not null check (type in ('A', 'AAAA', 'CNAME', 'PTR')), data text not null, source text not null)`,
];

const COLUMNS = [
  `alter table site add column mac_block text not null default ''`,
  `alter table network add column untrusted boolean not null default false`,
  `alter table subnet add column domain text not null default '', add column policy text not null default 'lowest' check (policy in ('lowest', 'after last', 'random')),
    add column quarantine_days integer not null default 0 check (quarantine_days between 0 and 365)`,
  `alter table host add column gateway6 inet ${full('gateway6')}, add column no_gateway boolean not null default false, add column gateway_on_link boolean not null default false,
    add column forwards boolean not null default false`,
  `alter table guest add column domain text not null default '', add column gateway inet ${full('gateway')}, add column gateway6 inet ${full('gateway6')},
    add column no_gateway boolean not null default false, add column gateway_on_link boolean not null default false, add column forwards boolean not null default false`,
  `alter table virtual_switch add column untagged boolean not null default false,
    add column bundle text not null default 'none' check (bundle in ('none', 'failover', 'aggregation'))`,
  `alter table port add column switch_port_id uuid ${ref('switch_port')}, add column up boolean not null default true`,
  `alter table adapter add column connected boolean not null default true, add column masquerade boolean not null default false`,
  `alter table address add column device_port_id uuid ${ref('device_port')}, add column virtual_switch_id uuid ${ref('virtual_switch')}`,
];

const RULES = [
  `alter table address drop constraint address_check, add constraint address_one_holder check (num_nonnulls(host_id, adapter_id, device_port_id) = 1)`,
  `alter table "range" drop constraint range_use_check, add constraint range_use_check check ("use" in ('dynamic', 'reserved', 'static'))`,
  `alter table port add constraint port_plugged_once unique (switch_port_id) ${LATER}`,
];
