/** Published sets as learners' requests need them: read and made clean once, since they never change. */
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { EntityManager } from '@mikro-orm/postgresql';
import { LRUCache } from 'lru-cache';
import { inLanguage, maximumOf, type QuizRules, type QuizSet, sanitiseFields, takenSet } from '@zakuska/core';
import { sql } from '../platform/sql.js';
import { itemsSize } from '../sets/documents.js';

/** Items kept in memory, over all deliveries. */
const MOST_ITEMS = 20_000;
const COUNTED_AFTER = 1000;

@Injectable()
export class Published implements OnApplicationShutdown {
  private readonly log = new Logger(Published.name);
  private readonly kept = new LRUCache<string, { set: QuizSet; points: number }>({
    maxSize: MOST_ITEMS,
    sizeCalculation: ({ set }) => itemsSize(set, MOST_ITEMS),
  });
  private readonly uncounted = new Set<string>();
  private timer: NodeJS.Timeout | undefined;
  constructor(private readonly em: EntityManager) {}

  /** @param language one that learners may choose; another one, or none, is the language of the set */
  async of(delivery: string, language?: string): Promise<{ set: QuizSet; points: number }> {
    const own = await this.original(delivery);
    if (!language || !own.set.translations?.[language]) return own;
    const key = `${delivery} ${language}`;
    const there = this.kept.get(key);
    if (there) return there;
    const found = { ...own, set: inLanguage(own.set, language) };
    this.kept.set(key, found);
    return found;
  }

  /** The set as it was written, and in a language that a learner chose: the same one where they chose none. */
  async both(delivery: string, language?: string): Promise<{ own: QuizSet; theirs: QuizSet }> {
    return { own: (await this.of(delivery)).set, theirs: (await this.of(delivery, language)).set };
  }

  private async original(delivery: string): Promise<{ set: QuizSet; points: number }> {
    const there = this.kept.get(delivery);
    if (there) return there;
    const [row] = await sql<{ snapshot: QuizSet; rules: QuizRules }>(this.em.fork(), 'select snapshot, rules from delivery where id = ?', [delivery]);
    if (!row) throw new Error('a delivery that is known has no snapshot');
    // rich text was made clean when it came in; once more costs nothing here
    const set = takenSet(sanitiseFields(row.snapshot), row.rules);
    const found = { set, points: maximumOf(set.items) };
    this.kept.set(delivery, found);
    return found;
  }

  /**
   * Somebody has handed in. Lists tell the number of responses from a column that is brought up to date a moment later: to count it with
   * each one would make a class that hands in together wait for one row.
   */
  handedIn(delivery: string): void {
    this.uncounted.add(delivery);
    this.timer ??= setTimeout(() => void this.count(), COUNTED_AFTER);
  }
  private async count(): Promise<void> {
    this.timer = undefined;
    const ids = [...this.uncounted];
    this.uncounted.clear();
    try {
      await recount(this.em.fork(), ids);
    } catch (e) {
      this.log.warn({ err: e as Error }, 'responses were not counted');
    }
  }
  async onApplicationShutdown(): Promise<void> {
    clearTimeout(this.timer);
    if (this.uncounted.size) await this.count();
  }
}

/** Brings the numbers of responses of deliveries up to date; without ids of all that had some within the last day. */
export async function recount(em: EntityManager, ids?: readonly string[]): Promise<void> {
  const which = ids
    ? 'd.id in (select x::uuid from jsonb_array_elements_text(?::jsonb) x)'
    : `d.id in (select delivery_id from attempt where submitted_at > now() - interval '1 day')`;
  await sql(
    em,
    `update delivery d set responses = c.n from (select d.id, (select count(*)::int from attempt a where a.delivery_id = d.id and a.submitted_at is not null) as n
       from delivery d where ${which}) c where c.id = d.id and d.responses <> c.n`,
    ids ? [JSON.stringify(ids)] : [],
  );
}
