/**
 * Pushes are worked off here. The row of a push is what counts: who works on it says so by a heartbeat in it, and only one process
 * can claim it. The queue (pg-boss) wakes a worker at once; what it lost, or a killed worker left, is found by a look at the rows.
 */
import { Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { type EntityManager, MikroORM } from '@mikro-orm/postgresql';
import { includedSet, itemsWithKey, type QuizSet, ReadError, type Rehearsal, type SetDocument } from '@zakuska/core';
import { hostname } from 'node:os';
import PgBoss from 'pg-boss';
import { Problem } from '../platform/problem.js';
import { decrypt, encrypt, newToken } from '../platform/secrets.js';
import { settings } from '../platform/settings.js';
import { Documents } from '../sets/documents.js';
import type { Adapter, Receipt, Tokens } from './adapter.js';
import { adapterOf } from './adapters.js';
import { Connection, Push } from './entities.js';
import { heavy } from './heavy.js';

const QUEUE = 'push';
/** Tries before a push counts as failed: with the waits between them about two minutes. */
const MOST_TRIES = 6;
const BEAT = 5;
/** A worker that is silent for so many seconds has died. */
const SILENT = 20;
const LOOK = 5;

/** What of a set goes out: not what was left out, not what has no key. */
export const deliverableSet = (document: SetDocument): QuizSet => {
  const set = includedSet(document);
  return { ...set, items: itemsWithKey(set) };
};

/** pg-boss's statements inside the transaction of an entity manager: knex numbers no placeholders. */
const inTransaction = (em: EntityManager): PgBoss.Db => ({
  async executeSql(text, values) {
    const ordered: unknown[] = [];
    const sql = text.replaceAll('?', '\\?').replace(/\$(\d+)/g, (_, n: string) => {
      ordered.push((values as unknown[])[Number(n) - 1]);
      return '?';
    });
    return { rows: await em.getConnection().execute<object[]>(sql, ordered, 'all', em.getTransactionContext()) };
  },
});

@Injectable()
export class Jobs implements OnModuleInit, OnApplicationShutdown {
  private readonly log = new Logger(Jobs.name);
  private readonly boss = new PgBoss({ connectionString: settings().databaseUrl, schema: 'pgboss', max: 3 });
  private readonly me = `${hostname()} ${process.pid} ${newToken(6)}`;
  private looking: NodeJS.Timeout | undefined;
  private readonly underWay = new Set<Promise<void>>();

  constructor(
    private readonly orm: MikroORM,
    private readonly documents: Documents,
  ) {}

  async onModuleInit(): Promise<void> {
    this.boss.on('error', (e) => this.log.error(e));
    await this.boss.start();
    await this.boss.createQueue(QUEUE);
    if (settings().role === 'web') return;
    await this.boss.work<{ push: string }>(QUEUE, { pollingIntervalSeconds: 0.5 }, async ([job]) => {
      if (job) await this.run(job.data.push);
    });
    this.looking = setInterval(() => void this.look().catch((e: unknown) => this.log.error(e)), LOOK * 1000);
  }

  /** Puts a push into the queue, in the transaction in which its row is written: both are there or neither is. */
  async enqueue(em: EntityManager, pushId: string): Promise<void> {
    await this.boss.send(QUEUE, { push: pushId }, { retryLimit: 0, expireInSeconds: 900, db: inTransaction(em) });
  }

  /** Takes up what nobody works on: pushes whose worker is silent, whose time to be tried again has come, or whose job was lost. */
  async look(): Promise<void> {
    const rows = await this.orm.em
      .fork()
      .getConnection()
      .execute<{ id: string }[]>(
        `select id from push where state in ('waiting', 'running')
           and coalesce(beat, next_at, created_at) < now() - (case when beat is null then ? else ? end) * interval '1 second'
         order by created_at limit 20`,
        [LOOK, SILENT],
      );
    for (const { id } of rows) await this.run(id);
  }

  /** Works on a push, if nobody else does. */
  async run(id: string): Promise<void> {
    const work = this.work(id);
    this.underWay.add(work);
    await work.finally(() => this.underWay.delete(work));
  }

  private async work(id: string): Promise<void> {
    const em = this.orm.em.fork(); // a job has no request: its own unit of work
    const claimed = await em.getConnection().execute<{ tries: number }[]>(
      `update push set worker = ?, beat = now(), tries = tries + 1, state = 'running'
       where id = ? and state in ('waiting', 'running') and (beat is null or beat < now() - ? * interval '1 second') and (next_at is null or next_at <= now())
       returning tries`,
      [this.me, id, SILENT],
    );
    const tries = claimed[0]?.tries;
    if (tries === undefined) return;
    const beating = setInterval(() => {
      void em
        .fork()
        .getConnection()
        .execute('update push set beat = now() where id = ? and worker = ?', [id, this.me])
        .catch(() => undefined); // the next beat may reach the database again
    }, BEAT * 1000);
    try {
      const p = await em.findOneOrFail(Push, { id }, { populate: ['connection'] });
      await this.push(em, p, tries);
    } finally {
      clearInterval(beating);
    }
  }

  private async push(em: EntityManager, p: Push, tries: number): Promise<void> {
    const step = async (text: string): Promise<void> => {
      p.done = Math.min(p.done + 1, p.total);
      p.step = text;
      await em.flush();
    };
    try {
      if (tries > MOST_TRIES) throw new Problem(422, 'given-up', 'The service could not be reached, or the work on it was cut off again and again.');
      const adapter = adapterOf(p.service);
      if (!adapter) throw new Problem(422, 'unknown-service', `There is no service called ${p.service}.`);
      if (!p.connection) throw new Problem(422, 'connection-ended', 'The service was disconnected before this was sent. Connect it and push again.');
      p.done = 0;
      await step('Looking at the connection');
      const tokens = await this.tokensOf(em, adapter, p.connection);
      const out = deliverableSet((await this.documents.read(em, p.set.id)).document);
      const receipt = await adapter.push(tokens, out, p.id, step);
      await step('Rehearsing what arrived');
      const rehearsal = await this.rehearsed(adapter, tokens, receipt, out);
      p.report = { ...receipt, adapted: await heavy('notes', { service: adapter.id, set: out }), ...rehearsal };
      this.settle(p, 'done', 'Arrived');
      p.done = p.total;
      await em.flush();
    } catch (e) {
      this.log.warn({ push: p.id, tries, err: e as Error }, 'push failed');
      const known = e instanceof Problem && e.getStatus() !== 502 ? (e.getResponse() as { detail: string }).detail : undefined;
      if (known ?? tries >= MOST_TRIES) this.settle(p, 'failed', known ?? 'The service does not answer. Try again when it does.');
      else {
        p.state = 'waiting';
        p.step = 'The service did not answer; trying again';
        p.beat = null;
        p.nextAt = new Date(Date.now() + 2 ** tries * 1000);
      }
      if (p.state === 'failed') p.report = { problem: p.step };
      await em.flush();
    }
  }

  private settle(p: Push, state: 'done' | 'failed', step: string): void {
    Object.assign(p, { state, step, finishedAt: new Date(), beat: null, worker: null });
  }

  private async tokensOf(em: EntityManager, adapter: Adapter, connection: Connection): Promise<Tokens> {
    let tokens: Tokens;
    try {
      tokens = JSON.parse(decrypt(connection.sealed)) as Tokens;
    } catch {
      throw new Problem(422, 'connection-ended', 'What is kept of the connection cannot be read with the key of this server. Connect the service again.');
    }
    if (tokens.expiresAt >= Date.now() + 30_000) return tokens;
    tokens = await adapter.refresh(tokens);
    connection.sealed = encrypt(JSON.stringify(tokens));
    await em.flush();
    return tokens;
  }

  /** Reads back what the service keeps and answers it. What arrived has arrived: a rehearsal that cannot be held is said and fails nothing. */
  private async rehearsed(adapter: Adapter, tokens: Tokens, receipt: Receipt, set: QuizSet): Promise<{ rehearsal?: Rehearsal; unrehearsed?: string }> {
    try {
      const bytes = await adapter.readBack(tokens, receipt);
      return { rehearsal: await heavy('rehearse', { service: adapter.id, set, bytes }) };
    } catch (e) {
      this.log.warn({ err: e as Error }, 'rehearsal failed');
      return { unrehearsed: e instanceof Problem || e instanceof ReadError ? e.message : 'What arrived could not be read back.' };
    }
  }

  async onApplicationShutdown(): Promise<void> {
    clearInterval(this.looking);
    await this.boss.stop({ graceful: true, wait: true, timeout: 5000 });
    await Promise.race([Promise.allSettled(this.underWay), new Promise((r) => setTimeout(r, 5000).unref())]);
  }
}
