import type { EntityManager } from '@mikro-orm/postgresql';

/** Runs a statement on the connection of an entity manager, inside its transaction where it has one. Placeholders are `?`. */
export const sql = <T = object>(em: EntityManager, text: string, params: readonly unknown[] = []): Promise<T[]> =>
  em.getConnection().execute<T[]>(text, [...params], 'all', em.getTransactionContext());

/** An instant in SQL as text of ISO 8601, in UTC and to the second. */
export const isoOf = (instant: string): string => `to_char(${instant} at time zone 'utc', 'YYYY-MM-DD"T"HH24:MI:SS"Z"')`;
/** A text in SQL as the id that it is, null where it is none: compared as text, no index is of use. */
export const uuidOf = (text: string): string => `case when ${text} ~ '^[0-9a-f]{8}-([0-9a-f]{4}-){3}[0-9a-f]{12}$' then (${text})::uuid end`;
