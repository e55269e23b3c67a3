import { Migration } from '@mikro-orm/migrations';

/** How a workspace checks, named points of a set's history, and where a person looks things up. */
export class Migration20261126 extends Migration {
  override up(): void {
    this.addSql(`
      alter table workspace add column checks jsonb not null default '{}';
      alter table account add column search_address text not null default '';
      create table set_point (
        id uuid primary key, set_id uuid not null references quiz_set on delete cascade, version int not null, name text not null,
        account_id uuid not null references account on delete cascade, at timestamptz not null default now());
      create index set_point_set on set_point (set_id, version);
    `);
  }
}
