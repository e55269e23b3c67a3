/**
 * A draft that an assistant wrote anew in the notation, compared with what it was written from: every word has to come from the draft,
 * every key has to have its mark there, and nothing may be left out. What does not hold is said item by item.
 */
import { readDraft } from '../draft/read.js';
import { writeNotation } from '../formats/notation/notation.js';
import { keyPlaces, letterOf } from '../item/kinds.js';
import { type Item, type QuizSet, UNTITLED } from '../item/model.js';
import { plainOf } from '../item/richText.js';
import { askedKinds, formOf } from './request.js';

/** Composes the request to write a draft anew in the notation without changing a word. */
export const composeNotation = (draft: string, language = 'en'): string =>
  `${[
    'Below is a draft of quiz items in a form of its own. Write it anew in the form that follows, without changing, adding, correcting or leaving out a single word of the questions, options, answers and explanations, and in the same order. Only page numbers, greetings and headings of the page may go. Mark as right only what the draft marks as right, in whatever way it does so; where it marks nothing, mark nothing.',
    formOf(askedKinds, language, { options: 4, add: ['feedback'] }),
    `The draft:\n"""\n${draft.trim()}\n"""`,
  ].join('\n\n')}\n`;

/** A word of a text, with its place. */
interface Word {
  word: string;
  from: number;
  to: number;
}
const WORD = /[\p{L}\p{M}\p{N}]+/gu;
const wordsIn = (text: string): Word[] =>
  Array.from(text.matchAll(WORD), (m) => ({ word: m[0].normalize('NFC').toLowerCase(), from: m.index, to: m.index + m[0].length }));

/** One item of the rewriting, against the draft. */
export interface Verbatim {
  item: Item;
  /** Words that do not stand in the draft as they stand here, each with the part of the item that holds them. */
  foreign: { part: string; words: string }[];
  /** Whether the draft marks its key; null where it has none. */
  keyMarked: boolean | null;
  /** Characters of the draft that it was written from; undefined where it cannot be found there. */
  from?: number;
  to?: number;
  /** All of it comes from the draft. */
  holds: boolean;
}
/** A rewriting against its draft. */
export interface VerbatimResult {
  items: Verbatim[];
  /** Words of the draft that no item holds, in runs, without labels and marks of keys. */
  leftOut: { from: number; to: number; text: string }[];
}

/** Texts of an item that have to stand in the draft, by the part they belong to. */
function partsOf(i: Item): { part: string; text: string; option?: number }[] {
  const out: { part: string; text: string; option?: number }[] = [];
  const add = (part: string, text: string | undefined, option?: number): void => {
    const said = plainOf(text ?? '').trim();
    if (said) out.push({ part, text: said, ...(option !== undefined && { option }) });
  };
  for (const piece of i.stem.split(/\[\[[^\][]+\]\]/)) add('question', piece);
  if ('options' in i) for (const [n, o] of i.options.entries()) add(`option ${letterOf(n)}`, o.content, n);
  if ('options' in i) for (const [n, o] of i.options.entries()) add(`feedback of ${letterOf(n)}`, o.feedback);
  if (i.kind === 'short-answer') for (const a of i.answers) add('answer', a.text);
  if (i.kind === 'numeric') for (const a of i.answers) add('answer', a.text ?? String(a.min));
  if (i.kind === 'cloze')
    for (const g of i.gaps)
      for (const a of g.kind === 'choice' ? g.options.map((o) => o.content) : g.answers.map((x) => ('text' in x && x.text) || '')) add('gap', a);
  if (i.kind === 'matching') for (const p of i.pairs) for (const side of [p.left, p.right]) add('pair', side);
  if (i.kind === 'ordering') for (const s of i.sequence) add('step', s);
  if (i.kind === 'essay') add('model answer', i.modelAnswer);
  for (const f of [i.feedback?.general, i.feedback?.correct, i.feedback?.incorrect]) add('feedback', f);
  for (const h of i.hints ?? []) add('hint', h);
  return out;
}

/** Where words stand in a row, at or behind a place first, then anywhere; −1 for nowhere. */
function find(all: readonly Word[], at: ReadonlyMap<string, readonly number[]>, words: readonly Word[], cursor: number): number {
  const [first] = words;
  if (!first) return -1;
  const starts = (at.get(first.word) ?? []).filter((s) => words.every((w, k) => all[s + k]?.word === w.word));
  return starts.find((s) => s >= cursor) ?? starts[0] ?? -1;
}

/** Signs that carry sense between words: a formula, a unit, a comparison. White space and marks of emphasis do not count. */
const signsOf = (text: string): string =>
  text
    .normalize('NFC')
    .replace(/[^+\-−=<>≤≥≠×÷·%‰°€$£√π²³½^/±]/g, '')
    .replace(/−/g, '-');

/**
 * Compares a rewriting with its draft.
 * @param reply what the assistant wrote, read as any draft
 */
export function compareVerbatim(draft: string, reply: QuizSet): VerbatimResult {
  const all = wordsIn(draft);
  const at = new Map<string, number[]>();
  all.forEach((w, n) => {
    const list = at.get(w.word);
    if (list) list.push(n);
    else at.set(w.word, [n]);
  });
  const covered = new Uint8Array(all.length);
  let cursor = 0;
  const placed = reply.items.map((item) => {
    const foreign: Verbatim['foreign'] = [];
    const options: (number | undefined)[] = [];
    let asked: number | undefined;
    let [from, to] = [Number.POSITIVE_INFINITY, -1];
    for (const { part, text, option } of partsOf(item)) {
      const words = wordsIn(text);
      const start = find(all, at, words, cursor);
      if (!words.length) continue;
      if (start < 0) {
        const unknown = words.filter((w) => !at.has(w.word)).map((w) => w.word);
        foreign.push({ part, words: unknown.length ? unknown.join(' ') : text });
        continue;
      }
      const [a, b] = [all[start]?.from ?? 0, all[start + words.length - 1]?.to ?? 0];
      // the draft may wrap words in more signs, but those within have to be there
      const inside = text.slice(words[0]?.from, words.at(-1)?.to);
      if (signsOf(inside) && !signsOf(draft.slice(a, b)).includes(signsOf(inside))) foreign.push({ part, words: text });
      covered.fill(1, start, start + words.length);
      if (option !== undefined) options[option] = start;
      if (part === 'question') asked ??= start;
      // explanations and answers may stand in a list at the end; the words of the question say where the item is
      if (part === 'question' || part.startsWith('option') || part === 'pair' || part === 'step') {
        from = Math.min(from, a);
        to = Math.max(to, b);
        cursor = Math.max(cursor, start + words.length);
      }
    }
    return { item, foreign, options, asked, from, to };
  });
  // the number of a question and the letters of its options are no marks of keys
  for (const p of placed)
    for (const start of [...p.options, ...(p.asked === undefined ? [] : [p.asked])]) {
      const [label, first] = [all[(start ?? 0) - 1], all[start ?? 0]];
      if (start !== undefined && label && first && /^(?:\p{L}|\p{N}{1,3})$/u.test(label.word) && !/\n|\S{5}/.test(draft.slice(label.to, first.from)))
        covered[start - 1] = LABELS;
    }
  const runs = runsOf(all, covered);
  const items = placed.map((p, n): Verbatim => {
    const keyMarked = markOf(p, n, placed[n + 1]?.from ?? draft.length, all, covered, runs, draft);
    return {
      item: p.item,
      foreign: p.foreign,
      keyMarked,
      ...(p.to >= 0 && { from: p.from, to: p.to }),
      holds: p.foreign.length === 0 && keyMarked !== false && p.to >= 0,
    };
  });
  return { items, leftOut: leftOut(draft, runs) };
}

const TRUE = new Set([
  'true',
  't',
  'richtig',
  'wahr',
  'r',
  'vrai',
  'v',
  'verdadero',
  'vero',
  'verdadeiro',
  'waar',
  'juist',
  'prawda',
  'верно',
  'правда',
  'doğru',
  'yes',
  'correct',
]);
const FALSE = new Set([
  'false',
  'f',
  'falsch',
  'faux',
  'falso',
  'onwaar',
  'onjuist',
  'fałsz',
  'неверно',
  'ложь',
  'неправда',
  'yanlış',
  'no',
  'incorrect',
  'wrong',
]);

/** A word that is the label of a question or an option. */
const LABELS = 2;
/** Words of the draft that no item holds and that label none, in a row. */
interface Run {
  first: number;
  words: readonly Word[];
}
function runsOf(all: readonly Word[], covered: Uint8Array): Run[] {
  const out: Run[] = [];
  for (let k = 0; k < all.length; k++) {
    if (covered[k]) continue;
    let end = k;
    while (end + 1 < all.length && !covered[end + 1]) end++;
    out.push({ first: k, words: all.slice(k, end + 1) });
    k = end;
  }
  return out;
}

/** Whether the draft marks the key of an item: a sign on its option and on no other, or its letter, number or words said once more. */
function markOf(
  p: { item: Item; options: readonly (number | undefined)[]; asked?: number | undefined; from: number; to: number },
  n: number,
  next: number,
  all: readonly Word[],
  covered: Uint8Array,
  runs: readonly Run[],
  draft: string,
): boolean | null {
  const { item } = p;
  /** What labels the words at a place in the draft. */
  const labelAt = (start: number | undefined): string | undefined => (start && covered[start - 1] === LABELS ? all[start - 1]?.word : undefined);
  const number = labelAt(p.asked) ?? item.label?.toLowerCase() ?? String(n + 1);
  const isSign = (w: string): boolean => /^(?:\p{L}|\p{N}{1,2})$/u.test(w);
  /** Said first of all signs between the item and the next, or right behind its number in a list. */
  const said = (wanted: (w: string) => boolean, several = false): boolean =>
    runs.some((r) => {
      const near = (r.words[0]?.from ?? 0) >= p.from && (r.words.at(-1)?.to ?? 0) <= Math.max(next, p.to);
      const signs = r.words.filter((w) => isSign(w.word) || TRUE.has(w.word) || FALSE.has(w.word));
      if (near && (several ? signs.some((w) => wanted(w.word)) : wanted(signs[0]?.word ?? ''))) return true;
      return r.words.some((w, k) => w.word === number && r.words.slice(k + 1, k + (several ? 6 : 2)).some((x) => wanted(x.word)));
    });
  if (item.kind === 'true-false') return item.answer === null ? null : said((w) => (item.answer ? TRUE : FALSE).has(w));
  if (!('options' in item)) return null;
  const keys = item.kind === 'multiple-choice' ? keyPlaces(item) : item.options.flatMap((o, i) => (o.credit > 0 ? [i] : []));
  if (!keys.length) return null;
  const lineOf = (start: number): number => draft.lastIndexOf('\n', all[start]?.from ?? 0);
  const lines = p.options.flatMap((s) => (s === undefined ? [] : [lineOf(s)]));
  const signs = item.options.map((o, i) => {
    const start = p.options[i];
    return start === undefined ? '' : marksAround(draft, all, covered, start, start + wordsIn(plainOf(o.content)).length - 1, lines);
  });
  const others = new Set(signs.filter((_, i) => !keys.includes(i)));
  if (keys.every((k) => (signs[k]?.length ?? 0) > 1 && !others.has(signs[k] ?? ''))) return true;
  return keys.every(
    (k) =>
      said((w) => w === (labelAt(p.options[k]) ?? letterOf(k).toLowerCase()) || (!labelAt(p.options[k]) && w === String(k + 1)), keys.length > 1) ||
      repeated(item, k, runs),
  );
}
/** A letter or a number that labels an option. */
const OWN_LABEL = /(?<![\p{L}\p{N}])[([]?[\p{L}\p{N}]{1,2}[.):\]]/gu;
/**
 * What stands on an option's line before and behind its words, down to the words beside it, without its label. Where several options
 * share a line, only what touches the words counts: a sign between two could belong to both.
 * @param lines where the lines of the options start
 */
function marksAround(draft: string, all: readonly Word[], covered: Uint8Array, first: number, last: number, lines: readonly number[]): string {
  let [before, behind] = [first - 1, last + 1];
  while (before >= 0 && !covered[before]) before--;
  while (behind < all.length && !covered[behind]) behind++;
  const lead = draft.slice(all[before]?.to ?? 0, all[first]?.from ?? 0);
  const trail = draft.slice(all[last]?.to ?? 0, all[behind]?.from ?? draft.length);
  const front = lead.slice(lead.lastIndexOf('\n') + 1).replace(OWN_LABEL, ' ');
  const end = trail.indexOf('\n');
  const back = end < 0 ? trail : trail.slice(0, end);
  const line = draft.lastIndexOf('\n', all[first]?.from ?? 0);
  const shared = lines.filter((l) => l === line).length > 1;
  const bare = (text: string): string => text.replace(/[|;,/\s]/g, '');
  return shared
    ? `${bare(front.slice(Math.max(front.lastIndexOf(' '), front.lastIndexOf('\t')) + 1))}\u0000${bare(/^\S*/.exec(back)?.[0] ?? '')}`
    : `${bare(front)}\u0000${bare(back)}`;
}
/** Whether an option's words stand once more where no item holds them, and no other option's do: "Answer: sugars". */
function repeated(item: Extract<Item, { options: unknown }>, k: number, runs: readonly Run[]): boolean {
  const wordsOf = (n: number): string[] => wordsIn(plainOf(item.options[n]?.content ?? '')).map((w) => w.word);
  const stands = (words: readonly string[]): boolean =>
    words.length > 0 && runs.some((r) => r.words.some((_, s) => words.every((w, i) => r.words[s + i]?.word === w)));
  return stands(wordsOf(k)) && !item.options.some((o, n) => n !== k && o.credit <= 0 && stands(wordsOf(n)));
}

/** Words that label and announce in drafts; alone they are nothing that was left out. */
const LABEL =
  /^(?:\p{L}|\p{N}{1,3}|answers?|key|keys|question|questions|option|options|correct|right|points?|pts|marks?|true|false|antwort|lösung|respuesta|réponse|risposta|resposta|odpowiedź|ответ|cevap)$/u;
const leftOut = (draft: string, runs: readonly Run[]): VerbatimResult['leftOut'] =>
  runs.flatMap(({ words }) => {
    if (words.every((w) => LABEL.test(w.word))) return [];
    const [from, to] = [words[0]?.from ?? 0, words.at(-1)?.to ?? 0];
    return [{ from, to, text: draft.slice(from, to) }];
  });

/**
 * The draft with the lines of all items that hold written anew; all other lines stay as they are.
 * @returns the text, and how many items were put in
 */
export function takeVerbatim(draft: string, result: VerbatimResult): { text: string; taken: number } {
  let text = '';
  let at = 0;
  let taken = 0;
  const starts = (n: number): number => draft.lastIndexOf('\n', n - 1) + 1;
  const ends = (n: number): number => (draft.indexOf('\n', n) < 0 ? draft.length : draft.indexOf('\n', n));
  for (const v of result.items) {
    if (!v.holds || v.from === undefined || v.to === undefined || starts(v.from) < at) continue;
    text += draft.slice(at, starts(v.from)) + writeNotation({ title: UNTITLED, items: [v.item] }).trimEnd();
    at = ends(v.to);
    taken++;
  }
  return { text: text + draft.slice(at), taken };
}

/** Reads what the assistant wrote and compares it with the draft. */
export const verbatimOf = (draft: string, reply: string, language?: string): VerbatimResult =>
  compareVerbatim(draft, readDraft(reply, language ? { language } : {}).set);
