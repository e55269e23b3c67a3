import { Migration } from '@mikro-orm/migrations';

/** By what near-duplicates of an item are found, what the checks find in it, and how it did where it was answered. */
export class Migration20261210 extends Migration {
  override up(): void {
    // null: not computed yet; housekeeping does that for items from before
    this.addSql(`
      alter table set_item
        add column near_keys int[],
        add column findings text[],
        add column answers int not null default 0,
        add column share double precision,
        add column used_at timestamptz`);
    this.addSql(`create index set_item_findings on set_item using gin (findings)`);
    this.addSql(`create index set_item_near on set_item using gin (near_keys)`);
    this.addSql(`create index set_item_root on set_item ((coalesce(item->'takenFrom'->>'item', id)))`);
    // the last changed first is what the bank shows unasked
    this.addSql(`create index set_item_changed on set_item (changed_at desc, set_id, id)`);
    // how many of its responses the figures of items hold
    this.addSql(`alter table delivery add column counted int not null default 0`);
  }
}
