import { Migration } from '@mikro-orm/migrations';
import { BASE, ref } from './columns.js';

/**
 * What machines do that their addresses do not tell; routes that lead nowhere; translation by virtual switch. Plans that
 * stand on others, are approved, paused and done by hand. What was found when a move did not come up. Log shape 11. Beside the record: samples that grow old are summed up.
 */
export class Migration0018HabitsAndApproval extends Migration {
  override up(): void {
    this.addSql('update revision set shape = 11');
    for (const table of ['host', 'guest', 'device'])
      this.addSql(
        `alter table "${table}"
          add column reverse_path text not null default 'unknown' check (reverse_path in ('unknown', 'off', 'loose', 'strict')),
          add column host_model text not null default 'unknown' check (host_model in ('unknown', 'weak', 'strong'))`,
      );
    this.addSql(
      `alter table route alter column via drop not null,
        add column metric bigint check (metric between 0 and 4294967295)`,
    );
    this.addSql(
      `alter table virtual_switch add column translation text not null default 'as its platform'
        check (translation in ('as its platform', 'shared', 'isolated'))`,
    );
    this.addSql(
      `alter table plan add column on_plan_id uuid ${ref('plan')},
        add column needs_approval boolean not null default false,
        add column approved_at timestamptz, add column approved_by text not null default '',
        add column paused_at timestamptz, add column paused_why text not null default ''`,
    );
    this.addSql('create index on plan (on_plan_id)');
    this.addSql(
      // Measured, not recorded: parts of time that stand for samples which are gone. Their 95th percentile is that of the samples
      // they were made of; of a day made of hours it is the largest of theirs.
      `create table "sample_part" (subject_id uuid not null, span text not null check (span in ('hour', 'day')), at timestamptz not null,
        samples integer not null check (samples > 0), cpu_mean real, cpu_p95 real, cpu_most real,
        memory_mean integer, memory_p95 integer, memory_most integer, disk_bytes bigint, primary key (subject_id, span, at))`,
    );
    this.addSql('create index on sample_part using brin (at)');
    this.addSql('create index on sample using brin (at)');
    this.addSql(
      `create table "sample_keeping" (one boolean primary key default true check (one),
        whole_days integer not null check (whole_days between 30 and 36500), hour_days integer not null check (hour_days between 30 and 36500),
        day_days integer check (day_days between 30 and 36500), at timestamptz not null, by text not null)`,
    );
    for (const table of ['sample_part', 'sample_keeping'])
      this.addSql(`grant select, insert, update, delete on "${table}" to insel_app`);
    this.addSql(
      `create table "move_answer" (${BASE}, migration_id uuid not null ${ref('migration')}, sign text not null check (sign <> ''),
        cause text not null check (cause <> ''), was boolean not null, at timestamptz not null, by text not null default '')`,
    );
    this.addSql('create index on move_answer (migration_id)');
    this.addSql('grant select, insert, update, delete on "move_answer" to insel_app');
    this.addSql(
      `alter table plan_step add column basis text not null default '', add column approved text not null default '',
        add column by_hand boolean not null default false, add column done_by text not null default '',
        add column found text not null default ''`,
    );
  }
}
