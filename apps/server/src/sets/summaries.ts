/** What lists say of sets, from rows that are kept with them. */
import { type MemberRole, memberRoles } from '@zakuska/core';
import { Injectable } from '@nestjs/common';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { roleOnSet, seesSet, setsOf } from '../accounts/access.js';
import { gone } from '../platform/problem.js';
import { sql } from '../platform/sql.js';
import { Documents, type Summary, summaryOf } from './documents.js';

export class SetSummary {
  @ApiProperty() id!: string;
  @ApiProperty() title!: string;
  @ApiProperty({ type: [String], description: 'Names of the folders that it lies in, from the top.' }) path!: string[];
  @ApiPropertyOptional({ description: 'The folder it lies in.' }) folder?: string;
  @ApiProperty({ enum: memberRoles, description: 'What the person may do with it.' }) role!: MemberRole;
  @ApiProperty({ description: 'Only those with whom it is shared see it.' }) closed!: boolean;
  @ApiProperty() updatedAt!: string;
  @ApiPropertyOptional({ description: 'When the person opened it last.' }) openedAt?: string;
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

type SummaryRow = Pick<SetSummary, 'id' | 'title' | 'path' | 'role' | 'closed' | 'deliveries' | 'responses' | 'receipts'> & {
  folder_id: string | null;
  updated_at: Date;
  opened_at: Date | null;
  summary: Summary | null;
  draft_length: number;
  place: string;
};

@Injectable()
export class Summaries {
  constructor(
    private readonly em: EntityManager,
    private readonly documents: Documents,
  ) {}

  /**
   * What is said of one set.
   * @param me the account that asks
   * @throws Problem 404 where there is none, or not for them
   */
  async one(id: string, me: string): Promise<SetSummary> {
    const [found] = await this.list(me, { where: 's.id = ?', params: [id], order: 's.id', limit: 1 });
    if (!found) throw gone('set');
    return found;
  }

  /**
   * What lists say of the sets that an account may see: one statement that reads no items.
   * @param where a condition on `s` (quiz_set), `f` (its folder) and `v` (when the account opened it)
   */
  async list(me: string, { where, params, order, limit }: { where: string; params: unknown[]; order: string; limit: number }): Promise<SetSummary[]> {
    const em = this.em.fork();
    const rows = await sql<SummaryRow>(
      em,
      `with page as (
         select s.id, s.title, coalesce(f.names, '{}') as path, s.folder_id, ${roleOnSet('?')} as role, s.restricted or coalesce(f.closed, false) as closed,
           s.updated_at, v.at as opened_at, s.summary, s.draft_length
         from ${setsOf('?')}
           left join set_visit v on v.set_id = s.id and v.account_id = m.account_id
         where s.deleted_at is null and ${seesSet('?')} and ${where} order by ${order} limit ${limit}),
       sets as (select p.*, row_number() over () as place from page p)
       select s.*, coalesce(d.n, 0)::int as deliveries, (coalesce(d.responses, 0) + coalesce(r.n, 0))::int as responses, coalesce(p.n, 0)::int as receipts
       from sets s
       left join (select set_id, count(*) as n, sum(responses) as responses from delivery where set_id in (select id from sets) group by set_id) d on d.set_id = s.id
       left join (select set_id, count(*) as n from pulled_response join placement on placement.id = placement_id where set_id in (select id from sets) group by set_id) r on r.set_id = s.id
       left join (select set_id, count(*) as n from push where state = 'done' and set_id in (select id from sets) group by set_id) p on p.set_id = s.id
       order by s.place`,
      [me, me, me, ...params],
    );
    const out: SetSummary[] = [];
    for (const { summary, updated_at, opened_at, draft_length, folder_id, place: _, ...row } of rows)
      out.push({
        versions: [],
        ...row,
        ...(summary ?? (await this.summarise(row.id))),
        ...(folder_id && { folder: folder_id }),
        updatedAt: new Date(updated_at).toISOString(),
        ...(opened_at && { openedAt: new Date(opened_at).toISOString() }),
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
