/** How the people of a class did over the quizzes of a workspace, in their order in time. */
import { Controller, Get, Param } from '@nestjs/common';
import { ApiProperty, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { countingOf, finalItems, keptOf, type Mark, maximumOf, type MoreTime, type QuizRules, roundPoints } from '@zakuska/core';
import { Access, Gives, Me, seesSet, setsOf, type Signed, WorkspaceId } from '../accounts/access.js';
import { sql } from '../platform/sql.js';
import { keptBy } from './attempts.js';
import { personOf } from './entities.js';
import { type AnswersOf, Marking } from './marking.js';
import { Published } from './published.js';

/** The newest of them. */
const MOST_QUIZZES = 60;

class ProgressQuiz {
  @ApiProperty() id!: string;
  @ApiProperty() set!: string;
  @ApiProperty() title!: string;
  @ApiProperty({ description: 'When somebody of the class handed in first.' }) at!: string;
  @ApiProperty({ description: 'Points that can be had for what is marked for everybody.' }) maximum!: number;
}
class ProgressPerson {
  @ApiProperty() id!: string;
  @ApiProperty() name!: string;
  @ApiProperty({ type: 'array', items: { type: 'number', nullable: true }, description: 'Points in each quiz; null where they did not hand in.' })
  points!: (number | null)[];
}
class ProgressView {
  @ApiProperty({ type: [ProgressQuiz] }) quizzes!: ProgressQuiz[];
  @ApiProperty({ type: [ProgressPerson] }) people!: ProgressPerson[];
}
interface Row {
  delivery: string;
  set: string;
  title: string;
  rules: QuizRules;
  attempt: string;
  member: string;
  at: string;
  given_at: string | null;
  more: MoreTime;
  marks: Record<string, Mark> | null;
}

@ApiTags('deliveries')
@Controller()
export class ProgressController {
  constructor(
    private readonly em: EntityManager,
    private readonly published: Published,
    private readonly marking: Marking,
  ) {}

  /** Who came in by the list or by a code of their own is known by that; who typed a name, by the name, where one on the list has it. */
  @Get('classes/:class/progress')
  @Gives(ProgressView)
  @Access('reader')
  async progress(@Param('class') id: string, @WorkspaceId() workspace: string, @Me() me: Signed): Promise<ProgressView> {
    const em = this.em.fork();
    const members = await sql<{ id: string; name: string }>(em, 'select id, name from class_member where list_id = ? order by place', [id]);
    const byName = new Map<string, string[]>();
    for (const m of members) byName.set(personOf(m.name), [...(byName.get(personOf(m.name)) ?? []), m.id]);
    const names = [...byName].flatMap(([name, ids]) => (ids.length === 1 ? [{ name, member: ids[0] as string }] : []));
    const found = await sql<{ delivery: string }>(
      em,
      `with theirs as (
           select delivery_id, submitted_at from attempt where submitted_at is not null and member_id in (select m.id from class_member m where m.list_id = ?)
           union all
           select delivery_id, submitted_at from attempt where submitted_at is not null and person in (select x->>'name' from jsonb_array_elements(?::jsonb) x)),
         took as (select delivery_id as id, min(submitted_at) as at from theirs group by 1)
       select took.id as delivery from ${setsOf('?')} join delivery d on d.set_id = s.id join took on took.id = d.id
       where s.workspace_id = ? and s.deleted_at is null and ${seesSet('?')} order by took.at desc limit ${MOST_QUIZZES}`,
      [id, JSON.stringify(names), me.account.id, workspace, me.account.id],
    );
    const ids = found.map((f) => f.delivery);
    const sources = new Map<string, AnswersOf>();
    for (const delivery of ids) {
      const of: AnswersOf = { kind: 'delivery', id: delivery, set: (await this.published.of(delivery)).set };
      sources.set(delivery, of);
      await this.marking.markAnew(of);
    }
    const rows = await sql<Row>(
      em,
      `select d.id as delivery, d.set_id as set, d.title, d.rules, a.id as attempt, coalesce(m.id::text, n.member) as member, a.submitted_at as at, a.given_at, a.more, a.marks
       from delivery d join attempt a on a.delivery_id = d.id and a.submitted_at is not null
         left join class_member m on m.id = a.member_id and m.list_id = ?
         left join jsonb_to_recordset(?::jsonb) as n(name text, member text) on a.member_id is null and n.name = a.person
       where d.id in (select x::uuid from jsonb_array_elements_text(?::jsonb) x) and coalesce(m.id::text, n.member) is not null
       order by a.submitted_at`,
      [id, JSON.stringify(names), JSON.stringify(ids)],
    );
    const byQuiz = new Map<string, Row[]>();
    for (const r of rows) byQuiz.set(r.delivery, [...(byQuiz.get(r.delivery) ?? []), r]);
    const columns = await Promise.all(
      [...byQuiz].map(async ([delivery, own]) => {
        const set = await this.marking.judgedSet(sources.get(delivery) as AnswersOf);
        const items = finalItems(
          set.items,
          own.map((r) => ({ marks: r.marks ?? {} })),
        );
        const counted = new Set(items.map((i) => i.id));
        const pointsOf = (r: Row): number => roundPoints(Object.entries(r.marks ?? {}).reduce((sum, [item, m]) => sum + (counted.has(item) ? m.points : 0), 0));
        const [first] = own as [Row];
        const counting = countingOf(
          own.map((r) => ({
            id: r.attempt,
            person: r.member,
            points: keptOf(pointsOf(r), keptBy(r.rules, { ...r, submitted_at: r.at })),
            at: Date.parse(r.at),
          })),
          first.rules.counts,
        );
        return {
          quiz: { id: delivery, set: first.set, title: first.title, at: new Date(first.at).toISOString(), maximum: maximumOf(items) },
          counting,
        };
      }),
    );
    return {
      quizzes: columns.map((c) => c.quiz),
      people: members.map((m) => ({ ...m, points: columns.map((c) => c.counting.get(m.id)?.points ?? null) })),
    };
  }
}
