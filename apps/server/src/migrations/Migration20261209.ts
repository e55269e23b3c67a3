import { Migration } from '@mikro-orm/migrations';

/** Folders instead of courses, who may see what, views kept by name, the work of checking divided, copies by a link. */
export class Migration20261209 extends Migration {
  override up(): void {
    // a folder knows all names and ids from the top to itself, and whether one of them is closed: lists read no tree
    this.addSql(`
      create table folder (
        id uuid primary key,
        workspace_id uuid not null references workspace on delete cascade,
        parent_id uuid references folder on delete cascade,
        name text not null,
        owner_id uuid references account on delete set null,
        restricted boolean not null default false,
        trail uuid[] not null,
        names text[] not null,
        closed boolean not null default false)`);
    this.addSql(`create unique index folder_name on folder (workspace_id, coalesce(parent_id, workspace_id), lower(name))`);
    this.addSql(`create index folder_trail on folder using gin (trail)`);
    this.addSql(`
      alter table quiz_set
        add column folder_id uuid references folder on delete set null,
        add column owner_id uuid references account on delete set null,
        add column restricted boolean not null default false`);
    this.addSql(`
      insert into folder (id, workspace_id, name, trail, names)
        select id, workspace_id, name, array[id], array[name] from (
          select gen_random_uuid() as id, workspace_id, min(course) as name from quiz_set where course <> '' group by workspace_id, lower(course)) x`);
    this.addSql(`update quiz_set s set folder_id = f.id from folder f where f.workspace_id = s.workspace_id and lower(f.name) = lower(s.course)`);
    this.addSql(`
      update quiz_set s set owner_id = o.account_id from (
        select distinct on (set_id) set_id, account_id from set_operation order by set_id, version) o where o.set_id = s.id`);
    this.addSql(`alter table quiz_set drop column course`);
    this.addSql(`create index quiz_set_folder on quiz_set (folder_id)`);

    this.addSql(`
      create table member_group (
        id uuid primary key,
        workspace_id uuid not null references workspace on delete cascade,
        name text not null)`);
    this.addSql(`create unique index member_group_name on member_group (workspace_id, lower(name))`);
    this.addSql(`
      create table group_member (
        group_id uuid not null references member_group on delete cascade,
        account_id uuid not null references account on delete cascade,
        primary key (group_id, account_id))`);
    this.addSql(`
      create table share (
        id uuid primary key default gen_random_uuid(),
        set_id uuid references quiz_set on delete cascade,
        folder_id uuid references folder on delete cascade,
        account_id uuid references account on delete cascade,
        group_id uuid references member_group on delete cascade,
        may text not null check (may in ('read', 'copy', 'edit')),
        check (num_nonnulls(set_id, folder_id) = 1 and num_nonnulls(account_id, group_id) = 1))`);
    this.addSql(`create index share_set on share (set_id)`);
    this.addSql(`create index share_folder on share (folder_id)`);
    // the role that somebody has on a set or folder: by membership where it is not closed, by what is shared with them, all where it is theirs
    this.addSql(`
      create function role_on(me uuid, member text, owner uuid, closed boolean, of_set uuid, trail uuid[]) returns text language sql stable parallel safe as $$
        select case
          when member = 'owner' or owner = me then 'owner'
          else (array['reader', 'editor'])[greatest(
            case when closed then 0 else array_position(array['reader', 'editor'], member) end,
            (select max(case h.may when 'edit' then 2 else 1 end) from share h
              where (h.set_id = of_set or h.folder_id = any (trail))
                and (h.account_id = me or h.group_id in (select g.group_id from group_member g where g.account_id = me))))]
        end
      $$`);
    this.addSql(`
      create table set_visit (
        account_id uuid not null references account on delete cascade,
        set_id uuid not null references quiz_set on delete cascade,
        at timestamptz not null default now(),
        primary key (account_id, set_id))`);
    this.addSql(`create index set_visit_set on set_visit (set_id)`);
    this.addSql(`
      create table copy_link (
        token text primary key,
        set_id uuid not null unique references quiz_set on delete cascade,
        account_id uuid not null references account on delete cascade)`);
    this.addSql(`
      create table bank_view (
        id uuid primary key,
        workspace_id uuid not null references workspace on delete cascade,
        account_id uuid not null references account on delete cascade,
        name text not null,
        address text not null)`);
    this.addSql(`create unique index bank_view_name on bank_view (account_id, workspace_id, lower(name))`);
    this.addSql(`
      create table not_alike (
        workspace_id uuid not null references workspace on delete cascade,
        a text not null,
        b text not null,
        primary key (workspace_id, a, b))`);
  }
}
