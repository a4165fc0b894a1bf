import { Migration } from '@mikro-orm/migrations';

/** Long pasted texts beside the log, under their hash: they can be redacted, the log cannot. */
export class Migration0002Attachment extends Migration {
  override up(): void {
    this
      .addSql(`create table attachment (sha256 text primary key check (sha256 ~ '^[0-9a-f]{64}$'), text text, revision bigint not null references log (revision) deferrable initially deferred,
      redacted_by bigint references log (revision) deferrable initially deferred, check ((text is null) = (redacted_by is not null)))`);
    this.addSql('grant select, insert, update on attachment to insel_app');
  }
}
