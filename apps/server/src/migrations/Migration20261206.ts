import { Migration } from '@mikro-orm/migrations';

/** Versions of a set are delivered each on its own. */
export class Migration20261206 extends Migration {
  override up(): void {
    this.addSql(`alter table delivery add column version text not null default ''`);
    this.addSql(`alter table placement add column version text not null default ''`);
  }
}
