/** Statements of the busiest routes, straight to the driver and prepared once on each connection. All else goes through MikroORM. */
import { createHash } from 'node:crypto';
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import pg from 'pg';
import { settings } from './settings.js';

@Injectable()
export class Db implements OnApplicationShutdown {
  private readonly log = new Logger(Db.name);
  private readonly pool = new pg.Pool({ connectionString: settings().databaseUrl, max: 8 });
  private readonly names = new Map<string, string>();

  constructor() {
    // a connection that is lost while nobody uses it is made anew with the next statement
    this.pool.on('error', (e) => this.log.warn({ err: e }, 'a connection to the database was lost'));
  }

  /**
   * Runs a statement.
   * @param text with placeholders `$1`, `$2` …; the same text is prepared once
   */
  async rows<T = object>(text: string, params: unknown[] = []): Promise<T[]> {
    let name = this.names.get(text);
    if (name === undefined) this.names.set(text, (name = createHash('sha256').update(text).digest('hex').slice(0, 24)));
    return (await this.pool.query({ name, text, values: params })).rows as T[];
  }

  async onApplicationShutdown(): Promise<void> {
    await this.pool.end();
  }
}
