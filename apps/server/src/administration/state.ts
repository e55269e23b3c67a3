/** How a workspace stands: what waits or has failed on its way out, with another try; how much is kept. */
import { Body, Controller, Get, HttpCode, Post } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { IsIn, IsUUID } from 'class-validator';
import { Access, Gives, WorkspaceId } from '../accounts/access.js';
import { DUE_AGAIN } from '../platform/dueRows.js';
import { gone } from '../platform/problem.js';
import { isoOf, sql } from '../platform/sql.js';

/** What goes out by itself and may fail. */
const JOB_KINDS = ['push', 'mail', 'score'] as const;
type JobKind = (typeof JOB_KINDS)[number];
const MOST = 200;
/** Longer than any wait between two tries of what is on its way. */
const SLOW = "interval '15 minutes'";

class StorageView {
  @ApiProperty() sets!: number;
  @ApiProperty({ description: 'Sets in the bin.' }) binned!: number;
  @ApiProperty() items!: number;
  @ApiProperty({ description: 'Quizzes that were published.' }) quizzes!: number;
  @ApiProperty({ description: 'What people handed in or began.' }) answers!: number;
  @ApiProperty({ description: 'Of items and answers, packed as the database keeps them.' }) bytes!: number;
}
class JobView {
  @ApiProperty({ enum: JOB_KINDS, enumName: 'JobKind' }) kind!: JobKind;
  @ApiProperty() id!: string;
  @ApiProperty({ description: 'What it is of: the set, or the quiz.' }) of!: string;
  @ApiProperty({ description: 'Where it goes: a service, an address, a person of a course.' }) to!: string;
  @ApiProperty() at!: string;
  @ApiProperty({ enum: ['waiting', 'slow', 'failed'], description: 'slow: it waits longer than it should.' }) state!: 'waiting' | 'slow' | 'failed';
  @ApiProperty() tries!: number;
  @ApiPropertyOptional() problem?: string;
}
class StateView {
  @ApiProperty({ type: StorageView }) storage!: StorageView;
  @ApiProperty({ type: [JobView], description: 'Failed ones first, then those that wait; at most 200.' }) jobs!: JobView[];
}
class AgainBody {
  @ApiProperty({ enum: ['mail', 'score'] }) @IsIn(['mail', 'score']) kind!: 'mail' | 'score';
  @ApiProperty() @IsUUID() id!: string;
}

/** Rows with `kind, id, of, to, at, state, tries, problem, due` of one workspace (`?`). A new kind of job is a row here. */
const JOBS: Record<JobKind, string> = {
  push: `select 'push' as kind, p.id, s.title as of, p.service as to, p.created_at as made, p.tries, p.report->>'problem' as problem,
      p.state = 'failed' as failed, coalesce(p.next_at, p.created_at) as due
    from push p join quiz_set s on s.id = p.set_id where s.workspace_id = ? and p.state in ('waiting', 'running', 'failed') and s.deleted_at is null`,
  mail: `select 'mail', m.id, d.title, m.address, m.created_at, m.tries, m.problem, m.problem is not null, m.next_at
    from mail m join delivery d on d.id = m.delivery_id join quiz_set s on s.id = d.set_id where s.workspace_id = ? and m.sent_at is null`,
  score: `select 'score', l.attempt_id, d.title, a.name, coalesce(a.submitted_at, a.started_at), l.tries, l.problem, l.problem is not null, l.next_at
    from lti_score l join attempt a on a.id = l.attempt_id join delivery d on d.id = a.delivery_id join quiz_set s on s.id = d.set_id
    where s.workspace_id = ? and l.sent_at is null`,
};
/** How what did not go is made due again. Pushes have a route of their own. */
const AGAIN = {
  mail: `update mail set ${DUE_AGAIN} where id = ? and problem is not null and delivery_id in
    (select d.id from delivery d join quiz_set s on s.id = d.set_id where s.workspace_id = ?) returning 1`,
  score: `update lti_score set ${DUE_AGAIN} where attempt_id = ? and problem is not null and attempt_id in
    (select a.id from attempt a join delivery d on d.id = a.delivery_id join quiz_set s on s.id = d.set_id where s.workspace_id = ?) returning 1`,
} as const;

@ApiTags('administration')
@Controller('workspaces/:workspace/state')
export class StateController {
  constructor(private readonly em: EntityManager) {}

  @Get()
  @Gives(StateView)
  @ApiParam({ name: 'workspace' })
  @Access('administrator')
  async get(@WorkspaceId() workspace: string): Promise<StateView> {
    const em = this.em.fork();
    const [storage] = await sql<StorageView>(
      em,
      `with ours as (select id, deleted_at from quiz_set where workspace_id = ?),
         item as (select count(*)::int as n, coalesce(sum(pg_column_size(i.item)), 0)::float8 as bytes from set_item i where i.set_id in (select id from ours where deleted_at is null)),
         quiz as (select d.id, pg_column_size(d.snapshot)::float8 as bytes from delivery d where d.set_id in (select id from ours)),
         answer as (select count(*)::int as n, coalesce(sum(pg_column_size(a.responses)), 0)::float8 as bytes from attempt a where a.delivery_id in (select id from quiz))
       select (select count(*)::int from ours where deleted_at is null) as sets, (select count(*)::int from ours where deleted_at is not null) as binned,
         item.n as items, (select count(*)::int from quiz) as quizzes, answer.n as answers,
         item.bytes + answer.bytes + coalesce((select sum(bytes) from quiz), 0)
           + coalesce((select sum(length(p.bytes)) from sent_picture p where p.set_id in (select id from ours)), 0)::float8 as bytes
       from item, answer`,
      [workspace],
    );
    const jobs = await sql<Omit<JobView, 'problem'> & { problem: string | null }>(
      em,
      `select kind, id, of, "to", ${isoOf('made')} as at, tries, problem,
         case when failed then 'failed' when due < now() - ${SLOW} then 'slow' else 'waiting' end as state
       from (${Object.values(JOBS).join(' union all ')}) j order by failed desc, made desc limit ${MOST}`,
      JOB_KINDS.map(() => workspace),
    );
    return { storage: storage as StorageView, jobs: jobs.map(({ problem, ...j }) => ({ ...j, ...(problem && { problem }) })) };
  }

  /** Tries once more what was given up. */
  @Post('again')
  @HttpCode(204)
  @ApiParam({ name: 'workspace' })
  @Access('administrator')
  async again(@WorkspaceId() workspace: string, @Body() { kind, id }: AgainBody): Promise<void> {
    const [done] = await sql(this.em.fork(), AGAIN[kind], [id, workspace]);
    if (!done) throw gone('job');
  }
}
