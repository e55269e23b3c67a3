/** What the cells of a column have in common, by which its use can be told without a heading. */
import { truth } from '../../language/truths.js';
import { isLetters } from './keyCells.js';
import { kindNamed } from './kindNames.js';
import type { Row } from './grid.js';
import { marksRight } from './rowCells.js';

/** Shares are of the filled cells, 0 to 1. */
export interface ColumnFacts {
  /** Share of the rows that have a cell here. */
  filled: number;
  /** Mean length in characters. */
  length: number;
  letters: number;
  numbers: number;
  /** Whole numbers that rise from row to row. */
  rising: number;
  asks: number;
  truths: number;
  kinds: number;
  /** Marks of right and wrong. */
  marks: number;
  /** What an option may earn: −100 to 100, or −1 to 1. */
  shares: number;
  /** Different values per filled cell. */
  distinct: number;
  /** All values in small letters, '' where cells are empty; none where there are many. */
  values: ReadonlySet<string>;
  /** The greatest and the smallest number; NaN without numbers. */
  most: number;
  least: number;
  /** Share of cells of several words. */
  wordy: number;
  clock: number;
  /** Share of cells that end as sentences do. */
  sentences: number;
  /** Share of cells with a line break or a bar, semicolon or labels in them: several things in one. */
  several: number;
}

const NUMBER = /^[-−+]?\d+(?:[.,]\d+)?\s?%?$/;
const CODE = /^\p{L}{0,4}[-_. ]?\d{1,5}[.)]?$/u;
const SEVERAL = /\n|[|;]|(?:^|\s)[([]?[bB2][.)\]]\s|,.*,|\s\/\s/;
const MARKS_WRONG = /^(?:[-–x✗✘❌☐○0]|no?|nein|non|não|false?|falsch|wrong|n|f|нет|ні|nie|hayır|yanlış|incorrect[oa]?)$/iu;
const VALUES_MOST = 12;

/** @param rows below the headings */
export function factsOf(rows: readonly Row[], column: number): ColumnFacts {
  const cells = rows.map((r) => (r[column] ?? '').trim());
  const full = cells.filter(Boolean);
  const share = (test: (c: string) => boolean): number => (full.length ? full.filter(test).length / full.length : 0);
  const numbers = full.filter((c) => NUMBER.test(c)).map((c) => Number(c.replace(/\s?%$/, '').replace('−', '-').replace(',', '.')));
  const counts = full.filter((c) => CODE.test(c)).map((c) => Number(/\d+/.exec(c)?.[0]));
  const values = new Set(cells.map((c) => c.toLowerCase()));
  return {
    filled: rows.length ? full.length / rows.length : 0,
    length: full.reduce((n, c) => n + c.length, 0) / Math.max(1, full.length),
    letters: share(isLetters),
    numbers: full.length ? numbers.length / full.length : 0,
    rising:
      counts.length > 1 && counts.length > full.length * 0.5 ? counts.filter((n, i) => i > 0 && n > (counts[i - 1] ?? 0)).length / (counts.length - 1) : 0,
    asks: share((c) => /[?:…]\s*$|_{2,}|\.{4,}/.test(c)),
    truths: share((c) => truth(c, true) !== null),
    kinds: share((c) => c.length < 40 && truth(c, true) === null && kindNamed(c) !== null),
    marks: share((c) => c.length < 12 && (marksRight(c) || MARKS_WRONG.test(c))),
    shares: share((c) => /^[-–−+]?\d{1,3}(?:[.,]\d+)?\s?%?$/.test(c)),
    distinct: full.length ? new Set(full.map((c) => c.toLowerCase())).size / full.length : 0,
    values: values.size <= VALUES_MOST ? values : new Set(),
    most: numbers.length ? Math.max(...numbers) : Number.NaN,
    least: numbers.length ? Math.min(...numbers) : Number.NaN,
    wordy: share((c) => /\S\s+\S+\s+\S/.test(c)),
    clock: share((c) => /^\d{1,2}:\d{2}(?::\d{2})?$|^\d+\s?(?:s|sec|secs|seconds?|min|minutes?|sek\.?|Sekunden|seg\.?|сек\.?|sn)$/i.test(c)),
    sentences: share((c) => c.length > 8 && /[.!]\s*$/.test(c)),
    several: share((c) => SEVERAL.test(c)),
  };
}
