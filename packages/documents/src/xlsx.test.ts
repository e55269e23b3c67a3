import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { type QuizSet, ReadError } from '@zakuska/core';
import { jest } from '@jest/globals';
import fc from 'fast-check';
import { anyRichSet } from '../../core/src/item/arbitrary.js';
import { surprises } from '../../core/src/formats/roundTrip.js';
import { allFormats } from './index.js';

// workbooks are slow to write, and machines are busy
const sheets = allFormats.formats.filter((f) => f.extension === '.xlsx');

test.each(sheets.map((f) => [f.id, f] as const))('%s: what is lost is what was said, and what is there marks as here', async (_id, format) => {
  await fc.assert(
    fc.asyncProperty(anyRichSet, async (set) => {
      expect((await surprises(set, format)).slice(0, 2)).toEqual([]);
    }),
    { numRuns: 40 },
  );
});

const set: QuizSet = {
  title: 'Kitchen arithmetic',
  items: [
    {
      id: 'a',
      kind: 'multiple-choice',
      stem: 'Half of 3/4?',
      points: 2,
      options: [
        { id: 'x', content: '3/8', credit: 1 },
        { id: 'y', content: '=1+1', credit: 0 },
        { id: 'z', content: '1-2', credit: 0 },
      ],
    },
    { id: 'b', kind: 'numeric', stem: 'Grams in a pound?', points: 1, answers: [{ min: 453, max: 454, credit: 1 }] },
  ],
};

test('the same set gives the same bytes, whenever it is written', async () => {
  const write = async (): Promise<Uint8Array> => (await sheets[0]?.write?.(set))?.bytes as Uint8Array;
  const one = await write();
  // some days later by every clock that a writer could ask
  jest.useFakeTimers({ now: Date.now() + 3 * 86_400_000, doNotFake: ['nextTick', 'setImmediate', 'setTimeout', 'setInterval', 'queueMicrotask'] });
  try {
    expect(await write()).toEqual(one);
  } finally {
    jest.useRealTimers();
  }
});

// An independent reader: Debian's python3-openpyxl. npm test installs it, and then the test may not be left out.
const openpyxl = existsSync('/usr/lib/python3/dist-packages/openpyxl') || Boolean(process.env['ZAKUSKA_WHOLE']);
(openpyxl ? test : test.skip)('openpyxl reads the cells as text, no formula among them', async () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'zakuska-xlsx-'));
  const file = path.join(folder, 'a.xlsx');
  writeFileSync(file, (await sheets[0]?.write?.(set))?.bytes as Uint8Array);
  const out = execFileSync(
    '/usr/bin/python3',
    [
      '-c',
      `import openpyxl,json;w=openpyxl.load_workbook(${JSON.stringify(file)});print(json.dumps([[c.value for c in r] for r in w['Items'].iter_rows(max_col=5)]))`,
    ],
    { encoding: 'utf8' },
  );
  expect((JSON.parse(out) as unknown[][])[1]).toEqual(['choice', 'Half of 3/4?', '3/8', '=1+1', '1-2']);
});

test('a broken, a foreign and a swollen workbook give a clear error', async () => {
  const written = await sheets[0]?.write?.(set);
  if (!written) throw new Error('nothing was written');
  const { bytes } = written;
  await expect(allFormats.read(bytes.slice(0, 900), 'a.xlsx')).rejects.toThrow(ReadError);
  await expect(
    allFormats.read(new Uint8Array(readFileSync(new URL('../../core/corpus/files/qti-17-v21-test-weights.zip', import.meta.url))), 'a.xlsx'),
  ).rejects.toThrow(/spreadsheet|workbook|sheet/);
  expect((await allFormats.rehearse(bytes, 'a.xlsx', set)).ok).toBe(true);
});

/** A workbook made by the library that reads it elsewhere; what a spreadsheet shows is told by Excel's own formats (ECMA-376 part 1, 18.8.30). */
async function workbook(fill: (sheet: import('exceljs').Worksheet, book: import('exceljs').Workbook) => void): Promise<Uint8Array> {
  const { Workbook } = ((await import('exceljs')) as unknown as { default: typeof import('exceljs') }).default;
  const book = new Workbook();
  fill(book.addWorksheet('Questions'), book);
  return new Uint8Array(await book.xlsx.writeBuffer());
}
const told = (set: QuizSet): string[] =>
  set.items.map((i) => `${i.stem}: ${'options' in i ? i.options.map((o) => `${o.content}${o.credit > 0 ? '*' : ''}`).join(' / ') : i.kind}`);

test('cells count as they are shown: dates, percent, money, results of formulas, numbers as text', async () => {
  const bytes = await workbook((s) => {
    s.addRow(['Question', 'A', 'B', 'Key']);
    s.addRow(['When?', new Date(Date.UTC(1998, 4, 4)), new Date(Date.UTC(2001, 11, 24)), 'A']);
    s.addRow(['Which share?', 0.25, 0.5, 'B']);
    s.addRow(['How much?', { formula: '2*120', result: 240 }, 12.5, 'A']);
    s.addRow(['Which code?', '007', '7', 'A']);
    for (const c of ['B2', 'C2']) s.getCell(c).numFmt = 'dd.mm.yyyy';
    for (const c of ['B3', 'C3']) s.getCell(c).numFmt = '0%';
    for (const c of ['B4', 'C4']) s.getCell(c).numFmt = '"£"#,##0.00';
  });
  expect(told((await allFormats.read(bytes, 'a.xlsx')).set)).toEqual([
    'When?: 04.05.1998* / 24.12.2001',
    'Which share?: 25% / 50%*',
    'How much?: £240.00* / £12.50',
    'Which code?: 007* / 7',
  ]);
});

test('keys by the look of cells, where no column says them, and only there', async () => {
  const bytes = (withKeys: boolean): Promise<Uint8Array> =>
    workbook((s) => {
      s.addRow(['Question', 'A', 'B', 'C', ...(withKeys ? ['Key'] : [])]);
      s.addRow(['Sweet?', 'sugar', 'salt', 'acid', ...(withKeys ? ['C'] : [])]);
      s.addRow(['Sour?', 'salt', 'lemon', 'oil', ...(withKeys ? ['C'] : [])]);
      for (const c of ['B2', 'C3']) s.getCell(c).fill = { type: 'pattern', pattern: 'solid', fgColor: { argb: 'FFFFFF00' } };
    });
  const read = await allFormats.read(await bytes(false), 'a.xlsx');
  expect(told(read.set)).toEqual(['Sweet?: sugar* / salt / acid', 'Sour?: salt / lemon* / oil']);
  expect(read.diagnostics.some((d) => d.code === 'key-from-formatting')).toBe(true);
  expect(told((await allFormats.read(await bytes(true), 'a.xlsx')).set)).toEqual(['Sweet?: sugar / salt / acid*', 'Sour?: salt / lemon / oil*']);
});

test('hidden sheets, rows and columns are left alone; merged cells count once; several sheets are read in order', async () => {
  const bytes = await workbook((s, book) => {
    s.addRow(['Bread', '', '', '']);
    s.mergeCells('A1:D1');
    s.addRow(['Question', 'A', 'B', 'Key']);
    s.addRow(['One?', 'x', 'y', 'A']);
    s.addRow(['Old?', 'x', 'y', 'A']);
    s.getRow(4).hidden = true;
    const two = book.addWorksheet('More');
    two.addRow(['Question', 'A', 'B', 'Key']);
    two.addRow(['Two?', 'x', 'y', 'B']);
    const three = book.addWorksheet('Lists', { state: 'hidden' });
    three.addRow(['Question', 'A', 'B', 'Key']);
    three.addRow(['Three?', 'x', 'y', 'B']);
  });
  const { set, diagnostics } = await allFormats.read(bytes, 'a.xlsx');
  expect(told(set)).toEqual(['One?: x* / y', 'Two?: x / y*']);
  expect(diagnostics.map((d) => d.message)).toEqual(['Rows that give no item: 1 hidden.']);
});
