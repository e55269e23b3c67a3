import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { type QuizSet, ReadError } from '@zakuska/core';
import fc from 'fast-check';
import { anyRichSet } from '../../core/src/item/arbitrary.js';
import { surprisesAsync } from '../../core/src/formats/roundTrip.js';
import { fileFormats, openFile, rehearseAny } from './index.js';

const sheets = fileFormats.filter((f) => f.extension === '.xlsx');

test.each(sheets.map((f) => [f.id, f] as const))('%s: what is lost is what was said, and what is there marks as here', async (_id, format) => {
  await fc.assert(
    fc.asyncProperty(anyRichSet, async (set) => {
      expect((await surprisesAsync(set, format)).slice(0, 2)).toEqual([]);
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
  await new Promise((done) => setTimeout(done, 1100)); // the clock in an archive counts in two seconds, in the properties in one
  expect(await write()).toEqual(one);
});

// An independent reader: Debian's python3-openpyxl, where it is installed.
const openpyxl = existsSync('/usr/lib/python3/dist-packages/openpyxl');
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
  await expect(openFile(bytes.slice(0, 900), 'a.xlsx')).rejects.toThrow(ReadError);
  await expect(
    openFile(new Uint8Array(readFileSync(new URL('../../core/corpus/files/qti-17-v21-test-weights.zip', import.meta.url))), 'a.xlsx'),
  ).rejects.toThrow(/spreadsheet|workbook|sheet/);
  expect((await rehearseAny(bytes, 'a.xlsx', set)).ok).toBe(true);
});
