/** Views of the bank that a person keeps by name: what was asked, as it stands in the address. */
import { Body, Controller, Delete, Get, HttpCode, Param, Put } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { newId, storable } from '@zakuska/core';
import { IsString, Length, MaxLength } from 'class-validator';
import { Access, Gives, Me, type Signed, WorkspaceId } from '../accounts/access.js';
import { sql } from '../platform/sql.js';

class BankViewBody {
  @ApiProperty() @IsString() @Length(1, 100) name!: string;
  @ApiProperty({ description: 'The query of the address, without the question mark.' }) @IsString() @MaxLength(8000) address!: string;
}
class BankView extends BankViewBody {
  @ApiProperty() id!: string;
}

@ApiTags('bank')
@Controller()
export class ViewsController {
  constructor(private readonly em: EntityManager) {}

  @Get('workspaces/:workspace/bank/views')
  @Gives([BankView])
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  list(@WorkspaceId() workspace: string, @Me() me: Signed): Promise<BankView[]> {
    return sql(this.em.fork(), 'select id, name, address from bank_view where workspace_id = ? and account_id = ? order by lower(name)', [
      workspace,
      me.account.id,
    ]);
  }

  /** Keeps a view; one of the same name gives way. */
  @Put('workspaces/:workspace/bank/views')
  @Gives(BankView)
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async keep(@WorkspaceId() workspace: string, @Body() body: BankViewBody, @Me() me: Signed): Promise<BankView> {
    const name = storable(body.name).trim() || 'View without a name';
    const [row] = await sql<BankView>(
      this.em.fork(),
      `insert into bank_view (id, workspace_id, account_id, name, address) values (?, ?, ?, ?, ?)
       on conflict (account_id, workspace_id, lower(name)) do update set name = excluded.name, address = excluded.address returning id, name, address`,
      [newId(), workspace, me.account.id, name, storable(body.address)],
    );
    return row as BankView;
  }

  @Delete('workspaces/:workspace/bank/views/:view')
  @HttpCode(204)
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async remove(@WorkspaceId() workspace: string, @Param('view') id: string, @Me() me: Signed): Promise<void> {
    await sql(this.em.fork(), 'delete from bank_view where id::text = ? and workspace_id = ? and account_id = ?', [id, workspace, me.account.id]);
  }
}
