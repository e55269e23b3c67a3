import { Migration } from '@mikro-orm/migrations';

/** What is made of answers that came from elsewhere: which of several counts, what being late costs. */
export class Migration20261225 extends Migration {
  override up(): void {
    this.addSql(`alter table placement add column rules jsonb not null default '{}'`);
  }
}
