/** Migrates the database and loads the demo once; with --reset anew. Run before the server starts. */
import 'reflect-metadata';
import { Migrator } from '@mikro-orm/migrations';
import { MikroORM } from '@mikro-orm/postgresql';
import { entities } from '../app.js';
import { migrationsList } from '../migrations/index.js';
import { databaseThere, migrate } from '../platform/migrate.js';
import { settings } from '../platform/settings.js';
import { loadDemo } from './load.js';

const orm = await MikroORM.init({
  clientUrl: settings().databaseUrl,
  entities,
  extensions: [Migrator],
  migrations: { migrationsList, snapshot: false, silent: true },
  forceUtcTimezone: true,
});
await databaseThere(orm, 60);
await migrate(orm);
const loaded = await orm.em.fork().transactional((em) => loadDemo(em, process.argv.includes('--reset')));
const SAID = {
  loaded: 'the demo is loaded',
  there: 'the demo is there already',
  'own data': 'there are sets of your own; the demo, whose passwords everybody knows, is not loaded beside them',
};
console.log(`zakuska: ${SAID[loaded]}`);
await orm.close();
