/** Long work, kept in PostgreSQL (pg-boss): survives a killed process and is done once. */
import { Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { MikroORM } from '@mikro-orm/postgresql';
import { fitSet, keyProblem, playFile, type QuizSet, ReadError, type Rehearsal, rehearse } from '@zakuska/core';
import PgBoss from 'pg-boss';
import { Problem } from '../platform/problem.js';
import { decrypt, encrypt } from '../platform/secrets.js';
import { settings } from '../platform/settings.js';
import { type Adapter, adapterOf, type Receipt, type Tokens } from './adapter.js';
import { Push } from './entities.js';

const QUEUE = 'push';

/** What of a set goes out: not what was left out, not what has no key. */
export const outgoing = (set: QuizSet, leftOut: (id: string) => boolean): QuizSet => ({
  ...set,
  items: set.items.filter((i) => !leftOut(i.id) && !keyProblem(i)),
});

@Injectable()
export class Jobs implements OnModuleInit, OnApplicationShutdown {
  private readonly log = new Logger(Jobs.name);
  private readonly boss = new PgBoss({ connectionString: settings().databaseUrl, schema: 'pgboss', max: 4 });

  constructor(private readonly orm: MikroORM) {}

  async onModuleInit(): Promise<void> {
    this.boss.on('error', (e) => this.log.error(e));
    await this.boss.start();
    await this.boss.createQueue(QUEUE);
    if (settings().role === 'web') return;
    await this.boss.work<{ push: string }>(QUEUE, { pollingIntervalSeconds: 0.5 }, async ([job]) => {
      if (job) await this.push(job.data.push);
    });
  }

  async enqueue(pushId: string): Promise<void> {
    // A worker that was killed leaves the job active; after a minute it is taken up again.
    await this.boss.send(QUEUE, { push: pushId }, { retryLimit: 5, retryDelay: 2, retryBackoff: true, expireInSeconds: 60, singletonKey: pushId });
  }

  private async push(id: string): Promise<void> {
    const em = this.orm.em.fork(); // a job has no request: its own unit of work
    const p = await em.findOne(Push, { id }, { populate: ['set', 'connection'] });
    if (!p || p.state === 'done') return;
    const adapter = adapterOf(p.connection.service);
    const step = async (text: string): Promise<void> => {
      p.done = Math.min(p.done + 1, p.total);
      p.step = text;
      await em.flush();
    };
    try {
      if (!adapter) throw new Problem(422, 'unknown-service', `There is no service called ${p.connection.service}.`);
      p.state = 'running';
      p.done = 0;
      await step('Looking at the connection');
      let tokens = JSON.parse(decrypt(p.connection.sealed)) as Tokens;
      if (tokens.expiresAt < Date.now() + 30_000) {
        tokens = await adapter.refresh(tokens);
        p.connection.sealed = encrypt(JSON.stringify(tokens));
        await em.flush();
      }
      const { set, reviews } = p.set.document;
      const out = outgoing(set, (itemId) => reviews[itemId]?.state === 'left-out');
      const receipt = await adapter.push(tokens, out, p.id, step);
      await step('Rehearsing what arrived');
      const rehearsal = await this.rehearsed(adapter, tokens, receipt, out);
      p.report = { ...receipt, adapted: fitSet(out, adapter.profile).fits.flatMap((f) => f.notes), ...rehearsal };
      p.state = 'done';
      p.done = p.total;
      p.step = 'Arrived';
      p.finishedAt = new Date();
      await em.flush();
    } catch (e) {
      const known = e instanceof Problem ? (e.getResponse() as { detail: string }).detail : undefined;
      p.state = known && (e as Problem).getStatus() !== 502 ? 'failed' : 'waiting';
      p.step = known ?? 'The service did not answer; trying again';
      p.report = { problem: p.step };
      if (p.state === 'failed') p.finishedAt = new Date();
      await em.flush();
      this.log.warn({ push: id, err: e }, 'push failed');
      if (p.state === 'waiting') throw e; // pg-boss tries again
    }
  }

  /** Reads back what the service keeps and answers it. What arrived has arrived: a rehearsal that cannot be held is said and fails nothing. */
  private async rehearsed(adapter: Adapter, tokens: Tokens, receipt: Receipt, set: QuizSet): Promise<{ rehearsal?: Rehearsal; unrehearsed?: string }> {
    try {
      const { played } = playFile(await adapter.readBack(tokens, receipt), 'arrived.zip');
      return { rehearsal: rehearse(played, set, adapter.profile) };
    } catch (e) {
      this.log.warn({ err: e }, 'rehearsal failed');
      return { unrehearsed: e instanceof Problem || e instanceof ReadError ? e.message : 'What arrived could not be read back.' };
    }
  }

  async onApplicationShutdown(): Promise<void> {
    await this.boss.stop({ graceful: true, wait: true, timeout: 5000 });
  }
}
