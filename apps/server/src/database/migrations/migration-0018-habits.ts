import { Migration } from '@mikro-orm/migrations';

/** What machines do that their addresses do not tell; routes that lead nowhere; translation by virtual switch. Log shape 11. */
export class Migration0018Habits extends Migration {
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
  }
}
