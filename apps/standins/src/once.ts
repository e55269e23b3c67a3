/** The same key is the same thing: the IETF draft "The Idempotency-Key HTTP Header Field", from memory. */
import { createHash } from 'node:crypto';
import type { Database } from './database.js';

/** What cannot be done, with the status that says so. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}
export interface Answered {
  status: number;
  body: object;
}

export class Once {
  constructor(
    private readonly db: Database,
    private readonly schema: string,
  ) {}
  async open(): Promise<void> {
    await this.db.rows(
      `create table if not exists ${this.schema}.done_once (account text not null, key text not null, request text not null, status int, body jsonb, at timestamptz not null default now(), primary key (account, key))`,
    );
  }
  /**
   * Does a thing once for a key; a second request waits for the first and gets its answer.
   * @param request all of it: with another one, the key is refused
   */
  async do(account: string, key: string | undefined, request: string, work: (rows: Database['rows']) => Promise<Answered>): Promise<Answered> {
    if (key === undefined) return this.db.together(work);
    const print = createHash('sha256').update(request).digest('hex');
    return this.db.together(async (rows) => {
      await rows(`delete from ${this.schema}.done_once where at < now() - interval '1 day'`);
      const mine = await rows(`insert into ${this.schema}.done_once (account, key, request) values ($1, $2, $3) on conflict do nothing returning key`, [
        account,
        key,
        print,
      ]);
      if (!mine.length) {
        const [before] = await rows<{ request: string; status: number; body: object }>(
          `select request, status, body from ${this.schema}.done_once where account = $1 and key = $2`,
          [account, key],
        );
        if (before?.request !== print) throw new Refused(422, 'This Idempotency-Key was used for another request.');
        return { status: before.status, body: before.body };
      }
      const done = await work(rows);
      await rows(`update ${this.schema}.done_once set status = $3, body = $4 where account = $1 and key = $2`, [account, key, done.status, done.body]);
      return done;
    });
  }
}
