import { Migration } from '@mikro-orm/migrations';

/** A time for each item: since when a learner is at the one where they are. */
export class Migration20261218 extends Migration {
  override up(): void {
    this.addSql('alter table attempt add column place_at timestamptz');
  }
}
