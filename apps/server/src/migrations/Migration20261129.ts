import { Migration } from '@mikro-orm/migrations';

/** Items of sets are rows of their own: an edit writes what it changes, and a list of sets reads none of them. */
export class Migration20261129 extends Migration {
  override up(): void {
    this.addSql(`
      create table set_item (
        set_id uuid not null references quiz_set on delete cascade, id text not null, item jsonb not null, review jsonb, primary key (set_id, id));
      insert into set_item (set_id, id, item, review)
        select s.id, i.value->>'id', i.value, s.document->'reviews'->(i.value->>'id')
        from quiz_set s, jsonb_array_elements(s.document->'set'->'items') i on conflict do nothing;
      alter table quiz_set add column head jsonb, add column item_order jsonb, add column summary jsonb;
      update quiz_set s set
        head = jsonb_set(s.document - 'reviews', '{set}', (s.document->'set') - 'items'),
        item_order = coalesce((select jsonb_agg(i.value->'id' order by i.ordinality) from jsonb_array_elements(s.document->'set'->'items') with ordinality i), '[]');
      alter table quiz_set alter column head set not null, alter column item_order set not null, drop column document;
      alter table quiz_set add column draft_length int not null generated always as (length(draft->>'text')) stored;
      alter table delivery add column responses int not null default 0;
      create index attempt_submitted on attempt (delivery_id) where submitted_at is not null;
      update delivery d set responses = (select count(*) from attempt a where a.delivery_id = d.id and a.submitted_at is not null);
      drop index quiz_set_workspace;
      create index quiz_set_workspace on quiz_set (workspace_id, updated_at desc, id desc) where deleted_at is null;
      create index push_done on push (set_id) where state = 'done';
    `);
  }
}
