import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put, Query } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiPropertyOptional, ApiQuery, ApiTags } from '@nestjs/swagger';
import { EntityManager, LockMode } from '@mikro-orm/postgresql';
import {
  apply,
  emptyDocument,
  keyLooks,
  operation as operationSchema,
  OperationError,
  rebase,
  sanitiseFields,
  storable,
  type Operation,
  type SetDocument,
} from '@zakuska/core';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  isUUID,
  IsUUID,
  Length,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { Access, Me, MyRole, type Signed, WorkspaceId, Gives } from '../accounts/access.js';
import { type Role, roles } from '../accounts/entities.js';
import { BIN_DAYS } from './bin.js';
import { gone, Problem } from '../platform/problem.js';
import { sql } from '../platform/sql.js';
import { Documents, type Summary, summaryOf, type Versioned } from './documents.js';
import { OperationRecord, SetRecord, type DraftState } from './entities.js';

/** Sets of a page of the list. */
const PAGE = 200;
/** Operations since the sender's base that are looked at; whoever is farther behind reads the set anew. */
const MOST_SINCE = 500;
const KEYS_FROM = ['none', ...Object.keys(keyLooks)];
const anyObject = { type: 'object', additionalProperties: true } as const;

class CreateSetBody {
  @ApiProperty() @IsString() @Length(1, 300) title!: string;
  @ApiPropertyOptional() @IsOptional() @IsString() @MaxLength(200) course?: string;
}
class OverrideBody {
  @ApiProperty() @IsInt() @Min(0) line!: number;
  @ApiProperty() @IsString() @MaxLength(20) role!: string;
}
class DraftBody {
  @ApiProperty({ description: 'The draft version that the text is based on.' }) @IsInt() @Min(0) base!: number;
  @ApiProperty() @IsString() @MaxLength(10_000_000) text!: string;
  @ApiProperty({ type: [OverrideBody] }) @IsArray() @ArrayMaxSize(20_000) @ValidateNested({ each: true }) @Type(() => OverrideBody) overrides!: OverrideBody[];
  @ApiPropertyOptional({ enum: KEYS_FROM, description: 'The look of options that says the key, once a person decided.' })
  @IsOptional()
  @IsIn(KEYS_FROM)
  keysFrom?: string;
}
class SentOperation {
  @ApiProperty() @IsUUID() id!: string;
  @ApiProperty({ ...anyObject, description: 'An operation of the core.' }) @IsObject() operation!: Operation;
}
class OperationsBody {
  @ApiProperty({ description: 'The version that the operations are based on.' }) @IsInt() @Min(0) base!: number;
  @ApiProperty({ type: [SentOperation] })
  @IsArray()
  @ArrayMaxSize(1000)
  @ValidateNested({ each: true })
  @Type(() => SentOperation)
  operations!: SentOperation[];
  @ApiPropertyOptional({
    description: 'Where the base is older than the set: go on top of what others did, if nothing of it is touched. The answer then says `merged`.',
  })
  @IsOptional()
  @IsBoolean()
  merge?: boolean;
}
class VersionView {
  @ApiProperty() version!: number;
  @ApiPropertyOptional({ description: 'The operations went on top of others that the sender does not have yet.' }) merged?: boolean;
}
class SetSummary {
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
}
class SetView extends SetSummary {
  @ApiProperty() version!: number;
  @ApiProperty() draftVersion!: number;
  @ApiProperty({ enum: roles }) role!: Role;
  @ApiProperty() workspaceId!: string;
  @ApiProperty({ ...anyObject, description: 'The set with its reviews (SetDocument of the core).' }) document!: SetDocument;
  @ApiProperty(anyObject) draft!: DraftState;
}
class HistoryEntry {
  @ApiProperty() id!: string;
  @ApiProperty() version!: number;
  @ApiProperty() by!: string;
  @ApiProperty() at!: string;
  @ApiProperty(anyObject) operation!: Operation;
}

class BinnedView {
  @ApiProperty() id!: string;
  @ApiProperty() title!: string;
  @ApiProperty() course!: string;
  @ApiProperty({ description: 'Answers of learners that go with it.' }) responses!: number;
  @ApiProperty() deletedAt!: string;
  @ApiProperty({ description: 'When it is deleted for good.' }) goesAt!: string;
}

type SummaryRow = Pick<SetSummary, 'id' | 'title' | 'course' | 'deliveries' | 'responses' | 'receipts'> & {
  updated_at: Date;
  summary: Summary | null;
  draft_length: number;
};

@ApiTags('sets')
@Controller()
export class SetsController {
  constructor(
    private readonly em: EntityManager,
    private readonly documents: Documents,
  ) {}

  /** At most 200 sets, the last changed first; `after` goes on behind a set. */
  @Get('workspaces/:workspace/sets')
  @Gives([SetSummary])
  @ApiParam({ name: 'workspace' })
  @ApiQuery({ name: 'after', required: false, description: 'Only sets behind this one, by its id.' })
  @Access('reader')
  async list(@WorkspaceId() workspaceId: string, @Query('after') after?: string): Promise<SetSummary[]> {
    if (after !== undefined && !isUUID(after)) throw new Problem(400, 'cursor-invalid', 'The list goes on after the id of a set.');
    const on = after ? ' and (s.updated_at, s.id) < (select updated_at, id from quiz_set where id = ?)' : '';
    return this.summaries(`s.workspace_id = ? and s.deleted_at is null${on} order by s.updated_at desc, s.id desc limit ${PAGE}`, [
      workspaceId,
      ...(after ? [after] : []),
    ]);
  }

  @Post('workspaces/:workspace/sets')
  @Gives(SetSummary)
  @ApiParam({ name: 'workspace' })
  @Access('editor')
  async create(@WorkspaceId() workspaceId: string, @Body() body: CreateSetBody): Promise<SetSummary> {
    const title = storable(body.title).trim() || 'Untitled set';
    const course = storable(body.course ?? '').trim();
    const id = await this.em.fork().transactional((em) => this.documents.create(em, { workspace: workspaceId, course, document: emptyDocument(title) }));
    return this.summary(id);
  }

  @Get('sets/:set')
  @Gives(SetView)
  @Access('reader')
  async get(@Param('set') id: string, @MyRole() role: Role): Promise<SetView> {
    const em = this.em.fork();
    const { version, document } = await this.documents.read(em, id);
    const r = await em.findOne(SetRecord, { id }, { populate: ['draft'] });
    if (!r) throw gone('set');
    return { ...(await this.summary(id)), version, draftVersion: r.draftVersion, role, workspaceId: r.workspace.id, document, draft: r.draft };
  }

  /** Puts a set into the bin, from which it can be taken for thirty days. Its quiz is closed meanwhile. */
  @Delete('sets/:set')
  @HttpCode(204)
  @Access('owner')
  async remove(@Param('set') id: string): Promise<void> {
    await this.em.fork().nativeUpdate(SetRecord, { id }, { deletedAt: new Date() });
  }

  @Get('workspaces/:workspace/bin')
  @Gives([BinnedView])
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async bin(@WorkspaceId() workspaceId: string): Promise<BinnedView[]> {
    const rows = await sql<Omit<BinnedView, 'deletedAt' | 'goesAt'> & { deleted_at: Date }>(
      this.em.fork(),
      `select s.id, s.title, s.course, s.deleted_at,
         (select count(*)::int from attempt a join delivery d on d.id = a.delivery_id where d.set_id = s.id and a.submitted_at is not null) as responses
       from quiz_set s where s.workspace_id = ? and s.deleted_at is not null order by s.deleted_at desc`,
      [workspaceId],
    );
    return rows.map(({ deleted_at, ...row }) => {
      const deleted = new Date(deleted_at).getTime();
      return { ...row, deletedAt: new Date(deleted).toISOString(), goesAt: new Date(deleted + BIN_DAYS * 86_400_000).toISOString() };
    });
  }

  @Post('bin/:binned/back')
  @HttpCode(204)
  @Access('owner')
  async takeBack(@Param('binned') id: string): Promise<void> {
    await this.em.fork().nativeUpdate(SetRecord, { id }, { deletedAt: null });
  }

  /** Deletes a set of the bin for good, with its history, deliveries, responses and receipts. */
  @Delete('bin/:binned')
  @HttpCode(204)
  @Access('owner')
  async purge(@Param('binned') id: string): Promise<void> {
    await this.em.fork().nativeDelete(SetRecord, { id, deletedAt: { $ne: null } });
  }

  @Put('sets/:set/draft')
  @Gives(VersionView)
  @Access('editor')
  async saveDraft(@Param('set') id: string, @Body() body: DraftBody): Promise<VersionView> {
    const text = storable(body.text);
    return this.em.fork().transactional(async (em) => {
      const r = await em.findOne(SetRecord, { id }, { lockMode: LockMode.PESSIMISTIC_WRITE, populate: ['draft'] });
      if (!r) throw gone('set');
      const draft: DraftState = { text, overrides: body.overrides, ...(body.keysFrom && { keysFrom: body.keysFrom }) };
      const same = r.draft.text === text && r.draft.keysFrom === draft.keysFrom && JSON.stringify(r.draft.overrides) === JSON.stringify(body.overrides);
      if (same) return { version: r.draftVersion };
      if (r.draftVersion !== body.base)
        throw new Problem(409, 'stale-draft', 'Somebody else changed this draft meanwhile.', { version: r.draftVersion, draft: r.draft });
      r.draft = draft;
      r.draftVersion++;
      r.updatedAt = new Date();
      return { version: r.draftVersion };
    });
  }

  /** Applies operations in order, all or none. Sending the same ids again changes nothing. */
  @Post('sets/:set/operations')
  @HttpCode(200)
  @Gives(VersionView)
  @Access('editor')
  async operate(@Param('set') id: string, @Body() body: OperationsBody, @Me() me: Signed): Promise<VersionView> {
    const sent = body.operations.map((o, i) => {
      const parsed = operationSchema.safeParse(o.operation);
      if (!parsed.success)
        throw new Problem(
          400,
          'operation-invalid',
          `Operation ${i + 1}: ${parsed.error.issues[0]?.path.join('.') ?? ''} ${parsed.error.issues[0]?.message ?? 'is not valid'}`,
          { id: o.id },
        );
      return { id: o.id, operation: sanitiseFields(parsed.data) };
    });
    const { version, document, merged } = await this.em.fork().transactional(async (em) => {
      const before = await this.documents.lock(em, id);
      const fresh = await this.unknown(em, id, sent);
      const merged = body.base !== before.version && (await this.onTop(em, id, before, body, fresh));
      if (!fresh.length) return { ...before, merged };
      let { version, document } = before;
      const records: object[] = [];
      for (const { id: operationId, operation: asSent } of fresh) {
        try {
          const operation = await signedBy(em, id, asSent, me.account.name);
          const done = apply(document, operation);
          document = done.document;
          version++;
          records.push({ id: operationId, version, operation, inverse: done.inverse });
        } catch (e) {
          if (e instanceof OperationError) throw new Problem(422, e.code, e.message, { id: operationId });
          throw e;
        }
      }
      await sql(
        em,
        `insert into set_operation (id, set_id, version, account_id, operation, inverse, at)
         select (x->>'id')::uuid, ?, (x->>'version')::int, ?, x->'operation', x->'inverse', now() from jsonb_array_elements(?::jsonb) x`,
        [id, me.account.id, JSON.stringify(records)],
      );
      await this.documents.write(em, id, before.document, { version, document });
      return { version, document, merged };
    });
    this.documents.keep(id, { version, document });
    return { version, ...(merged && { merged }) };
  }

  /** The operations that the server has not seen yet. */
  private async unknown(em: EntityManager, set: string, sent: SentOperation[]): Promise<SentOperation[]> {
    const there = await sql<{ id: string; set_id: string }>(
      em,
      'select id, set_id from set_operation where id in (select x::uuid from jsonb_array_elements_text(?::jsonb) x)',
      [JSON.stringify(sent.map((s) => s.id))],
    );
    const foreign = there.find((o) => o.set_id !== set);
    if (foreign)
      throw new Problem(422, 'operation-elsewhere', 'An operation with this id was made on another set. Send it with an id of its own.', { id: foreign.id });
    const known = new Set(there.map((o) => o.id));
    return sent.filter((s) => !known.has(s.id.toLowerCase()));
  }

  /**
   * Whether operations whose base is not the set as it is can go on top of what others did since; the sender's own are no reason against it.
   * @throws Problem 409 with what was done since, where they cannot or the sender did not ask for it
   */
  private async onTop(
    em: EntityManager,
    set: string,
    now: Versioned,
    { base, merge, operations: sent }: OperationsBody,
    fresh: SentOperation[],
  ): Promise<boolean> {
    const since = await sql<{ id: string; version: number; operation: Operation }>(
      em,
      'select id, version, operation from set_operation where set_id = ? and version > ? order by version limit ?',
      [set, base, MOST_SINCE],
    );
    const theirs = since.filter((o) => !sent.some((s) => s.id.toLowerCase() === o.id));
    if (!theirs.length && base <= now.version) return false;
    // nothing is new: the answer to the first sending was lost, and others went on since
    if (!fresh.length) return true;
    const mayGoOn = merge && base <= now.version && since.length < MOST_SINCE;
    const others = theirs.map((o) => o.operation);
    if (mayGoOn && !rebase(now.document, fresh, others).conflicts.length) return true;
    throw new Problem(409, 'stale', 'This set was changed meanwhile.', { version: now.version, operations: since });
  }

  private async summary(id: string): Promise<SetSummary> {
    const [found] = await this.summaries('s.id = ?', [id]);
    if (!found) throw gone('set');
    return found;
  }

  /** What lists say of sets, the last changed first: one statement that reads no items. */
  private async summaries(where: string, params: unknown[]): Promise<SetSummary[]> {
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
      out.push({ ...row, ...(summary ?? (await this.summarise(row.id))), updatedAt: new Date(updated_at).toISOString(), draftLength: draft_length });
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

  @Get('sets/:set/operations')
  @Gives([HistoryEntry])
  @Access('reader')
  async history(@Param('set') id: string, @Query('since') since: string = '0'): Promise<HistoryEntry[]> {
    const from = Number.parseInt(since, 10);
    const list = await this.em
      .fork()
      .find(
        OperationRecord,
        { set: id, version: { $gt: Number.isFinite(from) ? from : 0 } },
        { orderBy: { version: 'asc' }, limit: 5000, populate: ['account'] },
      );
    return list.map((o) => ({ id: o.id, version: o.version, by: o.account.name, at: o.at.toISOString(), operation: o.operation }));
  }
}

type Checked = { state: 'checked'; by: string; at: string };
const isChecked = (v: object): v is Checked => 'state' in v && v.state === 'checked' && 'by' in v;

/**
 * The operation with the person who sends it as who has checked items. Only what the set's history itself says of others stays: to
 * take something back brings their reviews back.
 */
async function signedBy(em: EntityManager, set: string, operation: Operation, name: string): Promise<Operation> {
  const others: Checked[] = [];
  const visit = (v: unknown): void => {
    if (!v || typeof v !== 'object') return;
    if (isChecked(v) && v.by !== name) others.push(v);
    for (const inner of Object.values(v)) visit(inner);
  };
  const copy = structuredClone(operation);
  visit(copy);
  for (const review of others) {
    const [was] = await sql(
      em,
      `select 1 from set_operation where set_id = ?
         and jsonb_path_exists(inverse, '$.** \\? (@.state == "checked" && @.by == $by && @.at == $at)', ?::jsonb) limit 1`,
      [set, JSON.stringify({ by: review.by, at: review.at })],
    );
    if (!was) review.by = name;
  }
  return copy;
}
