/** Answer sheets for the people of a class, as PDF, DOCX and web page: whose each one is, and that they can be read. */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { type Item, personCode, type QuizSet, sheetOf, sheetPrint } from '@zakuska/core';
import { readSheet } from '@zakuska/core/scan';
import { drawnPages, popplerIsThere } from '../testing/poppler.js';
import { printFormats } from './index.js';

const set: QuizSet = {
  title: 'Bread, on paper',
  items: Array.from(
    { length: 130 },
    (_, i): Item => ({
      id: `q${i}`,
      kind: 'multiple-choice',
      stem: `Which is ${i}?`,
      points: 1,
      options: ['a', 'b', 'c', 'd', 'e', 'f'].map((id) => ({ id, content: `${id} ${i}`, credit: id === 'a' ? 1 : 0 })),
    }),
  ),
};
const people = [
  { code: personCode('0190a5c4-1111-7000-8000-0000a1b2c3d4'), name: 'Ada Brandt', group: 'Bread, Monday' },
  { code: personCode('0190a5c4-1111-7000-8000-0000a1b2c3d5'), name: 'Béla “#x” Çelik' },
];
const format = (id: string): (typeof printFormats)[number] => printFormats.find((f) => f.id === id) as (typeof printFormats)[number];
const [pdf, docx, html] = [format('pdf-sheet'), format('docx-sheet'), format('html-sheet')];
const known = new Map([[sheetPrint(set), { sheet: sheetOf(set) }]]);
const pages = sheetOf(set).pages.length;

test('the code of a person is the end of their id, which is chance', () => {
  expect(people[0]?.code).toBe('0000A1B2C3D4');
});

(popplerIsThere() ? test : test.skip)('as PDF, one after the other: each says whose it is, on all of its pages', async () => {
  const { bytes } = await pdf.write(set, undefined, people);
  expect(pages).toBe(2);
  const read = drawnPages(bytes, 150).map((p) => readSheet(p, known));
  expect(read.map((r) => (r.is === 'read' ? [r.person, r.page] : r.message))).toEqual(people.flatMap((p) => [1, 2].map((n) => [p.code, n])));
  for (const r of read) if (r.is === 'read') expect(r.fields.filter((f) => f.given.length || f.doubt)).toEqual([]);
  expect(await pdf.readBack(bytes, set, people)).toEqual({ items: 130, keys: 0, differences: [] });
});

test('as DOCX: the sheet reader finds every page, and sees no mark', async () => {
  const { bytes, name } = await docx.write(set, undefined, people.slice(0, 1));
  expect(name).toBe('bread-on-paper-answer-sheet.docx');
  expect(await docx.readBack(bytes, set, people.slice(0, 1))).toEqual({ items: 130, keys: 0, differences: [] });
});

test('as a web page: the sheet reader finds every page of everybody, and sees no mark', async () => {
  const few = { ...set, items: set.items.slice(0, 12) };
  const { bytes, name } = await html.write(few, undefined, people);
  expect(name).toBe('bread-on-paper-answer-sheet.html');
  expect(await html.readBack(bytes, few, people)).toEqual({ items: 12, keys: 0, differences: [] });
  const page = new TextDecoder().decode(bytes);
  expect(page).toContain('>Béla “#x” Çelik</p>');
  // a circle that is filled in is seen: the drawing is what is read
  const filled = page.replace('<circle ', '<circle fill="black" ');
  expect((await html.readBack(new TextEncoder().encode(filled), few, people)).differences).toEqual([
    { name: 'Ada Brandt, page 1', message: 'the sheet reader sees a mark where nobody has made one' },
  ]);
});

/** Debian's browser, which prints the page as people's do. */
const browser = '/usr/bin/chromium';
(existsSync(browser) && popplerIsThere() ? test : test.skip)(
  'printed by a browser, drawn by poppler: every page stands on one sheet of paper and is read',
  async () => {
    const folder = mkdtempSync(path.join(tmpdir(), 'sheet-'));
    try {
      const [page, out] = [path.join(folder, 'a.html'), path.join(folder, 'a.pdf')];
      writeFileSync(page, (await html.write(set, undefined, people.slice(1))).bytes);
      execFileSync(
        browser,
        ['--headless', '--no-sandbox', '--disable-gpu', '--no-pdf-header-footer', `--user-data-dir=${folder}/own`, `--print-to-pdf=${out}`, `file://${page}`],
        { stdio: 'ignore' },
      );
      const read = drawnPages(readFileSync(out), 150).map((p) => readSheet(p, known));
      expect(read.map((r) => (r.is === 'read' ? [r.person, r.page] : r.message))).toEqual([1, 2].map((n) => [people[1]?.code, n]));
      for (const r of read) if (r.is === 'read') expect(r.fields.filter((f) => f.given.length || f.doubt)).toEqual([]);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  },
);

test('what is not on it is told: somebody whose sheet is not there, an open question; the same bytes each time', async () => {
  const essay: Item = { id: 'e', kind: 'essay', stem: 'Why?', points: 2 };
  const small = { ...set, items: [...set.items.slice(0, 3), essay] };
  const { bytes } = await docx.write(small, undefined, people.slice(0, 1));
  expect((await docx.write(small, undefined, people.slice(0, 1))).bytes).toEqual(bytes);
  // whose it is stands in the code: of another the same page is none
  expect((await docx.readBack(bytes, small, [{ ...people[0]!, code: '0000A1B2C3D9' }])).differences).toHaveLength(2);
  expect((await docx.readBack(bytes, small, people)).differences).toEqual([
    { name: 'Béla “#x” Çelik, page 1', message: 'the sheet reader does not find it' },
    { item: 'e', name: '4', message: 'it has no place on the sheet; it is answered on paper of its own' },
  ]);
});

/** Whether LibreOffice is there: it opens what we write, and is not ours. */
const office = ((): boolean => {
  try {
    execFileSync('soffice', ['--version'], { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
})();
(office && popplerIsThere() ? test : test.skip)('opened and printed by LibreOffice, drawn by poppler: everything stands where it is looked for', async () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'sheet-'));
  try {
    writeFileSync(path.join(folder, 'a.docx'), (await docx.write(set, undefined, people.slice(1))).bytes);
    execFileSync('soffice', [
      `-env:UserInstallation=file://${folder}/own`,
      '--headless',
      '--convert-to',
      'pdf',
      '--outdir',
      folder,
      path.join(folder, 'a.docx'),
    ]);
    const read = drawnPages(readFileSync(path.join(folder, 'a.pdf')), 150).map((p) => readSheet(p, known));
    expect(read.map((r) => (r.is === 'read' ? [r.person, r.page] : r.message))).toEqual(people.slice(1).flatMap((p) => [1, 2].map((n) => [p.code, n])));
    for (const r of read) if (r.is === 'read') expect(r.fields.filter((f) => f.given.length || f.doubt)).toEqual([]);
  } finally {
    rmSync(folder, { recursive: true });
  }
});
