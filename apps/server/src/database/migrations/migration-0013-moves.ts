import { Migration } from '@mikro-orm/migrations';
import { BASE, LATER, ref } from './columns.js';

const METHODS = `'running pre-copy', 'shared storage switched over', 'block image', 'intermediate disk', 'live converter', 'files only', 'appliance package'`;

/** Methods, windows and steps of migrations. Log shape 8. */
export class Migration0013Moves extends Migration {
  override up(): void {
    this.addSql(
      `alter table migration add column method text check (method in (${METHODS})), add column dirty_bytes_per_second bigint check (dirty_bytes_per_second >= 0),
        add column window_from timestamptz, add column window_until timestamptz`,
    );
    this.addSql(
      `create table "move_step" (${BASE}, migration_id uuid not null ${ref('migration')}, position integer not null check (position between 0 and 255), key text not null,
        phase text not null check (phase in ('before', 'copy', 'switch', 'after')), title text not null, detail text not null,
        console text not null check (console in ('source', 'target', 'both', 'elsewhere')), destroys text not null,
        becomes text not null check (becomes in ('none', 'started', 'switched', 'accepted')), minutes integer not null check (minutes between 0 and 100000),
        state text not null check (state in ('open', 'done', 'failed', 'skipped')), at timestamptz, by text not null, remark text not null,
        unique (migration_id, key) ${LATER})`,
    );
    this.addSql('create index on move_step (migration_id)');
    this.addSql('grant select, insert, update, delete on "move_step" to insel_app');
  }
}
