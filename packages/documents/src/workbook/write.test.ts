/** Workbooks that are written here, read by two libraries of others: exceljs of the registry, and Debian's python3-openpyxl. */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import fc from 'fast-check';
import { readOoxml } from './ooxml.js';
import { type SheetContent, type Value, writeWorkbook } from './write.js';

const { Workbook } = ((await import('exceljs')) as unknown as { default: typeof import('exceljs') }).default;
const openpyxl = existsSync('/usr/lib/python3/dist-packages/openpyxl') || Boolean(process.env['ZAKUSKA_WHOLE']);
const sheet = (rows: Value[][], more: Partial<SheetContent> = {}): SheetContent => ({
  name: 'Items',
  widths: [20, 10],
  rows,
  look: (v) => (v instanceof Date ? 'moment' : typeof v === 'string' ? 'text' : 'plain'),
  ...more,
});
const read = async (bytes: Uint8Array): Promise<import('exceljs').Workbook> => {
  const book = new Workbook();
  await book.xlsx.load(bytes as unknown as ArrayBuffer);
  return book;
};

test('words, numbers and moments are what they were; what stays in sight and filters too', async () => {
  const at = new Date(Date.UTC(2026, 10, 2, 9, 20));
  const book = await read(
    writeWorkbook([
      sheet(
        [
          ['Name', 'Points'],
          ['=1+1', 0.1],
          ['0017', -3],
          ['<b>&"', at],
          [null, ''],
          ['', 7],
        ],
        { frozen: { rows: 1, columns: 1 }, filtered: true },
      ),
    ]),
  );
  const [items] = book.worksheets;
  expect(items?.getSheetValues().map((r) => (Array.isArray(r) ? [...r].slice(1) : r))).toEqual([
    undefined,
    ['Name', 'Points'],
    ['=1+1', 0.1],
    ['0017', -3],
    ['<b>&"', at],
    [],
    [undefined, 7],
  ]);
  expect(items?.views[0]).toMatchObject({ state: 'frozen', xSplit: 1, ySplit: 1, topLeftCell: 'B2' });
  expect(items?.autoFilter).toBe('A1:B6');
  expect(items?.getCell('A2').numFmt).toBe('@');
  expect(items?.getColumn(1).width).toBe(20);
});

test('names of sheets are such as programs take', async () => {
  const book = await read(
    writeWorkbook([sheet([['a']], { name: 'Week 1/2: "bread" & water, and all that is left of it' }), sheet([['b']], { name: 'Other' })]),
  );
  expect(book.worksheets.map((s) => s.name)).toEqual(['Week 1 2  "bread" & water, and', 'Other']);
});

// signs that XML cannot hold, and words that look like such a sign written by its number (ECMA-376 part 1, 22.4.2.4)
const word = fc.oneof(
  fc.string({ unit: 'grapheme' }),
  fc.string({ unit: fc.constantFrom('a', ' ', '\n', '\t', '\u0001', '\u000b', '\uffff', '_x0041_', '_', 'x', '<', '&', '"', "'", '=', '＝', '€') }),
);
test('any words come back by our own reader', () => {
  fc.assert(
    fc.property(fc.array(fc.array(word, { minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 6 }), (rows) => {
      const back = readOoxml(writeWorkbook([sheet([['words'], ...rows])]))[0]?.rows.slice(1) ?? [];
      rows.forEach((row, r) => row.forEach((text, c) => expect(back[r]?.[c] ?? '').toBe(text)));
    }),
    { numRuns: 60 },
  );
});

(openpyxl ? test : test.skip)('another library reads a thousand rows as they are', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'zakuska-book-'));
  try {
    const rows = Array.from({ length: 1000 }, (_, i) => [`Which dough is number ${i}?`, `_x0041_ ${i}`, ` two\nlines ${i % 7} `, i / 8]);
    writeFileSync(path.join(folder, 'a.xlsx'), writeWorkbook([sheet(rows)]));
    const script =
      'import json,sys,openpyxl\nprint(json.dumps([[c for c in r] for r in openpyxl.load_workbook(sys.argv[1]).active.iter_rows(values_only=True)]))';
    const back = JSON.parse(execFileSync('/usr/bin/python3', ['-c', script, path.join(folder, 'a.xlsx')], { encoding: 'utf8', maxBuffer: 1e8 })) as unknown[][];
    expect(back).toEqual(rows);
  } finally {
    rmSync(folder, { recursive: true });
  }
});
