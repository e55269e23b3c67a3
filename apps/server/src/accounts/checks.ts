/** How a workspace checks: thresholds of findings, rules that are off; and where a person looks things up. */
import { Body, Controller, Get, Put } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { type Limits, limitRows, ruleOf } from '@zakuska/core';
import { ArrayMaxSize, IsArray, IsObject, IsString, MaxLength } from 'class-validator';
import { gone, Problem } from '../platform/problem.js';
import { Access, Gives, Me, type Signed, WorkspaceId } from './access.js';
import { Account, Workspace } from './entities.js';

class ChecksView {
  @ApiProperty({ type: 'object', additionalProperties: { type: 'number' }, description: 'Thresholds that differ from the usual ones, by name.' })
  @IsObject()
  limits!: Partial<Limits>;
  @ApiProperty({ description: 'Codes of rules that are not asked.' }) @IsArray() @ArrayMaxSize(200) @IsString({ each: true }) off!: string[];
}
class SearchBody {
  @ApiProperty({ description: 'An address with {query} where the words go; empty for none.' }) @IsString() @MaxLength(500) address!: string;
}

@ApiTags('checks')
@Controller()
export class ChecksController {
  constructor(private readonly em: EntityManager) {}

  @Get('workspaces/:workspace/checks')
  @Gives(ChecksView)
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async get(@WorkspaceId() id: string): Promise<ChecksView> {
    const w = await this.em.fork().findOne(Workspace, { id });
    if (!w) throw gone('workspace');
    return { limits: w.checks.limits ?? {}, off: w.checks.off ?? [] };
  }

  @Put('workspaces/:workspace/checks')
  @Gives(ChecksView)
  @ApiParam({ name: 'workspace' })
  @Access('editor')
  async put(@WorkspaceId() id: string, @Body() body: ChecksView): Promise<ChecksView> {
    const em = this.em.fork();
    const w = await em.findOne(Workspace, { id });
    if (!w) throw gone('workspace');
    const limits: Partial<Limits> = {};
    for (const [name, value] of Object.entries(body.limits as Record<string, unknown>)) {
      const row = limitRows.find((r) => r.name === name);
      if (!row) throw new Problem(400, 'limit-unknown', `There is no threshold “${name.slice(0, 50)}”.`);
      if (typeof value !== 'number' || !(value >= row.min && value <= row.max))
        throw new Problem(400, 'limit-out-of-range', `“${row.label}” lies between ${row.min} and ${row.max}.`);
      if (value !== row.usual) limits[row.name] = value;
    }
    w.checks = { limits, off: body.off.filter((code) => ruleOf(code)) };
    await em.flush();
    return { limits, off: w.checks.off ?? [] };
  }

  /** Sets where the signed-in person looks things up. */
  @Put('session/search')
  @Gives(SearchBody)
  @Access('session')
  async search(@Body() body: SearchBody, @Me() me: Signed): Promise<SearchBody> {
    const address = body.address.trim();
    if (address && !/^https?:\/\/[^\s{}]+\{query\}[^\s{}]*$/.test(address))
      throw new Problem(400, 'search-invalid', 'The address begins with http:// or https:// and has {query} where the words go.');
    const em = this.em.fork();
    await em.nativeUpdate(Account, { id: me.account.id }, { searchAddress: address });
    return { address };
  }
}
