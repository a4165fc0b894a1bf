import { Migration } from '@mikro-orm/migrations';
import { BASE } from './columns.js';

/** Findings that somebody lives with until a day. */
export class Migration0010Acceptance extends Migration {
  override up(): void {
    this.addSql(
      `create table "acceptance" (${BASE}, finding_id text not null constraint acceptance_once unique, evidence text not null,
        reason text not null check (reason <> ''), until date not null, by text not null, at timestamptz not null)`,
    );
    this.addSql('grant select, insert, update, delete on "acceptance" to insel_app');
  }
}
