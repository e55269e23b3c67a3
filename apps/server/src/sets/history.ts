/** The history of a set: what was done by whom, the newest first, and the points in it that somebody named. */
import { Body, Controller, Delete, Get, HttpCode, Param, Post, Query } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiQuery, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { newId, storable, type Operation } from '@zakuska/core';
import { IsInt, isUUID, IsString, Length, Min } from 'class-validator';
import { Access, Gives, Me, type Signed } from '../accounts/access.js';
import { Account } from '../accounts/entities.js';
import { gone, Problem } from '../platform/problem.js';
import { ofCore } from '../platform/schemas.js';
import { nameOf, OperationRecord, SetPoint, SetRecord } from './entities.js';

class StepView {
  @ApiProperty() id!: string;
  @ApiProperty({ description: 'The version that the set had afterwards.' }) version!: number;
  @ApiProperty() by!: string;
  @ApiProperty() at!: string;
  @ApiProperty(ofCore('Operation')) operation!: Operation;
  @ApiProperty(ofCore('Operation', 'What takes it back.')) inverse!: Operation;
}
class PointBody {
  @ApiProperty() @IsString() @Length(1, 200) name!: string;
  @ApiProperty({ description: 'The version that it names.' }) @IsInt() @Min(0) version!: number;
}
class PointView {
  @ApiProperty() id!: string;
  @ApiProperty() name!: string;
  @ApiProperty() version!: number;
  @ApiProperty() by!: string;
  @ApiProperty() at!: string;
}
const PAGE = 200;
const MOST_POINTS = 200;

const pointView = (p: SetPoint): PointView => ({ id: p.id, name: p.name, version: p.version, by: nameOf(p.account), at: p.at.toISOString() });

@ApiTags('sets')
@Controller('sets/:set')
export class HistoryController {
  constructor(private readonly em: EntityManager) {}

  /** At most 200 steps, the newest first; `before` goes on from there. */
  @Get('history')
  @Gives([StepView])
  @ApiParam({ name: 'set' })
  @ApiQuery({ name: 'before', required: false, description: 'Only steps to versions below this one.' })
  @Access('reader')
  async steps(@Param('set') set: string, @Query('before') before?: string): Promise<StepView[]> {
    const below = Number.parseInt(before ?? '', 10);
    const list = await this.em
      .fork()
      .find(
        OperationRecord,
        { set, ...(Number.isFinite(below) && { version: { $lt: below } }) },
        { orderBy: { version: 'desc' }, limit: PAGE, populate: ['account'] },
      );
    return list.map((o) => ({ id: o.id, version: o.version, by: nameOf(o.account), at: o.at.toISOString(), operation: o.operation, inverse: o.inverse }));
  }

  @Get('points')
  @Gives([PointView])
  @ApiParam({ name: 'set' })
  @Access('reader')
  async points(@Param('set') set: string): Promise<PointView[]> {
    const list = await this.em.fork().find(SetPoint, { set }, { orderBy: { version: 'desc', at: 'desc' }, populate: ['account'] });
    return list.map(pointView);
  }

  @Post('points')
  @Gives(PointView)
  @ApiParam({ name: 'set' })
  @Access('editor')
  async name(@Param('set') id: string, @Body() body: PointBody, @Me() me: Signed): Promise<PointView> {
    const em = this.em.fork();
    const set = await em.findOne(SetRecord, { id });
    if (!set) throw gone('set');
    if (body.version > set.version) throw new Problem(409, 'version-unknown', 'The set has no such version yet. Wait until your edits are saved.');
    if ((await em.count(SetPoint, { set: id })) >= MOST_POINTS)
      throw new Problem(409, 'too-many', `A set keeps ${MOST_POINTS} named points; delete one that nobody needs.`);
    const point = em.create(SetPoint, {
      id: newId(),
      set,
      version: body.version,
      name: storable(body.name).trim() || 'A point',
      account: em.getReference(Account, me.account.id),
    });
    await em.persistAndFlush(point);
    return pointView(point);
  }

  @Delete('points/:point')
  @HttpCode(204)
  @ApiParam({ name: 'set' })
  @Access('editor')
  async remove(@Param('set') set: string, @Param('point') id: string): Promise<void> {
    if (!isUUID(id) || !(await this.em.fork().nativeDelete(SetPoint, { id, set }))) throw gone('point');
  }
}
