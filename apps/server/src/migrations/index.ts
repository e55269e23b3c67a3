/** Migrations in order. Listed by hand, so that the build needs no look at the file system. */
import { Migration20261123 } from './Migration20261123.js';

export const migrationsList = [{ name: 'Migration20261123', class: Migration20261123 }];
