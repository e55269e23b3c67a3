/** Papers as PDF, which no browser sets: a set in, the file out, with what reading it again has shown. */
import { BadRequestException, Body, Controller, HttpCode, Post } from '@nestjs/common';
import { ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { base64Of, paperLook, type QuizSet, quizSet, sanitiseFields } from '@zakuska/core';
import { pdfFormats } from '@zakuska/documents/print';
import { IsIn, IsObject, IsOptional } from 'class-validator';
import { Access, Gives } from '../accounts/access.js';
import { ofCore } from '../platform/schemas.js';

const FORMS = pdfFormats.map((f) => f.id);
/** Setting a paper holds the server up for as long as it takes. */
const MOST_ITEMS = 500;

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
  @ApiProperty({ description: 'The PDF, base64.' })
  data!: string;
  @ApiProperty({ type: ReadBackView })
  readBack!: ReadBackView;
}

@ApiTags('print')
@Controller('print')
export class PrintController {
  @Post()
  @HttpCode(200)
  @Gives(PrintedView)
  @Access('session')
  async print(@Body() { form, set: given, look: how }: PrintBody): Promise<PrintedView> {
    const read = quizSet.safeParse(given);
    if (!read.success)
      throw new BadRequestException(`This is no set: ${read.error.issues[0]?.path.join('.') ?? ''} ${read.error.issues[0]?.message ?? ''}`.trim());
    const set: QuizSet = sanitiseFields(read.data);
    if (set.items.length > MOST_ITEMS)
      throw new BadRequestException(`A paper of ${set.items.length} items is not set; it may have ${MOST_ITEMS}. Take parts of the set, or DOCX.`);
    const format = pdfFormats.find((f) => f.id === form);
    if (!format) throw new BadRequestException(`There is no form ${form}.`);
    const look = paperLook.safeParse(how ?? {});
    if (!look.success) throw new BadRequestException(`A paper is not set like this: ${look.error.issues[0]?.message ?? ''}`);
    const { bytes, name } = format.write(set, look.data);
    return { name, data: base64Of(bytes), readBack: await format.readBack(bytes, set) };
  }
}
