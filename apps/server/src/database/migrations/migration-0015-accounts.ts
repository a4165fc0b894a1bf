import { Migration } from '@mikro-orm/migrations';

/** Where sign-ins come from and what came of them; set-up tokens for one person; what was done to accounts, only ever added to. */
export class Migration0015Accounts extends Migration {
  override up(): void {
    this.addSql(
      `alter table sign_in_attempt add column source text not null default '', add column outcome text not null default 'wrong' check (outcome in ('open', 'wrong', 'right'))`,
    );
    this.addSql('create index sign_in_attempt_source on sign_in_attempt (source, at)');
    this.addSql(
      'alter table set_up_token add column person_id uuid references person (id), add column expires_at timestamptz',
    );
    this
      .addSql(`create table account_log (id bigint generated always as identity primary key, at timestamptz not null,
      actor_id uuid, actor_name text not null, about_id uuid, about_name text not null, what text not null)`);
    this.addSql(
      'create trigger account_log_append_only before update or delete or truncate on account_log for each statement execute function log_is_append_only()',
    );
    this.addSql('grant select, insert on account_log to insel_app');
    this.addSql('grant usage on all sequences in schema public to insel_app');
  }
}
