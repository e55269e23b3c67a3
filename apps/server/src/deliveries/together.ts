/** Versions that are published at once: one code, and each learner gets one of them. */
import type { EntityManager } from '@mikro-orm/postgresql';
import { isoOf, sql } from '../platform/sql.js';

/** SQL: the ids of all that are published together with one, and its own. @param id SQL for its id, a parameter */
export const sameAs = (id: string): string => `(select s.id from delivery d join delivery s on s.id = d.id or s.together = d.together where d.id = ${id})`;

/** SQL: until when somebody may take it as their invitation `i` says, as instants are written (ISO 8601); null where it says nothing. */
export const UNTIL = isoOf('i.until');

/** A delivery and those that were published with it, in the order of their versions: of one by itself, it alone. */
export const togetherWith = async (em: EntityManager, delivery: string): Promise<string[]> =>
  (await sql<{ id: string }>(em, `select id from delivery where id in ${sameAs('?')} order by version`, [delivery])).map((s) => s.id);
