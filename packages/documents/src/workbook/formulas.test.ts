/** Workbooks that were saved without the results of their formulas, as programs write them that do not calculate. */
import { zipSync, strToU8 } from 'fflate';
import { calculatedOoxml } from './ooxml.js';

/** A workbook with one sheet of rows as XML cells. */
function book(rows: string[][]): Uint8Array {
  const ref = (r: number, c: number): string => `${String.fromCharCode(65 + c)}${r + 1}`;
  const cell = (text: string, at: string): string =>
    text.startsWith('=')
      ? `<c r="${at}"><f>${text.slice(1).replace(/&/g, '&amp;').replace(/</g, '&lt;')}</f></c>`
      : /^\d/.test(text)
        ? `<c r="${at}"><v>${text}</v></c>`
        : `<c r="${at}" t="inlineStr"><is><t>${text}</t></is></c>`;
  const data = rows.map((r, i) => `<row r="${i + 1}">${r.map((t, c) => (t ? cell(t, ref(i, c)) : '')).join('')}</row>`).join('');
  const files = {
    'xl/workbook.xml': '<workbook xmlns:r="x"><sheets><sheet name="Bank" sheetId="1" r:id="r1"/></sheets></workbook>',
    'xl/_rels/workbook.xml.rels': '<Relationships><Relationship Id="r1" Type="worksheet" Target="worksheets/sheet1.xml"/></Relationships>',
    'xl/worksheets/sheet1.xml': `<worksheet><sheetData>${data}</sheetData></worksheet>`,
  };
  return zipSync(Object.fromEntries(Object.entries(files).map(([k, v]) => [k, strToU8(v)])));
}
const rows = async (given: string[][]): Promise<readonly (readonly string[])[]> => (await calculatedOoxml(book(given)))[0]?.rows ?? [];

test.each<[string, string]>([
  ['=A1&" flour"', 'rye flour'],
  ['=B1*3', '6'],
  ['=0.1+0.2', '0.3'],
  ['=CHAR(64+B1)', 'B'],
  ['=IF(B1=2,"yes","no")', 'yes'],
  ['=B1<1', 'FALSE'],
  ['=SUM(B1:B2)', '7'],
  ['=Bank!A1', 'rye'],
  ['=VLOOKUP("oat",A1:B2,2,FALSE)', '5'],
  // what cannot be worked out shows nothing
  ['=NOBODY(1)', ''],
  ['=1/0', ''],
  ['=A1&', ''],
  ['=C1', ''],
])('%s', async (formula, result) => {
  const [first] = await rows([
    ['rye', '2', formula],
    ['oat', '5', ''],
  ]);
  expect(first?.[2] ?? '').toBe(result);
});

test('formulas lead to formulas, in whatever order they stand, and round in circles to nothing', async () => {
  expect(
    await rows([
      ['=B1&"!"', '=C1&C1', 'ha'],
      ['=B2', '=A2', 'x'],
    ]),
  ).toEqual([
    ['haha!', 'haha', 'ha'],
    ['', '', 'x'],
  ]);
});

test('a bank whose options and keys are formulas is read', async () => {
  const [head, ...rest] = await rows([
    ['Question', 'A', 'B', 'C', 'Key'],
    ...['rye', 'oat', 'corn'].map((f, i) => [`="Which flour is "&"${f}?"`, `="${f} "&"grain"`, 'wheat', 'rice', `=CHAR(${65 + i})`]),
  ]);
  expect(head).toEqual(['Question', 'A', 'B', 'C', 'Key']);
  expect(rest.map((r) => [r[0], r[1], r[4]])).toEqual([
    ['Which flour is rye?', 'rye grain', 'A'],
    ['Which flour is oat?', 'oat grain', 'B'],
    ['Which flour is corn?', 'corn grain', 'C'],
  ]);
});
