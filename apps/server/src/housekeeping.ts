/**
 * What has run out is removed: sessions, authorizations, counts of limits, sets that were in the bin for thirty days, answers whose time is over, links that were
 * used, mails to nobody's class, old events. What the bank knows of items is brought up to date.
 */
import { Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { EntityManager } from '@mikro-orm/postgresql';
import { AUDIT_MONTHS } from './accounts/audit.js';
import { USED_DAYS } from './accounts/links.js';
import { Asking } from './assistant/asking.js';
import { keepCounts } from './bank/counts.js';
import { countAnswers, lookAtItems } from './bank/upkeep.js';
import { recount } from './deliveries/published.js';
import { eraseOver } from './people/erasing.js';
import { settings } from './platform/settings.js';
import { BIN_DAYS } from './sets/bin.js';

const EVERY = 10 * 60_000;
/** How items did, and what is known of very many that came at once, is behind by this much. */
const COUNTED_EVERY = 60_000;

@Injectable()
export class Housekeeping implements OnModuleInit, OnApplicationShutdown {
  private readonly log = new Logger(Housekeeping.name);
  private timer: NodeJS.Timeout | undefined;
  private counting: NodeJS.Timeout | undefined;
  constructor(
    private readonly em: EntityManager,
    private readonly asking: Asking,
  ) {}

  onModuleInit(): void {
    if (settings().role === 'web') return;
    const failed = (e: unknown): void => this.log.error(e);
    const tidy = (): void => void this.tidy().catch(failed);
    const catchUp = (): void => void this.catchUp().catch(failed);
    this.timer = setInterval(tidy, EVERY);
    this.counting = setInterval(catchUp, COUNTED_EVERY);
    setTimeout(tidy, 5000).unref();
    setTimeout(catchUp, 5000).unref();
  }

  /** May run in several processes at once. */
  async tidy(): Promise<void> {
    const run = this.em.fork().getConnection();
    await run.execute('delete from session where expires_at < now()');
    await run.execute(`delete from "authorization" where created_at < now() - interval '1 day'`);
    await run.execute(`delete from lti_login where created_at < now() - interval '1 day'`);
    await run.execute(
      `delete from lti_launch l where created_at < now() - interval '30 days' and not exists (select 1 from attempt a where a.launch_id = l.id)`,
    );
    await run.execute(`delete from limit_count where at < now() - interval '1 day'`);
    await run.execute(`delete from account_link where expires_at < now() - ${USED_DAYS} * interval '1 day'`);
    await run.execute(`delete from mail where delivery_id is null and (sent_at is not null or problem is not null) and created_at < now() - interval '1 day'`);
    await run.execute(`delete from audit_event where at < now() - ${AUDIT_MONTHS} * interval '1 month'`);
    await recount(this.em.fork());
    await eraseOver(this.em.fork());
    await run.execute(`delete from quiz_set where deleted_at < now() - ${BIN_DAYS} * interval '1 day'`);
  }

  private async catchUp(): Promise<void> {
    await lookAtItems(this.em.fork());
    await countAnswers(this.em.fork());
    await keepCounts(this.em.fork());
    await this.asking.endLost(this.em.fork());
  }

  onApplicationShutdown(): void {
    clearInterval(this.timer);
    clearInterval(this.counting);
  }
}
