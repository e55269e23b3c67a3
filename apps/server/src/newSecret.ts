/** Encrypts all that is encrypted with the secret of now instead of the one before (ZAKUSKA_SECRET_BEFORE). May be run again. */
import 'reflect-metadata';
import { openDatabase } from './database.js';
import { renewSealed } from './platform/sealedPlaces.js';
import { renewerFrom } from './platform/secrets.js';

const before = process.env['ZAKUSKA_SECRET_BEFORE'];
if (!before) throw new Error('ZAKUSKA_SECRET_BEFORE does not say the secret before');
const orm = await openDatabase();
try {
  const changed = await orm.em.fork().transactional((em) => renewSealed(em, renewerFrom(before)));
  console.log(`zakuska: ${changed} encrypted values are under the new secret.`);
} finally {
  await orm.close();
}
