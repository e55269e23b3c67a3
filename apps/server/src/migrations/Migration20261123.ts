import { Migration } from '@mikro-orm/migrations';

export class Migration20261123 extends Migration {
  override up(): void {
    this.addSql(`
      create table account (id uuid primary key, email text not null unique, name text not null, password_hash text not null);
      create table workspace (id uuid primary key, name text not null);
      create table membership (
        account_id uuid not null references account on delete cascade, workspace_id uuid not null references workspace on delete cascade,
        role text not null check (role in ('reader', 'editor', 'owner')), primary key (account_id, workspace_id));
      create table session (id text primary key, account_id uuid not null references account on delete cascade, csrf text not null, expires_at timestamptz not null);
      create index session_expires on session (expires_at);
      create table failed_try (id bigserial primary key, key text not null, at timestamptz not null);
      create index failed_try_key on failed_try (key, at);
      create table quiz_set (
        id uuid primary key, workspace_id uuid not null references workspace on delete cascade, title text not null, course text not null default '',
        document jsonb not null, draft jsonb not null, version int not null default 0, draft_version int not null default 0,
        created_at timestamptz not null default now(), updated_at timestamptz not null default now());
      create index quiz_set_workspace on quiz_set (workspace_id, updated_at);
      create table set_operation (
        id uuid primary key, set_id uuid not null references quiz_set on delete cascade, version int not null, account_id uuid not null references account,
        operation jsonb not null, inverse jsonb not null, at timestamptz not null, unique (set_id, version));
      create table delivery (
        id uuid primary key, set_id uuid not null references quiz_set on delete cascade, code text not null unique, title text not null, snapshot jsonb not null,
        shows text not null, open boolean not null default true, created_at timestamptz not null default now());
      create index delivery_set on delivery (set_id);
      create table attempt (
        id uuid primary key, delivery_id uuid not null references delivery on delete cascade, token_hash text not null, name text not null, responses jsonb not null,
        marks jsonb, points double precision, started_at timestamptz not null default now(), submitted_at timestamptz);
      create index attempt_delivery on attempt (delivery_id);
      create table connection (
        id uuid primary key, workspace_id uuid not null references workspace on delete cascade, service text not null, account_name text not null, sealed text not null,
        created_at timestamptz not null default now(), unique (workspace_id, service));
      create table "authorization" (
        state text primary key, workspace_id uuid not null references workspace on delete cascade, service text not null, verifier text not null, account_id uuid not null,
        back text not null, created_at timestamptz not null default now());
      create table push (
        id uuid primary key, set_id uuid not null references quiz_set on delete cascade, connection_id uuid not null references connection on delete cascade,
        state text not null, step text not null, done int not null default 0, total int not null default 4, report jsonb not null,
        created_at timestamptz not null default now(), finished_at timestamptz);
      create index push_set on push (set_id);
    `);
  }
}
