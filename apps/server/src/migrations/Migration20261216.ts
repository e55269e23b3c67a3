import { Migration } from '@mikro-orm/migrations';

/** A quiz can be paused: its time stands still. Who watches hears of it. */
export class Migration20261216 extends Migration {
  override up(): void {
    this.addSql(`alter table delivery add column paused_at timestamptz`);
    this.addSql(`drop trigger delivery_changed on delivery`);
    this.addSql(`create trigger delivery_changed after update on delivery for each row
      when (old.open is distinct from new.open or old.released is distinct from new.released or old.rules is distinct from new.rules or old.paused_at is distinct from new.paused_at)
      execute function delivery_changed()`);
  }
}
