import { Migration } from '@mikro-orm/migrations';

/** Times have one form in the log. Log shape 5; the tables have kept them as UTC all along. */
export class Migration0007Times extends Migration {
  override up(): void {
    this.addSql('update revision set shape = 5');
  }
}
