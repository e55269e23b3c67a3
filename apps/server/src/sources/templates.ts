/** Import templates of services that a workspace fills: kept under a name, with what a person says of their columns. */
import { Body, Controller, Delete, Get, HttpCode, Param, Put } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { type ImporterCorrection, importerKeyForms, importerUses, newId, storable } from '@zakuska/core';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsBase64, IsIn, IsOptional, IsString, Length, Matches, MaxLength, ValidateNested } from 'class-validator';
import { Access, Gives, WorkspaceId } from '../accounts/access.js';
import { Workspace } from '../accounts/entities.js';
import { gone, Problem } from '../platform/problem.js';
import { ImportTemplate } from './entities.js';

class CorrectionBody {
  @ApiProperty({ enum: importerUses, isArray: true, description: 'A use for every column, in order.' })
  @IsArray()
  @ArrayMaxSize(500)
  @IsIn(importerUses, { each: true })
  columns!: ImporterCorrection['columns'][number][];
  @ApiProperty({ enum: importerKeyForms }) @IsIn(importerKeyForms) keyForm!: ImporterCorrection['keyForm'];
}
class TemplateBody {
  @ApiProperty() @IsString() @Length(1, 60) name!: string;
  @ApiProperty() @IsString() @Length(1, 200) @Matches(/\.(?:csv|tsv|txt|xlsx)$/i) fileName!: string;
  @ApiProperty({ description: 'The file, base64.' }) @IsBase64() @MaxLength(1_500_000) data!: string;
  @ApiPropertyOptional({ type: CorrectionBody }) @IsOptional() @ValidateNested() @Type(() => CorrectionBody) correction?: CorrectionBody;
}
class TemplateView {
  @ApiProperty() id!: string;
  @ApiProperty() name!: string;
  @ApiProperty() fileName!: string;
  @ApiProperty() data!: string;
  @ApiPropertyOptional({ type: CorrectionBody }) correction?: CorrectionBody;
}
const MOST = 20;

@ApiTags('templates')
@Controller('workspaces/:workspace/templates')
export class TemplatesController {
  constructor(private readonly em: EntityManager) {}

  @Get()
  @Gives([TemplateView])
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async list(@WorkspaceId() workspace: string): Promise<TemplateView[]> {
    return (await this.em.fork().find(ImportTemplate, { workspace }, { orderBy: { createdAt: 'asc' } })).map(view);
  }

  /** Keeps a template; one of the same name is replaced. */
  @Put()
  @Gives(TemplateView)
  @ApiParam({ name: 'workspace' })
  @Access('editor')
  async keep(@WorkspaceId() workspace: string, @Body() body: TemplateBody): Promise<TemplateView> {
    const em = this.em.fork();
    const name = storable(body.name).trim();
    if (!name) throw new Problem(422, 'no-name', 'Give the destination a name.');
    const before = await em.findOne(ImportTemplate, { workspace, name });
    if (!before && (await em.count(ImportTemplate, { workspace })) >= MOST)
      throw new Problem(409, 'too-many', `A workspace keeps ${MOST} templates; remove one that nobody needs.`);
    const said = { fileName: storable(body.fileName), data: body.data, correction: body.correction ? { ...body.correction } : null };
    const kept = before ?? em.create(ImportTemplate, { id: newId(), workspace: em.getReference(Workspace, workspace), name, ...said });
    Object.assign(kept, said);
    await em.persistAndFlush(kept);
    return view(kept);
  }

  @Delete(':template')
  @HttpCode(204)
  @ApiParam({ name: 'workspace' })
  @Access('editor')
  async remove(@WorkspaceId() workspace: string, @Param('template') id: string): Promise<void> {
    const uuid = /^[0-9a-f-]{36}$/i.test(id);
    if (!uuid || !(await this.em.fork().nativeDelete(ImportTemplate, { id, workspace }))) throw gone('template');
  }
}

const view = (t: ImportTemplate): TemplateView => ({
  id: t.id,
  name: t.name,
  fileName: t.fileName,
  data: t.data,
  ...(t.correction && { correction: { columns: [...t.correction.columns], keyForm: t.correction.keyForm } }),
});
