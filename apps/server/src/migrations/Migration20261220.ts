import { Migration } from '@mikro-orm/migrations';

/** What is arranged with single people of a class: until when they may take a quiz, and attempts beyond those of the others. */
export class Migration20261220 extends Migration {
  override up(): void {
    this.addSql('alter table invitation add column until timestamptz, add column attempts int not null default 0');
  }
}
