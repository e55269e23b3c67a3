/** What is kept of people in a workspace: found by name, deleted with a record of it, and how long answers are kept. */
import { Body, Controller, Get, HttpCode, Param, Post, Put, Query } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { storable } from '@zakuska/core';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsInt,
  IsISO8601,
  IsOptional,
  IsString,
  Length,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { Access, Gives, Me, type Signed, WorkspaceId } from '../accounts/access.js';
import { wasDone } from '../accounts/audit.js';
import { gone, Problem } from '../platform/problem.js';
import { sql } from '../platform/sql.js';
import { type Erasure, eraseRecords, erasuresOf, type PersonRecord, recordsOf, RECORDS, type RecordKind, type Removed } from './erasing.js';

/** Records named at once. */
const MOST_NAMED = 500;
/** Ten years. */
const MOST_MONTHS = 120;

class FindQuery {
  @ApiProperty({ description: 'Part of a name, a whole mail address, or what the school calls the person.' }) @IsString() @Length(2, 300) words!: string;
}
class PersonRecordView implements PersonRecord {
  @ApiProperty({
    enum: RECORDS,
    enumName: 'RecordKind',
    description: 'Answers given here, or fetched from elsewhere; listed in a class; written to; came from a course.',
  })
  kind!: RecordKind;
  @ApiProperty() id!: string;
  @ApiProperty() name!: string;
  @ApiProperty() mail!: string;
  @ApiProperty() number!: string;
  @ApiProperty({ description: 'The quiz, class, mail or course that it belongs to.' }) place!: string;
  @ApiProperty() at!: string;
}
class NamedRecord {
  @ApiProperty({ enum: RECORDS, enumName: 'RecordKind' }) @IsIn(RECORDS) kind!: RecordKind;
  @ApiProperty() @IsString() @Length(1, 1000) id!: string;
}
class EraseBody {
  @ApiProperty({ type: [NamedRecord] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_NAMED)
  @ValidateNested({ each: true })
  @Type(() => NamedRecord)
  records!: NamedRecord[];
  @ApiProperty({ description: 'Why, in words that name nobody: they stay.' }) @IsString() @MaxLength(200) reference!: string;
}
class ErasureView implements Erasure {
  @ApiProperty() id!: string;
  @ApiProperty() at!: string;
  @ApiProperty({ description: 'Empty where their time was over.' }) by!: string;
  @ApiProperty({ enum: ['asked', 'time'] }) cause!: Erasure['cause'];
  @ApiProperty() reference!: string;
  @ApiProperty({ type: 'object', additionalProperties: { type: 'number' }, description: 'How many records of each kind went.' }) removed!: Removed;
}
class KeepingView {
  @ApiProperty({ type: 'integer', nullable: true, description: 'Months from handing in; null for as long as the set is there.' })
  @IsOptional()
  @IsInt()
  @Min(1)
  @Max(MOST_MONTHS)
  months!: number | null;
}
class UntilView {
  @ApiProperty({ type: 'string', nullable: true, description: 'When all answers go and the quiz is closed; null where no day is set.' })
  @IsOptional()
  @IsISO8601({ strict: true })
  until!: string | null;
}

@ApiTags('people')
@Controller()
export class PeopleController {
  constructor(private readonly em: EntityManager) {}

  /** Records of people, of all sets whose answers the person who asks may delete. */
  @Get('workspaces/:workspace/people')
  @Gives([PersonRecordView])
  @ApiParam({ name: 'workspace' })
  @Access('editor')
  find(@WorkspaceId() workspace: string, @Query() { words }: FindQuery, @Me() me: Signed): Promise<PersonRecord[]> {
    if (words.trim().length < 2) throw new Problem(400, 'too-short', 'Give at least two characters of a name, or a whole address or number.');
    return recordsOf(this.em.fork(), workspace, me.account.id, storable(words));
  }

  /** Deletes records for good, and writes down that it was done. */
  @Post('workspaces/:workspace/people/erase')
  @HttpCode(200)
  @Gives([ErasureView])
  @ApiParam({ name: 'workspace' })
  @Access('editor')
  async erase(@WorkspaceId() workspace: string, @Body() { records, reference }: EraseBody, @Me() me: Signed): Promise<Erasure[]> {
    const em = this.em.fork();
    await eraseRecords(em, workspace, me.account.id, records, storable(reference).trim());
    await wasDone(em, { workspace, account: me.account.id, what: 'people erased', about: { records: String(records.length) } });
    return erasuresOf(em, workspace);
  }

  @Get('workspaces/:workspace/erasures')
  @Gives([ErasureView])
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  erasures(@WorkspaceId() workspace: string): Promise<Erasure[]> {
    return erasuresOf(this.em.fork(), workspace);
  }

  @Get('workspaces/:workspace/keeping')
  @Gives(KeepingView)
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async keeping(@WorkspaceId() workspace: string): Promise<KeepingView> {
    const [row] = await sql<KeepingView>(this.em.fork(), 'select keep_months as months from workspace where id = ?', [workspace]);
    return row ?? { months: null };
  }
  /** For how long answers are kept in the whole workspace. Those that are older go within minutes. */
  @Put('workspaces/:workspace/keeping')
  @Gives(KeepingView)
  @ApiParam({ name: 'workspace' })
  @Access('administrator')
  async keep(@WorkspaceId() workspace: string, @Body() { months }: KeepingView): Promise<KeepingView> {
    await sql(this.em.fork(), 'update workspace set keep_months = ? where id = ?', [months ?? null, workspace]);
    return { months: months ?? null };
  }

  @Get('deliveries/:delivery/keeping')
  @Gives(UntilView)
  @Access('reader')
  untilOfDelivery(@Param('delivery') id: string): Promise<UntilView> {
    return this.until('delivery', id);
  }
  @Put('deliveries/:delivery/keeping')
  @Gives(UntilView)
  @Access('editor')
  keepDelivery(@Param('delivery') id: string, @Body() body: UntilView): Promise<UntilView> {
    return this.keepUntil('delivery', id, body);
  }
  @Get('placements/:placement/keeping')
  @Gives(UntilView)
  @Access('reader')
  untilOfPlacement(@Param('placement') id: string): Promise<UntilView> {
    return this.until('placement', id);
  }
  @Put('placements/:placement/keeping')
  @Gives(UntilView)
  @Access('editor')
  keepPlacement(@Param('placement') id: string, @Body() body: UntilView): Promise<UntilView> {
    return this.keepUntil('placement', id, body);
  }

  private async until(what: 'delivery' | 'placement', id: string): Promise<UntilView> {
    const [row] = await sql<{ at: string | null }>(this.em.fork(), `select keep_until as at from ${what} where id = ?`, [id]);
    if (!row) throw gone(what);
    return { until: row.at === null ? null : new Date(row.at).toISOString() };
  }
  private async keepUntil(what: 'delivery' | 'placement', id: string, { until }: UntilView): Promise<UntilView> {
    // a slip of the hand must not delete at once
    if (until && Date.parse(until) <= Date.now()) throw new Problem(422, 'day-past', 'This day is past. Choose one that is still to come.');
    await sql(this.em.fork(), `update ${what} set keep_until = ? where id = ?`, [until ?? null, id]);
    return this.until(what, id);
  }
}
