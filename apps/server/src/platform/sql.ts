import type { EntityManager } from '@mikro-orm/postgresql';

/** Runs a statement on the connection of an entity manager, inside its transaction where it has one. Placeholders are `?`. */
export const sql = <T = object>(em: EntityManager, text: string, params: readonly unknown[] = []): Promise<T[]> =>
  em.getConnection().execute<T[]>(text, [...params], 'all', em.getTransactionContext());
