import { Migration } from '@mikro-orm/migrations';

/** What a role installs and who signs in. Log shape 9. */
export class Migration0014Roles extends Migration {
  override up(): void {
    this.addSql('update revision set shape = 9');
    this.addSql(
      `alter table profile add column packages text[] not null default '{}', add column sign_in_keys text[] not null default '{}'`,
    );
  }
}
