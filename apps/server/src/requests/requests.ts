/** Requests to assistants, kept with their set together with the replies, and wishes under names for the workspace. Nothing is sent from here. */
import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { aimNames, newId, storable, type Wish, wishSchema } from '@zakuska/core';
import { ArrayMaxSize, IsArray, IsIn, IsObject, IsOptional, IsString, Length, MaxLength } from 'class-validator';
import { Access, Gives, Me, type Signed, UUID, WorkspaceId } from '../accounts/access.js';
import { Account, Workspace } from '../accounts/entities.js';
import { gone, Problem } from '../platform/problem.js';
import { ofCore } from '../platform/schemas.js';
import { SetRecord } from '../sets/entities.js';
import { KeptWish, type Purpose, purposes, RequestRecord } from './entities.js';

class RequestBody {
  @ApiProperty({ enum: purposes }) @IsIn(purposes) purpose!: Purpose;
  @ApiProperty({ description: 'The request as it goes out.' }) @IsString() @Length(1, 1_000_000) text!: string;
  @ApiPropertyOptional(ofCore('Wish', 'What was wished for, where it asks for a draft.')) @IsOptional() @IsObject() wish?: Wish;
  @ApiPropertyOptional({ enum: aimNames, description: 'How items are to be reworked.' }) @IsOptional() @IsIn(aimNames) aim?: string;
  @ApiPropertyOptional({ description: 'What was said to the aim: a language, a number, words.' }) @IsOptional() @IsString() @MaxLength(4000) detail?: string;
  @ApiPropertyOptional({ description: 'Ids of the items that it is about, in its order.' })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(2000)
  @IsString({ each: true })
  @MaxLength(200, { each: true })
  items?: string[];
}
class ReplyBody {
  @ApiProperty({ description: 'What came back, as it was pasted.' }) @IsString() @MaxLength(2_000_000) text!: string;
}
class RequestView {
  @ApiProperty() id!: string;
  @ApiProperty({ enum: purposes }) purpose!: Purpose;
  @ApiProperty() text!: string;
  @ApiPropertyOptional(ofCore('Wish')) wish?: Wish;
  @ApiPropertyOptional({ enum: aimNames }) aim?: string;
  @ApiProperty() detail!: string;
  @ApiProperty({ type: [String] }) items!: string[];
  @ApiPropertyOptional() reply?: string;
  @ApiProperty({ description: 'Who wrote it; empty where they are gone.' }) by!: string;
  @ApiProperty() createdAt!: string;
}
class WishBody {
  @ApiProperty() @IsString() @Length(1, 100) name!: string;
  @ApiProperty(ofCore('Wish')) @IsObject() wish!: Wish;
}
class WishView extends WishBody {
  @ApiProperty() id!: string;
}
const MOST = 200;

/** A wish as it may be kept; its source is not part of a template. */
function wished(said: unknown): Wish {
  const read = wishSchema.safeParse(said);
  if (read.success) return read.data;
  const [first] = read.error.issues;
  throw new Problem(422, 'wish-invalid', `The wish cannot be kept: ${first ? `${first.path.join('.')}: ${first.message}` : 'it is none'}.`);
}

@ApiTags('requests')
@Controller()
export class RequestsController {
  constructor(private readonly em: EntityManager) {}

  /** The requests of a set, the last first. */
  @Get('sets/:set/requests')
  @Gives([RequestView])
  @Access('reader')
  async list(@Param('set') set: string): Promise<RequestView[]> {
    const all = await this.em.fork().find(RequestRecord, { set }, { orderBy: { createdAt: 'desc', id: 'desc' }, populate: ['by'] });
    return all.map(view);
  }

  @Post('sets/:set/requests')
  @Gives(RequestView)
  @Access('editor')
  async keep(@Param('set') set: string, @Body() body: RequestBody, @Me() me: Signed): Promise<RequestView> {
    const em = this.em.fork();
    if ((await em.count(RequestRecord, { set })) >= MOST) throw new Problem(409, 'too-many', `A set keeps ${MOST} requests; delete one that nobody needs.`);
    const kept = em.create(RequestRecord, {
      id: newId(),
      set: em.getReference(SetRecord, set),
      purpose: body.purpose,
      text: storable(body.text),
      wish: body.wish ? wished(body.wish) : null,
      aim: body.aim ?? null,
      detail: storable(body.detail ?? ''),
      items: (body.items ?? []).map(storable),
      by: em.getReference(Account, me.account.id),
    });
    await em.flush();
    return { ...view(kept), by: me.account.name };
  }

  /** Keeps what came back; an earlier reply is replaced. */
  @Put('sets/:set/requests/:request/reply')
  @HttpCode(204)
  @Access('editor')
  async reply(@Param('set') set: string, @Param('request') id: string, @Body() body: ReplyBody): Promise<void> {
    if (!UUID.test(id) || !(await this.em.fork().nativeUpdate(RequestRecord, { id, set }, { reply: storable(body.text) }))) throw gone('request');
  }

  @Delete('sets/:set/requests/:request')
  @HttpCode(204)
  @Access('editor')
  async remove(@Param('set') set: string, @Param('request') id: string): Promise<void> {
    if (!UUID.test(id) || !(await this.em.fork().nativeDelete(RequestRecord, { id, set }))) throw gone('request');
  }

  @Get('workspaces/:workspace/wishes')
  @Gives([WishView])
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async wishes(@WorkspaceId() workspace: string): Promise<WishView[]> {
    const all = await this.em.fork().find(KeptWish, { workspace }, { orderBy: { name: 'asc' } });
    return all.map(({ id, name, wish }) => ({ id, name, wish }));
  }

  /** Keeps a wish under a name, without its source; one of the same name is replaced. */
  @Put('workspaces/:workspace/wishes')
  @Gives(WishView)
  @ApiParam({ name: 'workspace' })
  @Access('editor')
  async keepWish(@WorkspaceId() workspace: string, @Body() body: WishBody): Promise<WishView> {
    const em = this.em.fork();
    const name = storable(body.name).trim();
    if (!name) throw new Problem(422, 'no-name', 'Give the wish a name.');
    const { source: _, ...wish } = wished(body.wish);
    const before = await em.findOne(KeptWish, { workspace, name });
    if (!before && (await em.count(KeptWish, { workspace })) >= MOST)
      throw new Problem(409, 'too-many', `A workspace keeps ${MOST} wishes; delete one that nobody needs.`);
    const kept = before ?? em.create(KeptWish, { id: newId(), workspace: em.getReference(Workspace, workspace), name, wish });
    kept.wish = wish;
    await em.persistAndFlush(kept);
    return { id: kept.id, name, wish };
  }

  @Delete('workspaces/:workspace/wishes/:wish')
  @HttpCode(204)
  @ApiParam({ name: 'workspace' })
  @Access('editor')
  async removeWish(@WorkspaceId() workspace: string, @Param('wish') id: string): Promise<void> {
    if (!UUID.test(id) || !(await this.em.fork().nativeDelete(KeptWish, { id, workspace }))) throw gone('wish');
  }
}
const view = (r: RequestRecord): RequestView => ({
  id: r.id,
  purpose: r.purpose,
  text: r.text,
  ...(r.wish && { wish: r.wish }),
  ...(r.aim !== null && { aim: r.aim }),
  detail: r.detail,
  items: r.items,
  ...(r.reply !== null && { reply: r.reply }),
  by: r.by?.name ?? '',
  createdAt: r.createdAt.toISOString(),
});
