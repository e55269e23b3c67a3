import { Migration } from '@mikro-orm/migrations';

/** Requests to assistants, kept with their sets, and wishes under names. */
export class Migration20261211 extends Migration {
  override up(): void {
    this.addSql(`
      create table request (
        id uuid primary key,
        set_id uuid not null references quiz_set on delete cascade,
        purpose text not null,
        text text not null,
        wish jsonb,
        aim text,
        detail text not null default '',
        items text[] not null default '{}',
        reply text,
        by_id uuid references account on delete set null,
        created_at timestamptz not null default now())`);
    this.addSql(`create index request_set on request (set_id, created_at desc)`);
    this.addSql(`
      create table kept_wish (
        id uuid primary key,
        workspace_id uuid not null references workspace on delete cascade,
        name text not null,
        wish jsonb not null,
        created_at timestamptz not null default now(),
        unique (workspace_id, name))`);
  }
}
