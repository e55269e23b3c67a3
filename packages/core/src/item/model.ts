/**
 * The item model: what every reader makes, every writer takes and every screen shows.
 * The schema is the single definition; the types and the published JSON Schema are derived from it.
 */
import { z } from 'zod';
import { newId } from './ids.js';
import { translations } from './translations.js';

/** A sanitised XHTML fragment; a string without markup is plain text (see richText.ts). */
const rich = z.string();
const id = z.string().min(1).max(200);
const credit = z.number().min(-1).max(1);

/** How a typed answer is compared with an accepted one. */
export const matchRule = z.object({
  caseSensitive: z.boolean().default(false),
  spaces: z.enum(['collapse']).default('collapse'),
  punctuation: z.enum(['keep', 'ignore']).default('keep'),
  accents: z.enum(['keep', 'ignore']).default('keep'),
  /** 0.5, .5, 1/2, 2/4 and 50 % are one answer. */
  numbersAsValues: z.boolean().default(true),
  /** For an answer that is a list ("4, −3"), the order does not matter. */
  anyOrder: z.boolean().default(true),
  /** How many letters may differ. */
  spelling: z.number().int().min(0).max(5).default(0),
});
/** How a typed answer is compared with an accepted one. */
export type MatchRule = z.infer<typeof matchRule>;
/** The rule that holds where none is set. */
export const defaultMatch: MatchRule = matchRule.parse({});

const option = z.object({
  id: id.default(() => newId()),
  content: rich,
  /** Share of the item's points that choosing it earns: 1 for the key, 0 for a distractor, a part, or negative. */
  credit: credit.default(0),
  feedback: rich.optional(),
  /** Keeps its place when options are shuffled. */
  pinned: z.boolean().optional(),
});
/** Something to choose; `credit` is the share of the points that choosing it earns, from -1 to 1. */
export type Option = z.infer<typeof option>;

const textAnswer = z.object({ text: z.string(), credit: credit.default(1), feedback: rich.optional() });
/** An accepted wording with the share of the points that it earns. */
export type TextAnswer = z.infer<typeof textAnswer>;

const numberAnswer = z.object({
  min: z.number(),
  max: z.number(),
  credit: credit.default(1),
  feedback: rich.optional(),
  /** As written, where the way of writing matters. */
  text: z.string().optional(),
});
/** An accepted range of numbers, bounds included, with the share of the points that it earns. */
export type NumberAnswer = z.infer<typeof numberAnswer>;

const gapBase = { id, points: z.number().min(0).default(1) };
const gap = z.discriminatedUnion('kind', [
  z.object({ ...gapBase, kind: z.literal('text'), answers: z.array(textAnswer), match: matchRule.optional() }),
  z.object({ ...gapBase, kind: z.literal('number'), answers: z.array(numberAnswer) }),
  z.object({ ...gapBase, kind: z.literal('choice'), options: z.array(option) }),
]);
/** A gap of a cloze text, with points of its own. */
export type Gap = z.infer<typeof gap>;

const feedback = z.object({ correct: rich.optional(), incorrect: rich.optional(), general: rich.optional() });
/** What a learner reads afterwards: when right, when wrong, or always. */
export type Feedback = z.infer<typeof feedback>;

/** Levels of thinking (Anderson & Krathwohl 2001, a revision of Bloom's taxonomy). */
export const bloomLevels = ['remember', 'understand', 'apply', 'analyse', 'evaluate', 'create'] as const;

const common = {
  id: id.default(() => newId()),
  section: id.optional(),
  label: z.string().optional(),
  title: z.string().optional(),
  stem: rich.default(''),
  points: z.number().min(0).max(1_000_000).default(1),
  feedback: feedback.optional(),
  hints: z.array(rich).optional(),
  tags: z.array(z.string()).optional(),
  outcomes: z.array(z.string()).optional(),
  level: z
    .object({
      bloom: z.enum(bloomLevels).optional(),
      depth: z.number().int().min(1).max(4).optional(),
      difficulty: z.number().min(0).max(1).optional(),
    })
    .optional(),
  bonus: z.boolean().optional(),
  required: z.boolean().optional(),
  shuffle: z.boolean().optional(),
  /** BCP 47, where it is not the set's. */
  language: z.string().min(2).max(35).optional(),
  /** Seconds. */
  timeLimit: z.number().positive().optional(),
  /** Characters of the draft that the item was read from. */
  source: z.object({ from: z.number().int().min(0), to: z.number().int().min(0) }).optional(),
  /** The item of another set that it is a copy of, and what that said then. */
  takenFrom: z.object({ set: id, item: id, print: z.string().max(100) }).optional(),
};

/** Ways to score an item with several keys. */
export const scorings = ['all-or-nothing', 'per-option', 'right-minus-wrong', 'weights'] as const;
/** One of the ways to score an item with several keys. */
export type Scoring = (typeof scorings)[number];

const multipleChoice = z.object({ ...common, kind: z.literal('multiple-choice'), options: z.array(option).default([]) });
const multipleResponse = z.object({
  ...common,
  kind: z.literal('multiple-response'),
  options: z.array(option).default([]),
  scoring: z.enum(scorings).default('all-or-nothing'),
});
const trueFalse = z.object({
  ...common,
  kind: z.literal('true-false'),
  answer: z.boolean().nullable().default(null),
  optionFeedback: z.object({ true: rich.optional(), false: rich.optional() }).optional(),
});
const shortAnswer = z.object({
  ...common,
  kind: z.literal('short-answer'),
  answers: z.array(textAnswer).default([]),
  match: matchRule.default(() => matchRule.parse({})),
});
const numeric = z.object({ ...common, kind: z.literal('numeric'), answers: z.array(numberAnswer).default([]), unit: z.string().optional() });
const cloze = z.object({
  ...common,
  kind: z.literal('cloze'),
  gaps: z.array(gap).default([]),
  wordBank: z.array(z.string()).optional(),
});
const matching = z.object({
  ...common,
  kind: z.literal('matching'),
  pairs: z.array(z.object({ left: rich, right: rich })).default([]),
  extraRights: z.array(rich).default([]),
});
const ordering = z.object({ ...common, kind: z.literal('ordering'), sequence: z.array(rich).default([]) });
const essay = z.object({
  ...common,
  kind: z.literal('essay'),
  modelAnswer: rich.optional(),
  rubric: rich.optional(),
  /** Lines to write on. */
  lines: z.number().int().positive().optional(),
});
const information = z.object({ ...common, kind: z.literal('information') });

/** The schema of an item of any kind. */
export const item = z.discriminatedUnion('kind', [
  multipleChoice,
  multipleResponse,
  trueFalse,
  shortAnswer,
  numeric,
  cloze,
  matching,
  ordering,
  essay,
  information,
]);

/** One question with its key, or a text to read. */
export type Item = z.infer<typeof item>;
/** The kinds of items. */
export type Kind = Item['kind'];
/** The names of the kinds. */
export const kindNames = item.options.map((o) => o.shape.kind.value) as [Kind, ...Kind[]];
/** An item of one kind. */
export type ItemOf<K extends Kind> = Extract<Item, { kind: K }>;
/** Items that are answered by choosing among options. */
export type ChoiceItem = ItemOf<'multiple-choice'> | ItemOf<'multiple-response'>;

/** The schema of a part of a set. */
export const section = z.object({
  id,
  title: z.string().optional(),
  instructions: rich.optional(),
  passage: rich.optional(),
  /** Its items keep their order where those of others are shuffled. */
  keepOrder: z.boolean().optional(),
});
/** A part of a set; items name it by its id. */
export type Section = z.infer<typeof section>;

/** The schema of a picture that stands in a set, its bytes in base64. */
export const asset = z.object({ mediaType: z.string(), name: z.string(), data: z.string() });
/** A picture that stands in a set, its bytes in base64. */
export type Asset = z.infer<typeof asset>;

/** How grave a message is. */
export const severities = ['error', 'warning', 'info'] as const;
/** How grave a message is. */
export type Severity = (typeof severities)[number];

const edit = z.object({ from: z.number().int(), to: z.number().int(), insert: z.string() });
/** Letters of a draft to be replaced; offsets in UTF-16 units. */
export type TextEdit = z.infer<typeof edit>;
const fix = z.object({
  label: z.string(),
  edits: z.array(edit),
  /** What lines of a draft are, said as a person says it in the margin; lines count from 0. */
  roles: z.array(z.object({ line: z.number().int(), role: z.string() })).optional(),
  /** Changes nothing that a person could mean otherwise: may be applied together with others, unasked. */
  safe: z.boolean().optional(),
});
/** A way to put something right: edits of the draft, or what lines are. */
export type Fix = z.infer<typeof fix>;

/** The schema of a message about a place in what was read. */
export const diagnostic = z.object({
  code: z.string(),
  severity: z.enum(severities),
  from: z.number().int(),
  to: z.number().int(),
  /** 1-based. */
  line: z.number().int(),
  column: z.number().int(),
  item: z.string().optional(),
  message: z.string(),
  fixes: z.array(fix).optional(),
});
/** A message about a place in what was read. */
export type Diagnostic = z.infer<typeof diagnostic>;

const aside = z.object({ from: z.number().int(), to: z.number().int(), text: z.string() });
/** Lines that became part of no item. */
export type Aside = z.infer<typeof aside>;

/** The title of a set that has none. */
export const UNTITLED = 'Untitled set';

/** A set file, version 1. `diagnostics` and `asides` stand only on what a reader returns. */
export const setFile = z.object({
  zakuska: z.literal(1),
  title: z.string().default(UNTITLED),
  description: rich.optional(),
  language: z.string().optional(),
  sections: z.array(section).optional(),
  items: z.array(item),
  assets: z.record(z.string(), asset).optional(),
  translations: translations.optional(),
  diagnostics: z.array(diagnostic).optional(),
  asides: z.array(aside).optional(),
});

/** The content of a set: everything of a set file but the reader's remarks. */
export type QuizSet = Omit<z.infer<typeof setFile>, 'zakuska' | 'diagnostics' | 'asides'>;

/** What every reader returns. */
export interface ReadResult {
  set: QuizSet;
  diagnostics: Diagnostic[];
  asides: Aside[];
}
