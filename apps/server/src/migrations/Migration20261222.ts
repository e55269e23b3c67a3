import { Migration } from '@mikro-orm/migrations';

/** How answers to an item go with the points on all others. Counted anew for all sets with the next round of housekeeping. */
export class Migration20261222 extends Migration {
  override up(): void {
    this.addSql('alter table set_item add column discrimination double precision');
    this.addSql('update delivery set counted = -1 where responses > 0');
  }
}
