import { Migration } from '@mikro-orm/migrations';

/** What is kept of learners is deleted when somebody asks for it or its time is over, and each deletion leaves a record without names. */
export class Migration20261221 extends Migration {
  override up(): void {
    this.addSql(`
      create table erasure (
        id uuid primary key,
        workspace_id uuid not null references workspace on delete cascade,
        at timestamptz not null default now(),
        account_id uuid references account on delete set null,
        cause text not null check (cause in ('asked', 'time')),
        reference text not null default '',
        removed jsonb not null)`);
    this.addSql(`create index erasure_workspace on erasure (workspace_id, at)`);
    this.addSql(`create index erasure_account on erasure (account_id)`);
    this.addSql(`
      create table erased_response (
        placement_id uuid not null references placement on delete cascade,
        remote_hash text not null,
        primary key (placement_id, remote_hash))`);
    this.addSql(`
      create table kept_figures (
        set_id uuid not null references quiz_set on delete cascade,
        item text not null,
        answers int not null,
        earned double precision not null,
        with_points int not null,
        used_at timestamptz not null,
        primary key (set_id, item))`);
    this.addSql(`alter table workspace add column keep_months int`);
    for (const table of ['delivery', 'placement']) this.addSql(`alter table ${table} add column keep_until timestamptz`);
  }
}
