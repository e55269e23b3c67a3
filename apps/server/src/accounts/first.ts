/** Makes a link by which somebody comes in as the owner of a workspace, for an installation in which nobody can invite them. */
import 'reflect-metadata';
import { Migrator } from '@mikro-orm/migrations';
import { MikroORM } from '@mikro-orm/postgresql';
import { newId } from '@zakuska/core';
import { entities } from '../app.js';
import { migrationsList } from '../migrations/index.js';
import { databaseThere, migrate } from '../platform/migrate.js';
import { settings } from '../platform/settings.js';
import { tidy } from './accounts.js';
import { Workspace } from './entities.js';
import { newLink } from './links.js';

const [address = '', name = ''] = process.argv.slice(2);
const orm = await MikroORM.init({
  clientUrl: settings().databaseUrl,
  entities,
  extensions: [Migrator],
  migrations: { migrationsList, snapshot: false, silent: true },
  forceUtcTimezone: true,
});
await databaseThere(orm, 60);
await migrate(orm);
const link = await orm.em.fork().transactional(async (em) => {
  const called = name.trim() || 'Workspace';
  const workspace = (await em.findOne(Workspace, { name: called })) ?? em.create(Workspace, { id: newId(), name: called });
  await em.flush();
  return newLink(em, { purpose: 'invitation', email: tidy(address) as string, workspace, role: 'owner' });
});
console.log(`zakuska: follow this link within two weeks to come in as the owner of “${name.trim() || 'Workspace'}”:\n${link}`);
await orm.close();
