import { Migration } from '@mikro-orm/migrations';

/** Summaries of sets name their versions: those of sets that are drawn already are made anew when a list next asks. */
export class Migration20261208 extends Migration {
  override up(): void {
    this.addSql(`update quiz_set set summary = null where head -> 'drawn' is not null`);
  }
}
