/** A set as slides to talk over in a room: an item each, its key on a second step, what is said to it on a third. */
import { fitSet } from '../../fit/fit.js';
import { isQuestion, keyProblem, letterOf } from '../../item/kinds.js';
import type { Asset, Item, QuizSet } from '../../item/model.js';
import { picturesApart } from '../pictures.js';
import { blocksOf, plainOfBlocks } from './blocks.js';
import { keyInWords } from './key.js';
import { numbersOnPaper, paperItem } from './paper.js';
import type { PaperAnswer, PaperBlock } from './pieces.js';
import { printedProfile } from './profile.js';
import { languageOf, paperWords } from './words.js';

/** The slide of an item. Its steps show the same in the same place; each adds to the one before. */
export interface ItemSlide {
  is: 'item';
  id: string;
  /** "3 / 20" */
  place: string;
  blocks: PaperBlock[];
  answers: PaperAnswer[];
  step: 'question' | 'key' | 'feedback';
  /** The key where it is no option to be marked; empty in the step before it is shown. */
  key: PaperBlock[];
  feedback: PaperBlock[];
  /** For the person who speaks. */
  notes: string;
  size: SlideSize;
}
/** One slide. */
export type Slide = { is: 'title'; title: string; blocks: PaperBlock[] } | { is: 'part'; title: string; blocks: PaperBlock[]; size: SlideSize } | ItemSlide;

/** How large the type of a slide is, and how its options stand. */
export interface SlideSize {
  /** Points, of the question and of what is below it. */
  question: number;
  answers: number;
  columns: 1 | 2;
}

/** A slide is so wide and so high inside its margins, in points of 1/72 inch. */
const ROOM = { width: 850, height: 440 };
/** Between two boxes of words, in points. */
const APART = 16;
/** Sizes that are tried, the largest first; what does not fit in the least goes on in it. */
const SIZES: readonly (readonly [number, number])[] = [
  [44, 36],
  [40, 32],
  [36, 28],
  [32, 26],
  [28, 24],
  [24, 20],
  [20, 18],
  [18, 16],
  [16, 14],
  [13, 12],
];
/** Of a letter's size: how wide letters are on average, and how far lines lie apart. Common practice, no source. */
const LETTER = 0.52;
const LINE = 1.35;

const linesOf = (letters: number, size: number, width: number): number => Math.max(1, Math.ceil((letters * size * LETTER) / width));
/**
 * How high lines of words stand, by estimate.
 * @param letters of each line; @param size of the type, and @param width of a line, both in points
 */
export const heightOfLines = (letters: readonly number[], size: number, width: number): number =>
  letters.reduce((sum, n) => sum + linesOf(n, size, width), 0) * size * LINE;
/** The letters of each line of blocks. */
const lettersIn = (blocks: readonly PaperBlock[]): number[] =>
  blocks.flatMap((b): number[] => {
    switch (b.is) {
      case 'paragraph': {
        const lines = [0];
        for (const r of b.runs)
          if (r.is === 'break') lines.push(0);
          else lines[lines.length - 1] = (lines.at(-1) ?? 0) + plainOfBlocks([{ is: 'paragraph', runs: [r] }]).length;
        return lines;
      }
      case 'code':
        return b.text.split('\n').map((l) => l.length);
      case 'list':
        return b.items.flatMap((i) => lettersIn(i).map((n) => n + 3));
      case 'table':
        return b.rows.map((row) => row.reduce((n, c) => n + plainOfBlocks(c.blocks).length + 5, 0));
      case 'quote':
        return lettersIn(b.blocks);
    }
  });
const pictures = (blocks: readonly PaperBlock[]): boolean => JSON.stringify(blocks).includes('"is":"picture"');
/** How high a picture may be, in points. */
const PICTURE = 170;

/** The boxes of an answer area, each by the letters of its lines. */
function boxesOf(a: PaperAnswer): { lines: number[]; picture: boolean }[] {
  const box = (blocks: readonly PaperBlock[], more = 4): { lines: number[]; picture: boolean } => {
    const [first = 0, ...rest] = lettersIn(blocks);
    return { lines: [first + more, ...rest], picture: pictures(blocks) };
  };
  switch (a.is) {
    case 'options':
      return a.options.map((o) => box(o.blocks, 8));
    case 'boxes':
      return a.words.map((w) => ({ lines: [w.text.length + 4], picture: false }));
    case 'bank':
      return [{ lines: [a.words.join('  ·  ').length], picture: false }];
    case 'pairs':
      // two beside one another have half the width each
      return Array.from({ length: Math.max(a.lefts.length, a.rights.length) }, (_, i) => {
        const [left, right] = [box(a.lefts[i] ?? []), box(a.rights[i]?.blocks ?? [])];
        const longer = left.lines.length > right.lines.length ? left.lines : right.lines;
        return { lines: longer.map((_l, k) => 2 * Math.max(left.lines[k] ?? 0, right.lines[k] ?? 0)), picture: left.picture || right.picture };
      });
    case 'steps':
      return a.steps.map((s) => box(s));
    case 'blank':
    case 'lines':
      return [];
  }
}

/**
 * The largest type that a question with its answers fits in, two columns before it gets small; else the least, and that it does not fit.
 * @param below the letters of each line of what later steps show below the answers
 */
function sizeOf(blocks: readonly PaperBlock[], answers: readonly PaperAnswer[], below: readonly number[]): SlideSize & { fits: boolean } {
  const boxes = answers.flatMap(boxesOf);
  const choice = answers.every((a) => a.is === 'options' || a.is === 'boxes');
  const asked = lettersIn(blocks);
  for (const [question, size] of SIZES)
    for (const columns of choice && boxes.length >= 4 ? ([1, 2] as const) : ([1] as const)) {
      const each = boxes.map((b) => heightOfLines(b.lines, size, ROOM.width / columns) + APART + (b.picture ? PICTURE : 0));
      const rows = each.reduce((sum, _, i) => (i % columns ? sum : sum + Math.max(...each.slice(i, i + columns))), 0);
      const height =
        heightOfLines(asked, question, ROOM.width) +
        2 * APART +
        rows +
        heightOfLines(below, size, ROOM.width) +
        (below.length ? 2 * APART : 0) +
        (pictures(blocks) ? PICTURE : 0);
      if (height <= ROOM.height) return { question, answers: size, columns, fits: true };
    }
  const [question, size] = SIZES.at(-1) as readonly [number, number];
  return { question, answers: size, columns: choice && boxes.length >= 4 ? 2 : 1, fits: false };
}

/** What the person who speaks reads: the key, and what is said to it. */
function notesOf(item: Item, key: string, feedback: readonly PaperBlock[], language: string): string {
  const words = paperWords(language);
  const right =
    'options' in item
      ? item.options.flatMap((o, i) => (o.credit > 0 ? [`${letterOf(i).toLowerCase()}) ${plainOfBlocks(blocksOf(o.content))}`] : [])).join('; ')
      : key;
  return [right && `${words.key}: ${right}`, plainOfBlocks(feedback)].filter(Boolean).join('\n');
}

/** The slides of a set. @param feedback whether a third step shows what is said to the item, where something is */
export function slidesOf(set: QuizSet, feedback = true): Slide[] {
  const slides: Slide[] = [{ is: 'title', title: set.title, blocks: set.description ? blocksOf(set.description) : [] }];
  const language = languageOf(set);
  const numbers = numbersOnPaper(set);
  const all = set.items.filter(isQuestion).length;
  let section: string | undefined;
  let n = 0;
  const part = (title: string, blocks: PaperBlock[]): void => {
    slides.push({ is: 'part', title, blocks, size: sizeOf([], [], lettersIn(blocks)) });
  };
  for (const item of set.items) {
    if (item.section !== section) {
      section = item.section;
      const s = set.sections?.find((x) => x.id === section);
      if (s?.title || s?.instructions) part(s.title ?? '', blocksOf(s.instructions ?? ''));
      if (s?.passage) part(s.title ?? '', blocksOf(s.passage));
    }
    if (!isQuestion(item)) {
      part(item.title ?? '', blocksOf(item.stem));
      continue;
    }
    n++;
    const asked = paperItem(item, language, numbers.get(item.id) ?? '');
    const marked = asked.answers.some((a) => a.is === 'options' || a.is === 'boxes');
    const keyed = !keyProblem(item) && (item.kind !== 'essay' || item.modelAnswer !== undefined);
    const key = keyed ? blocksOf(`<p>${keyInWords(item, language)}</p>`) : [];
    const said = item.feedback?.general ?? item.feedback?.correct;
    const saying = said ? blocksOf(said) : [];
    const below = [...(marked ? [] : lettersIn(key)), ...lettersIn(saying)];
    const answers = asked.answers.filter((a) => a.is !== 'lines' && a.is !== 'blank');
    const whole = sizeOf(asked.blocks, answers, below);
    const question = whole.fits ? whole : sizeOf(asked.blocks, answers, []);
    const common = { is: 'item' as const, id: item.id, place: `${asked.number} / ${all}`, notes: notesOf(item, plainOfBlocks(key), saying, language) };
    const first = { ...common, blocks: asked.blocks, answers, size: question };
    // what does not fit below its question has a slide of its own
    const later = whole.fits || !below.length ? first : { ...common, blocks: [], answers: [], size: sizeOf([], [], below) };
    slides.push({ ...first, step: 'question', key: [], feedback: [] });
    if (keyed) slides.push({ ...(marked ? first : later), step: 'key', key: marked ? [] : key, feedback: [] });
    if (feedback && saying.length) slides.push({ ...later, step: 'feedback', key: marked || !keyed ? [] : key, feedback: saying });
  }
  return slides;
}

/** Slides to be shown: with their pictures, by the hash that names them, and the language they are written in. */
export interface Deck {
  slides: Slide[];
  /** How many seconds there are to answer, of the items that say so. */
  seconds: Readonly<Record<string, number>>;
  assets: Readonly<Record<string, Asset>>;
  language: string;
}
/** A set as slides to be shown. */
export function deckOf(given: QuizSet): Deck {
  const { set } = fitSet(picturesApart(given), printedProfile);
  // no paper and no file of slides holds a time; a screen does
  const seconds = Object.fromEntries(given.items.flatMap((i) => (i.timeLimit === undefined ? [] : [[i.id, i.timeLimit]])));
  return { slides: slidesOf(set), seconds, assets: set.assets ?? {}, language: languageOf(set) };
}

/**
 * The last slide that shows the same as this one and more: room is kept for it from the first, so that nothing moves when it comes.
 * @param at 0-based place in the slides; @returns a place from there on
 */
export function wholeOf(slides: readonly Slide[], at: number): number {
  const here = slides[at];
  let last = at;
  for (let i = at + 1; here?.is === 'item'; i++) {
    const next = slides[i];
    // what did not fit below its question stands on a slide of its own
    if (next?.is !== 'item' || next.id !== here.id || next.blocks.length !== here.blocks.length || next.answers.length !== here.answers.length) break;
    last = i;
  }
  return last;
}
