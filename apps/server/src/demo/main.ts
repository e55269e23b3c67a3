/** Migrates the database and loads the demo once; with --reset anew. Run before the server starts. */
import 'reflect-metadata';
import { openDatabase } from '../database.js';
import { loadDemo } from './load.js';

const orm = await openDatabase();
const loaded = await orm.em.fork().transactional((em) => loadDemo(em, process.argv.includes('--reset')));
const SAID = {
  loaded: 'the demo is loaded',
  there: 'the demo is there already',
  'own data': 'there are sets of your own; the demo, whose passwords everybody knows, is not loaded beside them',
};
console.log(`zakuska: ${SAID[loaded]}`);
await orm.close();
