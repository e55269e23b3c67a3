/**
 * Scores on their way back to courses (Assignment and Grade Services 2.0). Handing in writes the row that says a score is due, in the
 * same statement; whoever works it off sends the best of the person's attempts, and what could not be sent is tried again.
 */
import { Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { EntityManager } from '@mikro-orm/postgresql';
import { countingOf, keptOf, type Mark, maximumOf, type MoreTime, type QuizRules, type Rounding, roundTotal } from '@zakuska/core';
import { keptBy } from '../deliveries/attempts.js';
import { Marking } from '../deliveries/marking.js';
import { Published } from '../deliveries/published.js';
import { Problem } from '../platform/problem.js';
import { DueRows } from '../platform/dueRows.js';
import { Rounds } from '../platform/rounds.js';
import { sql } from '../platform/sql.js';
import { LtiLaunch } from './entities.js';
import { scopes } from './messages.js';
import { json, platformAway, Tool } from './tool.js';

const EVERY = 2000;
const COLUMN = 'application/vnd.ims.lis.v2.lineitem+json';
const COLUMNS = 'application/vnd.ims.lis.v2.lineitemcontainer+json';
const SCORE = 'application/vnd.ims.lis.v1.score+json';

/** An attempt that was handed in, with the rules of its quiz. */
interface Handed {
  points: number;
  more: MoreTime;
  given_at: string | null;
  submitted_at: string;
  /** Milliseconds since 1970. */
  at: number;
  marks: Record<string, Mark>;
  rules: QuizRules;
  rounding: Rounding | null;
}

@Injectable()
export class Scores implements OnModuleInit, OnApplicationShutdown {
  private readonly log = new Logger(Scores.name);
  private readonly rounds = new Rounds(() => this.round(), this.log);
  private readonly due: DueRows<{ attempt_id: string }>;
  constructor(
    private readonly em: EntityManager,
    private readonly tool: Tool,
    private readonly published: Published,
    private readonly marking: Marking,
  ) {
    this.due = new DueRows(em, { table: 'lti_score', key: 'attempt_id', columns: 'attempt_id', lease: 60, atOnce: 10 });
  }

  onModuleInit(): void {
    this.rounds.begin(EVERY);
  }
  onApplicationShutdown(): Promise<void> {
    return this.rounds.end();
  }

  /** Sends what is due, now. */
  work(): Promise<void> {
    return this.rounds.now();
  }
  private round(): Promise<void> {
    return this.due.workOff(
      ({ attempt_id }) => this.send(this.em.fork(), attempt_id),
      (e, { attempt_id: attempt }, tries) => {
        this.log.warn({ attempt, tries, err: e as Error }, 'a score was not sent');
        return {
          final: e instanceof Problem && e.getStatus() !== 502,
          said: e instanceof Problem ? (e.getResponse() as { detail: string }).detail : 'Something went wrong here.',
        };
      },
    );
  }

  private async send(em: EntityManager, attempt: string): Promise<void> {
    const [row] = await sql<{ launch_id: string; delivery_id: string; person: string }>(em, 'select launch_id, delivery_id, person from attempt where id = ?', [
      attempt,
    ]);
    if (!row?.launch_id) return;
    const launch = await em.findOneOrFail(LtiLaunch, { id: row.launch_id }, { populate: ['platform'] });
    if (!launch.scores) return;
    const all = await sql<Handed>(
      em,
      `select a.points, a.marks, a.more, a.given_at, a.submitted_at, extract(epoch from a.submitted_at)::double precision * 1000 as at, d.rules,
         (select s.head->'aim'->>'rounding' from quiz_set s where s.id = d.set_id) as rounding
       from attempt a join delivery d on d.id = a.delivery_id
       where a.delivery_id = ? and a.person = ? and a.submitted_at is not null`,
      [row.delivery_id, row.person],
    );
    const { rules, rounding } = all[0] ?? {};
    const counts =
      rules &&
      countingOf(
        all.map((a) => ({ ...a, person: row.person, points: keptOf(a.points, keptBy(a.rules, a)) })),
        rules.counts,
      ).get(row.person);
    if (!counts) return;
    const latest = Math.max(...all.map((a) => a.at));
    const { set: sent } = await this.published.of(row.delivery_id);
    const set = await this.marking.judgedSet({ kind: 'delivery', id: row.delivery_id, set: sent });
    const maximum = maximumOf(set.items);
    // of several versions the column is of the one that the link opens
    const column = await this.columnOf(em, launch, launch.delivery?.id ?? row.delivery_id, set.title, maximum);
    const byHand = Object.values(counts.attempt.marks).some((m) => m.state === 'by-hand');
    const url = new URL(column);
    url.pathname = `${url.pathname.replace(/\/$/, '')}/scores`;
    const answer = await this.tool.call(launch.platform, [scopes.score], url.href, {
      method: 'POST',
      type: SCORE,
      body: {
        userId: launch.person,
        scoreGiven: Math.max(0, roundTotal(counts.points, rounding ?? undefined)),
        scoreMaximum: maximum,
        activityProgress: 'Completed',
        gradingProgress: byHand ? 'PendingManual' : 'FullyGraded',
        timestamp: new Date(latest).toISOString(),
      },
    });
    // 409: the platform has a score that is as new, so this one arrived before
    if (answer.status < 300 || answer.status === 409) return;
    if (answer.status >= 500 || answer.status === 429 || answer.status === 408) throw platformAway(launch.platform);
    throw new Problem(422, 'score-refused', `${launch.platform.name} refused the score (status ${answer.status}).`);
  }

  /** The column of the link; where the platform made none, the one of this quiz among those of the course, or a new one. */
  private async columnOf(em: EntityManager, launch: LtiLaunch, delivery: string, title: string, maximum: number): Promise<string> {
    const { column, columns, scopes: given } = launch.scores ?? { scopes: [] };
    if (column) return column;
    if (!columns || !given.includes(scopes.column)) throw new Problem(422, 'no-column', `${launch.platform.name} has no column for the scores of this link.`);
    const found = new URL(columns);
    if (launch.resourceLink) found.searchParams.set('resource_link_id', launch.resourceLink);
    const list = await this.tool.call(launch.platform, [scopes.column], found.href, { accept: COLUMNS });
    if (list.status >= 500) throw platformAway(launch.platform);
    const there =
      list.status === 200 ? json<{ id?: string; resourceId?: string }[]>(list, launch.platform).find((c) => c.resourceId === delivery)?.id : undefined;
    const made =
      there ??
      json<{ id?: string }>(
        await this.tool.call(launch.platform, [scopes.column], columns, {
          method: 'POST',
          type: COLUMN,
          accept: COLUMN,
          body: { label: title, scoreMaximum: maximum, resourceId: delivery, ...(launch.resourceLink && { resourceLinkId: launch.resourceLink }) },
        }),
        launch.platform,
      ).id;
    if (!made) throw platformAway(launch.platform);
    launch.scores = { ...(launch.scores as NonNullable<typeof launch.scores>), column: made };
    await em.flush();
    return made;
  }
}
