import { Migration } from '@mikro-orm/migrations';

/** What a role installs and who signs in; how many guests a pool starts at once. Log shape 9. */
export class Migration0014Roles extends Migration {
  override up(): void {
    this.addSql('update revision set shape = 9');
    this.addSql(
      `alter table profile add column packages text[] not null default '{}', add column sign_in_keys text[] not null default '{}'`,
    );
    this.addSql(
      'alter table pool add column starts_at_once integer check (starts_at_once between 1 and 1000)',
    );
  }
}
