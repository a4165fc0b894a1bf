import { Migration } from '@mikro-orm/migrations';
import { BASE, DESCRIBED, ref } from './columns.js';

/** Plans and their steps: changes in pencil. */
export class Migration0017Plans extends Migration {
  override up(): void {
    this.addSql(
      `create table "plan" (${BASE}, name text not null check (name <> ''), purpose text not null default '',
        state text not null default 'drawn' check (state in ('drawn', 'carried out', 'given up')), ${DESCRIBED})`,
    );
    this.addSql(
      `create table "plan_step" (${BASE}, plan_id uuid not null ${ref('plan')}, position integer not null check (position >= 0),
        type text not null check (type <> ''), shape integer not null check (shape >= 1), input text not null, seed text not null,
        drawn_at timestamptz not null, drawn_by text not null default '', remark text not null default '', day date,
        person text not null default '', done_at timestamptz)`,
    );
    this.addSql('create index on plan_step (plan_id)');
    for (const table of ['plan', 'plan_step'])
      this.addSql(`grant select, insert, update, delete on "${table}" to insel_app`);
  }
}
