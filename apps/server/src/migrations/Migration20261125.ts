import { Migration } from '@mikro-orm/migrations';

/** Kept mappings of columns, and the sources of sets. */
export class Migration20261125 extends Migration {
  override up(): void {
    this.addSql(`
      create table column_mapping (
        id uuid primary key, workspace_id uuid not null references workspace on delete cascade, name text not null, signature text not null, mapping jsonb not null,
        created_at timestamptz not null default now(), unique (workspace_id, name));
      create table source (
        id uuid primary key, set_id uuid not null references quiz_set on delete cascade, name text not null, media_type text not null, address text not null default '',
        text text not null, cues jsonb, bytes bytea, created_at timestamptz not null default now());
      create index source_set on source (set_id, created_at);
    `);
  }
}
