/** What has changed in the database, told to the open event streams of this process over one connection (LISTEN). */
import { Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import pg from 'pg';
import { finalize, merge, type Observable, of, Subject, throttleTime } from 'rxjs';
import { Problem } from './problem.js';
import { settings } from './settings.js';

const MOST_STREAMS = 500;
const MOST_OF_ONE = 8;
/** Streams read a row at most this often, in milliseconds; the last change is always read. */
const APART = 200;

@Injectable()
export class Changes implements OnModuleInit, OnApplicationShutdown {
  private readonly log = new Logger(Changes.name);
  private readonly told = new Map<string, Subject<void>>();
  private readonly streams = new Map<string, number>();
  private open = 0;
  private client: pg.Client | undefined;
  private closed = false;

  onModuleInit(): void {
    if (settings().role !== 'worker') void this.listen();
  }

  /** Listens for as long as the process lives; a lost connection is made again, and then everything counts as changed. */
  private async listen(): Promise<void> {
    for (let wait = 200; !this.closed; wait = Math.min(wait * 2, 2000)) {
      const client = new pg.Client({ connectionString: settings().databaseUrl });
      const ended = new Promise<void>((resolve) => {
        client.once('end', resolve);
        client.on('error', () => resolve());
      });
      try {
        await client.connect();
        this.client = client;
        client.on('notification', ({ payload }) => payload && this.told.get(payload)?.next());
        await client.query('listen push_changed');
        wait = 100;
        for (const s of this.told.values()) s.next();
        await ended;
      } catch (e) {
        if (!this.closed) this.log.warn({ err: e as Error }, 'no connection to listen on yet');
      }
      await client.end().catch(() => undefined);
      if (!this.closed) await new Promise((r) => setTimeout(r, wait));
    }
  }

  /**
   * Once at first, then after each change of a row.
   * @throws Problem 429 where somebody has many streams open, 503 where the process has; the page then asks again by itself
   */
  of(id: string, account: string): Observable<void> {
    const mine = this.streams.get(account) ?? 0;
    if (mine >= MOST_OF_ONE) throw new Problem(429, 'too-many-streams', 'Too many pages of yours are waiting for news. Close some of them.', { retryAfter: 5 });
    if (this.open >= MOST_STREAMS) throw new Problem(503, 'too-many-streams', 'Too many pages are waiting for news just now.', { retryAfter: 5 });
    this.open++;
    this.streams.set(account, mine + 1);
    const subject = this.told.get(id) ?? new Subject<void>();
    this.told.set(id, subject);
    return merge(of(undefined), subject).pipe(
      throttleTime(APART, undefined, { leading: true, trailing: true }),
      finalize(() => {
        this.open--;
        const left = (this.streams.get(account) ?? 1) - 1;
        if (left) this.streams.set(account, left);
        else this.streams.delete(account);
        if (!subject.observed) this.told.delete(id);
      }),
    );
  }

  async onApplicationShutdown(): Promise<void> {
    this.closed = true;
    for (const s of this.told.values()) s.complete();
    await this.client?.end().catch(() => undefined);
  }
}
