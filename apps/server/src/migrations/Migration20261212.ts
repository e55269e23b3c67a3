import { Migration } from '@mikro-orm/migrations';

/** Sets go out in one of their further languages, or in both. */
export class Migration20261212 extends Migration {
  override up(): void {
    this.addSql(`alter table delivery add column language text not null default ''`);
    this.addSql(`alter table placement add column language text not null default ''`);
  }
}
