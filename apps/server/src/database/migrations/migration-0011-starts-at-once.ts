import { Migration } from '@mikro-orm/migrations';

/** Guests that a host, or each host of a group, may start at once. Log shape 7. */
export class Migration0011StartsAtOnce extends Migration {
  override up(): void {
    for (const table of ['host', 'host_group'])
      this.addSql(
        `alter table "${table}" add column starts_at_once integer check (starts_at_once between 1 and 1000)`,
      );
  }
}
