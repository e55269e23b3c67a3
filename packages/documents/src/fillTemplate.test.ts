/** Templates of made-up services as files: filled, read back, and read by an independent library (Debian's python3-openpyxl). */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { type Item, type QuizSet, ReadError, type TableSheet } from '@zakuska/core';
import { fillTemplate } from './fillTemplate.js';
import { allFormats } from './index.js';

const tables = (bytes: Uint8Array, name: string): Promise<TableSheet[]> => allFormats.tables(bytes, name);
const choice = (stem: string, options: string[], keys: number[], more: object = {}): Item =>
  ({
    id: stem,
    kind: keys.length > 1 ? 'multiple-response' : 'multiple-choice',
    scoring: 'all-or-nothing',
    stem,
    points: 1,
    options: options.map((content, i) => ({ id: `${stem}${i}`, content, credit: keys.includes(i) ? 1 : 0 })),
    ...more,
  }) as Item;
const SET: QuizSet = {
  title: 'Kitchen',
  items: [
    choice('Which one feeds yeast?', ['salt', 'sugar', 'ash'], [1], { timeLimit: 12 }),
    choice('Which are fats?', ['butter', 'flour', 'oil', '-5 °C'], [0, 2]),
    choice('x'.repeat(130), ['a', 'b'], [0]),
  ],
};

const openpyxl = existsSync('/usr/lib/python3/dist-packages/openpyxl') || Boolean(process.env['ZAKUSKA_WHOLE']);
const python = (script: string): string => execFileSync('/usr/bin/python3', ['-c', script], { encoding: 'utf8' });

(openpyxl ? test : test.skip)('a workbook with rules, notes, looks and a sheet of help is filled and keeps all of them', async () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'zakuska-fill-'));
  const file = path.join(folder, 'template.xlsx');
  python(`
import openpyxl
from openpyxl.worksheet.datavalidation import DataValidation
from openpyxl.styles import PatternFill
from openpyxl.comments import Comment
w=openpyxl.Workbook()
h=w.active; h.title='Read me'; h['A1']='How to fill this in'
s=w.create_sheet('Rounds')
s['A1']='Upload sheet'
s.append([])
s.append(['Question text','Reply 1','Reply 2','Reply 3','Reply 4','Right reply','Seconds'])
s.append(['Which one is sweet?','sugar','salt','','',1,20])
s.append(['Which ones are sour?','lemon','milk','vinegar','','1,3',30])
s['A3'].fill=PatternFill('solid',fgColor='00FFDDDD')
s['A3'].comment=Comment('At most 120 characters','T')
d=DataValidation(type='list',formula1='"10,20,30,60"'); d.add('G4:G200'); s.add_data_validation(d)
s.column_dimensions['A'].width=44
w.save(${JSON.stringify(file)})`);
  const filled = await fillTemplate(readFileSync(file), 'template.xlsx', SET, tables);
  expect(filled.fits.map((f) => f.notes.map((n) => n.message))).toEqual([
    ['its 12 seconds become 20: one of those that may be given there'],
    [],
    [expect.stringMatching(/^its question has \d+ characters; 120 are possible there$/)],
  ]);
  expect(filled.rehearsal).toMatchObject({ ok: true, maximum: 2, right: 2, wrong: 0 });
  const out = path.join(folder, 'out.xlsx');
  writeFileSync(out, filled.bytes);
  const read = JSON.parse(
    python(`
import openpyxl,json
w=openpyxl.load_workbook(${JSON.stringify(out)}); s=w['Rounds']
print(json.dumps({'rows':[[c.value for c in r] for r in s.iter_rows(min_row=3,max_col=7) if any(c.value is not None for c in r)],'sheets':w.sheetnames,'rule':[v.formula1 for v in s.data_validations.dataValidation],'fill':s['A3'].fill.fgColor.rgb,'note':s['A3'].comment.text if s['A3'].comment else None,'title':s['A1'].value,'width':s.column_dimensions['A'].width}))`),
  ) as Record<string, unknown>;
  expect(read).toMatchObject({
    sheets: ['Read me', 'Rounds'],
    rule: ['"10,20,30,60"'],
    title: 'Upload sheet',
    fill: '00FFDDDD',
    rows: [
      ['Question text', 'Reply 1', 'Reply 2', 'Reply 3', 'Reply 4', 'Right reply', 'Seconds'],
      ['Which one feeds yeast?', 'salt', 'sugar', 'ash', null, 2, 20],
      ['Which are fats?', 'butter', 'flour', 'oil', '-5 °C', '1,3', 20],
    ],
  });
  expect(String(read['note'])).toContain('120 characters');
});

test('a text template keeps its signs, in UTF-16 it becomes UTF-8', async () => {
  const text = 'Question;Option A;Option B;Answer\r\nSweet?;sugar;salt;A\r\n';
  const { bytes, rehearsal } = await fillTemplate(
    new Uint8Array(Buffer.from(`\uFEFF${text}`, 'utf16le')),
    't.csv',
    { title: 'T', items: [choice('Süß?', ['Zucker', 'Salz'], [0])] },
    tables,
  );
  expect(new TextDecoder().decode(bytes)).toBe('Question;Option A;Option B;Answer\r\nSüß?;Zucker;Salz;A\r\n');
  expect(rehearsal.ok).toBe(true);
});

test.each<[string, Uint8Array, string, RegExp]>([
  ['no columns that are known', new TextEncoder().encode('Colour;Shape\nred;round\n'), 't.csv', /columns that hold questions/],
  ['an archive that is none', new Uint8Array([0x50, 0x4b, 3, 4, 9, 9]), 't.xlsx', /./],
])('%s is told', async (_, bytes, name, words) => {
  await expect(fillTemplate(bytes, name, SET, tables)).rejects.toThrow(ReadError);
  await expect(fillTemplate(bytes, name, SET, tables)).rejects.toThrow(words);
});
