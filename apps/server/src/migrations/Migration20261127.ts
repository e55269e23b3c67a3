import { Migration } from '@mikro-orm/migrations';

/** Secret seeds of attempts, attempts per person, the devices they were made on; limits counted in one row each. */
export class Migration20261127 extends Migration {
  override up(): void {
    this.addSql(`
      alter table attempt add column seed text not null default gen_random_uuid()::text, add column device text not null default '', add column person text not null default '';
      update attempt set person = lower(regexp_replace(btrim(name), '\\s+', ' ', 'g'));
      create index attempt_person on attempt (delivery_id, person);
      alter table delivery add column attempts int;
      drop table failed_try;
      create table limit_count (key text primary key, n int not null, at timestamptz not null, until timestamptz);
      create index limit_count_at on limit_count (at);
    `);
  }
}
