/** Who sees and changes a set or folder: all of the workspace by their role, or only people and groups that are named; and copies by a link. */
import { Body, Controller, Delete, Get, HttpCode, Injectable, Param, Post, Put } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { storable, type MemberRole, memberRoles } from '@zakuska/core';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsBoolean, IsIn, IsOptional, IsString, isUUID, IsUUID, Length, ValidateNested } from 'class-validator';
import { Access, Gives, Me, type Signed, WorkspaceId } from '../accounts/access.js';
import { wasDone, wasDoneWithSet } from '../accounts/audit.js';
import { Problem } from '../platform/problem.js';
import { newToken } from '../platform/secrets.js';
import { sql } from '../platform/sql.js';
import { Folders } from './folders.js';

/** What somebody may do with what is shared: see it, also make copies of it, also change it. */
const MAY = ['read', 'copy', 'edit'] as const;
type May = (typeof MAY)[number];

class ShareBody {
  @ApiPropertyOptional({ description: 'A person; or else a group.' }) @IsOptional() @IsUUID() account?: string;
  @ApiPropertyOptional() @IsOptional() @IsUUID() group?: string;
  @ApiProperty({ enum: MAY }) @IsIn(MAY) may!: May;
}
class ShareView extends ShareBody {
  @ApiProperty() name!: string;
}
class SharingBody {
  @ApiProperty({ description: 'Only those named see it; else all of the workspace do, by their role.' }) @IsBoolean() restricted!: boolean;
  @ApiProperty({ type: [ShareBody] }) @IsArray() @ArrayMaxSize(500) @ValidateNested({ each: true }) @Type(() => ShareBody) shares!: ShareBody[];
}
class SharingView {
  @ApiProperty() restricted!: boolean;
  @ApiProperty({ type: [ShareView] }) shares!: ShareView[];
  @ApiPropertyOptional({ description: 'Who made it.' }) owner?: string;
  @ApiPropertyOptional({ description: 'A folder that it lies in and that only some see.' }) closedBy?: string;
  @ApiPropertyOptional({ description: 'Of the link by which anybody signed in gets a copy of the set.' }) link?: string;
}
class LinkView {
  @ApiProperty() token!: string;
}
class WorkspaceMember {
  @ApiProperty() id!: string;
  @ApiProperty() name!: string;
  @ApiProperty() email!: string;
  @ApiProperty({ enum: memberRoles }) role!: MemberRole;
}
class GroupBody {
  @ApiProperty() @IsString() @Length(1, 100) name!: string;
  @ApiProperty({ type: [String], description: 'Accounts of members.' }) @IsArray() @ArrayMaxSize(2000) @IsUUID('all', { each: true }) members!: string[];
}
class GroupView extends GroupBody {
  @ApiProperty() id!: string;
}

type What = 'set' | 'folder';
const TABLE: Record<What, string> = { set: 'quiz_set', folder: 'folder' };

/** Who sees it, in a word for the log. */
const whoSees = ({ restricted, shares }: SharingBody): Record<string, string> => ({
  seen: restricted ? 'by those named' : 'by all',
  named: String(shares.length),
});

@Injectable()
export class Sharing {
  constructor(private readonly em: EntityManager) {}

  async of(what: What, id: string): Promise<SharingView> {
    const em = this.em.fork();
    const [head] = await sql<{ restricted: boolean; owner: string | null; closed_by: string | null; token: string | null }>(
      em,
      what === 'set'
        ? `select t.restricted, a.name as owner, (select c.name from folder c where c.id = any (f.trail) and c.restricted limit 1) as closed_by, l.token
           from quiz_set t left join account a on a.id = t.owner_id left join folder f on f.id = t.folder_id left join copy_link l on l.set_id = t.id where t.id = ?`
        : `select t.restricted, a.name as owner, (select c.name from folder c where c.id = any (t.trail) and c.restricted and c.id <> t.id limit 1) as closed_by, null as token
           from folder t left join account a on a.id = t.owner_id where t.id = ?`,
      [id],
    );
    const shares = await sql<{ account: string | null; group: string | null; may: May; name: string }>(
      em,
      `select h.account_id as account, h.group_id as group, h.may, coalesce(a.name, g.name) as name
       from share h left join account a on a.id = h.account_id left join member_group g on g.id = h.group_id where h.${what}_id = ? order by 4`,
      [id],
    );
    return {
      restricted: head?.restricted ?? false,
      shares: shares.map(({ account, group, ...s }) => ({ ...s, ...(account && { account }), ...(group && { group }) })),
      ...(head?.owner && { owner: head.owner }),
      ...(head?.closed_by && { closedBy: head.closed_by }),
      ...(head?.token && { link: head.token }),
    };
  }

  /**
   * Says anew who sees a set or folder.
   * @throws Problem 422 where somebody named is not of the workspace, or is named twice
   */
  async say(em: EntityManager, workspace: string, what: What, id: string, { restricted, shares }: SharingBody): Promise<void> {
    if (shares.some((s) => Boolean(s.account) === Boolean(s.group))) throw new Problem(422, 'share-whom', 'Say for each line either a person or a group.');
    const named = shares.map((s) => s.account ?? s.group ?? '');
    if (new Set(named).size < named.length) throw new Problem(422, 'share-twice', 'Somebody is named twice. Keep one line for each.');
    const known = await sql<{ id: string }>(
      em,
      'select account_id as id from membership where workspace_id = ? union all select id from member_group where workspace_id = ?',
      [workspace, workspace],
    );
    const there = new Set(known.map((k) => k.id));
    if (named.some((n) => !there.has(n.toLowerCase())))
      throw new Problem(422, 'not-a-member', 'Somebody named is not of this workspace any more. Load the page anew.');
    await sql(em, `update ${TABLE[what]} set restricted = ? where id = ?`, [restricted, id]);
    await sql(em, `delete from share where ${what}_id = ?`, [id]);
    for (const s of shares)
      await sql(em, `insert into share (${what}_id, account_id, group_id, may) values (?, ?, ?, ?)`, [id, s.account ?? null, s.group ?? null, s.may]);
  }
}

@ApiTags('sharing')
@Controller()
export class SharingController {
  constructor(
    private readonly em: EntityManager,
    private readonly sharing: Sharing,
    private readonly folders: Folders,
  ) {}

  @Get('workspaces/:workspace/members')
  @Gives([WorkspaceMember])
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async members(@WorkspaceId() workspace: string): Promise<WorkspaceMember[]> {
    return sql(
      this.em.fork(),
      'select a.id, a.name, a.email, m.role from membership m join account a on a.id = m.account_id where m.workspace_id = ? order by lower(a.name)',
      [workspace],
    );
  }

  @Get('workspaces/:workspace/groups')
  @Gives([GroupView])
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async groups(@WorkspaceId() workspace: string): Promise<GroupView[]> {
    return sql(
      this.em.fork(),
      `select g.id, g.name, coalesce((select json_agg(x.account_id) from group_member x where x.group_id = g.id), '[]') as members
       from member_group g where g.workspace_id = ? order by lower(g.name)`,
      [workspace],
    );
  }

  /** A group as it is to be: made where it is not there. */
  @Put('workspaces/:workspace/groups/:group')
  @Gives(GroupView)
  @ApiParam({ name: 'workspace' })
  @Access('administrator')
  async saveGroup(@WorkspaceId() workspace: string, @Param('group') id: string, @Body() body: GroupBody): Promise<GroupView> {
    if (!isUUID(id)) throw new Problem(400, 'id-invalid', 'A group is made under an id of the form of a UUID.');
    const name = storable(body.name).trim() || 'Group without a name';
    return this.em.fork().transactional(async (em) => {
      const [twin] = await sql(em, 'select 1 from member_group where workspace_id = ? and lower(name) = lower(?) and id <> ?::uuid', [workspace, name, id]);
      if (twin) throw new Problem(422, 'name-there', `There is a group called “${name}” already.`);
      const [saved] = await sql(
        em,
        `insert into member_group (id, workspace_id, name) values (?, ?, ?)
         on conflict (id) do update set name = excluded.name where member_group.workspace_id = excluded.workspace_id returning id`,
        [id, workspace, name],
      );
      if (!saved) throw new Problem(404, 'not-found', 'This group is not here.');
      await sql(em, 'delete from group_member where group_id = ?', [id]);
      const members = await sql<{ id: string }>(
        em,
        `insert into group_member (group_id, account_id)
         select ?, m.account_id from membership m where m.workspace_id = ? and m.account_id::text in (select jsonb_array_elements_text(?::jsonb)) returning account_id as id`,
        [id, workspace, JSON.stringify(body.members)],
      );
      return { id, name, members: members.map((m) => m.id) };
    });
  }

  @Delete('workspaces/:workspace/groups/:group')
  @HttpCode(204)
  @ApiParam({ name: 'workspace' })
  @Access('administrator')
  async removeGroup(@WorkspaceId() workspace: string, @Param('group') id: string): Promise<void> {
    await sql(this.em.fork(), 'delete from member_group where workspace_id = ? and id::text = ?', [workspace, id]);
  }

  @Get('sets/:set/sharing')
  @Gives(SharingView)
  @Access('reader')
  ofSet(@Param('set') id: string): Promise<SharingView> {
    return this.sharing.of('set', id);
  }

  @Put('sets/:set/sharing')
  @Gives(SharingView)
  @Access('owner')
  async shareSet(@Param('set') id: string, @Body() body: SharingBody, @WorkspaceId() workspace: string, @Me() me: Signed): Promise<SharingView> {
    await this.em.fork().transactional(async (em) => {
      await this.sharing.say(em, workspace, 'set', id, body);
      await wasDoneWithSet(em, id, { account: me.account.id, what: 'sharing changed', about: whoSees(body) });
    });
    return this.sharing.of('set', id);
  }

  @Get('folders/:folder/sharing')
  @Gives(SharingView)
  @Access('reader')
  ofFolder(@Param('folder') id: string): Promise<SharingView> {
    return this.sharing.of('folder', id);
  }

  @Put('folders/:folder/sharing')
  @Gives(SharingView)
  @Access('owner')
  async shareFolder(@Param('folder') id: string, @Body() body: SharingBody, @WorkspaceId() workspace: string, @Me() me: Signed): Promise<SharingView> {
    await this.folders.change(workspace, async (em) => {
      await this.sharing.say(em, workspace, 'folder', id, body);
      const [folder] = await sql<{ name: string }>(em, 'select name from folder where id = ?', [id]);
      await wasDone(em, { workspace, account: me.account.id, what: 'sharing changed', about: { folder: folder?.name ?? '', ...whoSees(body) } });
    });
    return this.sharing.of('folder', id);
  }

  /** The link by which anybody signed in gets a copy; the same as long as there is one. */
  @Post('sets/:set/copy-link')
  @Gives(LinkView)
  @Access('owner')
  async link(@Param('set') id: string, @Me() me: Signed): Promise<LinkView> {
    const em = this.em.fork();
    await sql(em, 'insert into copy_link (token, set_id, account_id) values (?, ?, ?) on conflict (set_id) do nothing', [newToken(18), id, me.account.id]);
    await wasDoneWithSet(em, id, { account: me.account.id, what: 'link to copies made' });
    const [row] = await sql<LinkView>(em, 'select token from copy_link where set_id = ?', [id]);
    return row as LinkView;
  }

  @Delete('sets/:set/copy-link')
  @HttpCode(204)
  @Access('owner')
  async unlink(@Param('set') id: string): Promise<void> {
    await sql(this.em.fork(), 'delete from copy_link where set_id = ?', [id]);
  }
}
