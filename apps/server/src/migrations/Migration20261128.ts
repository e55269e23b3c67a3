import { Migration } from '@mikro-orm/migrations';

/** Pushes say who works on them and when they are tried again, and outlive their connection; sets go to a bin; changes of pushes are told. */
export class Migration20261128 extends Migration {
  override up(): void {
    this.addSql(`
      alter table push add column service text, add column tries int not null default 0, add column worker text, add column beat timestamptz, add column next_at timestamptz;
      update push p set service = c.service from connection c where c.id = p.connection_id;
      alter table push alter column service set not null, alter column connection_id drop not null;
      alter table push drop constraint push_connection_id_fkey;
      alter table push add constraint push_connection_id_fkey foreign key (connection_id) references connection on delete set null;
      create index push_connection on push (connection_id);
      create index push_open on push (coalesce(beat, next_at, created_at)) where state in ('waiting', 'running');
      create function push_changed() returns trigger language plpgsql as $f$ begin perform pg_notify('push_changed', new.id::text); return new; end $f$;
      create trigger push_changed after insert or update on push for each row execute function push_changed();
      alter table quiz_set add column deleted_at timestamptz;
      create index quiz_set_deleted on quiz_set (deleted_at) where deleted_at is not null;
      create index set_operation_account on set_operation (account_id);
      create index set_point_account on set_point (account_id);
      create index membership_workspace on membership (workspace_id);
      create index session_account on session (account_id);
      create index authorization_workspace on "authorization" (workspace_id);
    `);
  }
}
