import { Migration } from '@mikro-orm/migrations';

/** How the rows of a table make up items has more ways than two: kept mappings name theirs. */
export class Migration20261130 extends Migration {
  override up(): void {
    this.addSql(`
      update column_mapping set mapping = (mapping - 'optionRows')
        || jsonb_build_object('layout', case when (mapping->>'optionRows')::boolean then 'grouped' else 'row' end)
        where mapping ? 'optionRows';
    `);
  }
}
