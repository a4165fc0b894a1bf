import { Migration } from '@mikro-orm/migrations';

/** A change is logged with its input apart from what may be said of any change. Log shape 6; patches are as they were. */
export class Migration0008Inputs extends Migration {
  override up(): void {
    this.addSql('update revision set shape = 6');
  }
}
