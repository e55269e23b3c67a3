/** The fields that a line can name: one row each, with the words that name it. */
import { headOf, pattern } from '../../language/labels.js';
import { BLOOM, DEPTH, DIFFICULTY, FEEDBACK, HINT, MODEL_ANSWER, OUTCOME, POINTS, RUBRIC, TAGS, TIME } from '../../language/words.js';

/** The fields that a line can name. */
export const FIELD_NAMES = [
  'feedback',
  'correct',
  'incorrect',
  'hint',
  'points',
  'tags',
  'outcomes',
  'difficulty',
  'bloom',
  'depth',
  'time',
  'model',
  'rubric',
  'unit',
  'kind',
  'title',
  'label',
  'bonus',
  'required',
  'shuffle',
  'match',
  'scoring',
  'lines',
  'bank',
  'gap',
  'extra',
] as const;
/** One of them. */
export type FieldName = (typeof FIELD_NAMES)[number];

const behind = (words: string): RegExp => pattern(`^[\\s\\p{So}*•💡ℹ️>-]*[(\\[【（]?\\s*(?:${words})\\s*(?:[】\\]][:：]?|[:：=–—])\\s*`);
const FIELDS: readonly [name: FieldName, find: RegExp][] = [
  ['model', behind(MODEL_ANSWER)],
  ['rubric', behind(RUBRIC)],
  ['correct', pattern('^\\s*(?:if (?:correct|right)|correct feedback|feedback[ ,(-]*(?:if |for )?(?:correct|right)\\)?|right)\\s*:\\s*')],
  ['incorrect', pattern('^\\s*(?:if (?:incorrect|wrong)|incorrect feedback|feedback[ ,(-]*(?:if |for )?(?:incorrect|wrong)\\)?|wrong|incorrect)\\s*:\\s*')],
  ['bloom', behind(BLOOM)],
  ['depth', behind(DEPTH)],
  ['hint', behind(`(?:${HINT})\\s*\\d?`)],
  ['points', pattern(`^\\s*(?:${POINTS})\\s*[:=]\\s*`)],
  ['tags', behind(TAGS)],
  ['outcomes', behind(OUTCOME)],
  ['difficulty', behind(DIFFICULTY)],
  ['time', behind(TIME)],
  ['unit', behind('units?|unidad|unité|einheit|unidade|unità|eenheid|jednostka|единица|одиниця|birim')],
  ['kind', behind('kind|type|question type|item type|tipo|typ|type de question|fragetyp|тип|tür')],
  ['title', pattern('^\\s*(?:item title|short name)\\s*:\\s*')],
  ['label', pattern('^\\s*(?:label|(?:(?:item|question)[ -]?)?id)\\s*:\\s*(?=\\S)')],
  ['bonus', pattern('^\\s*bonus\\s*:\\s*(?=(?:yes|no)\\s*$)')],
  ['required', pattern('^\\s*required\\s*:\\s*(?=(?:yes|no)\\s*$)')],
  ['shuffle', pattern('^\\s*shuffle\\s*:\\s*(?=(?:yes|no)\\s*$)')],
  ['match', pattern('^\\s*match(?:ing rule)?\\s*:\\s*(?=(?:case|accents|punctuation|numbers|order|spelling)\\b)')],
  ['scoring', pattern('^\\s*scoring\\s*:\\s*')],
  ['lines', pattern('^\\s*lines\\s*:\\s*(?=\\d+\\s*$)')],
  ['bank', pattern('^\\s*(?:word bank|words? (?:to use|list)|wortkasten|banco de palabras|banque de mots|banca de parole|woordenbank)\\s*:\\s*')],
  ['gap', pattern('^\\s*(?:gap|blank)\\s+(?=\\d+\\s*:)')],
  ['extra', pattern('^\\s*(?:extra|distractors?|not needed)\\s*:\\s*')],
  ['feedback', behind(`(?:general )?(?:${FEEDBACK})\\s*\\??`)],
];
/** A field line: which field, and the column where its value starts. */
export function field(line: string): { name: FieldName; at: number } | null {
  const text = headOf(line);
  const sign = text.search(/[:：=–—】\]]/);
  // a field's name is short and stands right at the start
  if ((sign < 0 || sign > 60) && !/^\s*(?:gap|blank)\s/i.test(text)) return null;
  for (const [name, find] of FIELDS) {
    const m = find.exec(text);
    if (m) return { name, at: m[0].length };
  }
  return null;
}
