import { Migration } from '@mikro-orm/migrations';

/** The day of a host's next maintenance. Log shape 7. */
export class Migration0009Maintenance extends Migration {
  override up(): void {
    this.addSql('alter table host add column next_maintenance_on date');
    this.addSql('update revision set shape = 7');
  }
}
