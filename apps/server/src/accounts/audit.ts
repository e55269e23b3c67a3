/** What happened that somebody may have to answer for: who signed in, who was given what role, what went out, what was deleted. Kept for thirteen months. */
import { Controller, Get, Header, Query } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { IsIn, IsISO8601, IsOptional, IsString, IsUUID, Matches, MaxLength } from 'class-validator';
import { type AuditKind, auditKinds } from '@zakuska/core';
import Papa from 'papaparse';
import { isoOf, sql } from '../platform/sql.js';
import { Access, Gives, WorkspaceId } from './access.js';

/** The longest that events are kept. */
export const AUDIT_MONTHS = 13;
const PAGE = 100;
const MOST_IN_FILE = 50_000;

export interface AuditFacts {
  workspace?: string | null;
  /** Who did it; null where it was nobody signed in. */
  account?: string | null;
  what: AuditKind;
  /** Of what: titles, addresses, roles; short texts that a person reads. */
  about?: Record<string, string>;
}
/** Writes down what is done, within the transaction that does it. */
export async function wasDone(em: EntityManager, { workspace = null, account = null, what, about = {} }: AuditFacts): Promise<void> {
  await sql(em, 'insert into audit_event (workspace_id, account_id, what, about) values (?, ?, ?, ?::jsonb)', [
    workspace,
    account,
    what,
    JSON.stringify(about),
  ]);
}
/** Writes down what is done with a set, with its title. */
export async function wasDoneWithSet(em: EntityManager, set: string, facts: Omit<AuditFacts, 'workspace'>): Promise<void> {
  await sql(
    em,
    `insert into audit_event (workspace_id, account_id, what, about)
     select s.workspace_id, ?::uuid, ?, jsonb_build_object('set', s.title) || ?::jsonb from quiz_set s where s.id = ?`,
    [facts.account ?? null, facts.what, JSON.stringify(facts.about ?? {}), set],
  );
}

class AuditView {
  @ApiProperty() id!: string;
  @ApiProperty() at!: string;
  @ApiProperty({ description: 'Who did it; empty for an account that is gone, or where nobody was signed in.' }) by!: string;
  @ApiProperty({ enum: auditKinds, enumName: 'AuditKind' }) what!: AuditKind;
  @ApiProperty({ type: 'object', additionalProperties: { type: 'string' } }) about!: Record<string, string>;
}
class AuditPage {
  @ApiProperty({ type: [AuditView] }) events!: AuditView[];
  @ApiPropertyOptional({ description: 'Given as `before` for those before.' }) next?: string;
}
class AuditQuery {
  @ApiPropertyOptional({ enum: auditKinds, enumName: 'AuditKind' }) @IsOptional() @IsIn(auditKinds) what?: AuditKind;
  @ApiPropertyOptional({ description: 'Of this person alone.' }) @IsOptional() @IsUUID() account?: string;
  @ApiPropertyOptional({ description: 'Words of what it is about.' }) @IsOptional() @IsString() @MaxLength(100) words?: string;
  @ApiPropertyOptional({ description: 'First day.' }) @IsOptional() @IsISO8601() from?: string;
  @ApiPropertyOptional({ description: 'Last day.' }) @IsOptional() @IsISO8601() to?: string;
  @ApiPropertyOptional() @IsOptional() @Matches(/^\d{1,18}$/) before?: string;
}

/** Events of a workspace, and sign-ins and such of its members, the last first. */
async function eventsOf(em: EntityManager, workspace: string, q: AuditQuery, most: number): Promise<AuditView[]> {
  const where: [string, unknown[]][] = [
    ['(e.workspace_id = ? or e.workspace_id is null and e.account_id in (select account_id from membership where workspace_id = ?))', [workspace, workspace]],
  ];
  if (q.what) where.push(['e.what = ?', [q.what]]);
  if (q.account) where.push(['e.account_id = ?', [q.account]]);
  if (q.words?.trim()) where.push(['exists (select 1 from jsonb_each_text(e.about) x where position(lower(?) in lower(x.value)) > 0)', [q.words.trim()]]);
  if (q.from) where.push(['e.at >= ?::timestamptz', [q.from]]);
  if (q.to) where.push([`e.at < ?::timestamptz + interval '1 day'`, [q.to]]);
  if (q.before) where.push(['e.id < ?', [q.before]]);
  return sql<AuditView>(
    em,
    `select e.id::text, ${isoOf('e.at')} as at, coalesce(a.name, '') as by, e.what, e.about
     from audit_event e left join account a on a.id = e.account_id
     where ${where.map(([w]) => w).join(' and ')} order by e.id desc limit ${most}`,
    where.flatMap(([, values]) => values),
  );
}

@ApiTags('administration')
@Controller('workspaces/:workspace')
export class AuditController {
  constructor(private readonly em: EntityManager) {}

  @Get('audit')
  @Gives(AuditPage)
  @ApiParam({ name: 'workspace' })
  @Access('administrator')
  async list(@WorkspaceId() workspace: string, @Query() query: AuditQuery): Promise<AuditPage> {
    const events = await eventsOf(this.em.fork(), workspace, query, PAGE + 1);
    const next = events.length > PAGE ? events[PAGE - 1]?.id : undefined;
    return { events: events.slice(0, PAGE), ...(next && { next }) };
  }

  /** The same as a table (RFC 4180). */
  @Get('audit.csv')
  @Header('content-type', 'text/csv; charset=utf-8')
  @ApiParam({ name: 'workspace' })
  @Access('administrator')
  async csv(@WorkspaceId() workspace: string, @Query() query: AuditQuery): Promise<string> {
    const events = await eventsOf(this.em.fork(), workspace, query, MOST_IN_FILE);
    const rows = events.map((e) => [
      e.at,
      e.by,
      e.what,
      Object.entries(e.about)
        .map(([k, v]) => `${k}: ${v}`)
        .join('; '),
    ]);
    return `${Papa.unparse([['at', 'by', 'what', 'about'], ...rows], { escapeFormulae: true })}\r\n`;
  }
}
