/** Copies: of a set in the workspace, of one that a link leads to, and what has changed since in what items were taken from. */
import { Body, Controller, Get, Injectable, Param, Post } from '@nestjs/common';
import { ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { contentPrint, copyOfSet, type Item, storable, UNTITLED, mayAs, type MemberRole } from '@zakuska/core';
import { IsOptional, IsString, IsUUID, Length } from 'class-validator';
import { Access, Gives, Me, MyRole, roleOnFolder, seesSet, setsOf, type Signed, WorkspaceId } from '../accounts/access.js';
import { gone, Problem } from '../platform/problem.js';
import { ofCore } from '../platform/schemas.js';
import { sql, uuidOf } from '../platform/sql.js';
import { nameOf } from './entities.js';
import { Documents } from './documents.js';
import { SetRecord } from './entities.js';
import { Folders } from './folders.js';
import { SetSummary, Summaries } from './summaries.js';

class CopyBody {
  @ApiPropertyOptional({ description: 'What the copy is called; the title with “, copy” behind it where it is not said.' })
  @IsOptional()
  @IsString()
  @Length(1, 300)
  title?: string;
  @ApiPropertyOptional({ description: 'The folder it goes into; that of the set where it is not said.' }) @IsOptional() @IsUUID() folder?: string;
}
class TakeCopyBody {
  @ApiProperty({ description: 'The workspace it goes to.' }) @IsUUID() workspace!: string;
}
class LinkedView {
  @ApiProperty() title!: string;
  @ApiProperty() items!: number;
  @ApiProperty({ description: 'Who shares it.' }) by!: string;
}
class NewerView {
  @ApiProperty({ description: 'The item of this set.' }) item!: string;
  @ApiProperty({ description: 'The set that it was taken from.' }) set!: string;
  @ApiProperty() setTitle!: string;
  @ApiProperty(ofCore('Item', 'What it was taken from, as it is now.')) there!: Item;
}

@Injectable()
export class Copies {
  constructor(
    private readonly em: EntityManager,
    private readonly documents: Documents,
  ) {}

  /** Makes a copy of a set; one for another workspace remembers nothing of where it comes from. */
  async make(
    set: string,
    to: { workspace: string; folder: string | null; owner: string; title?: string | undefined; restricted?: boolean; away: boolean },
  ): Promise<string> {
    const { workspace, folder, owner, restricted = false, away } = to;
    return this.em.fork().transactional(async (em) => {
      const { document } = await this.documents.read(em, set);
      const title = storable(to.title ?? (away ? document.set.title : `${document.set.title}, copy`)).trim() || UNTITLED;
      const copy = copyOfSet(document, title.slice(0, 300), { ...(!away && { set }), reviews: !away });
      const draft = away ? undefined : (await em.findOneOrFail(SetRecord, { id: set }, { populate: ['draft'] })).draft;
      return this.documents.create(em, { workspace, folder, owner, restricted, document: copy, ...(draft && { draft: { ...draft } }) });
    });
  }
}

@ApiTags('sharing')
@Controller()
export class CopiesController {
  constructor(
    private readonly em: EntityManager,
    private readonly copies: Copies,
    private readonly folders: Folders,
    private readonly summaries: Summaries,
  ) {}

  /** A copy of a set beside it, with its draft, its checks and its versions. */
  @Post('sets/:set/copy')
  @Gives(SetSummary)
  @Access('reader')
  async copy(
    @Param('set') id: string,
    @Body() body: CopyBody,
    @WorkspaceId() workspace: string,
    @MyRole() role: MemberRole,
    @Me() me: Signed,
  ): Promise<SetSummary> {
    const em = this.em.fork();
    const [s] = await sql<{ folder_id: string | null; into: MemberRole | null; closed: boolean; may: boolean; member: MemberRole }>(
      em,
      `select s.folder_id, m.role as member, s.restricted or coalesce(f.closed, false) as closed,
         ${roleOnFolder('?')} as into,
         exists (select 1 from share h where (h.set_id = s.id or h.folder_id = any (f.trail)) and h.may <> 'read'
           and (h.account_id = ? or h.group_id in (select group_id from group_member where account_id = ?))) as may
       from ${setsOf('?')} where s.id = ?`,
      [me.account.id, me.account.id, me.account.id, me.account.id, id],
    );
    if (!s) throw gone('set');
    if (!mayAs(s.member, 'editor')) throw new Problem(403, 'role', 'You may look at what is here, not make sets.');
    if (s.closed && !mayAs(role, 'editor') && !s.may) throw new Problem(403, 'role', 'This set is shared with you to read, not to copy.');
    // where its own folder is not open to the person, the copy stands in none
    const folder = body.folder
      ? (await this.folders.into(em, workspace, body.folder, me.account.id)).id
      : s.into && mayAs(s.into, 'editor')
        ? s.folder_id
        : null;
    // what only some see is not seen by all because somebody copied it
    const made = await this.copies.make(id, { workspace, folder, owner: me.account.id, title: body.title, restricted: s.closed, away: false });
    return this.summaries.one(made, me.account.id);
  }

  /** What a link leads to. */
  @Get('copies/:token')
  @Gives(LinkedView)
  @Access('session')
  async linked(@Param('token') token: string): Promise<LinkedView> {
    const { id: _, ...view } = await this.behind(token);
    return view;
  }

  private async behind(token: string): Promise<LinkedView & { id: string }> {
    const [row] = await sql<LinkedView & { id: string }>(
      this.em.fork(),
      `select s.id, s.title, jsonb_array_length(s.item_order) as items, coalesce(a.name, ?) as by
       from copy_link l join quiz_set s on s.id = l.set_id left join account a on a.id = l.account_id where l.token = ? and s.deleted_at is null`,
      [nameOf(null), token],
    );
    if (!row) throw new Problem(404, 'link-over', 'This link leads to no set any more. Ask for a new one where you have it from.');
    return row;
  }

  /** Takes a copy of what a link leads to into a workspace of one's own. */
  @Post('copies/:token')
  @Gives(SetSummary)
  @Access('session')
  async take(@Param('token') token: string, @Body() body: TakeCopyBody, @Me() me: Signed): Promise<SetSummary> {
    const { id } = await this.behind(token);
    const [member] = await sql<{ role: MemberRole }>(this.em.fork(), 'select role from membership where workspace_id = ? and account_id = ?', [
      body.workspace,
      me.account.id,
    ]);
    if (!member) throw gone('workspace');
    if (!mayAs(member.role, 'editor')) throw new Problem(403, 'role', 'You may look at what is in this workspace, not make sets there.');
    const made = await this.copies.make(id, { workspace: body.workspace, folder: null, owner: me.account.id, away: true });
    return this.summaries.one(made, me.account.id);
  }

  /** Items of a set that were taken from others which have changed since. */
  @Get('sets/:set/newer')
  @Gives([NewerView])
  @Access('reader')
  async newer(@Param('set') id: string, @WorkspaceId() workspace: string, @Me() me: Signed): Promise<NewerView[]> {
    const rows = await sql<NewerView & { print: string }>(
      this.em.fork(),
      `select i.id as item, i.item->'takenFrom'->>'print' as print, s.id as set, s.title as "setTitle", t.item as there
       from set_item i join set_item t on t.set_id = ${uuidOf(`i.item->'takenFrom'->>'set'`)} and t.id = i.item->'takenFrom'->>'item'
         join quiz_set s on s.id = t.set_id join membership m on m.workspace_id = s.workspace_id and m.account_id = ? left join folder f on f.id = s.folder_id
       where i.set_id = ? and i.item->'takenFrom' is not null and s.workspace_id = ? and s.deleted_at is null and ${seesSet('?')}`,
      [me.account.id, id, workspace, me.account.id],
    );
    return rows.filter((r) => contentPrint(r.there) !== r.print).map(({ print: _, ...r }) => r);
  }
}
