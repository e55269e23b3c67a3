/** Class lists of a workspace: who is given a quiz by name, or by a code of their own. */
import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { MOST_MEMBERS, newId, storable } from '@zakuska/core';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsNumber, IsOptional, IsString, IsUUID, Length, Max, MaxLength, Min, ValidateNested } from 'class-validator';
import { Access, Gives, WorkspaceId } from '../accounts/access.js';
import { Workspace } from '../accounts/entities.js';
import { gone, Problem } from '../platform/problem.js';
import { sql } from '../platform/sql.js';
import { ClassList, ClassMember } from './entities.js';

/** Extra time beyond this is another quiz. */
const MOST_EXTRA = 400;
const MOST_CLASSES = 1000;

class ClassMemberBody {
  @ApiPropertyOptional({ description: 'Of somebody who is on the list already.' }) @IsOptional() @IsUUID() id?: string;
  @ApiProperty() @IsString() @Length(1, 100) name!: string;
  @ApiPropertyOptional() @IsOptional() @IsString() @MaxLength(320) mail?: string;
  @ApiPropertyOptional({ description: 'What the school calls them.' }) @IsOptional() @IsString() @MaxLength(60) number?: string;
  @ApiPropertyOptional({ description: 'Time beyond that of the others, in per cent of a limit.' })
  @IsOptional()
  @IsNumber()
  @Min(0)
  @Max(MOST_EXTRA)
  extra?: number;
}
class ClassBody {
  @ApiProperty() @IsString() @Length(1, 100) name!: string;
  @ApiProperty({ type: [ClassMemberBody], description: 'All people of the class in their order; who is not there any more leaves it.' })
  @IsArray()
  @ArrayMaxSize(MOST_MEMBERS)
  @ValidateNested({ each: true })
  @Type(() => ClassMemberBody)
  members!: ClassMemberBody[];
}
class ClassMemberView {
  @ApiProperty() id!: string;
  @ApiProperty() name!: string;
  @ApiProperty() mail!: string;
  @ApiProperty() number!: string;
  @ApiProperty() extra!: number;
}
class ClassRow {
  @ApiProperty() id!: string;
  @ApiProperty() name!: string;
  @ApiProperty() people!: number;
}
class ClassView {
  @ApiProperty() id!: string;
  @ApiProperty() name!: string;
  @ApiProperty({ type: [ClassMemberView] }) members!: ClassMemberView[];
}

@ApiTags('classes')
@Controller()
export class ClassesController {
  constructor(private readonly em: EntityManager) {}

  @Get('workspaces/:workspace/classes')
  @Gives([ClassRow])
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  list(@WorkspaceId() workspace: string): Promise<ClassRow[]> {
    return sql<ClassRow>(
      this.em.fork(),
      `select c.id, c.name, (select count(*)::int from class_member m where m.list_id = c.id) as people
       from class_list c where c.workspace_id = ? order by lower(c.name), c.created_at`,
      [workspace],
    );
  }

  @Post('workspaces/:workspace/classes')
  @Gives(ClassView)
  @ApiParam({ name: 'workspace' })
  @Access('editor')
  async make(@WorkspaceId() workspace: string, @Body() body: ClassBody): Promise<ClassView> {
    const em = this.em.fork();
    if ((await em.count(ClassList, { workspace })) >= MOST_CLASSES)
      throw new Problem(409, 'too-many', `A workspace keeps ${MOST_CLASSES} classes; delete one that nobody needs.`);
    const made = em.create(ClassList, { id: newId(), workspace: em.getReference(Workspace, workspace), name: storable(body.name).trim() });
    em.persist(made);
    put(em, made, [], body.members);
    await em.flush();
    return this.view(em, made);
  }

  @Get('classes/:class')
  @Gives(ClassView)
  @Access('reader')
  async get(@Param('class') id: string): Promise<ClassView> {
    const em = this.em.fork();
    return this.view(em, await there(em, id));
  }

  /** The class as it is from now on. Who stays keeps their id, and with it their codes and what they handed in. */
  @Put('classes/:class')
  @Gives(ClassView)
  @Access('editor')
  async change(@Param('class') id: string, @Body() body: ClassBody): Promise<ClassView> {
    return this.em.fork().transactional(async (em) => {
      const list = await there(em, id);
      list.name = storable(body.name).trim();
      put(em, list, await em.find(ClassMember, { list: id }), body.members);
      await em.flush();
      return this.view(em, list);
    });
  }

  @Delete('classes/:class')
  @HttpCode(204)
  @Access('editor')
  async remove(@Param('class') id: string): Promise<void> {
    await this.em.fork().nativeDelete(ClassList, { id });
  }

  private async view(em: EntityManager, { id, name }: ClassList): Promise<ClassView> {
    const members = await em.find(ClassMember, { list: id }, { orderBy: { place: 'asc' } });
    return { id, name, members: members.map(({ id: member, name: called, mail, number, extra }) => ({ id: member, name: called, mail, number, extra })) };
  }
}

async function there(em: EntityManager, id: string): Promise<ClassList> {
  const list = await em.findOne(ClassList, { id });
  if (!list) throw gone('class');
  return list;
}

function put(em: EntityManager, list: ClassList, before: readonly ClassMember[], members: readonly ClassMemberBody[]): void {
  const known = new Map(before.map((m) => [m.id, m]));
  for (const [place, m] of members.entries()) {
    const fields = { place, name: storable(m.name).trim(), mail: storable(m.mail ?? '').trim(), number: storable(m.number ?? '').trim(), extra: m.extra ?? 0 };
    const old = m.id === undefined ? undefined : known.get(m.id);
    if (old) {
      known.delete(old.id);
      em.assign(old, fields);
    } else em.persist(em.create(ClassMember, { id: newId(), list, ...fields }));
  }
  for (const left of known.values()) em.remove(left);
}
