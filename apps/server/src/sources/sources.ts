import { Body, Controller, Delete, Get, HttpCode, Param, Post, Res } from '@nestjs/common';
import { ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { type Cue, newId, storable } from '@zakuska/core';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsBase64, IsNumber, IsOptional, IsString, Length, MaxLength, ValidateNested } from 'class-validator';
import type { Response } from 'express';
import { Access, Gives } from '../accounts/access.js';
import { gone, Problem } from '../platform/problem.js';
import { settings } from '../platform/settings.js';
import { SetRecord } from '../sets/entities.js';
import { Source } from './entities.js';
import { fetchAddress } from './fetchAddress.js';

class CueBody implements Cue {
  @ApiProperty({ description: 'Seconds from the start.' }) @IsNumber() from!: number;
  @ApiProperty({ description: 'Seconds from the start.' }) @IsNumber() to!: number;
  @ApiProperty() @IsString() @MaxLength(10_000) text!: string;
}
class SourceBody {
  @ApiProperty() @IsString() @Length(1, 300) name!: string;
  @ApiProperty() @IsString() @Length(1, 200) mediaType!: string;
  @ApiProperty({ description: 'Its words.' }) @IsString() @MaxLength(5_000_000) text!: string;
  @ApiPropertyOptional({ type: [CueBody] })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(50_000)
  @ValidateNested({ each: true })
  @Type(() => CueBody)
  cues?: CueBody[];
  @ApiPropertyOptional({ description: 'The file itself in base64, where its pages are to be looked at.' }) @IsOptional() @IsBase64() data?: string;
}
class AddressBody {
  @ApiProperty() @IsString() @Length(1, 2000) address!: string;
}
class SourceSummary {
  @ApiProperty() id!: string;
  @ApiProperty() name!: string;
  @ApiProperty() mediaType!: string;
  @ApiProperty() address!: string;
  @ApiProperty() length!: number;
  @ApiProperty({ description: 'The file itself is kept too.' }) hasFile!: boolean;
  @ApiProperty() createdAt!: string;
}
class SourceView extends SourceSummary {
  @ApiProperty() text!: string;
  @ApiProperty({ type: [CueBody] }) cues!: Cue[];
}
const MOST = 50;

@ApiTags('sources')
@Controller()
export class SourcesController {
  constructor(private readonly em: EntityManager) {}

  @Get('sets/:set/sources')
  @Gives([SourceSummary])
  @Access('reader')
  async list(@Param('set') set: string): Promise<SourceSummary[]> {
    const rows = await this.em
      .fork()
      .getConnection()
      .execute<{ id: string; name: string; media_type: string; address: string; length: number; has_file: boolean; created_at: Date }[]>(
        'select id, name, media_type, address, length(text) as length, bytes is not null as has_file, created_at from source where set_id = ? order by created_at',
        [set],
      );
    return rows.map((r) => ({
      id: r.id,
      name: r.name,
      mediaType: r.media_type,
      address: r.address,
      length: r.length,
      hasFile: r.has_file,
      createdAt: new Date(r.created_at).toISOString(),
    }));
  }

  @Post('sets/:set/sources')
  @Gives(SourceSummary)
  @Access('editor')
  async add(@Param('set') set: string, @Body() body: SourceBody): Promise<SourceSummary> {
    const bytes = body.data === undefined ? null : Buffer.from(body.data, 'base64');
    if (bytes && bytes.length > settings().maxUploadBytes) throw new Problem(413, 'too-large', 'The file is larger than files may be here.');
    return this.keep(set, {
      name: body.name,
      mediaType: body.mediaType,
      text: body.text,
      cues: body.cues?.map(({ from, to, text }) => ({ from, to, text })) ?? null,
      bytes,
    });
  }

  /** Fetches a page and keeps its main text. */
  @Post('sets/:set/sources/address')
  @Gives(SourceSummary)
  @Access('editor')
  async fetch(@Param('set') set: string, @Body() body: AddressBody): Promise<SourceSummary> {
    const page = await fetchAddress(body.address.trim());
    return this.keep(set, { ...page, name: page.name.slice(0, 300), mediaType: 'text/html', cues: null, bytes: null });
  }

  @Get('sources/:source')
  @Gives(SourceView)
  @Access('reader')
  async get(@Param('source') id: string): Promise<SourceView> {
    const s = await this.em.fork().findOne(Source, { id }, { populate: ['bytes'] });
    if (!s) throw gone('source');
    return { ...summary(s), text: s.text, cues: s.cues ?? [] };
  }

  @Get('sources/:source/file')
  @Access('reader')
  async file(@Param('source') id: string, @Res() response: Response): Promise<void> {
    const s = await this.em.fork().findOne(Source, { id }, { populate: ['bytes'] });
    if (!s?.bytes) throw gone('file');
    // never shown as a page of ours: it is somebody's file
    response.setHeader('content-type', 'application/octet-stream');
    response.setHeader('content-disposition', 'attachment');
    response.setHeader('x-content-type-options', 'nosniff');
    response.send(Buffer.from(s.bytes));
  }

  @Delete('sources/:source')
  @HttpCode(204)
  @Access('editor')
  async remove(@Param('source') id: string): Promise<void> {
    await this.em.fork().nativeDelete(Source, { id });
  }

  private async keep(
    set: string,
    s: { name: string; mediaType: string; text: string; address?: string; cues: Cue[] | null; bytes: Buffer | null },
  ): Promise<SourceSummary> {
    const em = this.em.fork();
    if ((await em.count(Source, { set })) >= MOST) throw new Problem(409, 'too-many', `A set keeps ${MOST} sources; delete one first.`);
    const source = em.create(Source, {
      id: newId(),
      set: em.getReference(SetRecord, set),
      name: storable(s.name).trim() || 'Source',
      mediaType: storable(s.mediaType),
      address: storable(s.address ?? ''),
      text: storable(s.text),
      cues: s.cues?.map((c) => ({ ...c, text: storable(c.text) })) ?? null,
      bytes: s.bytes,
    });
    await em.persistAndFlush(source);
    return summary(source);
  }
}
const summary = (s: Source): SourceSummary => ({
  id: s.id,
  name: s.name,
  mediaType: s.mediaType,
  address: s.address,
  length: s.text.length,
  hasFile: s.bytes !== null,
  createdAt: s.createdAt.toISOString(),
});
