/**
 * Pushes are worked off here. The row of a push is what counts: who works on it says so by a heartbeat in it, and only one process
 * can claim it. The queue (pg-boss) wakes a worker at once; what it lost, or a killed worker left, is found by a look at the rows.
 */
import { Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { type EntityManager, MikroORM } from '@mikro-orm/postgresql';
import { ServiceRefusal } from '@zakuska/core';
import { hostname } from 'node:os';
import PgBoss from 'pg-boss';
import { Problem } from '../platform/problem.js';
import { newToken } from '../platform/secrets.js';
import { settings } from '../platform/settings.js';
import { Push } from './entities.js';
import { Pushing, Stopped } from './pushing.js';

const QUEUE = 'push';
/** Tries without anything arriving before a push counts as failed: with the waits between them about two minutes. */
const MOST_TRIES = 6;
const BEAT = 5;
/** A worker that is silent for so many seconds has died. */
const SILENT = 20;
const LOOK = 5;

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
    private readonly pushing: Pushing,
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
           and (coalesce(beat, next_at, created_at) < now() - (case when beat is null then ? else ? end) * interval '1 second'
             -- the row has the time of whoever wrote it, whose clock may be ahead
             or (beat is null and next_at is null and created_at > now()))
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
      const p = await em.findOneOrFail(Push, { id }, { populate: ['connection', 'placement', 'snapshot'] });
      await this.push(em, p, tries);
    } finally {
      clearInterval(beating);
    }
  }

  private async push(em: EntityManager, p: Push, tries: number): Promise<void> {
    let wait = 0;
    try {
      if (tries > MOST_TRIES) throw new Problem(422, 'given-up', 'The service could not be reached, or the work on it was cut off again and again.');
      await this.pushing.push(em, p);
      this.settle(p, 'done', 'Arrived');
      p.done = p.total;
    } catch (e) {
      if (e instanceof Stopped) this.settle(p, 'stopped', 'Stopped');
      else {
        this.log.warn({ push: p.id, tries, err: e as Error }, 'push failed');
        const known = e instanceof Problem && e.getStatus() !== 502 ? (e.getResponse() as { detail: string }).detail : undefined;
        const refused = e instanceof ServiceRefusal ? `The service refused: ${e.message}` : undefined;
        const last = p.tries >= MOST_TRIES;
        if (known ?? refused ?? last) this.settle(p, 'failed', known ?? refused ?? 'The service does not answer. Try again when it does.');
        else {
          p.state = 'waiting';
          p.step = 'The service did not answer; trying again';
          p.beat = null;
          wait = 2 ** p.tries;
        }
        if (p.state === 'failed') p.report = { ...p.report, problem: p.step };
      }
    }
    await em.flush();
    // by the clock of the database, which is the one for all
    if (wait) await em.getConnection().execute(`update push set next_at = now() + ? * interval '1 second' where id = ? and state = 'waiting'`, [wait, p.id]);
  }

  private settle(p: Push, state: 'done' | 'failed' | 'stopped', step: string): void {
    Object.assign(p, { state, step, finishedAt: new Date(), beat: null, worker: null });
  }

  async onApplicationShutdown(): Promise<void> {
    clearInterval(this.looking);
    await this.boss.stop({ graceful: true, wait: true, timeout: 5000 });
    await Promise.race([Promise.allSettled(this.underWay), new Promise((r) => setTimeout(r, 5000).unref())]);
  }
}
