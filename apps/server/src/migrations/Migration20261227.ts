import { Migration } from '@mikro-orm/migrations';

/** Columns that lead to another table and had no index: whoever goes there had all rows of this one read. */
const LEADING: Readonly<Record<string, readonly string[]>> = {
  quiz_set: ['owner_id'],
  delivery: ['class_list_id'],
  attempt: ['launch_id', 'member_id'],
  lti_login: ['platform_id'],
  lti_link: ['delivery_id'],
  lti_launch: ['platform_id'],
  folder: ['owner_id', 'parent_id'],
  group_member: ['account_id'],
  share: ['account_id', 'group_id'],
  copy_link: ['account_id'],
  bank_view: ['workspace_id'],
  request: ['by_id'],
  ask: ['account_id', 'request_id', 'set_id'],
  invitation: ['member_id'],
  account_link: ['account_id', 'by_id'],
  account_identity: ['account_id'],
};

/** A school grows: what leads to another row is found without reading all, and people by their names over all quizzes. */
export class Migration20261227 extends Migration {
  override up(): void {
    for (const [table, columns] of Object.entries(LEADING))
      for (const column of columns) this.addSql(`create index ${table}_${column} on ${table} (${column}) where ${column} is not null`);
    // how many items of a set have which values, for the filters of the bank; null where an item was written since
    this.addSql('alter table quiz_set add column item_counts jsonb');
    this.addSql('create index quiz_set_uncounted on quiz_set (id) where item_counts is null');
    this.addSql(`
      create function items_written() returns trigger language plpgsql as $$ begin
        update quiz_set set item_counts = null where id in (select distinct set_id from written);
        return null;
      end $$`);
    for (const [what, table] of [
      ['insert', 'new'],
      ['update', 'new'],
      ['delete', 'old'],
    ])
      this.addSql(
        `create trigger set_item_${what} after ${what} on set_item referencing ${table} table as written for each statement execute function items_written()`,
      );
    // looked for again and again, and hardly ever there
    this.addSql('create index set_item_unread on set_item (set_id) where near_keys is null');
    this.addSql('create index attempt_name on attempt (person) where submitted_at is not null');
  }
}
