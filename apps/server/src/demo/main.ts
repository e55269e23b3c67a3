/** Migrates the database and loads the demo once; with --reset anew. Run before the server starts. */
import 'reflect-metadata';
import { Migrator } from '@mikro-orm/migrations';
import { MikroORM } from '@mikro-orm/postgresql';
import { entities } from '../app.js';
import { migrationsList } from '../migrations/index.js';
import { settings } from '../platform/settings.js';
import { loadDemo } from './load.js';

const orm = await MikroORM.init({
  clientUrl: settings().databaseUrl,
  entities,
  extensions: [Migrator],
  migrations: { migrationsList, snapshot: false, silent: true },
  forceUtcTimezone: true,
});
await orm.migrator.up();
const loaded = await loadDemo(orm.em.fork(), process.argv.includes('--reset'));
console.log(loaded ? 'zakuska: the demo is loaded' : 'zakuska: the demo is there already');
await orm.close();
