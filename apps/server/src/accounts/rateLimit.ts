/** Limits of tries, counted in the database in one statement each, so that they hold over several processes and parallel tries. */
import { Injectable } from '@nestjs/common';
import { Db } from '../platform/db.js';
import { Problem } from '../platform/problem.js';

/** So many tries are free; each further one makes the next wait twice as long, up to the longest wait. Forgotten after an hour without a try. */
export interface Limit {
  free: number;
  /** Seconds. */
  longest: number;
}

const waiting = (seconds: number): Problem => {
  const wait = Math.max(1, Math.ceil(seconds));
  const minutes = Math.ceil(wait / 60);
  return new Problem(
    429,
    'too-many-tries',
    wait < 90 ? `Too many tries. Wait ${Math.max(2, wait)} seconds and try again.` : `Too many tries. Wait ${minutes} minutes and try again.`,
    { retryAfter: wait },
  );
};

/** Lookups of one key that go on at the same time. */
const AT_ONCE = 8;
const MOST_WAITING = 5000;

interface Line {
  waiting: { go: () => void; refuse: (e: Problem) => void }[];
  running: number;
  /** Past the free tries; not known before the first lookup is through, since another process may have counted. */
  hot?: boolean;
}

@Injectable()
export class RateLimit {
  private readonly lines = new Map<string, Line>();
  constructor(private readonly db: Db) {}

  /** Counts a try and refuses it (429) where the key has to wait. A refused try does not count: the wait has an end. */
  async take(key: string, { free, longest }: Limit): Promise<void> {
    const [taken] = await this.db.rows<{ n: number }>(
      `insert into limit_count as c (key, n, at) values ($1, 1, now())
       on conflict (key) do update set
         n = case when c.at < now() - interval '1 hour' then 1 else c.n + 1 end,
         until = case when c.at >= now() - interval '1 hour' and c.n + 1 >= $2
                      then now() + interval '1 second' * least($3::float8, power(2, least(c.n + 1 - $4, 30))) end,
         at = now()
       where c.until is null or c.until <= now()
       returning n`,
      [key, free, longest, free],
    );
    if (taken) return;
    const [row] = await this.db.rows<{ left: number }>('select extract(epoch from until - now())::float8 as left from limit_count where key = $1', [key]);
    throw waiting(row?.left ?? 1);
  }
  /** Takes back a try that turned out right. */
  async forgive(key: string): Promise<void> {
    await this.db.rows('update limit_count set n = greatest(0, n - 1), until = null where key = $1', [key]);
  }
  async forget(key: string): Promise<void> {
    await this.db.rows('delete from limit_count where key = $1', [key]);
  }

  /** Counts events of a key within the hour and gives the number, without refusing. */
  async count(key: string, by = 1): Promise<number> {
    const [row] = await this.db.rows<{ n: number }>(
      `insert into limit_count as c (key, n, at) values ($1, $2, now())
         on conflict (key) do update set n = case when c.at < now() - interval '1 hour' then $2 else c.n + $2 end, at = now()
         returning n`,
      [key, by],
    );
    return row?.n ?? 0;
  }

  /**
   * Looks something up that could be guessed. Few lookups of a key go on at once, and what was not found counts before the next
   * begins: of any number of guesses at once no more than the free ones get through. Past them each lookup waits for its turn, so
   * that a guesser is slow and everybody else behind the same address is served, a little later. Refused (429) where too many wait.
   * @returns null where it was not found
   */
  async guarded<T>(key: string, { free, apart, most }: { free: number; apart: number; most: number }, look: () => Promise<T | null>): Promise<T | null> {
    const line: Line = this.lines.get(key) ?? { waiting: [], running: 0 };
    this.lines.set(key, line);
    const full = (): boolean => line.running >= (line.hot === false ? AT_ONCE : 1);
    const refusal = (): Problem => waiting((most * apart) / 1000);
    if (full()) {
      if (line.waiting.length >= (line.hot ? most : MOST_WAITING)) throw refusal();
      await new Promise<void>((go, refuse) => line.waiting.push({ go, refuse }));
    } else line.running++;
    const next = (): void => {
      line.running--;
      if (line.hot) for (const late of line.waiting.splice(most)) late.refuse(refusal());
      while (line.waiting.length && !full()) {
        line.running++;
        line.waiting.shift()?.go();
      }
      if (!line.running) this.lines.delete(key);
    };
    try {
      const found = await look();
      line.hot = (found === null ? await this.count(key) : line.hot === false ? 0 : await this.counted(key)) >= free;
      return found;
    } finally {
      if (line.hot) setTimeout(next, apart);
      else next();
    }
  }
  private async counted(key: string): Promise<number> {
    const [row] = await this.db.rows<{ n: number }>("select n from limit_count where key = $1 and at > now() - interval '1 hour'", [key]);
    return row?.n ?? 0;
  }
}
