/** Migrations in order. Listed by hand, so that the build needs no look at the file system. */
import { Migration20261123 } from './Migration20261123.js';
import { Migration20261125 } from './Migration20261125.js';
import { Migration20261126 } from './Migration20261126.js';
import { Migration20261127 } from './Migration20261127.js';
import { Migration20261128 } from './Migration20261128.js';
import { Migration20261129 } from './Migration20261129.js';
import { Migration20261130 } from './Migration20261130.js';
import { Migration20261201 } from './Migration20261201.js';
import { Migration20261202 } from './Migration20261202.js';
import { Migration20261203 } from './Migration20261203.js';
import { Migration20261204 } from './Migration20261204.js';
import { Migration20261205 } from './Migration20261205.js';
import { Migration20261206 } from './Migration20261206.js';
import { Migration20261207 } from './Migration20261207.js';
import { Migration20261208 } from './Migration20261208.js';
import { Migration20261209 } from './Migration20261209.js';
import { Migration20261210 } from './Migration20261210.js';
import { Migration20261211 } from './Migration20261211.js';
import { Migration20261212 } from './Migration20261212.js';
import { Migration20261213 } from './Migration20261213.js';
import { Migration20261214 } from './Migration20261214.js';
import { Migration20261215 } from './Migration20261215.js';

export const migrationsList = [
  { name: 'Migration20261123', class: Migration20261123 },
  { name: 'Migration20261125', class: Migration20261125 },
  { name: 'Migration20261126', class: Migration20261126 },
  { name: 'Migration20261127', class: Migration20261127 },
  { name: 'Migration20261128', class: Migration20261128 },
  { name: 'Migration20261129', class: Migration20261129 },
  { name: 'Migration20261130', class: Migration20261130 },
  { name: 'Migration20261201', class: Migration20261201 },
  { name: 'Migration20261202', class: Migration20261202 },
  { name: 'Migration20261203', class: Migration20261203 },
  { name: 'Migration20261204', class: Migration20261204 },
  { name: 'Migration20261205', class: Migration20261205 },
  { name: 'Migration20261206', class: Migration20261206 },
  { name: 'Migration20261207', class: Migration20261207 },
  { name: 'Migration20261208', class: Migration20261208 },
  { name: 'Migration20261209', class: Migration20261209 },
  { name: 'Migration20261210', class: Migration20261210 },
  { name: 'Migration20261211', class: Migration20261211 },
  { name: 'Migration20261212', class: Migration20261212 },
  { name: 'Migration20261213', class: Migration20261213 },
  { name: 'Migration20261214', class: Migration20261214 },
  { name: 'Migration20261215', class: Migration20261215 },
];
