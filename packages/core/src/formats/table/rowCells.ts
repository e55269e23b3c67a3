/** The cells of a row by what their columns are used for: words of the item, options with what is said of each. */
import { richFromPlain } from '../../item/richText.js';
import type { Row } from './grid.js';
import type { ColumnUse } from './headings.js';
import { truthOf } from './keyCells.js';
import { type CellLook, type Mapping, OPTION_LABEL, optionsIn, type TableSheet, unlabelled } from './mapping.js';

/** An option as cells say it. */
export interface RowOption {
  text: string;
  /** The words and, where looks say more, as rich text. */
  rich: string;
  /** Whether it is right; not there where nothing says so of it. */
  right?: boolean;
  /** What it earns, −1 to 1. */
  credit?: number;
  feedback?: string;
  looks?: readonly CellLook[];
}

/** The cells that make up one item. */
export interface RowCells {
  /** 0-based in the sheet; of several rows the first. */
  row: number;
  said: Map<ColumnUse, string[]>;
  options: RowOption[];
  stem: string;
  stemRich: string;
  /** How the question's cell looks, where it stands out. */
  stemLooks?: readonly CellLook[];
  /** Left and right sides in pairs, '' where a side is empty. */
  pairs: [left: string, right: string][];
  /** What is said by a column for true and one for false. */
  truth?: boolean;
  /** The key of each gap that has a column. */
  gaps: string[];
}

const MARKED =
  /^(?:x|✓|✔|✅|☑|●|1|\+|\*|ok|y(?:es)?|ja|oui|s[iíì]|sim|tak|да|так|evet|t(?:rue)?|v|r(?:ight|ichtig)?|wahr|correct[oa]?|100(?:\s?%)?|1[.,]0+)$/iu;
/** Whether a cell marks what stands beside it as right. @param signs the two signs that the column uses, where it is none of the usual */
export const marksRight = (cell: string, signs?: readonly [string, string]): boolean =>
  signs ? cell.toLowerCase() === signs[0] : MARKED.test(cell) || truthOf(cell) === true;

/** What an option earns, from 1 or 100 for all of it; null where the cell is no number. */
export function shareIn(cell: string): number | null {
  const n = /^[-−–+]?\d{1,3}(?:[.,]\d+)?\s?%?$/.test(cell) ? Number(cell.replace(/\s?%$/, '').replace(/^[−–]/, '-').replace(',', '.')) : null;
  return n === null ? null : Math.max(-1, Math.min(1, Math.abs(n) > 1 || cell.endsWith('%') ? Math.round(n * 1e5) / 1e7 : n));
}

interface UsePlaces {
  optionColumns: readonly number[];
  anyOption: readonly number[];
  places(use: ColumnUse): readonly number[];
}
const placesKept = new WeakMap<readonly ColumnUse[], UsePlaces>();
/** The columns of each use; found once for all rows of a table. */
function placesOfUses(uses: readonly ColumnUse[]): UsePlaces {
  const kept = placesKept.get(uses);
  if (kept) return kept;
  const of = (...wanted: ColumnUse[]): number[] => uses.flatMap((u, c) => (wanted.includes(u) ? [c] : []));
  const each = new Map<ColumnUse, readonly number[]>();
  const found: UsePlaces = {
    optionColumns: of('option'),
    anyOption: of('option', 'wrong option', 'right option'),
    places(use) {
      const own = each.get(use) ?? of(use);
      each.set(use, own);
      return own;
    },
  };
  placesKept.set(uses, found);
  return found;
}

/** What letters of a cell's rich text may look like. */
const LETTER_LOOKS: readonly (readonly [tag: string, look: CellLook])[] = [
  ['strong', 'bold'],
  ['u', 'underline'],
  ['em', 'italic'],
];
/**
 * The looks that all letters of a piece of a cell have, piece by piece; none where the cell has none.
 * @param rich the cell as rich text
 * @param pieces words of the cell in their order
 */
export function looksWithin(rich: string | undefined, pieces: readonly string[]): (readonly CellLook[] | undefined)[] {
  if (!rich?.includes('<')) return [];
  const open = new Map<string, number>();
  const signs: { sign: string; looks: CellLook[] }[] = [];
  // bounded: a cell of a sheet
  for (const [part, closing, tag] of rich.slice(0, 20_000).matchAll(/<(\/?)([a-z]{1,10})[^<>]{0,200}>|[^<>]/gi)) {
    if (tag !== undefined) {
      const name = tag.toLowerCase();
      if (name !== 'br') open.set(name, Math.max(0, (open.get(name) ?? 0) + (closing ? -1 : 1)));
    } else if (/\S/.test(part)) signs.push({ sign: part, looks: LETTER_LOOKS.flatMap(([t, look]) => (open.get(t) ? [look] : [])) });
  }
  const letters = signs.map((s) => s.sign).join('');
  let from = 0;
  return pieces.map((piece) => {
    // as the rich text writes its signs, without blanks, which may be breaks there
    const wanted = richFromPlain(piece).replace(/<[^<>]{0,200}>|\s+/g, '');
    const at = wanted ? letters.indexOf(wanted, from) : -1;
    if (at < 0) return undefined;
    from = at + wanted.length;
    const looks = LETTER_LOOKS.map(([, look]) => look).filter((look) => signs.slice(at, from).every((s) => s.looks.includes(look)));
    return looks.length ? looks : undefined;
  });
}

/** The cells of a row by use. */
export function cellsByUse(sheet: TableSheet, row: Row, r: number, mapping: Mapping): RowCells {
  const uses = mapping.columns;
  const out: RowCells = { row: r, said: new Map(), options: [], stem: '', stemRich: '', pairs: [], gaps: [] };
  const { said, options } = out;
  let right: RowOption | null = null;
  const richOf = (c: number, text: string): string => sheet.rich?.[`${r},${c}`] ?? richFromPlain(text);
  const { optionColumns, anyOption, places } = placesOfUses(uses);
  /** The option of each column; an empty one has none. Asked for only where columns say something of options. */
  const ofColumn = new Map<number, RowOption>();
  const asked = places('mark').length > 0 || places('option feedback').length > 0;
  /** The option that a column beside or behind the options is about: of those columns the nth is about the nth option. */
  const about = (c: number, use: ColumnUse, all: readonly number[]): RowOption | undefined => {
    const own = places(use);
    if (!all.length) return options[own.indexOf(c)];
    if (own.length === all.length) return ofColumn.get(all[own.indexOf(c)] ?? -1);
    // else the option next to it: behind a mark in front, where one stands in front of the first, in front of it otherwise
    const inFront = (own[0] ?? 0) < (all[0] ?? 0);
    const next = inFront ? all.find((o) => o > c) : all.findLast((o) => o < c);
    return ofColumn.get(next ?? -1);
  };
  const later: (() => void)[] = [];
  let sides: [string, string] | null = null;
  uses.forEach((use, c) => {
    const text = (row[c] ?? '').trim();
    if (use === 'mark') {
      later.push(() => {
        const option = about(c, 'mark', optionColumns);
        if (!option) return;
        const share = shareIn(text);
        option.right = marksRight(text, mapping.truthSigns) || (share ?? 0) > 0;
        if (share !== null) option.credit = share;
      });
      return;
    }
    if (use === 'gap') out.gaps.push(text);
    if (use === 'left') {
      sides = [text, ''];
      out.pairs.push(sides);
    } else if (use === 'partner') {
      if (sides) sides[1] = text;
      else out.pairs.push(['', text]);
      sides = null;
    }
    if (!text || use === 'ignore') return;
    if (use === 'true mark' || use === 'false mark') {
      if (!/^(?:0|-|–|no|false)$/i.test(text)) out.truth = use === 'true mark';
    } else if (use === 'option' || use === 'wrong option' || use === 'right option') {
      const looks = sheet.looks?.[`${r},${c}`];
      const option: RowOption = {
        text,
        rich: richOf(c, text),
        ...(use !== 'option' && { right: use === 'right option' }),
        ...(looks && { looks }),
      };
      if (asked) ofColumn.set(c, option);
      if (use === 'right option') right = option;
      else options.push(option);
    } else if (use === 'options') {
      const texts = optionsIn(text, mapping.separator);
      const looks = looksWithin(sheet.rich?.[`${r},${c}`], texts);
      options.push(...texts.map((t, i) => ({ text: t, rich: richFromPlain(t), ...(looks[i] && { looks: looks[i] }) })));
    } else if (use === 'option feedback')
      later.push(() => {
        const option = about(c, 'option feedback', anyOption);
        if (option) option.feedback = richFromPlain(text);
      });
    else {
      const before = said.get(use);
      if (before) before.push(text);
      else said.set(use, [text]);
      if (use === 'question') {
        out.stem = text;
        out.stemRich = richOf(c, text);
        const looks = sheet.looks?.[`${r},${c}`];
        if (looks) out.stemLooks = looks;
      }
    }
  });
  if (out.pairs.length) out.pairs = out.pairs.filter((p) => p[0] || p[1]);
  if (right) options.unshift(right);
  for (const step of later) step();
  // the first says already that there are none, in nearly all tables
  if (options.length > 1 && OPTION_LABEL.test(options[0]?.text ?? '')) {
    const bare = unlabelled(options.map((o) => o.text));
    options.forEach((o, i) => {
      if (bare[i] !== o.text) Object.assign(o, { text: bare[i], rich: richFromPlain(bare[i] ?? '') });
    });
  }
  return out;
}

/** Adds the cells of a row below to the item above. */
export function joinCells(into: RowCells, more: RowCells): void {
  into.options.push(...more.options);
  into.pairs.push(...more.pairs);
  into.gaps.push(...more.gaps);
  if (into.truth === undefined && more.truth !== undefined) into.truth = more.truth;
  for (const [use, cells] of more.said) {
    if (use === 'question' || use === 'number') continue;
    const before = into.said.get(use) ?? [];
    // what is said of the item again on each of its rows counts once
    const again = use !== 'key' && use !== 'step' && use !== 'accepted';
    into.said.set(use, [...before, ...cells.filter((c) => !again || !before.includes(c))]);
  }
}
