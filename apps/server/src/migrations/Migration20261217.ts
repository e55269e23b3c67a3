import { Migration } from '@mikro-orm/migrations';

/** What teachers decide once answers are in. `judging` counts the decisions over all answers; a row that was marked with fewer is marked anew. */
export class Migration20261217 extends Migration {
  override up(): void {
    this.addSql(`
      create table decision (
        id uuid primary key,
        place bigint generated always as identity,
        delivery_id uuid references delivery on delete cascade,
        placement_id uuid references placement on delete cascade,
        attempt text,
        data jsonb not null,
        at timestamptz not null default now(),
        account_id uuid references account on delete set null,
        taken_back_at timestamptz,
        taken_back_by uuid references account on delete set null,
        check ((delivery_id is null) <> (placement_id is null)))`);
    this.addSql(`create index decision_delivery on decision (delivery_id, place) where delivery_id is not null`);
    this.addSql(`create index decision_placement on decision (placement_id, place) where placement_id is not null`);
    this.addSql(`create index decision_account on decision (account_id)`);
    this.addSql(`create index decision_taken_back_by on decision (taken_back_by)`);
    for (const table of ['delivery', 'placement', 'attempt', 'pulled_response']) this.addSql(`alter table ${table} add column judging int not null default 0`);
  }
}
