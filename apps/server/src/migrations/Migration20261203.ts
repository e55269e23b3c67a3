import { Migration } from '@mikro-orm/migrations';

/** Import templates of services, as destinations of a workspace. */
export class Migration20261203 extends Migration {
  override up(): void {
    this.addSql(`
      create table import_template (
        id uuid primary key, workspace_id uuid not null references workspace on delete cascade, name text not null, file_name text not null, data text not null,
        correction jsonb, created_at timestamptz not null default now(), unique (workspace_id, name));
    `);
  }
}
