import { Migration } from '@mikro-orm/migrations';
import { BASE, ref } from './columns.js';

/** What a role installs and who signs in; how many guests a pool starts at once; readings of moves. Log shape 9. */
export class Migration0014Roles extends Migration {
  override up(): void {
    this.addSql('update revision set shape = 9');
    this.addSql(
      `alter table profile add column packages text[] not null default '{}', add column sign_in_keys text[] not null default '{}'`,
    );
    this.addSql(
      `create table "move_reading" (${BASE}, migration_id uuid not null ${ref('migration')}, "when" text not null check ("when" in ('before', 'after')),
        taken_at timestamptz not null, by text not null, lines text[] not null)`,
    );
    this.addSql('create index on move_reading (migration_id)');
    this.addSql('grant select, insert, update, delete on "move_reading" to insel_app');
    this.addSql(
      'alter table migration add column bytes_done bigint check (bytes_done >= 0), add column bytes_done_at timestamptz',
    );
    this.addSql(
      'alter table pool add column starts_at_once integer check (starts_at_once between 1 and 1000)',
    );
  }
}
