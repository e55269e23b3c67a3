import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put, Query } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import {
  emptyDocument,
  keyLooks,
  operation as operationSchema,
  sanitiseFields,
  storable,
  type Operation,
  type SetDocument,
  UNTITLED,
  type MemberRole,
  memberRoles,
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
import { Access, Me, roleOnSet, seesSet, setsOf, type Signed, WorkspaceId, Gives } from '../accounts/access.js';
import { wasDoneWithSet } from '../accounts/audit.js';
import { BIN_DAYS } from './bin.js';
import { gone, Problem } from '../platform/problem.js';
import { ofCore } from '../platform/schemas.js';
import { sql } from '../platform/sql.js';
import { Documents } from './documents.js';
import { Drafts } from './drafts.js';
import { Folders } from './folders.js';
import { Operations } from './operations.js';
import { SetSummary, Summaries } from './summaries.js';
import { nameOf, OperationRecord, SetRecord, type DraftState } from './entities.js';

/** Sets of a page of the list. */
const PAGE = 200;
const KEYS_FROM = ['none', ...Object.keys(keyLooks)];

class CreateSetBody {
  @ApiProperty() @IsString() @Length(1, 300) title!: string;
  @ApiPropertyOptional({ description: 'The folder it goes into.' }) @IsOptional() @IsUUID() folder?: string;
  @ApiPropertyOptional({ description: 'A folder at the top by its name, made where it is not there.' })
  @IsOptional()
  @IsString()
  @MaxLength(200)
  course?: string;
}
const SORTS = ['changed', 'opened', 'title'] as const;
class ListQuery {
  @ApiPropertyOptional({ description: 'Only sets behind this one, by its id.' }) @IsOptional() @IsUUID() after?: string;
  @ApiPropertyOptional({ description: 'Words, or parts of words, of the title or a folder.' }) @IsOptional() @IsString() @MaxLength(300) q?: string;
  @ApiPropertyOptional({ description: 'A folder, with all that lies in it; “none” for sets in no folder.' })
  @IsOptional()
  @IsString()
  @MaxLength(40)
  folder?: string;
  @ApiPropertyOptional({ enum: SORTS }) @IsOptional() @IsIn(SORTS) sort?: (typeof SORTS)[number];
}
/** What each order goes by, as an expression and the direction; the id tells those apart that are alike. */
const ORDER: Record<(typeof SORTS)[number], [by: string, way: 'asc' | 'desc']> = {
  changed: ['s.updated_at', 'desc'],
  opened: [`coalesce(v.at, '-infinity')`, 'desc'],
  title: ['lower(s.title)', 'asc'],
};
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
  @ApiProperty(ofCore('Operation')) @IsObject() operation!: Operation;
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
class DraftView {
  @ApiProperty() text!: string;
  @ApiProperty({ type: [OverrideBody] }) overrides!: OverrideBody[];
  @ApiPropertyOptional({ enum: KEYS_FROM }) keysFrom?: string;
}
class VersionView {
  @ApiProperty() version!: number;
  @ApiPropertyOptional({ description: 'The operations went on top of others that the sender does not have yet.' }) merged?: boolean;
}
class FileTakenBody {
  @ApiProperty() @IsString() @Length(1, 300) name!: string;
}
class SetView extends SetSummary {
  @ApiProperty() version!: number;
  @ApiProperty() draftVersion!: number;
  @ApiProperty() workspaceId!: string;
  @ApiProperty(ofCore('SetDocument', 'The set with its reviews.')) document!: SetDocument;
  @ApiProperty({ type: () => DraftView }) draft!: DraftView;
}
class HistoryEntry {
  @ApiProperty() id!: string;
  @ApiProperty() version!: number;
  @ApiProperty() by!: string;
  @ApiProperty() at!: string;
  @ApiProperty(ofCore('Operation')) operation!: Operation;
}

class BinnedView {
  @ApiProperty() id!: string;
  @ApiProperty() title!: string;
  @ApiProperty({ description: 'Answers of learners that go with it.' }) responses!: number;
  @ApiProperty() deletedAt!: string;
  @ApiProperty({ description: 'When it is deleted for good.' }) goesAt!: string;
  @ApiProperty({ enum: memberRoles, description: 'What the person may do with it.' }) role!: MemberRole;
}

@ApiTags('sets')
@Controller()
export class SetsController {
  constructor(
    private readonly em: EntityManager,
    private readonly documents: Documents,
    private readonly operations: Operations,
    private readonly drafts: Drafts,
    private readonly summaries: Summaries,
    private readonly folders: Folders,
  ) {}

  /** At most 200 sets that the person may see, the last changed first; `after` goes on behind a set. */
  @Get('workspaces/:workspace/sets')
  @Gives([SetSummary])
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async list(@WorkspaceId() workspace: string, @Query() query: ListQuery, @Me() me: Signed): Promise<SetSummary[]> {
    const [by, way] = ORDER[query.sort ?? 'changed'];
    const parts = ['s.workspace_id = ?'];
    const params: unknown[] = [workspace];
    for (const word of (query.q ?? '').trim().split(/\s+/).filter(Boolean).slice(0, 20)) {
      parts.push(`(s.title || ' ' || coalesce(array_to_string(f.names, ' '), '')) ilike ?`);
      params.push(`%${word.replace(/[\\%_]/g, '\\$&')}%`);
    }
    if (query.folder === 'none') parts.push('s.folder_id is null');
    else if (query.folder !== undefined) {
      if (!isUUID(query.folder)) throw new Problem(400, 'folder-invalid', 'The list is of a folder by its id, or of “none”.');
      parts.push('f.trail @> array[?::uuid]');
      params.push(query.folder);
    }
    if (query.after !== undefined) {
      const key = by.replaceAll('s.', 'x.').replaceAll('v.', 'y.');
      parts.push(
        `(${by}, s.id) ${way === 'asc' ? '>' : '<'} (select ${key}, x.id from quiz_set x left join set_visit y on y.set_id = x.id and y.account_id = ? where x.id = ?)`,
      );
      params.push(me.account.id, query.after);
    }
    return this.summaries.list(me.account.id, { where: parts.join(' and '), params, order: `${by} ${way}, s.id ${way}`, limit: PAGE });
  }

  @Post('workspaces/:workspace/sets')
  @Gives(SetSummary)
  @ApiParam({ name: 'workspace' })
  @Access('editor')
  async create(@WorkspaceId() workspace: string, @Body() body: CreateSetBody, @Me() me: Signed): Promise<SetSummary> {
    const title = storable(body.title).trim() || UNTITLED;
    const course = storable(body.course ?? '').trim();
    const owner = me.account.id;
    const id = await this.em.fork().transactional(async (em) => {
      const folder = body.folder
        ? (await this.folders.into(em, workspace, body.folder, owner)).id
        : course
          ? await this.folders.named(em, workspace, course, owner)
          : null;
      return this.documents.create(em, { workspace, folder, owner, document: emptyDocument(title) });
    });
    return this.summaries.one(id, owner);
  }

  @Get('sets/:set')
  @Gives(SetView)
  @Access('reader')
  async get(@Param('set') id: string, @Me() me: Signed): Promise<SetView> {
    const em = this.em.fork();
    const { version, document } = await this.documents.read(em, id);
    const r = await em.findOne(SetRecord, { id }, { populate: ['draft'] });
    if (!r) throw gone('set');
    await sql(em, 'insert into set_visit (account_id, set_id) values (?, ?) on conflict (account_id, set_id) do update set at = now()', [me.account.id, id]);
    return { ...(await this.summaries.one(id, me.account.id)), version, draftVersion: r.draftVersion, workspaceId: r.workspace.id, document, draft: r.draft };
  }

  /** Puts a set into the bin, from which it can be taken for thirty days. Its quiz is closed meanwhile. */
  @Delete('sets/:set')
  @HttpCode(204)
  @Access('owner')
  async remove(@Param('set') id: string, @Me() me: Signed): Promise<void> {
    const em = this.em.fork();
    await em.nativeUpdate(SetRecord, { id }, { deletedAt: new Date() });
    await wasDoneWithSet(em, id, { account: me.account.id, what: 'set put into the bin' });
  }

  @Get('workspaces/:workspace/bin')
  @Gives([BinnedView])
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async bin(@WorkspaceId() workspaceId: string, @Me() me: Signed): Promise<BinnedView[]> {
    const rows = await sql<Omit<BinnedView, 'deletedAt' | 'goesAt'> & { deleted_at: Date }>(
      this.em.fork(),
      `select s.id, s.title, s.deleted_at, ${roleOnSet('?')} as role,
         (select count(*)::int from attempt a join delivery d on d.id = a.delivery_id where d.set_id = s.id and a.submitted_at is not null) as responses
       from ${setsOf('?')}
       where s.workspace_id = ? and s.deleted_at is not null and ${seesSet('?')} order by s.deleted_at desc`,
      [me.account.id, me.account.id, workspaceId, me.account.id],
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
  async purge(@Param('binned') id: string, @Me() me: Signed): Promise<void> {
    const em = this.em.fork();
    await wasDoneWithSet(em, id, { account: me.account.id, what: 'set deleted' });
    await em.nativeDelete(SetRecord, { id, deletedAt: { $ne: null } });
  }

  /** Tells that a file of the set was taken: files are made in the browser, and somebody may ask where keys went. */
  @Post('sets/:set/files')
  @HttpCode(204)
  @Access('reader')
  async fileTaken(@Param('set') id: string, @Body() { name }: FileTakenBody, @Me() me: Signed): Promise<void> {
    await wasDoneWithSet(this.em.fork(), id, { account: me.account.id, what: 'file taken', about: { file: storable(name) } });
  }

  @Put('sets/:set/draft')
  @Gives(VersionView)
  @Access('editor')
  async saveDraft(@Param('set') id: string, @Body() body: DraftBody): Promise<VersionView> {
    const text = storable(body.text);
    const draft: DraftState = { text, overrides: body.overrides, ...(body.keysFrom && { keysFrom: body.keysFrom }) };
    return { version: await this.drafts.save(id, body.base, draft) };
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
    const { version, merged } = await this.operations.apply(id, { ...body, operations: sent }, me.account);
    return { version, ...(merged && { merged }) };
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
    return list.map((o) => ({ id: o.id, version: o.version, by: nameOf(o.account), at: o.at.toISOString(), operation: o.operation }));
  }
}
