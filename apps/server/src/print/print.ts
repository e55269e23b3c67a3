/** Papers as PDF and answer sheets, which no browser sets: a set in, the file out, with what reading it again has shown. */
import { BadRequestException, Body, Controller, HttpCode, Post } from '@nestjs/common';
import { ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { base64Of, fileName, paperLook, type QuizSet, quizSet, type Report, reportSchema, sanitiseFields } from '@zakuska/core';
import { printFormats } from '@zakuska/documents/print';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsIn, IsObject, IsOptional, IsString, Length, Matches, MaxLength, ValidateNested } from 'class-validator';
import { Access, Gives } from '../accounts/access.js';
import { inWorker, WorkStopped } from '../platform/inWorker.js';
import { ofCore } from '../platform/schemas.js';
import { type Printed, type PrintOrder, type ReportOrder, setInPrint, setReport } from './setInPrint.js';

const FORMS = printFormats.map((f) => f.id);
/** Setting a paper holds the server up for as long as it takes. */
const MOST_ITEMS = 500;
/** People whose sheets are set at once. */
const MOST_SHEETS = 200;
/** More than these are set in a thread of their own. */
const MANY = 5;
const LIMITS = { seconds: 240, megabytes: 1024 };

class SheetPersonBody {
  @ApiProperty({ description: 'By which a read sheet knows them: capital letters and digits.' })
  @Matches(/^[0-9A-Z]{1,20}$/)
  code!: string;
  @ApiProperty() @IsString() @Length(1, 100) name!: string;
  @ApiPropertyOptional({ description: 'Their class.' }) @IsOptional() @IsString() @MaxLength(100) group?: string;
}
class PrintBody {
  @ApiProperty({ enum: FORMS })
  @IsIn(FORMS)
  form!: string;
  @ApiProperty(ofCore('QuizSet', 'What is to stand on paper, with its pictures.'))
  @IsObject()
  set!: unknown;
  @ApiPropertyOptional(ofCore('PaperLook', 'How it is set; as most people read it where nothing is said.'))
  @IsOptional()
  @IsObject()
  look?: unknown;
  @ApiPropertyOptional({ type: [SheetPersonBody], description: 'Of an answer sheet: one for each of them, with their name and code.' })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(MOST_SHEETS)
  @ValidateNested({ each: true })
  @Type(() => SheetPersonBody)
  people?: SheetPersonBody[];
}
class PrintDifference {
  @ApiProperty({ required: false, description: 'The item of the set.' })
  item?: string;
  @ApiProperty()
  name!: string;
  @ApiProperty()
  message!: string;
}
class ReadBackView {
  @ApiProperty({ description: 'Questions that were to stand in the file.' })
  items!: number;
  @ApiProperty()
  keys!: number;
  @ApiProperty({ type: [PrintDifference] })
  differences!: PrintDifference[];
}
class PrintedView {
  @ApiProperty()
  name!: string;
  @ApiProperty({ description: 'The file, base64.' })
  data!: string;
  @ApiProperty()
  mediaType!: string;
  @ApiProperty({ type: ReadBackView })
  readBack!: ReadBackView;
}

class ReportBody {
  @ApiProperty({ type: 'object', additionalProperties: true, description: 'The report: title, language, and pieces of headings, text and tables.' })
  @IsObject()
  report!: unknown;
  @ApiProperty(ofCore('QuizSet', 'With the pictures that the report names.'))
  @IsObject()
  set!: unknown;
}
class ReportView {
  @ApiProperty()
  name!: string;
  @ApiProperty({ description: 'The PDF, base64.' })
  data!: string;
}

@ApiTags('print')
@Controller('print')
export class PrintController {
  @Post()
  @HttpCode(200)
  @Gives(PrintedView)
  @Access('session')
  async print(@Body() { form, set: given, look: how, people = [] }: PrintBody): Promise<PrintedView> {
    const set = setOf(given);
    if (set.items.length > MOST_ITEMS)
      throw new BadRequestException(`A paper of ${set.items.length} items is not set; it may have ${MOST_ITEMS}. Take parts of the set, or DOCX.`);
    const look = paperLook.safeParse(how ?? {});
    if (!look.success) throw new BadRequestException(`A paper is not set like this: ${look.error.issues[0]?.message ?? ''}`);
    const order: PrintOrder = { form, set, look: look.data, people };
    const long = (form.endsWith('-sheet') && form !== 'pdf-sheet') || people.length > MANY;
    const { bytes, ...rest } = await (long ? inWorker<PrintOrder, Printed>('print/print.worker.js', order, LIMITS) : setInPrint(order)).catch((e: unknown) => {
      throw e instanceof WorkStopped ? new BadRequestException('These sheets take too long at once. Take fewer people, or PDF.') : e;
    });
    return { ...rest, data: base64Of(bytes) };
  }

  /** Sets a report as PDF: what each person answered and earned, or how a class did. */
  @Post('report')
  @HttpCode(200)
  @Gives(ReportView)
  @Access('session')
  async report(@Body() body: ReportBody): Promise<ReportView> {
    const set = setOf(body.set);
    const report: Report = parsed(reportSchema.safeParse(body.report), 'report');
    const pages = report.pieces.filter((p) => p.is === 'page').length + 1;
    const bytes = await (pages > MANY ? inWorker<ReportOrder, Uint8Array>('print/print.worker.js', { report, set }, LIMITS) : setReport({ report, set }));
    return { name: fileName(report.title, '.pdf'), data: base64Of(bytes) };
  }
}

type Read<T> = { success: true; data: T } | { success: false; error: { issues: readonly { path: readonly PropertyKey[]; message: string }[] } };
/** @throws BadRequestException with the first place that is not as it should be */
function parsed<T>(read: Read<T>, what: string): T {
  if (read.success) return read.data;
  const [issue] = read.error.issues;
  throw new BadRequestException(`This is no ${what}: ${issue?.path.join('.') ?? ''} ${issue?.message ?? ''}`.trim());
}
const setOf = (given: unknown): QuizSet => sanitiseFields(parsed(quizSet.safeParse(given), 'set'));
