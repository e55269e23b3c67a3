/**
 * What teachers decide once answers are in, of a quiz given here or of a placement at a service. Decisions are kept with who made them;
 * one that was taken back stays in the list and counts no more. Each decision over all answers raises the number of its source, and
 * answers that were marked with a lower one are marked anew: at once, and again by whoever reads results, so that no answer that came
 * in between is missed. A mark by hand makes only its own answer one of those.
 */
import { Injectable } from '@nestjs/common';
import { EntityManager } from '@mikro-orm/postgresql';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import {
  type Decision,
  decision as decisionSchema,
  decisionProblem,
  handsOf,
  judgedMarks,
  type Judging,
  judgingOf,
  newId,
  type QuizSet,
  type Response,
  sanitiseFields,
} from '@zakuska/core';
import { wasDoneWithSet } from '../accounts/audit.js';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsObject, IsUUID } from 'class-validator';
import { LRUCache } from 'lru-cache';
import { gone, Problem } from '../platform/problem.js';
import { ofCore } from '../platform/schemas.js';
import { DUE_AGAIN } from '../platform/dueRows.js';
import { sql } from '../platform/sql.js';

/** Where answers came from. */
export interface AnswersOf {
  kind: 'delivery' | 'placement';
  id: string;
  /** The set as it was sent. */
  set: QuizSet;
}
/** How the rows with answers of a source are called. */
const ROWS = {
  delivery: { table: 'attempt', key: 'id::text', owner: 'delivery_id', there: 'submitted_at is not null' },
  placement: { table: 'pulled_response', key: 'remote', owner: 'placement_id', there: 'true' },
} as const;
/** Answers are marked anew so many at a time, so that no transaction is long. */
const AT_ONCE = 200;
/** Marked anew, whatever the number of the source. */
const STALE = -1;
const MOST_KEPT = 50;

class NamedTime {
  @ApiProperty() at!: string;
  @ApiProperty({ description: 'Empty where the account is gone.' }) by!: string;
}
export class DecisionView extends NamedTime {
  @ApiProperty() id!: string;
  @ApiProperty(ofCore('Decision')) decision!: Decision;
  @ApiPropertyOptional({ type: NamedTime, description: 'Who took it back, and when: it counts no more.' }) takenBack?: NamedTime;
}
export class DecisionsBody {
  @ApiProperty({ type: 'array', items: ofCore('Decision') as object, description: 'In the order in which they hold.' })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(500)
  @IsObject({ each: true })
  decisions!: Decision[];
}
export class TakeBackBody {
  @ApiProperty({ type: [String], description: 'Ids of decisions.' })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(500)
  @IsUUID(undefined, { each: true })
  ids!: string[];
}

interface Row {
  id: string;
  data: Decision;
  at: string;
  by: string | null;
  taken_back_at: string | null;
  taken_back_by: string | null;
}

@Injectable()
export class Marking {
  /** By source and number: the decisions never change; the set of a placement may, with the next push. */
  private readonly kept = new LRUCache<string, Decision[]>({ max: MOST_KEPT });
  constructor(private readonly em: EntityManager) {}

  /** The decisions of a source in the order in which they hold, also those that were taken back. @param ids some of them; all where it is not said */
  async decisions(em: EntityManager, { kind, id }: AnswersOf, ids?: readonly string[]): Promise<DecisionView[]> {
    const rows = await sql<Row>(
      em,
      `select d.id, d.data, d.at, a.name as by, d.taken_back_at, b.name as taken_back_by from decision d
       left join account a on a.id = d.account_id left join account b on b.id = d.taken_back_by where d.${ROWS[kind].owner} = ?${ids ? ' and d.id in (select x::uuid from jsonb_array_elements_text(?::jsonb) x)' : ''} order by d.place`,
      [id, ...(ids ? [JSON.stringify(ids)] : [])],
    );
    return rows.map((r) => ({
      id: r.id,
      decision: r.data,
      at: isoOf(r.at),
      by: r.by ?? '',
      ...(r.taken_back_at && { takenBack: { at: isoOf(r.taken_back_at), by: r.taken_back_by ?? '' } }),
    }));
  }

  /** The decisions over all answers, laid over the set. @param number of the source */
  async judging(of: AnswersOf, number: number, em = this.em.fork()): Promise<Judging> {
    const name = `${of.id} ${number}`;
    const decisions = number === 0 ? [] : (this.kept.get(name) ?? (await holding(em, of, 'attempt is null')));
    if (number !== 0) this.kept.set(name, decisions);
    return judgingOf(of.set, decisions);
  }

  /** The set with the keys that count now. */
  async judgedSet(of: AnswersOf): Promise<QuizSet> {
    const em = this.em.fork();
    return (await this.judging(of, await numberOf(em, of), em)).set;
  }

  /** Takes decisions, and marks anew. @throws Problem 422 where one does not fit what was sent, or names an answer that is not there */
  async take(of: AnswersOf, decisions: readonly unknown[], account: string): Promise<DecisionView[]> {
    const read = decisions.map((d) => {
      const parsed = decisionSchema.safeParse(sanitiseFields(d));
      if (!parsed.success) throw new Problem(400, 'decision-invalid', 'A decision has a shape that is not known here. Reload the page.');
      const problem = decisionProblem(of.set, parsed.data);
      if (problem) throw new Problem(422, 'decision-does-not-fit', problem, { item: parsed.data.item });
      return parsed.data;
    });
    const rows = read.map((data) => ({ id: newId(), attempt: data.type === 'hand' ? data.attempt : null, data }));
    const attempts = rows.flatMap((r) => r.attempt ?? []);
    const { owner } = ROWS[of.kind];
    await this.em.fork().transactional(async (em) => {
      await this.lock(em, of);
      await this.makeStale(em, of, attempts);
      await sql(
        em,
        `insert into decision (id, ${owner}, attempt, data, account_id)
         select x.id, ?, x.attempt, x.data, ? from rows from (jsonb_to_recordset(?::jsonb) as (id uuid, attempt text, data jsonb)) with ordinality as x(id, attempt, data, n) order by x.n`,
        [of.id, account, JSON.stringify(rows)],
      );
      const forAll = rows.filter((r) => !r.attempt);
      if (!forAll.length) return;
      const [source] = await sql<{ set: string }>(em, `update ${of.kind} set judging = judging + 1 where id = ? returning set_id as set`, [of.id]);
      const kinds = [...new Set(forAll.map((r) => r.data.type))].join(', ');
      if (source) await wasDoneWithSet(em, source.set, { account, what: 'key decided after answers', about: { decisions: `${forAll.length} (${kinds})` } });
    });
    await this.markAnew(of);
    return this.decisions(
      this.em.fork(),
      of,
      rows.map((r) => r.id),
    );
  }

  /** Takes decisions back, and marks anew. One that was taken back before stays as it is. */
  async takeBack(of: AnswersOf, ids: readonly string[], account: string): Promise<void> {
    await this.em.fork().transactional(async (em) => {
      await this.lock(em, of);
      const back = await sql<{ attempt: string | null }>(
        em,
        `update decision set taken_back_at = now(), taken_back_by = ?
         where ${ROWS[of.kind].owner} = ? and taken_back_at is null and id in (select x::uuid from jsonb_array_elements_text(?::jsonb) x) returning attempt`,
        [account, of.id, JSON.stringify(ids)],
      );
      await this.makeStale(
        em,
        of,
        back.flatMap((b) => b.attempt ?? []),
      );
      if (back.some((b) => b.attempt === null)) await sql(em, `update ${of.kind} set judging = judging + 1 where id = ?`, [of.id]);
    });
    await this.markAnew(of);
  }

  /** Marks the answers that were marked before the last decision: the items that decisions were ever about; of others the marks stay. */
  async markAnew(of: AnswersOf): Promise<void> {
    const { table, key, owner, there } = ROWS[of.kind];
    // whoever watches or reads results asks again and again, and there is seldom one
    const [stale] = await sql(
      this.em.fork(),
      `select 1 from ${of.kind} s join ${table} a on a.${owner} = s.id and a.judging <> s.judging where s.id = ? and ${there} limit 1`,
      [of.id],
    );
    if (!stale) return;
    for (let marked = AT_ONCE; marked === AT_ONCE; )
      marked = await this.em.fork().transactional(async (em) => {
        const number = await numberOf(em, of);
        const rows = await sql<{ key: string; responses: Record<string, Response> }>(
          em,
          `select ${key} as key, responses from ${table} where ${owner} = ? and ${there} and judging <> ? order by 1 limit ${AT_ONCE} for update`,
          [of.id, number],
        );
        if (!rows.length) return 0;
        const judging = await this.about(em, of, await this.judging(of, number, em));
        const byHand = await holding(em, of, 'attempt in (select x from jsonb_array_elements_text(?::jsonb) x)', [JSON.stringify(rows.map((r) => r.key))]);
        const hands = handsOf(byHand);
        const anew = rows.map((r) => ({ key: r.key, marks: judgedMarks(judging, r.responses, hands.get(r.key)) }));
        const update = `update ${table} a set marks = n.marks, judging = ?,
            points = (select coalesce(round(sum((m.value->>'points')::numeric), 4), 0)::float8 from jsonb_each(n.marks) m)
          from (select o.${owner} as owner, o.${key} as key, o.points as before, (o.marks - array(select jsonb_array_elements_text(?::jsonb))) || x.marks as marks
                from jsonb_to_recordset(?::jsonb) as x(key text, marks jsonb) join ${table} o on o.${owner} = ? and o.${key} = x.key) n
          where a.${owner} = n.owner and a.${key} = n.key`;
        const params = [number, JSON.stringify([...judging.leftOut]), JSON.stringify(anew), of.id];
        if (of.kind === 'delivery') {
          // a course hears of scores that are others now
          await sql(
            em,
            `with done as (${update} returning a.id, a.launch_id, n.before is distinct from a.points as other)
             insert into lti_score (attempt_id) select done.id from done join lti_launch l on l.id = done.launch_id where done.other and l.scores is not null
             on conflict (attempt_id) do update set ${DUE_AGAIN}`,
            params,
          );
          // the figures of the bank are counted anew
          await sql(em, 'update delivery set counted = -1 where id = ?', [of.id]);
        } else await sql(em, update, params);
        return rows.length;
      });
  }
  /** The same, of the items only that a decision was ever about: also of one that was taken back. */
  private async about(em: EntityManager, of: AnswersOf, judging: Judging): Promise<Judging> {
    const rows = await sql<{ item: string }>(em, `select distinct data->>'item' as item from decision where ${ROWS[of.kind].owner} = ?`, [of.id]);
    const ids = new Set(rows.map((r) => r.item));
    return { ...judging, set: { ...judging.set, items: judging.set.items.filter((i) => ids.has(i.id)) } };
  }

  /** Of two who decide at once the second waits for the first. @throws Problem 404 where the source is gone */
  private async lock(em: EntityManager, { kind, id }: AnswersOf): Promise<void> {
    const [there] = await sql(em, `select id from ${kind} where id = ? for update`, [id]);
    if (!there) throw gone(kind);
  }
  /** @throws Problem 422 where one of the answers is not there */
  private async makeStale(em: EntityManager, { kind, id }: AnswersOf, attempts: readonly string[]): Promise<void> {
    if (!attempts.length) return;
    const { table, key, owner, there } = ROWS[kind];
    const found = await sql(
      em,
      `update ${table} set judging = ${STALE} where ${owner} = ? and ${there} and ${key} in (select x from jsonb_array_elements_text(?::jsonb) x) returning 1`,
      [id, JSON.stringify(attempts)],
    );
    if (found.length < new Set(attempts).size) throw new Problem(422, 'answer-gone', 'One of these answers is not there any more. Reload the page.');
  }
}

const isoOf = (at: string): string => new Date(at).toISOString();

/** The number of a source: how many decisions over all its answers were taken or taken back. */
async function numberOf(em: EntityManager, { kind, id }: AnswersOf): Promise<number> {
  const [row] = await sql<{ judging: number }>(em, `select judging from ${kind} where id = ?`, [id]);
  return row?.judging ?? 0;
}
/** The decisions that hold, in order. */
const holding = async (em: EntityManager, { kind, id }: AnswersOf, which: string, params: readonly unknown[] = []): Promise<Decision[]> =>
  (
    await sql<{ data: Decision }>(em, `select data from decision where ${ROWS[kind].owner} = ? and taken_back_at is null and ${which} order by place`, [
      id,
      ...params,
    ])
  ).map((r) => r.data);
