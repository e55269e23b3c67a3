/** Results as a workbook: read by an independent library (Debian's python3-openpyxl), numbers as numbers, times as times, nothing as a formula. */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { ResultSheet } from '@zakuska/core';
import { readOoxml } from './workbook/ooxml.js';
import { resultsWorkbook } from './index.js';

const openpyxl = existsSync('/usr/lib/python3/dist-packages/openpyxl') || Boolean(process.env['ZAKUSKA_WHOLE']);
const SHEETS: ResultSheet[] = [
  {
    name: 'Scores',
    rows: [
      ['Name', 'Number', 'Points', 'Share', 'Handed in', 'Item 1'],
      ['Ada Brandt', '0017', 9.5, 0.95, new Date('2026-11-02T09:20:00'), 1],
      ['=HYPERLINK("http://x.example")', '', 3, 0.3, new Date('2026-11-02T09:21:00'), null],
    ],
  },
  { name: 'Key', rows: [['Item', 'Key']] },
];

(openpyxl ? test : test.skip)('another library reads numbers, times and words as such', async () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'zakuska-results-'));
  try {
    const file = path.join(folder, 'a.xlsx');
    writeFileSync(file, await resultsWorkbook(SHEETS));
    const script = `
import json,sys,openpyxl
b=openpyxl.load_workbook(sys.argv[1])
print(json.dumps({s.title:[[ [type(c.value).__name__, c.data_type, str(c.value)] for c in r] for r in s.iter_rows()] for s in b}))`;
    const read = JSON.parse(execFileSync('/usr/bin/python3', ['-c', script, file], { encoding: 'utf8' })) as Record<string, [string, string, string][][]>;
    expect(Object.keys(read)).toEqual(['Scores', 'Key']);
    expect(read['Scores']?.[1]).toEqual([
      ['str', 's', 'Ada Brandt'],
      ['str', 's', '0017'],
      ['float', 'n', '9.5'],
      ['float', 'n', '0.95'],
      ['datetime', 'd', '2026-11-02 09:20:00'],
      ['int', 'n', '1'],
    ]);
    // a name is a name, whatever it begins with
    expect(read['Scores']?.[2]?.[0]).toEqual(['str', 's', '=HYPERLINK("http://x.example")']);
  } finally {
    rmSync(folder, { recursive: true });
  }
});

test('our own reader reads it too; the same results give the same bytes', async () => {
  const bytes = await resultsWorkbook(SHEETS);
  expect(readOoxml(bytes)[0]?.rows[1]?.slice(0, 4)).toEqual(['Ada Brandt', '0017', '9.5', '95.0%']);
  expect(await resultsWorkbook(SHEETS)).toEqual(bytes);
});
