import { Migration } from '@mikro-orm/migrations';

/** When the last answer was given, which may be before it arrived, and how long each item was looked at. */
export class Migration20261223 extends Migration {
  override up(): void {
    this.addSql(`alter table attempt add column given_at timestamptz, add column times jsonb not null default '{}'`);
  }
}
