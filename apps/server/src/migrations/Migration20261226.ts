import { Migration } from '@mikro-orm/migrations';

/** People make, mend and leave their accounts: confirmed addresses, second factor, sessions that can be told apart, links by mail; two more roles; the audit log. */
export class Migration20261226 extends Migration {
  override up(): void {
    this.addSql(`
      alter table account add column created_at timestamptz not null default now(), add column confirmed_at timestamptz, add column second_factor jsonb`);
    this.addSql(`
      alter table session add column created_at timestamptz not null default now(), add column seen_at timestamptz not null default now(),
        add column agent text not null default ''`);
    this.addSql('alter table membership drop constraint membership_role_check');
    this.addSql(`alter table membership add constraint membership_role_check check (role in ('reader', 'marker', 'editor', 'administrator', 'owner'))`);
    // what is written out is read back where no schema is looked for by itself: a backup could not be restored
    this.addSql(`
      create or replace function item_search(language text, item jsonb) returns tsvector language sql immutable parallel safe as $$
        select to_tsvector(public.item_config(language, item)::regconfig, public.item_words(item))
      $$`);
    // closed: only who is named there sees it, and owners
    this.addSql(`
      create or replace function role_on(me uuid, member text, owner uuid, closed boolean, of_set uuid, trail uuid[]) returns text language sql stable parallel safe as $$
        select case
          when member = 'owner' or owner = me then 'owner'
          else (array['reader', 'marker', 'editor', 'administrator'])[greatest(
            case when closed then 0 else array_position(array['reader', 'marker', 'editor', 'administrator'], member) end,
            (select max(case h.may when 'edit' then 3 else 1 end) from share h
              where (h.set_id = of_set or h.folder_id = any (trail))
                and (h.account_id = me or h.group_id in (select g.group_id from group_member g where g.account_id = me))))]
        end
      $$`);
    // who leaves takes their name along, not what they did
    for (const table of ['set_operation', 'set_point', 'copy_link']) {
      this.addSql(`alter table ${table} alter column account_id drop not null, drop constraint ${table}_account_id_fkey`);
      this.addSql(`alter table ${table} add constraint ${table}_account_id_fkey foreign key (account_id) references account on delete set null`);
    }
    this.addSql(`
      create table account_link (
        id text primary key, purpose text not null check (purpose in ('sign-up', 'reset', 'address', 'invitation')),
        account_id uuid references account on delete cascade, workspace_id uuid references workspace on delete cascade,
        email text not null, role text, by_id uuid references account on delete set null,
        created_at timestamptz not null default now(), expires_at timestamptz not null, used_at timestamptz)`);
    this.addSql('create index account_link_expires on account_link (expires_at)');
    this.addSql('create index account_link_workspace on account_link (workspace_id) where workspace_id is not null');
    // links in mails are as good as a password as long as they have not been followed
    this.addSql('alter table mail add column secret boolean not null default false');
    this.addSql(`
      create table account_identity (
        issuer text not null, subject text not null, account_id uuid not null references account on delete cascade,
        created_at timestamptz not null default now(), primary key (issuer, subject))`);
    this.addSql(`
      create table audit_event (
        id bigint generated always as identity primary key, at timestamptz not null default now(),
        workspace_id uuid references workspace on delete cascade, account_id uuid references account on delete set null,
        what text not null, about jsonb not null default '{}')`);
    this.addSql('create index audit_event_workspace on audit_event (workspace_id, id)');
    this.addSql('create index audit_event_account on audit_event (account_id, id) where workspace_id is null');
    this.addSql('create index audit_event_at on audit_event (at)');
  }
}
