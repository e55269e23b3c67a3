import { Migration } from '@mikro-orm/migrations';

/** Quizzes inside courses of learning platforms (LTI 1.3). */
export class Migration20261205 extends Migration {
  override up(): void {
    this.addSql(
      `create table lti_key (id text primary key, private_sealed text not null, public jsonb not null, created_at timestamptz not null default now())`,
    );
    this.addSql(`
      create table lti_platform (
        id uuid primary key, workspace_id uuid not null references workspace on delete cascade, name text not null, issuer text not null, client_id text not null,
        auth_url text not null, token_url text not null, jwks_url text not null, deployments jsonb not null default '[]',
        created_at timestamptz not null default now(), unique (issuer, client_id))`);
    this.addSql(`create index on lti_platform (workspace_id)`);
    this.addSql(`
      create table lti_login (
        state text primary key, nonce text not null, browser text not null, platform_id uuid not null references lti_platform on delete cascade,
        created_at timestamptz not null default now())`);
    this.addSql(`
      create table lti_link (
        platform_id uuid not null references lti_platform on delete cascade, deployment text not null, resource_link text not null,
        delivery_id uuid not null references delivery on delete cascade, primary key (platform_id, deployment, resource_link))`);
    this.addSql(`
      create table lti_launch (
        id uuid primary key, platform_id uuid not null references lti_platform on delete cascade, deployment text not null, person text not null,
        name text not null, mail text, teaches boolean not null, resource_link text, title text not null, course text not null,
        delivery_id uuid references delivery on delete cascade, scores jsonb, members_url text, deep_link jsonb, token_hash text unique,
        created_at timestamptz not null default now())`);
    this.addSql(`create index on lti_launch (delivery_id)`);
    this.addSql(`alter table attempt add column launch_id uuid references lti_launch on delete set null`);
    this.addSql(`
      create table lti_score (
        attempt_id uuid primary key references attempt on delete cascade, tries int not null default 0, next_at timestamptz not null default now(),
        sent_at timestamptz, problem text)`);
    this.addSql(`create index on lti_score (next_at) where sent_at is null and problem is null`);
  }
}
