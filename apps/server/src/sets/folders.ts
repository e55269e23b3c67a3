/** Folders of sets, as deep as needed. A change is made under the workspace's lock, so that no two moves together make a circle. */
import { Body, Controller, Delete, Get, HttpCode, Injectable, Param, Patch, Post, Put } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { newId, storable, mayAs, type MemberRole, memberRoles } from '@zakuska/core';
import { IsOptional, IsString, IsUUID, Length, ValidateIf } from 'class-validator';
import { Access, Gives, Me, roleOnFolder, roleOnSet, seesSet, setsOf, type Signed, WorkspaceId } from '../accounts/access.js';
import { gone, Problem } from '../platform/problem.js';
import { sql } from '../platform/sql.js';

/** Deeper ones nobody finds again. */
const DEEPEST = 12;
const MOST_FOLDERS = 5000;

class FolderView {
  @ApiProperty() id!: string;
  @ApiPropertyOptional({ description: 'The folder it lies in.' }) parent?: string;
  @ApiProperty() name!: string;
  @ApiPropertyOptional({ enum: memberRoles, description: 'What the person may do in it; absent for one that only leads to something of theirs.' })
  role?: MemberRole;
  @ApiProperty({ description: 'Only those with whom it is shared see it: it, or one that it lies in.' }) closed!: boolean;
  @ApiProperty({ description: 'Sets right in it that the person may see.' }) sets!: number;
}
class NewFolderBody {
  @ApiProperty() @IsString() @Length(1, 200) name!: string;
  @ApiPropertyOptional({ description: 'The folder it goes into; none for the top.' }) @IsOptional() @IsUUID() parent?: string;
}
class FolderBody {
  @ApiPropertyOptional() @IsOptional() @IsString() @Length(1, 200) name?: string;
  @ApiPropertyOptional({ type: String, nullable: true, description: 'The folder it goes into; null for the top.' })
  @ValidateIf((b: FolderBody) => b.parent !== undefined && b.parent !== null)
  @IsUUID()
  parent?: string | null;
}
class IntoBody {
  @ApiProperty({ type: String, nullable: true, description: 'The folder it goes into; null for none.' })
  @ValidateIf((b: IntoBody) => b.folder !== null)
  @IsUUID()
  folder!: string | null;
}

interface Folder {
  id: string;
  parent_id: string | null;
  name: string;
  trail: string[];
  closed: boolean;
  restricted: boolean;
  role: MemberRole | null;
}

@Injectable()
export class Folders {
  constructor(private readonly em: EntityManager) {}

  /** Runs a change of folders alone, and brings what the folders below know of those above up to date. */
  async change<T>(workspace: string, work: (em: EntityManager) => Promise<T>): Promise<T> {
    return this.em.fork().transactional(async (em) => {
      await sql(em, 'select 1 from workspace where id = ? for update', [workspace]);
      const out = await work(em);
      await this.refresh(em, workspace);
      return out;
    });
  }

  private async refresh(em: EntityManager, workspace: string): Promise<void> {
    await sql(
      em,
      `with recursive tree as (
         select id, array[id] as trail, array[name] as names, restricted as closed from folder where workspace_id = ? and parent_id is null
         union all
         select f.id, t.trail || f.id, t.names || f.name, t.closed or f.restricted from folder f join tree t on f.parent_id = t.id)
       update folder f set trail = t.trail, names = t.names, closed = t.closed from tree t
       where t.id = f.id and (f.trail, f.names, f.closed) is distinct from (t.trail, t.names, t.closed)`,
      [workspace],
    );
  }

  /**
   * A folder that somebody may put things into.
   * @throws Problem 404 where they do not see it or it is of another workspace, 403 where they may only look
   */
  async into(em: EntityManager, workspace: string, id: string, me: string): Promise<Folder> {
    const [f] = await sql<Folder>(
      em,
      `select f.id, f.parent_id, f.name, f.trail, f.closed, f.restricted, ${roleOnFolder('?')} as role
       from folder f join membership m on m.workspace_id = f.workspace_id and m.account_id = ? where f.id = ? and f.workspace_id = ?`,
      [me, me, id, workspace],
    );
    if (!f?.role) throw gone('folder');
    if (!mayAs(f.role, 'editor')) throw new Problem(403, 'role', `You may look into “${f.name}”, not change what is in it.`);
    return f;
  }

  /** The folder of a name at the top, made where it is not there. */
  async named(em: EntityManager, workspace: string, name: string, owner?: string): Promise<string> {
    const [there] = await sql<{ id: string }>(em, 'select id from folder where workspace_id = ? and parent_id is null and lower(name) = lower(?)', [
      workspace,
      name,
    ]);
    if (there) return there.id;
    const id = newId();
    await this.insert(em, { id, workspace, parent: null, name, owner });
    return id;
  }

  /**
   * Makes a folder.
   * @throws Problem 422 where one of that name is there
   */
  async insert(em: EntityManager, f: { id: string; workspace: string; parent: Folder | null; name: string; owner?: string | undefined }): Promise<void> {
    const { id, workspace, parent, name, owner } = f;
    const [made] = await sql<{ id: string }>(
      em,
      `insert into folder (id, workspace_id, parent_id, name, owner_id, trail, names, closed)
       select ?::uuid, ?::uuid, ?::uuid, ?, ?::uuid, coalesce(p.trail, '{}') || ?::uuid, coalesce(p.names, '{}') || ?::text, coalesce(p.closed, false)
       from (select 1) one left join folder p on p.id = ?::uuid
       on conflict do nothing returning id`,
      [id, workspace, parent?.id ?? null, name, owner ?? null, id, name, parent?.id ?? null],
    );
    if (!made) throw taken(name);
  }
}
const taken = (name: string): Problem => new Problem(422, 'name-there', `There is a folder called “${name}” here already.`);
const nameOf = (said: string): string => storable(said).replace(/\s+/g, ' ').trim() || 'Folder without a name';

@ApiTags('sets')
@Controller()
export class FoldersController {
  constructor(
    private readonly em: EntityManager,
    private readonly folders: Folders,
  ) {}

  /** All folders that the person sees, or that lead to one or to a set that they see; by name. */
  @Get('workspaces/:workspace/folders')
  @Gives([FolderView])
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async list(@WorkspaceId() workspace: string, @Me() me: Signed): Promise<FolderView[]> {
    const { id } = me.account;
    const rows = await sql<Omit<FolderView, 'parent' | 'role'> & { parent: string | null; role: MemberRole | null }>(
      this.em.fork(),
      `with mine as (select m.* from membership m where m.account_id = ? and m.workspace_id = ?),
         seen as (select s.folder_id, f.trail from quiz_set s join mine m on m.workspace_id = s.workspace_id join folder f on f.id = s.folder_id
           where s.deleted_at is null and ${seesSet('?')}),
         folders as (select f.*, ${roleOnFolder('?')} as role from folder f join mine m on m.workspace_id = f.workspace_id),
         counts as (select folder_id, count(*)::int as n from seen group by 1),
         leads as (select distinct unnest(trail) as id from seen union select unnest(trail) from folders where role is not null)
       select f.id, f.parent_id as parent, f.name, f.role, f.closed, coalesce(c.n, 0) as sets
       from folders f join leads l on l.id = f.id left join counts c on c.folder_id = f.id order by lower(f.name)`,
      [id, workspace, id, id],
    );
    return rows.map(({ parent, role, ...f }) => ({ ...f, ...(parent && { parent }), ...(role && { role }) }));
  }

  @Post('workspaces/:workspace/folders')
  @Gives(FolderView)
  @ApiParam({ name: 'workspace' })
  @Access('editor')
  async make(@WorkspaceId() workspace: string, @Body() body: NewFolderBody, @Me() me: Signed): Promise<FolderView> {
    const id = newId();
    const name = nameOf(body.name);
    return this.folders.change(workspace, async (em) => {
      const parent = body.parent ? await this.folders.into(em, workspace, body.parent, me.account.id) : null;
      if (parent && parent.trail.length >= DEEPEST) throw new Problem(422, 'too-deep', `Folders lie in one another ${DEEPEST} deep at most.`);
      const [count] = await sql<{ n: number }>(em, 'select count(*)::int as n from folder where workspace_id = ?', [workspace]);
      if ((count?.n ?? 0) >= MOST_FOLDERS) throw new Problem(422, 'too-many', `A workspace has ${MOST_FOLDERS} folders at most.`);
      await this.folders.insert(em, { id, workspace, parent, name, owner: me.account.id });
      return { id, name, ...(parent && { parent: parent.id }), role: 'owner' as const, closed: parent?.closed ?? false, sets: 0 };
    });
  }

  /** Renames a folder, or moves it with all that is in it. */
  @Patch('folders/:folder')
  @HttpCode(204)
  @Access('editor')
  async alter(@Param('folder') id: string, @Body() body: FolderBody, @WorkspaceId() workspace: string, @Me() me: Signed): Promise<void> {
    await this.folders.change(workspace, async (em) => {
      const own = await this.folders.into(em, workspace, id, me.account.id);
      const name = body.name === undefined ? own.name : nameOf(body.name);
      let parent = own.parent_id;
      if (body.parent !== undefined && body.parent !== own.parent_id) {
        const to = body.parent === null ? null : await this.folders.into(em, workspace, body.parent, me.account.id);
        if (to?.trail.includes(id)) throw new Problem(422, 'into-itself', `“${own.name}” cannot go into itself or a folder inside it.`);
        const [deepest] = await sql<{ n: number }>(em, 'select max(cardinality(trail))::int as n from folder where trail @> array[?::uuid]', [id]);
        if ((to?.trail.length ?? 0) + (deepest?.n ?? 1) - own.trail.length + 1 > DEEPEST)
          throw new Problem(422, 'too-deep', `Folders lie in one another ${DEEPEST} deep at most.`);
        stays(own.name, own.closed, own.restricted || (to?.closed ?? false), own.role);
        parent = to?.id ?? null;
      }
      const [there] = await sql(
        em,
        'select 1 from folder where workspace_id = ? and parent_id is not distinct from ?::uuid and lower(name) = lower(?) and id <> ?',
        [workspace, parent, name, id],
      );
      if (there) throw taken(name);
      await sql(em, 'update folder set name = ?, parent_id = ? where id = ?', [name, parent, id]);
    });
  }

  /** Deletes a folder; what is in it moves up to where the folder was. */
  @Delete('folders/:folder')
  @HttpCode(204)
  @Access('editor')
  async remove(@Param('folder') id: string, @WorkspaceId() workspace: string, @Me() me: Signed): Promise<void> {
    await this.folders.change(workspace, async (em) => {
      const own = await this.folders.into(em, workspace, id, me.account.id);
      const [above] = own.parent_id ? await sql<{ closed: boolean }>(em, 'select closed from folder where id = ?', [own.parent_id]) : [];
      stays(own.name, own.closed, above?.closed ?? false, own.role);
      await sql(em, 'update quiz_set set folder_id = ? where folder_id = ?', [own.parent_id, id]);
      // one of the same name is there: a number behind the name tells them apart
      await sql(
        em,
        `update folder c set parent_id = ?, name = c.name || coalesce((select ' (' || (count(*) + 1) || ')' from folder o
             where o.workspace_id = c.workspace_id and o.parent_id is not distinct from ?::uuid and o.id <> ?
               and (lower(o.name) = lower(c.name) or lower(o.name) like lower(c.name) || ' (%)') having count(*) > 0), '')
         where c.parent_id = ?`,
        [own.parent_id, own.parent_id, id, id],
      );
      await sql(em, 'delete from folder where id = ?', [id]);
    });
  }

  @Put('sets/:set/folder')
  @HttpCode(204)
  @Access('editor')
  async move(@Param('set') id: string, @Body() body: IntoBody, @WorkspaceId() workspace: string, @Me() me: Signed): Promise<void> {
    await this.em.fork().transactional(async (em) => {
      // a folder that is being moved or deleted is waited for
      await sql(em, 'select 1 from workspace where id = ? for share', [workspace]);
      const to = body.folder === null ? null : await this.folders.into(em, workspace, body.folder, me.account.id);
      const [s] = await sql<{ title: string; closed: boolean; restricted: boolean; role: MemberRole }>(
        em,
        `select s.title, s.restricted, s.restricted or coalesce(f.closed, false) as closed, ${roleOnSet('?')} as role
         from ${setsOf('?')} where s.id = ?`,
        [me.account.id, me.account.id, id],
      );
      if (!s) throw gone('set');
      stays(s.title, s.closed, s.restricted || (to?.closed ?? false), s.role);
      await sql(em, 'update quiz_set set folder_id = ? where id = ?', [to?.id ?? null, id]);
    });
  }
}

/** What only some see is not opened to all in passing. */
function stays(name: string, closed: boolean, closedThere: boolean, role: MemberRole | null): void {
  if (closed && !closedThere && role !== 'owner')
    throw new Problem(403, 'closed', `“${name}” is shared with some people only. There everybody would see it; whoever made it may move it.`);
}
