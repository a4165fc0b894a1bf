import { Migration } from '@mikro-orm/migrations';
import { full } from './columns.js';

/**
 * When work may be done at hosts, their groups and sites, and by which clock; addresses of the environment that copies a
 * machine. Log shape 13.
 */
export class Migration0020WorkWindows extends Migration {
  override up(): void {
    this.addSql('update revision set shape = 13');
    this.addSql(
      `alter table site add column time_zone text not null default '',
        add column work_window text not null default ''`,
    );
    for (const table of ['host', 'host_group'])
      this.addSql(`alter table "${table}" add column work_window text not null default ''`);
    this.addSql(`alter table guest_group add column outage_window text not null default ''`);
    this.addSql(
      `alter table migration add column copy_from_ip inet ${full('copy_from_ip')}, add column copy_to_ip inet ${full('copy_to_ip')},
        add column paused_at timestamptz, add column paused_why text not null default ''`,
    );
  }
}
