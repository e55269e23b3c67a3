/**
 * Rows of a table that are due to be sent: each taken by one process at a time, tried again after growing waits, told to a person in the
 * end. The table has `tries`, `next_at`, `sent_at` and `problem`.
 */
import type { EntityManager } from '@mikro-orm/postgresql';
import { sql } from './sql.js';

/** Tries before a person is asked: with the waits between them about two hours. */
const MOST_TRIES = 12;

/** Why a row was not sent: whether trying again brings nothing, and what a person is told. */
export interface Failure {
  final: boolean;
  said: string;
}

/** A row that was taken: its key, tries, and until when nobody else takes it. */
type Taken<Row> = Row & { key: string; tries: number; until: string };

/** What makes a row due again, as it was when it was new: behind "set" in a statement. */
export const DUE_AGAIN = 'tries = 0, next_at = now(), sent_at = null, problem = null';

export class DueRows<Row extends object> {
  /**
   * @param columns what is given of a row beside its key
   * @param lease seconds in which one that works on a row is believed to be alive
   */
  constructor(
    private readonly em: EntityManager,
    private readonly of: { table: string; key: string; columns: string; lease: number; atOnce: number },
  ) {}

  /**
   * Sends what is due, until nothing more is. Several processes share the work.
   * @param failed says what a failure means, and may write it to the log
   */
  async workOff(send: (row: Row) => Promise<void>, failed: (e: unknown, row: Row, tries: number) => Failure): Promise<void> {
    const { table, key, columns, lease, atOnce } = this.of;
    for (;;) {
      const due = await sql<Taken<Row>>(
        this.em.fork(),
        `update ${table} set tries = tries + 1, next_at = now() + ? * interval '1 second'
         where ${key} in (select ${key} from ${table} where sent_at is null and problem is null and next_at <= now()
           order by next_at limit ${atOnce} for update skip locked)
         returning ${key} as key, tries, next_at::text as until, ${columns}`,
        [lease],
      );
      await Promise.all(due.map((row) => this.one(row, send, failed)));
      if (!due.length) return;
    }
  }

  private async one(row: Taken<Row>, send: (row: Row) => Promise<void>, failed: (e: unknown, row: Row, tries: number) => Failure): Promise<void> {
    const { table, key } = this.of;
    // a row that was made due again meanwhile stays so: what was sent may be what it was before
    const put = (what: string, ...values: unknown[]): Promise<unknown> =>
      sql(this.em.fork(), `update ${table} set ${what} where ${key} = ? and next_at = ?::timestamptz`, [...values, row.key, row.until]);
    try {
      await send(row);
      await put('sent_at = now()');
    } catch (e) {
      const { final, said } = failed(e, row, row.tries);
      if (final || row.tries >= MOST_TRIES) await put('problem = ?', said);
      else await put(`next_at = now() + ? * interval '1 second'`, 2 ** row.tries);
    }
  }
}
