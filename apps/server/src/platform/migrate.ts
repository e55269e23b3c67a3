/** Brings the database up to date, by one process at a time: others wait for it and find nothing left to do. */
import type { MikroORM } from '@mikro-orm/postgresql';

/** A number that nothing else locks in this database. */
const LOCK = 7_265_514;

/** Runs what is missing of the migrations under an advisory lock of PostgreSQL. Gives how many ran. */
export async function migrate(orm: MikroORM): Promise<number> {
  return orm.em.fork().transactional(async (em) => {
    // the lock is let go with the transaction, also when the process dies; the migrations have a connection of their own
    await em.getConnection().execute('select pg_advisory_xact_lock(?)', [LOCK], 'run', em.getTransactionContext());
    await refuseNewer(orm);
    return (await orm.migrator.up()).length;
  });
}

/**
 * Data that a newer program has changed is not touched by an older one.
 * @throws Error where the database has seen a migration that is not known here
 */
async function refuseNewer(orm: MikroORM): Promise<void> {
  const known = new Set((orm.config.get('migrations').migrationsList ?? []).map((m) => m.name));
  const newer = (await orm.migrator.getExecutedMigrations()).map((m) => m.name).filter((name) => !known.has(name));
  if (newer.length) throw new Error(`the database is of a newer version (${newer.join(', ')}): update this program, or restore a backup that it made`);
}

/**
 * Waits until the database answers.
 * @param seconds then the last error is thrown
 */
export async function databaseThere(orm: MikroORM, seconds: number): Promise<void> {
  const until = Date.now() + seconds * 1000;
  for (;;) {
    const { ok, reason } = (await orm.em.getConnection().checkConnection()) as { ok: boolean; reason?: string };
    if (ok) return;
    if (Date.now() > until) throw new Error(`the database does not answer: ${reason ?? 'no reason given'}`);
    await new Promise((r) => setTimeout(r, 200));
  }
}
