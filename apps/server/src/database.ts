/** The database for programs that are no server: connected, there, up to date. */
import { Migrator } from '@mikro-orm/migrations';
import { MikroORM } from '@mikro-orm/postgresql';
import { entities } from './app.js';
import { migrationsList } from './migrations/index.js';
import { databaseThere, migrate } from './platform/migrate.js';
import { settings } from './platform/settings.js';

/** Waits up to a minute for it. The caller closes it. */
export async function openDatabase(): Promise<MikroORM> {
  const orm = await MikroORM.init({
    clientUrl: settings().databaseUrl,
    entities,
    extensions: [Migrator],
    migrations: { migrationsList, snapshot: false, silent: true },
    forceUtcTimezone: true,
  });
  await databaseThere(orm, 60);
  await migrate(orm);
  return orm;
}
