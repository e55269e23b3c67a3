/** Meanings of English words for the drafter in the browser, which has no room for the whole database. */
import { Body, Controller, HttpCode, Post } from '@nestjs/common';
import { ApiProperty, ApiTags } from '@nestjs/swagger';
import type { Sense } from '@zakuska/core/lexicon';
import { english } from '@zakuska/documents/lexicon';
import { ArrayMaxSize, IsArray, IsString, MaxLength } from 'class-validator';
import { Access, Gives } from '../accounts/access.js';
import { ofCore } from '../platform/schemas.js';

/** So many words are looked up at once. */
const MOST = 3000;
/** Meanings beyond these are so rare that nothing is drafted from them, unless a person asks for one word. */
const MEANINGS = 8;
const NEIGHBOURS = 20;

class WordsBody {
  @ApiProperty({ type: [String], maxItems: MOST, description: 'Words in their base forms, in small letters.' })
  @IsArray()
  @ArrayMaxSize(MOST)
  @IsString({ each: true })
  @MaxLength(100, { each: true })
  words!: string[];
}
class LexiconView {
  @ApiProperty({
    type: 'object',
    additionalProperties: { type: 'array', items: ofCore('Sense') as object },
    description: 'By the word that was asked for; unknown ones are absent.',
  })
  senses!: Record<string, Sense[]>;
}

/** A meaning with as many neighbours as drafting uses. */
const short = (s: Sense): Sense => ({ ...s, siblings: s.siblings.slice(0, NEIGHBOURS), below: s.below.slice(0, NEIGHBOURS) });

@ApiTags('lexicon')
@Controller('lexicon')
export class LexiconController {
  @Post()
  @HttpCode(200)
  @Gives(LexiconView)
  @Access('session')
  look(@Body() { words }: WordsBody): LexiconView {
    const senses: [string, Sense[]][] = [];
    for (const word of new Set(words)) {
      const found = english(word);
      if (found.length) senses.push([word, found.slice(0, MEANINGS).map(short)]);
    }
    return { senses: Object.fromEntries(senses) };
  }
}
