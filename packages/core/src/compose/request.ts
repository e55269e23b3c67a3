/** Requests to any assistant, by copy and paste: what to write, from what, and exactly in which form, so that the reply reads without a doubt. */
import { z } from 'zod';
import { writeNotation } from '../formats/notation/notation.js';
import { kinds } from '../item/kinds.js';
import { bloomLevels, defaultMatch, kindNames, type Item, type Kind, UNTITLED } from '../item/model.js';
import { counted } from '../language/counted.js';
import { languageName } from '../language/name.js';
import { phrasesOf } from './phrases.js';

/** What a request may ask for beside the items themselves. */
export const additions = ['feedback', 'option-feedback', 'hints', 'tags', 'outcomes', 'difficulty', 'thinking', 'time'] as const;
/** One of the things a request may ask for beside the items themselves. */
export type Addition = (typeof additions)[number];
/** Additions by what people call them. */
export const additionNames: Readonly<Record<Addition, string>> = {
  feedback: 'a reason for each key',
  'option-feedback': 'feedback for each answer',
  hints: 'hints',
  tags: 'tags',
  outcomes: 'the outcome of each item',
  difficulty: 'how hard each item is',
  thinking: 'the level of thinking',
  time: 'a time limit',
};
/** Kinds that a request can ask for. */
export const askedKinds = kindNames.filter((k) => k !== 'information');

/** The schema of what a person wants. */
export const wish = z.object({
  /** What the items are about, in a few words or a paragraph. */
  topic: z.string().max(4000).default(''),
  /** The words that they are to be made from. */
  source: z.object({ title: z.string().max(300), text: z.string().max(2_000_000) }).optional(),
  /** At most so many characters of the source go along. */
  most: z.number().int().min(500).max(200_000).default(12_000),
  counts: z.partialRecord(z.enum(kindNames), z.number().int().min(0).max(200)),
  /** Options of each choice item. */
  options: z.number().int().min(2).max(10).default(4),
  /** School year, language level, or words of one's own. */
  level: z.string().max(200).default(''),
  /** BCP 47. */
  language: z.string().min(2).max(35).default('en'),
  outcomes: z.array(z.string().min(1).max(300)).max(50).default([]),
  /** Percent of the items for levels of thinking. */
  thinking: z.partialRecord(z.enum(bloomLevels), z.number().int().min(0).max(100)).default({}),
  add: z.array(z.enum(additions)).max(additions.length).default([]),
  /** Further wishes, in own words. */
  more: z.string().max(4000).default(''),
});
/** What a person wants. */
export type Wish = z.infer<typeof wish>;
/** A wish before anything was said. */
export const firstWish = (language = 'en'): Wish => wish.parse({ counts: { 'multiple-choice': 8, 'true-false': 2 }, language, add: ['feedback'] });

/** What keeps a wish from being a request, in words for people; null where nothing does. */
export function wishProblem(w: Wish): string | null {
  if (!w.topic.trim() && !w.source?.text.trim()) return 'Say what the items are to be about, or choose a source.';
  if (!askedKinds.some((k) => (w.counts[k] ?? 0) > 0)) return 'Say how many items of which kind.';
  const shares = Object.values(w.thinking).reduce((sum, n) => sum + n, 0);
  if (shares > 0 && shares !== 100) return `The shares of the levels of thinking add up to ${shares} %; they should make 100 %.`;
  return null;
}

/** Characters and tokens of a text. */
export interface Measured {
  characters: number;
  /** Estimated; see `measure`. */
  tokens: number;
}
/**
 * How long a text is. Tokens are estimated: four characters each in Latin letters, two in other alphabets, one each in scripts that
 * write syllables or words (common practice, no source; services count in ways of their own).
 */
export function measure(text: string): Measured {
  let tokens = 0;
  for (const c of text) tokens += c <= '\u024f' ? 0.25 : /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Hangul}]/u.test(c) ? 1 : 0.5;
  return { characters: text.length, tokens: Math.ceil(tokens) };
}

/** The beginning of a text, cut behind a sentence where one ends in its last third. */
export function cutTo(text: string, most: number): string {
  const whole = text.trim();
  if (whole.length <= most) return whole;
  const head = whole.slice(0, most);
  const end = Math.max(...['. ', '? ', '! ', '.\n', '。', '\n\n'].map((s) => head.lastIndexOf(s)));
  return head.slice(0, end > most * 0.66 ? end + 1 : most).trimEnd();
}

/** An item of each kind, as an example of the form, in a language. */
export function exampleOf(kind: Kind, language: string, w: Pick<Wish, 'options' | 'add'>): Item {
  const p = phrasesOf(language);
  const own = (n: string): string => (w.add.includes('option-feedback') ? n : '');
  const common = {
    id: kind,
    points: 1,
    ...(w.add.includes('feedback') && kind !== 'essay' && { feedback: { general: p.reason } }),
    ...(w.add.includes('hints') && { hints: [p.warmth] }),
    ...(w.add.includes('tags') && { tags: [p.bread] }),
    ...((w.add.includes('difficulty') || w.add.includes('thinking')) && {
      level: { ...(w.add.includes('thinking') && { bloom: 'understand' as const }), ...(w.add.includes('difficulty') && { difficulty: 0.4 }) },
    }),
    ...(w.add.includes('outcomes') && { outcomes: [p.explain.replace(/\.$/, '')] }),
    ...(w.add.includes('time') && { timeLimit: 60 }),
  };
  const option = (n: number, content: string, credit: number) => ({ id: String(n), content, credit, ...(own(p.reason) && { feedback: p.reason }) });
  const words = [p.salt, p.water, p.milk, p.cheese, p.bread, p.flour, p.mix, p.bake, p.knead];
  switch (kind) {
    case 'multiple-choice':
      return {
        ...common,
        kind,
        stem: p.rise,
        options: [option(0, p.salt, 0), option(1, p.yeast, 1), ...words.slice(1, w.options - 1).map((x, i) => option(i + 2, x, 0))],
      };
    case 'multiple-response':
      return {
        ...common,
        kind,
        stem: p.rise,
        scoring: 'all-or-nothing',
        options: [
          option(0, p.yeast, 1),
          option(1, p.salt, 0),
          option(2, p.warmth, 1),
          ...words.slice(2, Math.max(2, w.options - 1)).map((x, i) => option(i + 3, x, 0)),
        ],
      };
    case 'true-false':
      return { ...common, kind, stem: p.false, answer: false };
    case 'short-answer':
      return { ...common, kind, stem: p.madeOf, answers: [{ text: p.flour, credit: 1 }], match: { ...defaultMatch } };
    case 'numeric':
      return { ...common, kind, stem: p.grams, answers: [{ min: 2000, max: 2000, text: '2000', credit: 1 }] };
    case 'cloze':
      return { ...common, kind, stem: p.cloze.replace('___', '[[g]]'), gaps: [{ id: 'g', kind: 'text', points: 1, answers: [{ text: p.blank, credit: 1 }] }] };
    case 'matching':
      return {
        ...common,
        kind,
        stem: p.match,
        pairs: [
          { left: p.bread, right: p.flour },
          { left: p.cheese, right: p.milk },
        ],
        extraRights: [],
      };
    case 'ordering':
      return { ...common, kind, stem: p.order, sequence: [p.mix, p.knead, p.bake] };
    case 'essay':
      return { ...common, kind, stem: p.explain, modelAnswer: p.reason };
    default:
      return { ...common, kind: 'information', stem: p.reason, points: 0 };
  }
}

/** The form of the reply: the rules of the notation that the kinds need, and an example of each. */
export function formOf(asked: readonly Kind[], language: string, w: Pick<Wish, 'options' | 'add'>): string {
  const has = (...k: Kind[]): boolean => asked.some((x) => k.includes(x));
  const rules = [
    'Number the items 1., 2., 3. and leave one empty line between them.',
    has('multiple-choice', 'multiple-response') && 'Options start with a), b), c); a star behind an option, and nothing else, marks it as right.',
    has('true-false') && 'True or false: one statement, then a line "Answer: true" or "Answer: false" (these words in English).',
    has('short-answer') && 'Short answers: a line "Answer:" with the accepted wordings, parted by " / ".',
    has('numeric') && 'Numbers: a line "Answer:" with the number, or "from to" as in "4.9 to 5.1", and its unit behind it.',
    has('cloze') && 'Blanks: the missing words stand in braces in the text, accepted wordings parted by " | ".',
    has('matching') && 'Matching: a line for each pair, left and right parted by " -> ".',
    has('ordering') && 'Ordering: the steps with a hyphen in front, in the right order.',
    has('essay') && 'Open questions: a line "Model answer:".',
    w.add.includes('feedback') && 'A line "Feedback:" under each item says in one sentence why the key is right.',
    w.add.includes('option-feedback') &&
      has('multiple-choice', 'multiple-response') &&
      'Under each option a line that starts with "->" says why it is right or wrong.',
    w.add.includes('hints') && 'A line "Hint:" helps without giving the answer away.',
    w.add.includes('tags') && 'A line "Tags:" names one to three topics, parted by semicolons.',
    w.add.includes('outcomes') && 'A line "Outcome:" names what the item asks for.',
    w.add.includes('thinking') && `A line "Bloom:" names the level of thinking: ${bloomLevels.join(', ')}.`,
    w.add.includes('difficulty') && 'A line "Difficulty:" gives a number from 0 (all will know it) to 1 (hardly anybody will).',
    w.add.includes('time') && 'A line "Time:" gives the seconds to answer, as in "60 s".',
    'The words at the start of such lines (Answer, Feedback, Hint …) stay in English.',
    'Write nothing but the items: no greeting, no title, no list of answers at the end.',
  ].filter(Boolean);
  const examples = writeNotation({ title: UNTITLED, items: asked.map((k) => exampleOf(k, language, w)) });
  return `The form, exactly:\n${rules.map((r) => `- ${r as string}`).join('\n')}\n\nExamples of the form (not of the content):\n\n${examples.trim()}`;
}

/** A request as it goes out. */
export interface Composed {
  text: string;
  /** How much of the source goes along, in characters; undefined without a source. */
  source?: { kept: number; of: number };
}

/** Composes a request from a wish; see `wishProblem` for what is missing in it. */
export function composeRequest(w: Wish): Composed {
  const asked = askedKinds.filter((k) => (w.counts[k] ?? 0) > 0);
  const counts = asked.map((k) => {
    const n = w.counts[k] ?? 0;
    const what = `- ${counted(n, `${kinds[k].name.toLowerCase()} item`)}`;
    if (k === 'multiple-choice') return `${what} with ${w.options} options each, exactly one of them right`;
    if (k === 'multiple-response') return `${what} with ${w.options} options each, two or more of them right`;
    if (k === 'true-false') return n > 1 ? `${what}, about as many true as false` : what;
    return what;
  });
  const kept = w.source ? cutTo(w.source.text, w.most) : '';
  const of = w.source?.text.trim().length ?? 0;
  const shares = bloomLevels.filter((b) => (w.thinking[b] ?? 0) > 0).map((b) => `${b} ${w.thinking[b]} %`);
  const parts = [
    `Write items for a quiz${w.topic.trim() ? ` on: ${w.topic.trim()}` : ''}`,
    [
      'What to write:',
      ...counts,
      `- Language of the items: ${languageName(w.language)}`,
      ...(w.level.trim() ? [`- For: ${w.level.trim()}`] : []),
      ...(w.outcomes.length ? ['- Each item asks for one of these, all of them are asked for:', ...w.outcomes.map((o) => `  - ${o}`)] : []),
      ...(shares.length ? [`- Levels of thinking (share of the items): ${shares.join(', ')}`] : []),
      ...(w.source ? ['- Everything asked, and every key, must stand in the text below; use nothing else.'] : []),
      ...(asked.some((k) => k === 'multiple-choice' || k === 'multiple-response')
        ? ['- Wrong options are of the same sort and length as the right one and clearly wrong; the right ones stand in all places alike.']
        : []),
      ...(w.more.trim() ? [`- ${w.more.trim()}`] : []),
    ].join('\n'),
    formOf(asked, w.language, w),
    ...(w.source
      ? [
          `The text${w.source.title ? ` (${w.source.title})` : ''}${kept.length < of ? `, its first ${kept.length} characters of ${of}` : ''}:\n"""\n${kept}\n"""`,
        ]
      : []),
  ];
  return { text: `${parts.join('\n\n')}\n`, ...(w.source && { source: { kept: kept.length, of } }) };
}

/** Composes the request to write a draft again. @param request the first one @param wrong what was wrong with what came back, in own words */
export const composeAgain = (request: string, reply: string, wrong: string): string =>
  `${request.trimEnd()}\n\nYou wrote this before:\n"""\n${reply.trim()}\n"""\n\nWhat was wrong with it: ${wrong.trim()}\nWrite all items again, in the same form, with that put right.\n`;
