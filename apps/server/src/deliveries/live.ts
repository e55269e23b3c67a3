/** A quiz as it is taken, for the teacher: who is where, what is right so far, who was not heard of for a while. */
import { Injectable } from '@nestjs/common';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { itemsInOrder, keptOf, lookUp, mark, type Mark, type MoreTime, type ItemTries, type QuizRules, type Response } from '@zakuska/core';
import { catchError, EMPTY, filter, from, interval, merge, type Observable, switchMap } from 'rxjs';
import { Db } from '../platform/db.js';
import { gone } from '../platform/problem.js';
import { secretChance } from '../platform/secrets.js';
import { Attempts, dueAt, keptBy, type Lean } from './attempts.js';
import { Marking } from './marking.js';
import { Published } from './published.js';

/** A browser says every 20 seconds that it is there; after this long without, its line is lost. */
const LOST_AFTER = 50_000;
/** Lost lines come about without any change. */
const LOOK_AGAIN = 20_000;

export class LiveAttempt {
  @ApiProperty() id!: string;
  @ApiProperty() name!: string;
  @ApiProperty() startedAt!: string;
  @ApiPropertyOptional() submittedAt?: string;
  @ApiPropertyOptional({ description: 'When it ends by the clock.' }) due?: string;
  @ApiProperty({ description: 'How many items the learner has passed.' }) place!: number;
  @ApiPropertyOptional({ description: 'The item where the learner is; absent after handing in.' }) at?: string;
  @ApiProperty({ description: 'Not heard of for a while.' }) lost!: boolean;
  @ApiPropertyOptional() points?: number;
  @ApiProperty({ type: 'object', additionalProperties: { type: 'string' }, description: 'How each answer given so far would be marked, by item.' })
  states!: Record<string, Mark['state']>;
}
export class LiveView {
  @ApiProperty() open!: boolean;
  @ApiProperty({ description: 'The time stands still.' }) paused!: boolean;
  @ApiProperty() released!: boolean;
  @ApiProperty({ description: 'The clock of the server.' }) now!: string;
  @ApiProperty({ type: [LiveAttempt] }) attempts!: LiveAttempt[];
}
interface Row extends Pick<Lean, 'given_at' | 'id' | 'more' | 'name' | 'place' | 'seed' | 'started_at'> {
  responses: Record<string, Response>;
  progress: Record<string, ItemTries>;
  marks: Record<string, Mark> | null;
  points: number | null;
  submitted_at: Date | null;
  seen_at: Date | null;
}

@Injectable()
export class Watching {
  constructor(
    private readonly db: Db,
    private readonly published: Published,
    private readonly attempts: Attempts,
    private readonly marking: Marking,
  ) {}

  /** @param changes tells once at first, and after each change */
  of(changes: Observable<void>, delivery: string): Observable<LiveView> {
    return merge(changes, interval(LOOK_AGAIN)).pipe(
      switchMap(() => from(this.now(delivery)).pipe(catchError(() => EMPTY))),
      filter((v) => v !== null),
    );
  }

  async now(delivery: string): Promise<LiveView | null> {
    await this.attempts.endOverdue(delivery);
    const { set } = await this.published.of(delivery);
    await this.marking.markAnew({ kind: 'delivery', id: delivery, set });
    const [d] = await this.db.rows<{ open: boolean; paused_at: Date | null; released: boolean; rules: QuizRules }>(
      'select open, paused_at, released, rules from delivery where id = $1',
      [delivery],
    );
    if (!d) return null;
    const rows = await this.db.rows<Row>(
      `select a.id, a.name, a.seed, a.place, a.more, a.started_at, a.submitted_at, a.seen_at, a.given_at, a.responses, a.progress, a.marks, a.points
       from attempt a where a.delivery_id = $1 order by a.started_at limit 2000`,
      [delivery],
    );
    const now = Date.now();
    return {
      open: d.open,
      paused: d.paused_at !== null,
      released: d.released,
      now: new Date(now).toISOString(),
      attempts: rows.map((a): LiveAttempt => {
        const due = dueAt({ ...a, rules: d.rules });
        const order = a.submitted_at ? [] : itemsInOrder(set.items, d.rules, secretChance(a.seed));
        const at = d.rules.pages === 'all' ? undefined : order[a.place]?.id;
        return {
          id: a.id,
          name: a.name,
          startedAt: a.started_at.toISOString(),
          ...(a.submitted_at && { submittedAt: a.submitted_at.toISOString(), points: keptOf(a.points ?? 0, keptBy(d.rules, a)) }),
          ...(due !== undefined && !a.submitted_at && !d.paused_at && { due: new Date(due).toISOString() }),
          place: a.place,
          ...(at !== undefined && { at }),
          lost: !a.submitted_at && now - (a.seen_at ?? a.started_at).getTime() > LOST_AFTER,
          states: Object.fromEntries(
            set.items.flatMap((item) => {
              const done = lookUp(a.marks ?? {}, item.id);
              if (done) return [[item.id, done.state]];
              const given = lookUp(a.progress, item.id)?.response ?? lookUp(a.responses, item.id);
              const m = given && mark(item, given, set.language);
              return m && m.state !== 'unanswered' ? [[item.id, m.state]] : [];
            }),
          ),
        };
      }),
    };
  }

  /** @throws Problem 404 where there is no such attempt under way */
  async give(delivery: string, minutes: number, attempt?: string): Promise<void> {
    const given = await this.db.rows<{ more: MoreTime }>(
      `update attempt set more = jsonb_set(more, '{minutes}', to_jsonb(coalesce((more->>'minutes')::float8, 0) + $2::float8))
       where delivery_id = $1 and submitted_at is null and ($3::uuid is null or id = $3::uuid) returning more`,
      [delivery, minutes, attempt ?? null],
    );
    if (attempt && !given.length) throw gone('attempt');
  }

  /** Stops the time of a quiz; one that is paused stays so. */
  async pause(delivery: string): Promise<void> {
    await this.db.rows('update delivery set paused_at = coalesce(paused_at, $2) where id = $1', [delivery, new Date(Date.now())]);
  }
  /** Lets it go on: who was at work has as much time as when it stopped. In one statement, so that of two at once only one gives the time. */
  async goOn(delivery: string): Promise<void> {
    await this.db.rows(
      `with stood as (select id, paused_at from delivery where id = $1 and paused_at is not null for update),
         done as (update delivery d set paused_at = null from stood where d.id = stood.id)
       update attempt a set more = jsonb_set(more, '{minutes}',
           to_jsonb(coalesce((more->>'minutes')::float8, 0) + extract(epoch from $2::timestamptz - stood.paused_at)::float8 / 60)),
         place_at = coalesce(a.place_at, a.started_at) + ($2::timestamptz - stood.paused_at)
         from stood where a.delivery_id = stood.id and a.submitted_at is null`,
      [delivery, new Date(Date.now())],
    );
  }

  /** The next browser that begins under the name goes on with it. */
  async free(delivery: string, attempt: string): Promise<void> {
    const done = await this.db.rows(`update attempt set token_hash = '' where delivery_id = $1 and id = $2 and submitted_at is null returning id`, [
      delivery,
      attempt,
    ]);
    if (!done.length) throw gone('attempt');
  }
}
