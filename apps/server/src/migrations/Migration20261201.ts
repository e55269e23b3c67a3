import { Migration } from '@mikro-orm/migrations';

/** What stands where: sets in containers of services, piece by piece; responses that were fetched; pushes keep what they send. */
export class Migration20261201 extends Migration {
  override up(): void {
    this.addSql(`
      create table placement (
        id uuid primary key, set_id uuid not null references quiz_set on delete cascade, connection_id uuid references connection on delete set null,
        service text not null, container text not null, title text not null, link text not null, links jsonb not null default '{}', cursor text, pulled_at timestamptz,
        created_at timestamptz not null default now(), unique (set_id, service, container));
      create index placement_connection on placement (connection_id);
      create table placed_piece (
        placement_id uuid not null references placement on delete cascade, key text not null, item text, remote text not null, print text not null, content jsonb,
        push uuid not null, became text not null, primary key (placement_id, key));
      create table pulled_response (
        placement_id uuid not null references placement on delete cascade, remote text not null, name text not null, mail text, at timestamptz not null,
        responses jsonb not null, marks jsonb not null, points double precision not null, theirs jsonb not null, primary key (placement_id, remote));
      alter table push add column aim jsonb, add column snapshot jsonb, add column stopping boolean not null default false,
        add column placement_id uuid references placement on delete set null;
      update push set aim = jsonb_build_object('title', coalesce(report->>'title', ''), 'settings', '{}'::jsonb, 'takeOut', false);
      update push set report = jsonb_set(report, '{items}', (
        select coalesce(jsonb_agg(i - 'title' || jsonb_build_object('key', '', 'item', '', 'name', i->>'title') order by n), '[]')
        from jsonb_array_elements(report->'items') with ordinality as x(i, n))) where report ? 'items';
      alter table push alter column aim set not null;
      create index push_placement on push (placement_id);
    `);
  }
}
