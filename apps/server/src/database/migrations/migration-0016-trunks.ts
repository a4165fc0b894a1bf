import { Migration } from '@mikro-orm/migrations';
import { ref } from './columns.js';

/** Sub-interfaces: adapters whose frames travel tagged over another one. Log shape 10. */
export class Migration0016Trunks extends Migration {
  override up(): void {
    this.addSql('update revision set shape = 10');
    this.addSql(`alter table adapter add column trunk_id uuid ${ref('adapter')}`);
    this.addSql('create index on adapter (trunk_id)');
  }
}
