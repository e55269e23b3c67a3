/** Where encrypted values lie in the database: one row each, so that a new secret reaches all of them. */
import type { EntityManager } from '@mikro-orm/postgresql';
import { sql } from './sql.js';

interface SealedPlace {
  table: string;
  /** The value as an expression, and how a new one is put there. */
  value: string;
  put: string;
  /** Which rows have one. */
  where: string;
}
const column = (table: string, name: string): SealedPlace => ({ table, value: name, put: `${name} = ?`, where: `${name} <> ''` });
export const sealedPlaces: readonly SealedPlace[] = [
  column('connection', 'sealed'),
  column('assistant', 'sealed'),
  column('lti_key', 'private_sealed'),
  {
    table: 'account',
    value: "second_factor->>'sealed'",
    put: "second_factor = jsonb_set(second_factor, '{sealed}', to_jsonb(?::text))",
    where: 'second_factor is not null',
  },
  { table: 'mail', value: 'text', put: 'text = ?', where: 'secret' },
];

/**
 * Puts another value in the place of every encrypted one.
 * @param renewed the new value of an old one
 * @returns how many were changed
 * @throws what `renewed` throws, with the table said; nothing is changed then, where the caller runs it in a transaction
 */
export async function renewSealed(em: EntityManager, renewed: (sealed: string) => string): Promise<number> {
  let changed = 0;
  for (const { table, value, put, where } of sealedPlaces) {
    const rows = await sql<{ sealed: string }>(em, `select distinct ${value} as sealed from ${table} where ${where}`);
    for (const { sealed } of rows) {
      let next: string;
      try {
        next = renewed(sealed);
      } catch {
        throw new Error(`a value in ${table} was encrypted with a third secret`);
      }
      if (next === sealed) continue;
      // no two values are the same: each has an initialisation vector of its own
      await sql(em, `update ${table} set ${put} where ${where} and ${value} = ?`, [next, sealed]);
      changed++;
    }
  }
  return changed;
}
