/** The database of a stand-in: a pool of its own on a schema of its own. */
import { randomBytes } from 'node:crypto';
import pg from 'pg';

/** An id that no other row has. */
export const newId = (): string => randomBytes(6).toString('hex');

export class Database {
  private readonly pool: pg.Pool;
  /** @param name of the service, for what is said of trouble */
  constructor(url: string, name: string) {
    this.pool = new pg.Pool({ connectionString: url, max: 5 });
    // a lost connection is made anew with the next statement
    this.pool.on('error', (e) => console.error(`${name}: the database was away (${e.message})`));
  }
  async rows<T extends pg.QueryResultRow>(sql: string, values: unknown[] = []): Promise<T[]> {
    return (await this.pool.query<T>(sql, values)).rows;
  }
  /** Statements that count together or not at all. */
  async together<T>(work: (rows: Database['rows']) => Promise<T>): Promise<T> {
    const client = await this.pool.connect();
    try {
      await client.query('begin');
      const out = await work(async <R extends pg.QueryResultRow>(sql: string, values: unknown[] = []) => (await client.query<R>(sql, values)).rows);
      await client.query('commit');
      return out;
    } catch (e) {
      await client.query('rollback').catch(() => undefined);
      throw e;
    } finally {
      client.release();
    }
  }
  close(): Promise<void> {
    return this.pool.end();
  }
}
