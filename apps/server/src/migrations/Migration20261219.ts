import { Migration } from '@mikro-orm/migrations';

/** Versions that are published at once, of which each learner gets one: they have the same `together`. */
export class Migration20261219 extends Migration {
  override up(): void {
    this.addSql('alter table delivery add column together uuid');
    this.addSql('create index delivery_together on delivery (together) where together is not null');
  }
}
