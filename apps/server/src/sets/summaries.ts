/** What lists say of sets, from rows that are kept with them. */
import { Injectable } from '@nestjs/common';
import { ApiProperty } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { gone } from '../platform/problem.js';
import { sql } from '../platform/sql.js';
import { Documents, type Summary, summaryOf } from './documents.js';

export class SetSummary {
  @ApiProperty() id!: string;
  @ApiProperty() title!: string;
  @ApiProperty() course!: string;
  @ApiProperty() updatedAt!: string;
  @ApiProperty() items!: number;
  @ApiProperty() checked!: number;
  @ApiProperty() leftOut!: number;
  @ApiProperty() withoutKey!: number;
  @ApiProperty() points!: number;
  @ApiProperty() draftLength!: number;
  @ApiProperty() deliveries!: number;
  @ApiProperty() receipts!: number;
  @ApiProperty() responses!: number;
  @ApiProperty({ type: [String], description: 'Names of the versions that are drawn from it.' }) versions!: string[];
}

type SummaryRow = Pick<SetSummary, 'id' | 'title' | 'course' | 'deliveries' | 'responses' | 'receipts'> & {
  updated_at: Date;
  summary: Summary | null;
  draft_length: number;
};

@Injectable()
export class Summaries {
  constructor(
    private readonly em: EntityManager,
    private readonly documents: Documents,
  ) {}

  /**
   * What is said of one set.
   * @throws Problem 404 where there is none
   */
  async one(id: string): Promise<SetSummary> {
    const [found] = await this.list('s.id = ?', [id]);
    if (!found) throw gone('set');
    return found;
  }

  /**
   * What lists say of sets, the last changed first: one statement that reads no items.
   * @param where a condition on `quiz_set s`, which may end with an order and a limit
   */
  async list(where: string, params: unknown[]): Promise<SetSummary[]> {
    const em = this.em.fork();
    const rows = await sql<SummaryRow>(
      em,
      `with sets as (select s.id, s.title, s.course, s.updated_at, s.summary, s.draft_length from quiz_set s where ${where})
       select s.*, coalesce(d.n, 0)::int as deliveries, coalesce(d.responses, 0)::int as responses, coalesce(p.n, 0)::int as receipts
       from sets s
       left join (select set_id, count(*) as n, sum(responses) as responses from delivery where set_id in (select id from sets) group by set_id) d on d.set_id = s.id
       left join (select set_id, count(*) as n from push where state = 'done' and set_id in (select id from sets) group by set_id) p on p.set_id = s.id
       order by s.updated_at desc, s.id desc`,
      params,
    );
    const out: SetSummary[] = [];
    for (const { summary, updated_at, draft_length, ...row } of rows)
      out.push({
        versions: [],
        ...row,
        ...(summary ?? (await this.summarise(row.id))),
        updatedAt: new Date(updated_at).toISOString(),
        draftLength: draft_length,
      });
    return out;
  }
  /** Sums up a set from before summaries were kept. */
  private async summarise(id: string): Promise<Summary> {
    const em = this.em.fork();
    const { version, document } = await this.documents.read(em, id);
    const summary = summaryOf(document);
    await sql(em, 'update quiz_set set summary = ?::jsonb where id = ? and version = ?', [JSON.stringify(summary), id, version]);
    return summary;
  }
}
