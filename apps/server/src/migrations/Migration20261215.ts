import { Migration } from '@mikro-orm/migrations';

/** Mails on their way: written with what they are about, sent by whoever works off jobs. */
export class Migration20261215 extends Migration {
  override up(): void {
    this.addSql(`
      create table mail (
        id uuid primary key,
        name text not null,
        address text not null,
        subject text not null,
        text text not null,
        delivery_id uuid references delivery on delete cascade,
        member_id uuid references class_member on delete cascade,
        created_at timestamptz not null default now(),
        tries int not null default 0,
        next_at timestamptz not null default now(),
        sent_at timestamptz,
        problem text)`);
    this.addSql(`create index mail_due on mail (next_at) where sent_at is null and problem is null`);
    this.addSql(`create index mail_delivery on mail (delivery_id, member_id, created_at)`);
    this.addSql(`create index mail_member on mail (member_id)`);
  }
}
