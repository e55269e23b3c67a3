/** What the store of every stand-in has: a schema of its own with tokens and with what was done once. */
import { Database } from './database.js';
import { Tokens } from './oauth.js';
import { Once } from './once.js';

export abstract class ServiceStore {
  readonly tokens: Tokens;
  readonly once: Once;
  protected readonly db: Database;
  /** A statement by itself. */
  readonly rows: Database['rows'] = (sql, values) => this.db.rows(sql, values);

  /** @param name of the service, for what is said of trouble */
  constructor(
    url: string,
    name: string,
    schema: string,
    /** Makes the tables of the service. */
    private readonly tables: string,
  ) {
    this.db = new Database(url, name);
    this.tokens = new Tokens(this.db, schema);
    this.once = new Once(this.db, schema);
  }
  async open(): Promise<void> {
    await this.tokens.open();
    await this.once.open();
    await this.rows(this.tables);
  }
  close(): Promise<void> {
    return this.db.close();
  }
}
