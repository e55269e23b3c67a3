/** Makes a link by which somebody comes in as the owner of a workspace, for an installation in which nobody can invite them. */
import 'reflect-metadata';
import { newId } from '@zakuska/core';
import { tidy } from './accounts/accounts.js';
import { Workspace } from './accounts/entities.js';
import { newLink } from './accounts/links.js';
import { openDatabase } from './database.js';

const [address = '', name = ''] = process.argv.slice(2);
const called = name.trim() || 'Workspace';
const orm = await openDatabase();
const link = await orm.em.fork().transactional(async (em) => {
  const workspace = (await em.findOne(Workspace, { name: called })) ?? em.create(Workspace, { id: newId(), name: called });
  await em.flush();
  return newLink(em, { purpose: 'invitation', email: tidy(address) as string, workspace, role: 'owner' });
});
console.log(`zakuska: follow this link within two weeks to come in as the owner of “${called}”:\n${link}`);
await orm.close();
