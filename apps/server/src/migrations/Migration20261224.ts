import { Migration } from '@mikro-orm/migrations';

/** Who has a set open, and where; changes of sets and their drafts are told. Unlogged: nobody is there after a crash. */
export class Migration20261224 extends Migration {
  override up(): void {
    this.addSql(`
      create unlogged table set_presence (
        tab uuid primary key, set_id uuid not null references quiz_set on delete cascade, account_id uuid not null references account on delete cascade,
        place text not null, at timestamptz not null default now());
      create index set_presence_set on set_presence (set_id);
      create index set_presence_account on set_presence (account_id);
      create trigger set_changed after update of version, draft_version on quiz_set for each row
        when (old.version <> new.version or old.draft_version <> new.draft_version) execute function push_changed();
    `);
  }
}
