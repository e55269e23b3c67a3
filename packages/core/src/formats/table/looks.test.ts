/** What stands out says the keys in every layout of a table, where no column says them. */
import type { KeyLook } from '../../draft/surface/stretch.js';
import type { CellLook, TableSheet } from './mapping.js';
import { readTables } from './tables.js';

const ASKED: [question: string, options: [string, string, string], right: number][] = [
  ['Which flour is for rye bread?', ['rye', 'oat', 'corn'], 0],
  ['What slows a dough down?', ['sugar', 'salt', 'warm water'], 1],
  ['What feeds the yeast in a starter?', ['butter', 'steam of the oven', 'sugars from the flour'], 2],
  ['Which knife is for boning a shoulder?', ['a paring knife', 'a boning knife', 'a cleaver'], 1],
  ['What does resting do to meat?', ['keeps its juice', 'cools the pan', 'browns it'], 0],
];
const struck: CellLook = 'struck';
/** The look of each option, and whether the right one has it or all others. */
const HOW: [what: string, look: CellLook, of: 'right' | 'others'][] = [
  ['bold', 'bold', 'right'],
  ['a colour', 'colour', 'right'],
  ['a fill', 'highlight', 'right'],
  ['struck through', struck, 'others'],
];
type Put = (sheet: { rows: string[][]; looks: Record<string, CellLook[]>; rich: Record<string, string> }, look: CellLook, of: 'right' | 'others') => void;
const marks = (i: number, right: number, of: string): boolean => (of === 'right' ? i === right : i !== right);
/** An option inside a cell, with its look as rich text. */
const inCell = (text: string, marked: boolean): string => (marked ? `<strong>${text}</strong>` : text);

const LAYOUTS: Record<string, Put> = {
  'options in columns'({ rows, looks }, look, of) {
    rows.push(['Question', 'A', 'B', 'C']);
    for (const [q, options, right] of ASKED) {
      options.forEach((_, i) => marks(i, right, of) && (looks[`${rows.length},${i + 1}`] = [look]));
      rows.push([q, ...options]);
    }
  },
  'options in rows of their own'({ rows, looks }, look, of) {
    rows.push(['No', 'Question', 'Option']);
    ASKED.forEach(([q, options, right], n) =>
      options.forEach((o, i) => {
        if (marks(i, right, of)) looks[`${rows.length},2`] = [look];
        rows.push(i ? ['', '', o] : [String(n + 1), q, o]);
      }),
    );
  },
  'options below the question'({ rows, looks }, look, of) {
    ASKED.forEach(([q, options, right], n) => {
      rows.push([`${n + 1}.`, q]);
      options.forEach((o, i) => {
        if (marks(i, right, of)) looks[`${rows.length},1`] = [look];
        rows.push([`${'abc'.charAt(i)})`, o]);
      });
    });
  },
};
const BOLD_ONLY: Record<string, Put> = {
  'options in one cell'({ rows, rich }, _look, of) {
    rows.push(['Question', 'Options']);
    for (const [q, options, right] of ASKED) {
      rich[`${rows.length},1`] = options.map((o, i) => inCell(o, marks(i, right, of))).join('; ');
      rows.push([q, options.join('; ')]);
    }
  },
  'all in one cell'({ rows, rich }, _look, of) {
    rows.push(['No', 'Item']);
    ASKED.forEach(([q, options, right], n) => {
      const all = (f: (o: string, i: number) => string): string => [q, ...options.map((o, i) => `${'ABC'.charAt(i)}) ${f(o, i)}`)].join('\n');
      rich[`${rows.length},1`] = all((o, i) => inCell(o, marks(i, right, of))).replaceAll('\n', '<br>');
      rows.push([String(n + 1), all((o) => o)]);
    });
  },
};
const read = (put: Put, look: CellLook, of: 'right' | 'others'): (number[] | string)[] => {
  const sheet = { rows: [] as string[][], looks: {} as Record<string, CellLook[]>, rich: {} as Record<string, string> };
  put(sheet, look, of);
  const table: TableSheet = { name: '', ...sheet };
  return readTables([table]).set.items.map((i) => ('options' in i ? i.options.flatMap((o, n) => (o.credit > 0 ? [n] : [])) : i.kind));
};
const right = ASKED.map(([, , r]) => [r]);

describe.each(Object.entries(LAYOUTS))('%s', (_layout, put) => {
  test.each(HOW)('%s', (_what, look, of) => expect(read(put, look, of)).toEqual(right));
});
describe.each(Object.entries(BOLD_ONLY))('%s', (_layout, put) => {
  test('bold', () => expect(read(put, 'bold' satisfies KeyLook, 'right')).toEqual(right));
});
