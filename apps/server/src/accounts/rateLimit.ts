/** Limits of failed tries, kept in the database so that they hold over several server processes. */
import { Injectable } from '@nestjs/common';
import { EntityManager } from '@mikro-orm/postgresql';
import { Problem } from '../platform/problem.js';

@Injectable()
export class RateLimit {
  constructor(private readonly em: EntityManager) {}

  /** Refuses when `key` has failed `limit` times within the last minutes. */
  async check(key: string, limit: number, minutes: number): Promise<void> {
    const rows = await this.em
      .fork()
      .getConnection()
      .execute<{ n: number }[]>("select count(*)::int as n from failed_try where key = ? and at > now() - (? * interval '1 minute')", [key, minutes]);
    if ((rows[0]?.n ?? 0) >= limit) throw new Problem(429, 'too-many-tries', `Too many failed tries. Wait ${minutes} minutes and try again.`);
  }
  async failed(key: string): Promise<void> {
    await this.em.fork().getConnection().execute('insert into failed_try (key, at) values (?, now())', [key]);
  }
  async forget(key: string): Promise<void> {
    await this.em.fork().getConnection().execute("delete from failed_try where key = ? or at < now() - interval '1 day'", [key]);
  }
}
