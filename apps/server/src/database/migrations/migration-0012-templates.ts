import { Migration } from '@mikro-orm/migrations';
import { BASE, DESCRIBED, LATER, ref } from './columns.js';

const FAMILIES = `'any', 'Linux', 'BSD', 'NT family', 'appliance', 'other'`;

/** Templates with their versions, entitlements, what guests are known by, times of copies. Log shape 8. */
export class Migration0012Templates extends Migration {
  override up(): void {
    for (const sql of [
      `create table "template" (${BASE}, name text not null, purpose text not null, ${DESCRIBED})`,
      `create table "template_version" (${BASE}, template_id uuid not null ${ref('template')}, number integer not null check (number between 1 and 9999),
        guest_id uuid not null ${ref('guest')}, from_id uuid ${ref('template_version')}, changed text not null, installed text not null, medium_id uuid ${ref('medium')},
        begun_at timestamptz not null, sealed_at timestamptz, sealed_by text not null, retired_at timestamptz, resets integer not null check (resets between 0 and 999),
        unique (template_id, number) ${LATER}, unique (guest_id) ${LATER})`,
      `create table "seal_item" (${BASE}, version_id uuid not null ${ref('template_version')}, item text not null, done_at timestamptz, done_by text not null, remark text not null,
        unique (version_id, item) ${LATER})`,
      `create table "entitlement" (${BASE}, name text not null, unit text not null check (unit in ('copy', 'host', 'processor', 'core pair', 'user')), count bigint not null check (count >= 1),
        copies_per_host integer not null check (copies_per_host between 0 and 1000), least_per_host integer not null check (least_per_host between 0 and 10000), users bigint not null check (users >= 0),
        profile_id uuid ${ref('profile')}, family text not null check (family in (${FAMILIES})), label text not null, until date, ${DESCRIBED})`,
      `create table "identity_fact" (${BASE}, guest_id uuid not null ${ref('guest')},
        what text not null check (what in ('machine identifier', 'computer name', 'SSH host key', 'certificate', 'licence label')), value text not null, seen_at timestamptz not null, seen_by text not null)`,
      'create index on template_version (template_id)',
      'create index on seal_item (version_id)',
      'create index on identity_fact (guest_id)',
      `alter table clone add column copy_seconds bigint check (copy_seconds >= 1), add column ready_at timestamptz`,
      'alter table subnet add column low_kept integer not null default 0 check (low_kept between 0 and 4096)',
      `alter table profile add column more_identity text[] not null default '{}'`,
      `alter table clone drop constraint clone_copy_check, add constraint clone_copy_check check (copy in ('full', 'by hand', 'dependent'))`,
    ])
      this.addSql(sql);
    this.addSql(
      'grant select, insert, update, delete on "template", "template_version", "seal_item", "entitlement", "identity_fact" to insel_app',
    );
    this.addSql('update revision set shape = 8');
  }
}
