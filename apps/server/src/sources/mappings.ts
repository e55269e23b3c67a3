import { Body, Controller, Delete, Get, HttpCode, Param, Put } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { columnUses, keyForms, type Mapping, newId, storable, tableLayouts } from '@zakuska/core';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Length,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { Access, Gives, WorkspaceId } from '../accounts/access.js';
import { Workspace } from '../accounts/entities.js';
import { gone, Problem } from '../platform/problem.js';
import { ColumnMapping } from './entities.js';

class MappingBody {
  @ApiProperty({ description: 'The row (0-based) that names the columns; -1 where none does.' }) @IsInt() @Min(-1) @Max(1_000_000) header!: number;
  @ApiProperty({ enum: columnUses, isArray: true })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(500)
  @IsIn(columnUses, { each: true })
  columns!: Mapping['columns'];
  @ApiProperty({ enum: tableLayouts, description: 'How rows make up items.' }) @IsIn(tableLayouts) layout!: Mapping['layout'];
  @ApiProperty({ enum: keyForms }) @IsIn(keyForms) keyForm!: Mapping['keyForm'];
  @ApiProperty() @IsString() @Length(1, 5) separator!: string;
  @ApiProperty() @IsBoolean() hidden!: boolean;
  @ApiPropertyOptional({ type: [String], minItems: 2, maxItems: 2, description: 'The signs for true and false, where they are not the usual words.' })
  @IsOptional()
  @IsArray()
  @ArrayMinSize(2)
  @ArrayMaxSize(2)
  @IsString({ each: true })
  @MaxLength(20, { each: true })
  truthSigns?: [string, string];
}
class KeepBody {
  @ApiProperty() @IsString() @Length(1, 100) name!: string;
  @ApiProperty({ description: 'The headings, by which the same layout is known again.' }) @IsString() @MaxLength(20_000) signature!: string;
  @ApiProperty({ type: MappingBody }) @ValidateNested() @Type(() => MappingBody) mapping!: MappingBody;
}
class KeptView {
  @ApiProperty() id!: string;
  @ApiProperty() name!: string;
  @ApiProperty() signature!: string;
  @ApiProperty({ type: MappingBody }) mapping!: Mapping;
}
const MOST = 500;

@ApiTags('mappings')
@Controller('workspaces/:workspace/mappings')
export class MappingsController {
  constructor(private readonly em: EntityManager) {}

  @Get()
  @Gives([KeptView])
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async list(@WorkspaceId() workspace: string): Promise<KeptView[]> {
    const all = await this.em.fork().find(ColumnMapping, { workspace }, { orderBy: { createdAt: 'desc' } });
    return all.map(view);
  }

  /** Keeps a mapping; one of the same name is replaced. */
  @Put()
  @Gives(KeptView)
  @ApiParam({ name: 'workspace' })
  @Access('editor')
  async keep(@WorkspaceId() workspace: string, @Body() body: KeepBody): Promise<KeptView> {
    const em = this.em.fork();
    const name = storable(body.name).trim();
    const before = await em.findOne(ColumnMapping, { workspace, name });
    if (!before && (await em.count(ColumnMapping, { workspace })) >= MOST)
      throw new Problem(409, 'too-many', `A workspace keeps ${MOST} mappings; delete one that nobody needs.`);
    const kept =
      before ?? em.create(ColumnMapping, { id: newId(), workspace: em.getReference(Workspace, workspace), name, signature: '', mapping: body.mapping });
    kept.signature = storable(body.signature);
    kept.mapping = { ...body.mapping };
    await em.persistAndFlush(kept);
    return view(kept);
  }

  @Delete(':mapping')
  @HttpCode(204)
  @ApiParam({ name: 'workspace' })
  @Access('editor')
  async remove(@WorkspaceId() workspace: string, @Param('mapping') id: string): Promise<void> {
    if (!/^[0-9a-f-]{36}$/i.test(id) || !(await this.em.fork().nativeDelete(ColumnMapping, { id, workspace }))) throw gone('mapping');
  }
}
const view = (m: ColumnMapping): KeptView => ({ id: m.id, name: m.name, signature: m.signature, mapping: m.mapping });
