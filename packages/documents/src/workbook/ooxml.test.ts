/** Workbooks as other programs write them, made part by part: what opens everywhere else opens here. Names of parts and values: ECMA-376 part 1, 18. */
import { strToU8, zipSync } from 'fflate';
import { ReadError, type TableSheet } from '@zakuska/core';
import { allFormats } from '../index.js';
import { readOoxml } from './ooxml.js';

const TRANSITIONAL = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
const STRICT = 'http://purl.oclc.org/ooxml/spreadsheetml/main';
const LINKS = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';

interface Parts {
  sheet?: string;
  strings?: string;
  styles?: string;
  book?: string;
  links?: string;
  more?: Record<string, string>;
}
const sheetXml = (rows: string, ns = TRANSITIONAL, more = ''): string =>
  `<?xml version="1.0"?><worksheet xmlns="${ns}"><sheetData>${rows}</sheetData>${more}</worksheet>`;
/** A workbook of given parts; what is not given is left out. */
function workbook({ sheet, strings, styles, book, links, more = {} }: Parts): Uint8Array {
  const files: Record<string, string> = { '[Content_Types].xml': '<Types/>', ...more };
  if (sheet !== undefined) files['xl/worksheets/sheet1.xml'] = sheet;
  if (strings) files['xl/sharedStrings.xml'] = `<sst xmlns="${TRANSITIONAL}">${strings}</sst>`;
  if (styles) files['xl/styles.xml'] = `<styleSheet xmlns="${TRANSITIONAL}">${styles}</styleSheet>`;
  if (book) files['xl/workbook.xml'] = book;
  if (links) files['xl/_rels/workbook.xml.rels'] = links;
  return zipSync(Object.fromEntries(Object.entries(files).map(([path, text]) => [path, strToU8(text)])));
}
const BOOK = `<workbook xmlns="${TRANSITIONAL}" xmlns:r="${LINKS}"><sheets><sheet name="Quiz" sheetId="1" r:id="rId1"/></sheets></workbook>`;
const RELS = '<Relationships><Relationship Id="rId1" Type="x/worksheet" Target="worksheets/sheet1.xml"/></Relationships>';
const rowsOf = (parts: Parts): readonly (readonly string[])[] => readOoxml(workbook({ book: BOOK, links: RELS, ...parts }))[0]?.rows ?? [];
const inline = (text: string): string => `<c t="inlineStr"><is><t>${text}</t></is></c>`;

test.each<[string, Parts, readonly (readonly string[])[]]>([
  [
    'cells without references stand one behind the other',
    { sheet: sheetXml(`<row>${inline('a')}${inline('b')}</row><row>${inline('c')}</row>`) },
    [['a', 'b'], ['c']],
  ],
  ['cells with references stand where they say', { sheet: sheetXml('<row r="2"><c r="C2"><v>7</v></c></row>') }, [[], ['', '', '7']]],
  [
    'shared strings, also of several runs and with escaped characters',
    {
      sheet: sheetXml('<row><c t="s"><v>0</v></c><c t="s"><v>1</v></c></row>'),
      strings: '<si><r><t>half </t></r><r><t>baked</t></r></si><si><t>two_x000D_\nlines</t></si>',
    },
    [['half baked', 'two\nlines']],
  ],
  [
    'phonetic readings of shared strings are no words',
    { sheet: sheetXml('<row><c t="s"><v>0</v></c></row>'), strings: '<si><t>卵</t><rPh><t>たまご</t></rPh></si>' },
    [['卵']],
  ],
  [
    'results of formulas: words, numbers, truth; none where it is an error or was never computed',
    {
      sheet: sheetXml(
        '<row><c t="str"><f>A1</f><v>dough</v></c><c><f>1+1</f><v>2</v></c><c t="b"><f>A1=B1</f><v>1</v></c><c t="e"><f>1/0</f><v>#DIV/0!</v></c><c><f>A9</f></c><c><v>3</v></c></row>',
      ),
    },
    [['dough', '2', 'TRUE', '', '', '3']],
  ],
  ['dates by their type', { sheet: sheetXml('<row><c t="d"><v>2026-11-28T00:00:00</v></c></row>') }, [['2026-11-28']]],
  [
    'numbers as they are shown',
    {
      sheet: sheetXml('<row><c s="1"><v>0.25</v></c><c s="2"><v>240</v></c><c s="3"><v>46354</v></c><c><v>0.30000000000000004</v></c></row>'),
      styles:
        '<numFmts><numFmt numFmtId="164" formatCode="&quot;£&quot;#,##0.00"/></numFmts><fonts><font/></fonts><fills><fill/></fills><cellXfs><xf/><xf numFmtId="9"/><xf numFmtId="164"/><xf numFmtId="14"/></cellXfs>',
    },
    [['25%', '£240.00', '11/28/26', '0.3']],
  ],
  ['a style that is not there', { sheet: sheetXml('<row><c s="99"><v>5</v></c></row>') }, [['5']]],
  ['a string that is not there', { sheet: sheetXml('<row><c t="s"><v>9</v></c><c><v>1</v></c></row>'), strings: '' }, [['9', '1']]],
  [
    'merged cells show their words once',
    { sheet: sheetXml(`<row r="1">${inline('a')}${inline('a')}</row>`, TRANSITIONAL, '<mergeCells><mergeCell ref="A1:B1"/></mergeCells>') },
    [['a', '']],
  ],
  ['the strict form', { sheet: sheetXml(`<row>${inline('strict')}</row>`, STRICT), book: BOOK.replace(TRANSITIONAL, STRICT) }, [['strict']]],
  [
    'prefixed elements',
    { sheet: `<x:worksheet xmlns:x="${TRANSITIONAL}"><x:sheetData><x:row><x:c><x:v>1</x:v></x:c></x:row></x:sheetData></x:worksheet>` },
    [['1']],
  ],
  ['no list of links', { sheet: sheetXml(`<row>${inline('a')}</row>`), links: '' }, [['a']]],
  ['no workbook part at all', { sheet: sheetXml(`<row>${inline('a')}</row>`), links: '', book: '' }, [['a']]],
  ['an absolute target', { sheet: sheetXml(`<row>${inline('a')}</row>`), links: RELS.replace('worksheets/', '/xl/worksheets/') }, [['a']]],
  ['a list of links that is broken', { sheet: sheetXml(`<row>${inline('a')}</row>`), links: 'no XML' }, [['a']]],
])('%s', (_what, parts, rows) => expect(rowsOf(parts)).toEqual(rows));

test('paths with backslashes and capitals are the same paths', () => {
  const bytes = workbook({
    more: { 'XL\\Workbook.xml': BOOK, 'xl\\_rels\\workbook.xml.rels': RELS, 'xl\\worksheets\\Sheet1.xml': sheetXml(`<row>${inline('a')}</row>`) },
  });
  expect(readOoxml(bytes)[0]?.rows).toEqual([['a']]);
});

test('days count from 1904 where the workbook says so', () => {
  const parts: Parts = {
    sheet: sheetXml('<row><c s="1"><v>1</v></c></row>'),
    styles: '<numFmts><numFmt numFmtId="170" formatCode="yyyy-mm-dd"/></numFmts><cellXfs><xf/><xf numFmtId="170"/></cellXfs>',
  };
  expect(rowsOf(parts)).toEqual([['1900-01-01']]);
  expect(rowsOf({ ...parts, book: BOOK.replace('<sheets>', '<workbookPr date1904="1"/><sheets>') })).toEqual([['1904-01-02']]);
});

test('what is hidden is told; hidden sheets are left out', () => {
  const sheet = sheetXml(`<row r="1" hidden="1">${inline('a')}</row><row r="2">${inline('b')}</row>`).replace(
    '<sheetData>',
    '<cols><col min="2" max="3" hidden="1"/></cols><sheetData>',
  );
  const hidden = BOOK.replace('</sheets>', '<sheet name="Lists" sheetId="2" state="veryHidden" r:id="rId2"/></sheets>');
  const sheets = readOoxml(
    workbook({
      sheet,
      book: hidden,
      links: RELS.replace('</Rel', '<Relationship Id="rId2" Target="worksheets/sheet2.xml"/></Rel'),
      more: { 'xl/worksheets/sheet2.xml': sheetXml(`<row>${inline('secret')}</row>`) },
    }),
  );
  expect(sheets.map((s) => [s.name, s.hiddenRows, s.hiddenColumns])).toEqual([['Quiz', [0], [1, 2]]]);
});

describe('looks', () => {
  const fonts =
    '<fonts><font/><font><b/></font><font><strike/></font><font><color rgb="FFC00000"/></font><font><color theme="4"/></font><font><color indexed="10"/></font><font><b val="0"/></font></fonts>';
  const fills =
    '<fills><fill/><fill><patternFill patternType="solid"><fgColor rgb="FFFFFF00"/></patternFill></fill><fill><patternFill patternType="gray125"/></fill></fills>';
  const xfs =
    '<cellXfs><xf/><xf fontId="1"/><xf fontId="2"/><xf fontId="3"/><xf fontId="4"/><xf fontId="5"/><xf fillId="1"/><xf fillId="2"/><xf fontId="6"/></cellXfs>';
  const theme = `<theme><themeElements><clrScheme>${'dk1 lt1 dk2 lt2 accent1'
    .split(' ')
    .map((n, i) => `<${n}><srgbClr val="${i === 4 ? '4472C4' : '000000'}"/></${n}>`)
    .join('')}</clrScheme></themeElements></theme>`;
  const lookOf = (style: number): TableSheet['looks'] =>
    readOoxml(
      workbook({
        sheet: sheetXml(`<row><c s="${style}" t="inlineStr"><is><t>a</t></is></c></row>`),
        styles: fonts + fills + xfs,
        book: BOOK,
        links: RELS,
        more: { 'xl/theme/theme1.xml': theme },
      }),
    )[0]?.looks;
  test.each([
    ['plain', 0, {}],
    ['bold', 1, { '0,0': ['bold'] }],
    ['struck through', 2, { '0,0': ['struck'] }],
    ['red', 3, { '0,0': ['colour'] }],
    ['a colour of the theme', 4, { '0,0': ['colour'] }],
    ['a colour of the palette', 5, { '0,0': ['colour'] }],
    ['a yellow ground', 6, { '0,0': ['highlight'] }],
    ['a grey pattern', 7, {}],
    ['bold switched off', 8, {}],
  ])('%s', (_what, style, looks) => expect(lookOf(style)).toEqual(looks));
  test('of runs: a part is rich text, all of it is a look', () => {
    const run = (text: string, look = ''): string => `<r>${look && `<rPr>${look}</rPr>`}<t>${text}</t></r>`;
    const sheets = (cell: string): TableSheet | undefined =>
      readOoxml(workbook({ sheet: sheetXml(`<row><c t="inlineStr"><is>${cell}</is></c></row>`), book: BOOK, links: RELS }))[0];
    expect(sheets(run('H') + run('2', '<vertAlign val="subscript"/>') + run('O'))?.rich).toEqual({ '0,0': 'H<sub>2</sub>O' });
    expect(sheets(run('not ') + run('this', '<b/>'))).toMatchObject({ rich: { '0,0': 'not <strong>this</strong>' }, looks: {} });
    expect(sheets(run('all ', '<b/>') + run('of it', '<b/>'))?.looks).toEqual({ '0,0': ['bold'] });
  });
});

test('options that are struck through are the wrong ones', async () => {
  const cells = (...texts: [string, number?][]): string =>
    `<row>${texts.map(([t, s = 0]) => `<c s="${s}" t="inlineStr"><is><t>${t}</t></is></c>`).join('')}</row>`;
  const sheet = sheetXml(
    cells(['Question'], ['A'], ['B'], ['C']) + cells(['Sweet?'], ['salt', 1], ['sugar'], ['acid', 1]) + cells(['Sour?'], ['lemon'], ['oil', 1], ['flour', 1]),
  );
  const bytes = workbook({ sheet, book: BOOK, links: RELS, styles: '<fonts><font/><font><strike/></font></fonts><cellXfs><xf/><xf fontId="1"/></cellXfs>' });
  const { set, diagnostics } = await allFormats.read(bytes, 'a.xlsx');
  expect(set.items.map((i) => ('options' in i ? i.options.map((o) => o.credit) : []))).toEqual([
    [0, 1, 0],
    [1, 0, 0],
  ]);
  expect(diagnostics.map((d) => d.code)).toEqual(['key-from-formatting']);
});

test('what is no workbook gives a clear error', () => {
  expect(() => readOoxml(workbook({}))).toThrow(/broken/);
  expect(() => readOoxml(workbook({ sheet: sheetXml(''), book: BOOK, links: RELS }))).toThrow(/no words/);
  expect(() => readOoxml(strToU8('PK'))).toThrow(ReadError);
});
