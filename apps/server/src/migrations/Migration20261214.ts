import { Migration } from '@mikro-orm/migrations';

/** How a quiz is taken, in one record of rules; class lists with codes of one's own; what an attempt keeps of time, place and practice. */
export class Migration20261214 extends Migration {
  override up(): void {
    this.addSql(`
      create table class_list (
        id uuid primary key,
        workspace_id uuid not null references workspace on delete cascade,
        name text not null,
        created_at timestamptz not null default now())`);
    this.addSql(`create index class_list_workspace on class_list (workspace_id)`);
    this.addSql(`
      create table class_member (
        id uuid primary key,
        list_id uuid not null references class_list on delete cascade,
        place int not null,
        name text not null,
        mail text not null default '',
        number text not null default '',
        extra double precision not null default 0)`);
    this.addSql(`create index class_member_list on class_member (list_id, place)`);
    this.addSql(`alter table delivery
      add column rules jsonb,
      add column released boolean not null default false,
      add column closed_at timestamptz,
      add column class_list_id uuid references class_list on delete set null`);
    this.addSql(`update delivery set rules = jsonb_build_object(
      'enter', 'name', 'counts', 'best', 'pages', 'one-by-one', 'back', true,
      'attempts', coalesce(attempts, case shows when 'answers' then 1 else 0 end),
      'shuffle', '{"items": false, "options": false}'::jsonb,
      'shows', jsonb_build_object(
        'score', case shows when 'nothing' then 'never' else 'handed-in' end,
        'marks', case shows when 'answers' then 'handed-in' else 'never' end,
        'keys', case shows when 'answers' then 'handed-in' else 'never' end,
        'feedback', case shows when 'answers' then 'handed-in' else 'never' end)),
      closed_at = case when open then null else now() end`);
    this.addSql(`alter table delivery alter column rules set not null, drop column shows, drop column attempts`);
    this.addSql(`
      create table invitation (
        delivery_id uuid not null references delivery on delete cascade,
        member_id uuid not null references class_member on delete cascade,
        code text not null unique,
        primary key (delivery_id, member_id))`);
    this.addSql(`alter table attempt
      add column progress jsonb not null default '{}',
      add column more jsonb not null default '{}',
      add column place int not null default 0,
      add column seen_at timestamptz,
      add column late boolean not null default false,
      add column by_clock boolean not null default false,
      add column member_id uuid references class_member on delete set null`);
    // what teachers watch live: who began, where they are, who handed in; not that a browser was merely heard of
    this.addSql(`create function attempt_changed() returns trigger language plpgsql as $$
      begin
        perform pg_notify('push_changed', new.delivery_id::text);
        return null;
      end $$`);
    this.addSql(`create trigger attempt_begun after insert on attempt for each row execute function attempt_changed()`);
    this.addSql(`create trigger attempt_changed after update on attempt for each row
      when (old.place <> new.place or old.responses is distinct from new.responses or old.submitted_at is distinct from new.submitted_at
        or old.progress is distinct from new.progress or old.more is distinct from new.more)
      execute function attempt_changed()`);
    this.addSql(`create function delivery_changed() returns trigger language plpgsql as $$
      begin
        perform pg_notify('push_changed', new.id::text);
        return null;
      end $$`);
    this.addSql(`create trigger delivery_changed after update on delivery for each row
      when (old.open <> new.open or old.released <> new.released or old.rules is distinct from new.rules)
      execute function delivery_changed()`);
  }
}
