/** Sample sets that ship with the product: looked through by outcome and level, taken as sets of one's own. */
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { Body, Controller, Get, Param, Post } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { bloomLevels, isQuestion, maximumOf, newId, type QuizSet, readDraft } from '@zakuska/core';
import { IsOptional, IsUUID } from 'class-validator';
import { Access, Gives, Me, type Signed, WorkspaceId } from '../accounts/access.js';
import { gone } from '../platform/problem.js';
import { Documents } from './documents.js';
import { Folders } from './folders.js';
import { SetSummary, Summaries } from './summaries.js';

const FOLDER = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '../../samples');

class SampleView {
  @ApiProperty() id!: string;
  @ApiProperty() title!: string;
  @ApiProperty() items!: number;
  @ApiProperty() points!: number;
  @ApiProperty({ type: [String] }) outcomes!: string[];
  @ApiProperty({ type: [String], enum: bloomLevels, isArray: true, description: 'Levels of thinking that its items ask for, the lowest first.' })
  levels!: string[];
  @ApiProperty({ description: 'Mean difficulty of its items, 0 to 1.' }) difficulty!: number;
}
class TakeSampleBody {
  @ApiPropertyOptional({ description: 'The folder it goes into.' }) @IsOptional() @IsUUID() folder?: string;
}
interface Sample {
  view: SampleView;
  text: string;
  set: QuizSet;
}

/** The samples, read once; each is a draft in our notation. */
export const samples: () => readonly Sample[] = (() => {
  let known: Sample[] | undefined;
  return () =>
    (known ??= readdirSync(FOLDER)
      .filter((f) => f.endsWith('.txt'))
      .sort()
      .map((file) => {
        const text = readFileSync(path.join(FOLDER, file), 'utf8');
        const { set } = readDraft(text, { language: 'en' });
        const questions = set.items.filter(isQuestion);
        const hard = questions.flatMap((i) => i.level?.difficulty ?? []);
        const view: SampleView = {
          id: path.basename(file, '.txt'),
          title: set.title,
          items: questions.length,
          points: maximumOf(set.items),
          outcomes: [...new Set(questions.flatMap((i) => i.outcomes ?? []))],
          levels: bloomLevels.filter((b) => questions.some((i) => i.level?.bloom === b)),
          difficulty: Math.round((hard.reduce((a, b) => a + b, 0) / (hard.length || 1)) * 100) / 100,
        };
        return { view, text, set: { ...set, language: 'en' } };
      }));
})();

@ApiTags('sets')
@Controller()
export class SamplesController {
  constructor(
    private readonly em: EntityManager,
    private readonly documents: Documents,
    private readonly folders: Folders,
    private readonly summaries: Summaries,
  ) {}

  @Get('samples')
  @Gives([SampleView])
  @Access('session')
  list(): SampleView[] {
    return samples().map((s) => s.view);
  }

  /** Makes a set of a sample. Its draft comes along; its items are open for checking. */
  @Post('workspaces/:workspace/samples/:sample')
  @Gives(SetSummary)
  @ApiParam({ name: 'workspace' })
  @Access('editor')
  async take(@WorkspaceId() workspace: string, @Param('sample') id: string, @Body() body: TakeSampleBody, @Me() me: Signed): Promise<SetSummary> {
    const sample = samples().find((s) => s.view.id === id);
    if (!sample) throw gone('sample');
    const made = await this.em.fork().transactional(async (em) => {
      const folder = body.folder ? (await this.folders.into(em, workspace, body.folder, me.account.id)).id : null;
      const set = { ...sample.set, items: sample.set.items.map((i) => ({ ...i, id: newId() })) };
      return this.documents.create(em, {
        workspace,
        folder,
        owner: me.account.id,
        document: { set, reviews: {} },
        draft: { text: sample.text, overrides: [] },
      });
    });
    return this.summaries.one(made, me.account.id);
  }
}
