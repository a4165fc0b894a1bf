import { Migration } from '@mikro-orm/migrations';
import { BASE, DESCRIBED, ref } from './columns.js';

/** Power feeds, what is plugged into them, and how long machines take to stop. Log shape 15. */
export class Migration0022PowerFeeds extends Migration {
  override up(): void {
    this.addSql('update revision set shape = 15');
    this.addSql(
      `create table "power_feed" (${BASE}, name text not null, site_id uuid ${ref('site')},
        watts integer check (watts between 1 and 10000000), ups_minutes integer check (ups_minutes between 0 and 100000), ${DESCRIBED})`,
    );
    this.addSql(
      `create table "power_cord" (${BASE}, host_id uuid not null ${ref('host')}, feed_id uuid not null ${ref('power_feed')})`,
    );
    for (const [table, column] of [
      ['power_feed', 'site_id'],
      ['power_cord', 'host_id'],
      ['power_cord', 'feed_id'],
    ])
      this.addSql(`create index on ${table} (${column})`);
    this.addSql(
      `alter table guest add column stop_seconds integer not null default 60 check (stop_seconds between 0 and 86400)`,
    );
    this.addSql(
      `alter table host add column stop_seconds integer not null default 120 check (stop_seconds between 0 and 86400)`,
    );
    for (const table of ['power_feed', 'power_cord'])
      this.addSql(`grant select, insert, update, delete on "${table}" to insel_app`);
  }
}
