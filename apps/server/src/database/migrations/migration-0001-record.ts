import { Migration } from '@mikro-orm/migrations';
import { BASE, DESCRIBED, full, LATER, ref } from './columns.js';

/** The record, its log, and accounts. Whatever the decisions guarantee, the tables say again. */
export class Migration0001Record extends Migration {
  override up(): void {
    this.addSql('create extension if not exists btree_gist');
    this.addSql('create extension if not exists citext');
    this.addSql(
      'create table revision (one boolean primary key default true check (one), revision bigint not null, shape integer not null)',
    );
    this.addSql('insert into revision (revision, shape) values (0, 1)');
    this.addSql(`create table log (
      revision bigint primary key check (revision > 0), shape integer not null, at timestamptz not null, happened_at timestamptz,
      actor_id text not null, actor_name text not null, title text not null, reason text not null, override text not null, type text not null,
      change jsonb not null, subjects jsonb not null, patches jsonb not null, record_ids uuid[] not null)`);
    this.addSql('create index log_record_ids on log using gin (record_ids)');
    this.addSql(`create function log_is_append_only() returns trigger language plpgsql as $$
      begin raise exception 'the log is append-only'; end $$`);
    this.addSql(
      'create trigger log_append_only before update or delete or truncate on log for each statement execute function log_is_append_only()',
    );
    this
      .addSql(`create table idempotency (user_id text not null, key text not null check (length(key) between 1 and 200), body_hash text not null,
      answer jsonb not null, at timestamptz not null, primary key (user_id, key))`);
    for (const sql of RECORD_TABLES) this.addSql(sql);
    for (const sql of ACCOUNT_TABLES) this.addSql(sql);
    for (const sql of GRANTS) this.addSql(sql);
  }
}

const RECORD_TABLES = [
  `create table site (${BASE}, name text not null, ${DESCRIBED})`,
  `create table platform (${BASE}, name text not null, bare_metal boolean not null, keeps_mib bigint not null check (keeps_mib >= 0),
    keeps_percent integer not null check (keeps_percent between 0 and 100), overhead_mib bigint not null check (overhead_mib >= 0),
    overhead_per_vcpu_mib bigint not null check (overhead_per_vcpu_mib >= 0), overhead_percent integer not null check (overhead_percent between 0 and 100),
    video_mib bigint not null check (video_mib >= 0), ${DESCRIBED})`,
  `create table routing_domain (${BASE}, name text not null, ${DESCRIBED})`,
  `create table network (${BASE}, name text not null, purpose text not null, vlan_id integer check (vlan_id between 1 and 4094),
    mtu integer not null check (mtu between 68 and 65535), site_id uuid ${ref('site')}, ${DESCRIBED})`,
  `create table subnet (${BASE}, network_id uuid not null ${ref('network')}, domain_id uuid not null ${ref('routing_domain')}, prefix cidr not null,
    gateway inet ${full('gateway')}, name_servers inet[] not null default '{}',
    constraint subnet_no_overlap exclude using gist (domain_id with =, prefix inet_ops with &&) ${LATER})`,
  `create table "range" (${BASE}, subnet_id uuid not null ${ref('subnet')}, "use" text not null check ("use" in ('dynamic', 'reserved')),
    first_ip inet not null ${full('first_ip')}, last_ip inet not null ${full('last_ip')}, purpose text not null, check (first_ip <= last_ip))`,
  `create table host (${BASE}, name text not null, name_assigned boolean not null,
    state text not null check (state in ('planned', 'building', 'in service', 'maintenance', 'failed', 'retired')), site_id uuid ${ref('site')},
    platform_id uuid not null ${ref('platform')}, purpose text not null, processor_model text not null, sockets integer not null check (sockets >= 1),
    cores_per_socket integer not null check (cores_per_socket >= 1), threads_per_core integer not null check (threads_per_core >= 1),
    installed_mib bigint not null check (installed_mib >= 1), visible_mib bigint check (visible_mib >= 1), ${DESCRIBED},
    constraint host_name_once exclude using btree (lower(name) with =) where (name_assigned) ${LATER})`,
  `create table pool (${BASE}, name text not null, usable_bytes bigint not null check (usable_bytes >= 0),
    promise_limit_percent integer not null check (promise_limit_percent between 1 and 1000), ${DESCRIBED})`,
  `create table pool_reach (${BASE}, pool_id uuid not null ${ref('pool')}, host_id uuid not null ${ref('host')}, unique (pool_id, host_id) ${LATER})`,
  `create table virtual_switch (${BASE}, host_id uuid not null ${ref('host')}, network_id uuid ${ref('network')}, name text not null,
    mode text not null check (mode in ('bridged', 'NAT', 'host and guests', 'guests only', 'routed')))`,
  `create table guest (${BASE}, name text not null, name_assigned boolean not null,
    state text not null check (state in ('planned', 'building', 'in service', 'stopped', 'retired')), template boolean not null,
    host_id uuid not null ${ref('host')}, family text not null, purpose text not null, vcpu integer not null check (vcpu >= 1),
    memory_mib bigint not null check (memory_mib >= 1), held_when_stopped boolean not null, ${DESCRIBED},
    constraint guest_name_once exclude using btree (lower(name) with =) where (name_assigned) ${LATER})`,
  `create table volume (${BASE}, guest_id uuid not null ${ref('guest')}, pool_id uuid not null ${ref('pool')}, label text not null,
    bytes bigint not null check (bytes between 1 and 9007199254740991), thin boolean not null)`,
  `create table adapter (${BASE}, guest_id uuid not null ${ref('guest')}, network_id uuid ${ref('network')}, position integer not null, mac macaddr,
    mac_assigned boolean not null, constraint mac_once exclude using btree (mac with =) where (mac_assigned) ${LATER})`,
  `create table address (${BASE}, domain_id uuid not null ${ref('routing_domain')}, subnet_id uuid ${ref('subnet')}, ip inet not null ${full('ip')},
    assigned boolean not null, "use" text not null check ("use" in ('static', 'reservation', 'shared')), purpose text not null,
    host_id uuid ${ref('host')}, adapter_id uuid ${ref('adapter')}, check ((host_id is null) <> (adapter_id is null)),
    constraint address_once exclude using gist (domain_id with =, ip inet_ops with =) where (assigned and "use" <> 'shared') ${LATER})`,
  `create table clone (${BASE}, guest_id uuid not null ${ref('guest')}, origin_id uuid not null ${ref('guest')},
    copy text not null check (copy in ('full', 'dependent')), made_at timestamptz not null)`,
  `create table identity_item (${BASE}, clone_id uuid not null ${ref('clone')}, item text not null, done_at timestamptz, done_by text not null,
    remark text not null, unique (clone_id, item) ${LATER})`,
  `create table migration (${BASE}, guest_id uuid not null ${ref('guest')}, source_host_id uuid not null ${ref('host')},
    target_host_id uuid not null ${ref('host')}, state text not null check (state in ('planned', 'started', 'switched', 'accepted', 'rolled back')),
    running boolean not null, link_bits_per_second bigint not null check (link_bits_per_second >= 1), bytes bigint not null check (bytes >= 0),
    estimate_seconds bigint check (estimate_seconds >= 0), planned_at timestamptz not null, started_at timestamptz, switched_at timestamptz,
    ended_at timestamptz, copy_seconds bigint check (copy_seconds >= 1), ${DESCRIBED})`,
  `create table volume_move (${BASE}, migration_id uuid not null ${ref('migration')}, volume_id uuid not null ${ref('volume')},
    from_pool_id uuid not null ${ref('pool')}, to_pool_id uuid not null ${ref('pool')})`,
  `create table hold (${BASE}, migration_id uuid not null ${ref('migration')}, side text not null check (side in ('source', 'target')),
    host_id uuid ${ref('host')}, vcpu integer not null check (vcpu >= 0), memory_mib bigint not null check (memory_mib >= 0),
    pool_id uuid ${ref('pool')}, bytes bigint not null check (bytes >= 0), until date, check ((host_id is null) <> (pool_id is null)))`,
];

const ACCOUNT_TABLES = [
  `create table person (id uuid primary key, name citext not null unique, role text not null check (role in ('reader', 'planner', 'administrator')),
    password_hash text not null, active boolean not null default true, created_at timestamptz not null)`,
  `create table session (token_hash text primary key, person_id uuid not null references person (id), created_at timestamptz not null, expires_at timestamptz not null)`,
  `create table api_token (id uuid primary key, token_hash text not null unique, person_id uuid not null references person (id), label text not null,
    created_at timestamptz not null, revoked_at timestamptz)`,
  `create table sign_in_attempt (id bigint generated always as identity primary key, name citext not null, at timestamptz not null)`,
  'create index sign_in_attempt_recent on sign_in_attempt (name, at)',
  `create table set_up_token (token_hash text primary key, created_at timestamptz not null, used_at timestamptz)`,
];

/** The run-time role reads and writes rows; of the log it may only read and add. */
const GRANTS = [
  'grant usage on schema public to insel_app',
  'grant select, insert, update, delete on all tables in schema public to insel_app',
  'revoke update, delete, truncate on log from insel_app',
  'revoke insert, delete on revision from insel_app',
  'grant usage on all sequences in schema public to insel_app',
];
