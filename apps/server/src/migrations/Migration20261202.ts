import { Migration } from '@mikro-orm/migrations';

/** Columns of gradebooks that scores were sent to, with what was sent. */
export class Migration20261202 extends Migration {
  override up(): void {
    this.addSql(`
      create table grade_column (
        id uuid primary key, set_id uuid not null references quiz_set on delete cascade, source uuid not null, service text not null, gradebook text not null,
        gradebook_title text not null, link text not null, remote text, title text not null, maximum double precision not null, sent jsonb not null default '{}',
        sent_at timestamptz, created_at timestamptz not null default now(), unique (source, service, gradebook));
      create index grade_column_set on grade_column (set_id);
    `);
  }
}
