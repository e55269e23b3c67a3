import { Migration } from '@mikro-orm/migrations';

/** How the last push to a place was set; pictures that services fetch. */
export class Migration20261204 extends Migration {
  override up(): void {
    this.addSql(`alter table placement add column settings jsonb not null default '{}'`);
    this.addSql(
      `create table sent_picture (set_id uuid not null references quiz_set on delete cascade, hash text not null, media_type text not null, bytes bytea not null, primary key (set_id, hash))`,
    );
  }
}
