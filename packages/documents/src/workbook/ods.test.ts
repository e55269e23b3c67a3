/** Spreadsheets of OpenDocument, made part by part (ODF 1.3 part 3, 9 and 16); whole ones made by LibreOffice lie in ../../corpus/given. */
import { strToU8, zipSync } from 'fflate';
import type { TableSheet } from '@zakuska/core';
import { allFormats } from '../index.js';
import { readOds } from './ods.js';

const MIME = 'application/vnd.oasis.opendocument.spreadsheet';
const ods = (tables: string, styles = ''): Uint8Array =>
  zipSync({
    mimetype: [strToU8(MIME), { level: 0 }],
    'content.xml': strToU8(
      `<office:document-content xmlns:office="o" xmlns:table="t" xmlns:text="x" xmlns:style="s" xmlns:fo="f"><office:automatic-styles>${styles}</office:automatic-styles><office:body><office:spreadsheet>${tables}</office:spreadsheet></office:body></office:document-content>`,
    ),
  });
const cell = (text: string, more = ''): string => `<table:table-cell ${more}><text:p>${text}</text:p></table:table-cell>`;
const table = (rows: string, more = '', name = 'Quiz'): string => `<table:table table:name="${name}" ${more}>${rows}</table:table>`;
const row = (cells: string, more = ''): string => `<table:table-row ${more}>${cells}</table:table-row>`;
const first = (tables: string, styles?: string): TableSheet | undefined => readOds(ods(tables, styles))[0];

test.each<[string, string, readonly (readonly string[])[]]>([
  [
    'words of a cell, of several paragraphs',
    row(`<table:table-cell><text:p>one</text:p><text:p>two</text:p></table:table-cell>${cell('b')}`),
    [['one\ntwo', 'b']],
  ],
  ['blanks, tabs and breaks', row(cell('a<text:s text:c="2"/>b<text:tab/>c<text:line-break/>d')), [['a  b\tc\nd']]],
  ['parts of words with looks of their own', row(cell('H<text:span>2</text:span>O')), [['H2O']]],
  [
    'repeated cells and rows',
    row(cell('x', 'table:number-columns-repeated="2"'), 'table:number-rows-repeated="2"'),
    [
      ['x', 'x'],
      ['x', 'x'],
    ],
  ],
  ['empty rows down to the end of the sheet are none', `${row(cell('a'))}${row('<table:table-cell/>', 'table:number-rows-repeated="1048575"')}`, [['a']]],
  [
    'covered cells of a merged one are empty',
    row(`${cell('a', 'table:number-columns-spanned="2"')}<table:covered-table-cell><text:p>old</text:p></table:covered-table-cell>${cell('b')}`),
    [['a', '', 'b']],
  ],
  [
    'notes are no words',
    row('<table:table-cell><office:annotation><text:p>check this</text:p></office:annotation><text:p>a</text:p></table:table-cell>'),
    [['a']],
  ],
  [
    'rows in groups and headers',
    `<table:table-header-rows>${row(cell('a'))}</table:table-header-rows><table:table-row-group>${row(cell('b'))}</table:table-row-group>`,
    [['a'], ['b']],
  ],
])('%s', (_what, rows, expected) => expect(first(table(rows))?.rows).toEqual(expected));

test('what is hidden is told; hidden sheets are left out', () => {
  const styles = '<style:style style:name="off" style:family="table"><style:table-properties table:display="false"/></style:style>';
  const columns = '<table:table-column/><table:table-column table:visibility="collapse" table:number-columns-repeated="2"/>';
  const sheets = readOds(
    ods(
      table(`${columns}${row(cell('a'))}${row(cell('b'), 'table:visibility="filter"')}`) + table(row(cell('secret')), 'table:style-name="off"', 'Lists'),
      styles,
    ),
  );
  expect(sheets.map((s) => [s.name, s.hiddenRows, s.hiddenColumns])).toEqual([['Quiz', [1], [1, 2]]]);
});

test.each([
  ['bold', '<style:text-properties fo:font-weight="bold"/>', ['bold']],
  ['red', '<style:text-properties fo:color="#c00000"/>', ['colour']],
  ['struck through', '<style:text-properties style:text-line-through-style="solid"/>', ['struck']],
  ['underlined', '<style:text-properties style:text-underline-style="solid"/>', ['underline']],
  ['italic', '<style:text-properties fo:font-style="italic"/>', ['italic']],
  ['a yellow ground', '<style:table-cell-properties fo:background-color="#ffff00"/>', ['highlight']],
  ['no ground', '<style:table-cell-properties fo:background-color="transparent"/>', undefined],
])('a cell that is %s', (_what, properties, looks) => {
  const styles = `<style:style style:name="base" style:family="table-cell">${properties}</style:style><style:style style:name="own" style:family="table-cell" style:parent-style-name="base"/>`;
  expect(first(table(row(cell('a', 'table:style-name="own"'))), styles)?.looks?.['0,0']).toEqual(looks);
});

test('a spreadsheet is known by its media type and read as a table', async () => {
  const rows = [
    ['Question', 'A', 'B', 'Key'],
    ['Sweet?', 'sugar', 'salt', 'A'],
    ['Sour?', 'oil', 'lemon', 'B'],
  ];
  const bytes = ods(table(rows.map((r) => row(r.map((c) => cell(c)).join(''))).join('')));
  const { set } = await allFormats.read(bytes, 'quiz.ods');
  expect(set.items.map((i) => ('options' in i ? i.options.findIndex((o) => o.credit === 1) : -1))).toEqual([0, 1]);
});

test('what holds nothing gives a clear error', () => {
  expect(() => readOds(ods(table('')))).toThrow(/no words/);
  expect(() => readOds(zipSync({ mimetype: strToU8(MIME) }))).toThrow(/no whole spreadsheet/);
});
