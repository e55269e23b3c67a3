/**
 * The answer sheet: where on a page everything stands that a later picture of it is read by, in millimetres from the upper left corner
 * of an A4 page. What is printed and what is read come from the same numbers. In words: docs/answer-sheet.md.
 */
import { gapsInOrder, isQuestion, letterOf } from '../../item/kinds.js';
import type { Item, QuizSet } from '../../item/model.js';
import { stableId } from '../../item/ids.js';
import { truthWords } from '../../language/truthWords.js';
import { rightsOnPaper } from './key.js';
import { numbersOnPaper } from './paper.js';
import { languageOf, type PaperWords, paperWords } from './words.js';

/** A circle to fill in; `value` is what it stands for. */
export interface Bubble {
  x: number;
  y: number;
  value: string;
  /** What is printed in it. */
  sign: string;
}
/** One row of bubbles, of which one is filled in, or several. */
export interface BubbleRow {
  is: 'bubbles';
  item: string;
  /** Which part of the item: the gap, the pair, the place of a step; absent where it is the whole. */
  part?: string;
  label: string;
  x: number;
  y: number;
  several: boolean;
  bubbles: Bubble[];
}
/** A grid for a number: a column for each sign, in each of which one bubble is filled in. */
export interface NumberGrid {
  is: 'grid';
  item: string;
  part?: string;
  label: string;
  x: number;
  y: number;
  columns: Bubble[][];
}
/** A box to write in. */
export interface WriteBox {
  is: 'box';
  item: string;
  part?: string;
  label: string;
  x: number;
  y: number;
  width: number;
  height: number;
}
/** What an item, or a part of it, is answered in. */
export type SheetField = BubbleRow | NumberGrid | WriteBox;
/** All circles of a field; a box has none. */
export const bubblesOf = (f: SheetField): Bubble[] => (f.is === 'bubbles' ? f.bubbles : f.is === 'grid' ? f.columns.flat() : []);
/** One page of an answer sheet. */
export interface SheetPage {
  /** What its QR code says. */
  code: string;
  fields: SheetField[];
}
/** Whose an answer sheet is. */
export interface SheetPerson {
  /** By which a read sheet knows them: capital letters and digits. */
  code: string;
  name: string;
  /** Their class, as it stands on the sheet. */
  group?: string | undefined;
}
/** The code of somebody of a class on their sheets, from their id. 12 hexadecimal digits. */
export const personCode = (id: string): string => id.replaceAll('-', '').slice(-12).toUpperCase();

/** All pages of an answer sheet. */
export interface AnswerSheet {
  title: string;
  /** Whose it is; absent where anybody takes it. */
  person?: SheetPerson;
  language: string;
  words: PaperWords;
  pages: SheetPage[];
  /** Items that have no place on it: they are answered on paper of their own. */
  left: { item: string; label: string }[];
}

/** The geometry, in millimetres. */
export const SHEET = {
  width: 210,
  height: 297,
  /** Centres of the corner marks: upper left, upper right, lower left, lower right. The last is a ring, so that a page upside down is known. */
  corners: [
    { x: 13, y: 13 },
    { x: 197, y: 13 },
    { x: 13, y: 284 },
    { x: 197, y: 284 },
  ],
  cornerSize: 7,
  /** How thick the line of the ring is. */
  ring: 1.5,
  qr: { x: 166, y: 20, size: 24 },
  radius: 2.1,
  /** Between the centres of bubbles in a row, and of rows. */
  pitch: 5.4,
  row: 6.6,
  field: { left: 15, right: 195, top: 62, bottom: 274 },
  /** From the left of a field to the centre of its first bubble. */
  label: 11,
  box: { height: 9, gap: 3 },
} as const;

/** Signs of a number grid, from the top. */
const GRID_SIGNS = ['-', '.', '0', '1', '2', '3', '4', '5', '6', '7', '8', '9'] as const;
const GRID_COLUMNS = 6;
/** Width of the box above each column of a grid, in millimetres. */
export const GRID_BOX = 5;
/** Boxes above a grid to write the number in before it is filled in. */
const GRID_HEAD = 7;

/** What stands in a row, in its order. */
type Signs = Pick<Bubble, 'value' | 'sign'>[];
/** What a field is before it has a place. */
type Unplaced =
  | (Omit<BubbleRow, 'bubbles' | 'x' | 'y'> & { signs: Signs })
  | Pick<NumberGrid, 'is' | 'item' | 'part' | 'label'>
  | Pick<WriteBox, 'is' | 'item' | 'part' | 'label'>;

function fieldsOf(item: Item, label: string, language: string): Unplaced[] {
  const base = { item: item.id, label };
  const letters = (n: number): Signs => Array.from({ length: n }, (_, i) => ({ value: letterOf(i), sign: letterOf(i) }));
  const row = (signs: Signs, several = false): Unplaced => ({ is: 'bubbles', ...base, several, signs });
  const partRow = (part: string, name: string, signs: Signs): Unplaced => ({ is: 'bubbles', item: item.id, part, label: name, several: false, signs });
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return [row(letters(item.options.length), item.kind === 'multiple-response')];
    case 'true-false': {
      const words = truthWords(item.language ?? language);
      const first = (w: string): string => w.slice(0, 1).toUpperCase();
      const [yes, no] = first(words.true) === first(words.false) ? ['+', '–'] : [first(words.true), first(words.false)];
      return [
        row([
          { value: 'true', sign: yes ?? '+' },
          { value: 'false', sign: no ?? '–' },
        ]),
      ];
    }
    case 'numeric':
      return [{ is: 'grid', ...base }];
    case 'short-answer':
      return [{ is: 'box', ...base }];
    case 'cloze':
      // numbered as they stand on paper
      return gapsInOrder(item).map((g, i): Unplaced => {
        const name = item.gaps.length > 1 ? `${label} (${i + 1})` : label;
        if (g.kind === 'choice') return partRow(g.id, name, letters(g.options.length));
        return { is: g.kind === 'number' ? 'grid' : 'box', item: item.id, part: g.id, label: name };
      });
    case 'matching':
      // right sides that nothing on the left goes with have no row, as on paper
      return item.pairs.flatMap((p, i) => (p.left ? [i] : [])).map((i, n) => partRow(String(i), `${label} (${n + 1})`, letters(rightsOnPaper(item).length)));
    case 'ordering':
      return item.sequence.map((_, i) =>
        partRow(
          String(i),
          `${label} (${i + 1})`,
          item.sequence.map((__, n) => ({ value: String(n + 1), sign: String(n + 1) })),
        ),
      );
    default:
      return [];
  }
}

const widest = (u: Unplaced): number =>
  u.is === 'bubbles' ? SHEET.label + u.signs.length * SHEET.pitch : u.is === 'grid' ? SHEET.label + GRID_COLUMNS * SHEET.pitch : 55;
const gridHeight = GRID_HEAD + GRID_SIGNS.length * SHEET.pitch + 4;
const heightOf = (u: Unplaced): number => (u.is === 'bubbles' ? SHEET.row : u.is === 'grid' ? gridHeight : SHEET.box.height + SHEET.box.gap);

/** Where a field stands when it is put at a place. */
function placed(u: Unplaced, x: number, y: number, width: number): SheetField {
  const left = x + SHEET.label;
  if (u.is === 'bubbles') {
    const { signs, ...row } = u;
    return { ...row, x, y, bubbles: signs.map((s, i) => ({ ...s, x: left + i * SHEET.pitch, y: y + SHEET.row / 2 })) };
  }
  if (u.is === 'box') return { ...u, x: left - SHEET.radius, y, width: width - SHEET.label - 4, height: SHEET.box.height };
  return {
    ...u,
    x,
    y,
    columns: Array.from({ length: GRID_COLUMNS }, (_, c) =>
      // a minus stands in front
      GRID_SIGNS.flatMap((sign, r) =>
        sign === '-' && c > 0 ? [] : [{ value: sign, sign, x: left + c * SHEET.pitch, y: y + GRID_HEAD + (r + 0.5) * SHEET.pitch }],
      ),
    ),
  };
}

/** What a place on a sheet stands for by where it is: options, gaps, pairs, steps. */
function placesOf(item: Item): unknown {
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return item.options.map((o) => o.id);
    case 'cloze':
      return gapsInOrder(item).map((g) => [g.id, g.kind === 'choice' ? g.options.map((o) => o.id) : g.kind]);
    case 'matching':
      return [item.pairs.map((p) => p.left), rightsOnPaper(item)];
    case 'ordering':
      return item.sequence;
    default:
      return 0;
  }
}

/** The print of what is asked: the same for the same items in the same order, with all that can be chosen in its order. 12 hexadecimal digits. */
export const sheetPrint = (set: QuizSet): string =>
  stableId(JSON.stringify(set.items.filter(isQuestion).map((i) => [i.id, i.kind, placesOf(i)])))
    .replaceAll('-', '')
    .slice(0, 12)
    .toUpperCase();

/**
 * The answer sheet of a set.
 * @param person whose it is; anybody's where it is not said
 */
export function sheetOf(set: QuizSet, person?: SheetPerson): AnswerSheet {
  const language = languageOf(set);
  const left: AnswerSheet['left'] = [];
  const unplaced: Unplaced[] = [];
  const numbers = numbersOnPaper(set);
  for (const item of set.items.filter(isQuestion)) {
    const label = numbers.get(item.id) ?? '';
    const fields = fieldsOf(item, label, language);
    if (fields.length) unplaced.push(...fields);
    else left.push({ item: item.id, label });
  }
  const { field } = SHEET;
  // as many columns as the widest field lets stand beside one another
  const most = Math.max(0, ...unplaced.map(widest));
  const whole = field.right - field.left;
  const columns = Math.max(1, Math.min(4, Math.floor(whole / Math.max(most, 1))));
  const width = whole / columns;
  const pages: SheetField[][] = [[]];
  let column = 0;
  let y: number = field.top;
  for (const u of unplaced) {
    const high = heightOf(u);
    if (y + high > field.bottom) {
      y = field.top;
      if (++column === columns) {
        column = 0;
        pages.push([]);
      }
    }
    pages.at(-1)?.push(placed(u, field.left + column * width, y, width));
    y += high;
  }
  const print = sheetPrint(set);
  return {
    title: set.title,
    ...(person && { person }),
    language,
    words: paperWords(language),
    left,
    // letters and digits that a QR code holds in its dense form
    pages: pages.map((fields, i) => ({ fields, code: `ZAKUSKA/${print}/${i + 1}/${pages.length}${person ? `/${person.code}` : ''}` })),
  };
}
