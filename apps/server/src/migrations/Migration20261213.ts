import { Migration } from '@mikro-orm/migrations';

/** The assistant of a workspace, and all that was asked of it. */
export class Migration20261213 extends Migration {
  override up(): void {
    this.addSql(`
      create table assistant (
        workspace_id uuid primary key references workspace on delete cascade,
        name text not null,
        interface text not null,
        address text not null,
        model text not null,
        sealed text not null,
        price_in double precision not null,
        price_out double precision not null,
        currency text not null,
        most int not null,
        who text not null,
        unit text not null,
        amount double precision not null,
        persons jsonb not null default '{}')`);
    this.addSql(`
      create table ask (
        id uuid primary key,
        workspace_id uuid not null references workspace on delete cascade,
        set_id uuid references quiz_set on delete set null,
        account_id uuid references account on delete set null,
        request_id uuid references request on delete set null,
        title text not null,
        person text not null,
        purpose text not null,
        model text not null,
        text text not null,
        reply text not null default '',
        state text not null default 'running',
        said text not null default '',
        tries int not null default 0,
        tokens_in int not null,
        tokens_out int not null,
        estimated boolean not null default true,
        price_in double precision not null,
        price_out double precision not null,
        currency text not null,
        stopping boolean not null default false,
        beat timestamptz not null default now(),
        created_at timestamptz not null default now(),
        finished_at timestamptz)`);
    this.addSql(`create index ask_month on ask (workspace_id, created_at)`);
    this.addSql(`create index ask_running on ask (beat) where state = 'running'`);
    this.addSql(`create trigger push_changed after insert or update on ask for each row execute function push_changed()`);
  }
}
