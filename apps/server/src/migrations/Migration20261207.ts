import { Migration } from '@mikro-orm/migrations';

/**
 * The bank: items found across sets. What is searched and filtered by is computed from the item's own row, so it is written
 * in the same statement and can never be behind.
 */
export class Migration20261207 extends Migration {
  override up(): void {
    this.addSql(`create extension if not exists pg_trgm`);
    // the words of an item: stem and options, answers, pairs, steps, without markup
    this.addSql(`
      create function item_words(item jsonb) returns text language sql immutable parallel safe as $$
        select trim(regexp_replace(regexp_replace(concat_ws(' ', item->>'stem', item->>'title',
          (select string_agg(x #>> '{}', ' ') from jsonb_path_query(item, '$.options[*].content') x),
          (select string_agg(x #>> '{}', ' ') from jsonb_path_query(item, '$.answers[*].text') x),
          (select string_agg(x #>> '{}', ' ') from jsonb_path_query(item, '$.gaps[*].answers[*].text') x),
          (select string_agg(x #>> '{}', ' ') from jsonb_path_query(item, '$.pairs[*].*') x),
          (select string_agg(x #>> '{}', ' ') from jsonb_path_query(item, '$.sequence[*]') x)),
          '<[^>]*>', ' ', 'g'), '\\s+', ' ', 'g'))
      $$`);
    this.addSql(`
      create function item_config(language text, item jsonb) returns text language sql immutable parallel safe as $$
        select case left(coalesce(item->>'language', language, ''), 2)
          when 'en' then 'english' when 'de' then 'german' when 'fr' then 'french' when 'es' then 'spanish'
          when 'it' then 'italian' when 'pt' then 'portuguese' when 'nl' then 'dutch' when 'sv' then 'swedish'
          when 'da' then 'danish' when 'fi' then 'finnish' when 'no' then 'norwegian' when 'ru' then 'russian'
          when 'tr' then 'turkish' when 'ro' then 'romanian' when 'hu' then 'hungarian'
          else 'simple' end
      $$`);
    this.addSql(`
      create function item_search(language text, item jsonb) returns tsvector language sql immutable parallel safe as $$
        select to_tsvector(item_config(language, item)::regconfig, item_words(item))
      $$`);
    this.addSql(`alter table set_item add column language text, add column changed_at timestamptz not null default now()`);
    this.addSql(`update set_item i set language = s.head->'set'->>'language' from quiz_set s where s.id = i.set_id`);
    this.addSql(`
      alter table set_item
        add column words text generated always as (item_words(item)) stored,
        add column config text generated always as (item_config(language, item)) stored,
        add column search tsvector generated always as (item_search(language, item)) stored,
        add column kind text generated always as (item->>'kind') stored,
        add column points double precision generated always as ((item->>'points')::double precision) stored,
        add column difficulty double precision generated always as ((item->'level'->>'difficulty')::double precision) stored,
        add column state text generated always as (coalesce(review->>'state', 'open')) stored`);
    this.addSql(`create index set_item_search on set_item using gin (search)`);
    this.addSql(`create index set_item_words on set_item using gin (words gin_trgm_ops)`);
    this.addSql(`create index set_item_outcomes on set_item using gin ((item->'outcomes') jsonb_path_ops)`);
    this.addSql(`create index set_item_tags on set_item using gin ((item->'tags') jsonb_path_ops)`);
    this.addSql(`create index set_item_config on set_item (config)`);
    this.addSql(`create index set_item_set on set_item (set_id)`);
    this.addSql(`create index quiz_set_workspace_live on quiz_set (workspace_id) where deleted_at is null`);
  }
}
