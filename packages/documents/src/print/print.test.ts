/** Papers as PDF: all of a set stands on them in its order, by our reader and by poppler's; nothing that a set holds can break or steer them. */
import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { bubblesOf, type Item, type QuizSet, SHEET, sheetOf } from '@zakuska/core';
import fc from 'fast-check';
import jsqr from 'jsqr';
import { anyRichSet } from '../../../core/src/item/arbitrary.js';
import { runs } from '../../../core/src/item/runs.js';
import { openPdf } from '../pdf/open.js';
import { drawnPages, popplerIsThere } from '../testing/poppler.js';
import { pdfFormats } from './index.js';

// the module is CommonJS
const jsQR = ((jsqr as unknown as { default?: typeof jsqr.default }).default ?? jsqr) as typeof jsqr.default;
const [whole, questions] = pdfFormats;
const essay = (stem: string, id = 'a'): Item => ({ id, kind: 'essay', stem, points: 1, lines: 2 });
const words = (bytes: Uint8Array): string => {
  const file = path.join(fs.mkdtempSync(path.join(os.tmpdir(), 'paper-')), 'a.pdf');
  fs.writeFileSync(file, bytes);
  return execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' });
};
const poppler = popplerIsThere();

const bread: QuizSet = {
  title: 'Brot und Salz',
  language: 'de',
  items: [
    {
      id: 'a',
      kind: 'multiple-choice',
      stem: 'Welches Mehl hat das meiste Gluten?',
      points: 2,
      options: ['Roggen', 'Reis', 'Weizen', 'Mais'].map((content, i) => ({ id: `${i}`, content, credit: i === 2 ? 1 : 0 })),
    },
    { id: 'b', kind: 'true-false', stem: 'Salz bremst die Hefe.', points: 1, answer: true },
    essay('Warum ist \\(t = \\frac{\\ln 2}{k}\\)?', 'c'),
  ],
};

test('all questions and keys stand in the file, in the language of the set', async () => {
  const { bytes, name } = await whole.write(bread);
  expect(name).toBe('brot-und-salz.pdf');
  expect(await whole.readBack(bytes, bread)).toEqual({ items: 3, keys: 3, differences: [] });
  expect(await whole.readBack(bytes, { ...bread, items: [...bread.items, essay('Und warum nicht?', 'd')] })).toMatchObject({
    differences: [{ item: 'd', message: 'the question “4” is not where it belongs' }, { item: 'd' }],
  });
});

(poppler ? test : test.skip)('poppler reads title, language and words in reading order', async () => {
  const { bytes } = await whole.write(bread);
  const said = words(bytes).replace(/\s+/g, ' ');
  expect(said).toMatch(
    /^Brot und Salz Name: Klasse: Datum: Punkte: ____ \/ 4 1\. Welches Mehl hat das meiste Gluten\? \(2 Punkte\) a\) Roggen b\) Reis c\) Weizen d\) Mais 2\. Salz bremst die Hefe\. Richtig Falsch 3\. Warum ist/,
  );
  expect(said).toMatch(/Brot und Salz: Lösungen Nr\. Lösungen Punkte 1 c 2 2 Richtig 1 3 wird von einer Person bewertet 1/);
});

test('the same set gives the same bytes', async () => {
  const [one, two] = [await whole.write(bread), await whole.write(bread)];
  expect(Buffer.from(one.bytes).equals(Buffer.from(two.bytes))).toBe(true);
});

test('random sets stand on paper whole, as far as the fonts that ship have their signs', async () => {
  await fc.assert(
    fc.asyncProperty(anyRichSet, async (set) => {
      // signs of full width are in fonts of Chinese and Japanese, which do not ship
      fc.pre(!/[\uff01-\uff5e]/.test(JSON.stringify(set)));
      const { bytes } = await questions.write(set);
      expect((await questions.readBack(bytes, set)).differences.slice(0, 2)).toEqual([]);
    }),
    { numRuns: runs(25) },
  );
});

test.each([
  '#read("/etc/passwd")',
  '"); #panic("x',
  '\\ \\" #{1+1} $x$ *b* _i_ `c` = h @a <b> [c] ~ // d /* e */',
  '#import "@preview/x:1.0.0": y',
  '\\(\\unknowncommand{x}\\) and \\(}{\\)',
  '<table><tbody><tr><td colspan="9" rowspan="9">a</td></tr><tr><td>b</td></tr></tbody></table>',
  `<p><img src="asset:${'c'.repeat(64)}" alt="gone"/></p>`,
])('what a set says is words and no instruction: %s', async (stem) => {
  const set: QuizSet = {
    title: 'Words',
    items: [essay(stem), essay('The next one.', 'b')],
    assets: { ['c'.repeat(64)]: { mediaType: 'image/png', name: 'x', data: 'AAAA' } },
  };
  const { bytes } = await questions.write(set);
  expect((await questions.readBack(bytes, set)).differences).toEqual([]);
  expect(Buffer.from(bytes).toString('latin1')).not.toContain('root:');
});

test.each([
  '\\text{a" + #panic("run") + "b}',
  '\\operatorname{#panic("run")}',
  '\\text{" + #while true {} + "}',
  '\\#panic("run")',
  '\\text{\\\\} #read("/etc/passwd")',
])('what a formula says is no program: %s', async (tex) => {
  const { bytes } = await questions.write({ title: 'F', items: [essay(`Is \\(${tex}\\) so?`), essay('Is \\(x^2\\) so?', 'b')] });
  // set as it was typed, in the font of code; the other formula is set as one
  const fonts = Buffer.from(bytes).toString('latin1');
  expect(fonts).toContain('+NotoSansMono');
  expect(fonts).toContain('NewCMMath');
});

test('signs that no font has are told', async () => {
  const set: QuizSet = { title: 'Signs', items: [essay('Was heißt 𒀀𒁀?')] };
  const { bytes } = await questions.write(set);
  expect((await questions.readBack(bytes, set)).differences).toMatchObject([
    {
      item: 'a',
      message: expect.stringMatching(/^the question “Was heißt 𒀀𒁀\?” is not where it belongs: the fonts of the PDF have no other signs \(𒀀 𒁀\)/) as string,
    },
  ]);
});

test.each([
  ['ar', 'ما هو الخبز؟', 'NotoSansArabic'],
  ['he', 'מהו לחם?', 'NotoSansHebrew'],
  ['ru', 'Что такое хлеб?', 'NotoSans-'],
  ['el', 'Τι είναι το ψωμί;', 'NotoSans-'],
  ['hi', 'रोटी क्या है?', 'NotoSans-'],
])('a paper in %s is set in a font that has its signs', async (language, stem, font) => {
  const { bytes } = await questions.write({ title: stem, language, items: [essay(stem)] });
  expect(Buffer.from(bytes).toString('latin1')).toContain(`+${font}`);
  const { differences } = await questions.readBack(bytes, { title: stem, language, items: [essay(stem)] });
  expect(differences.map((d) => d.message)).toEqual(language === 'ar' ? ['words in Arabic script cannot be read again from a PDF; look at the pages'] : []);
});

test('an item longer than a page goes on over its end, shorter ones stay whole', async () => {
  const long = Array.from({ length: 120 }, (_, i) => `<p>Line number ${i + 1} of a long text.</p>`).join('');
  const set: QuizSet = { title: 'Long', items: [essay(long), ...Array.from({ length: 30 }, (_, i) => essay(`Question ${i}?`, `q${i}`))] };
  const { bytes } = await questions.write(set);
  expect((await questions.readBack(bytes, set)).differences).toEqual([]);
});

const pagesOf = async (bytes: Uint8Array): Promise<number> => {
  const { document, close } = await openPdf(bytes);
  const { numPages } = document;
  await close();
  return numPages;
};

describe('looks', () => {
  const long: QuizSet = { ...bread, items: Array.from({ length: 12 }, (_, i) => ({ ...(bread.items[0] as Item), id: `q${i}` })) };
  test('large print, two columns and wide spacing hold the same, on more pages or fewer', async () => {
    const pages: Record<string, number> = {};
    for (const [name, look] of Object.entries({
      usual: { large: false, columns: 1, wide: false },
      large: { large: true, columns: 1, wide: false },
      columns: { large: false, columns: 2, wide: false },
      wide: { large: false, columns: 1, wide: true },
      all: { large: true, columns: 2, wide: true },
    } as const)) {
      const { bytes } = questions.write(long, look);
      expect({ name, ...(await questions.readBack(bytes, long)) }).toEqual({ name, items: 12, keys: 0, differences: [] });
      pages[name] = await pagesOf(bytes);
    }
    expect(pages['large']).toBeGreaterThan(pages['usual'] as number);
    expect(pages['wide']).toBeGreaterThanOrEqual(pages['usual'] as number);
    expect(pages['columns']).toBeLessThanOrEqual(pages['usual'] as number);
  });
});

describe('the answer sheet', () => {
  const sheet = pdfFormats.find((f) => f.id === 'pdf-sheet') as (typeof pdfFormats)[number];
  test('every item has its place; an open question has none, and that is told', async () => {
    const { bytes, name } = sheet.write(bread);
    expect(name).toBe('brot-und-salz-antwortbogen.pdf');
    expect(await sheet.readBack(bytes, bread)).toEqual({
      items: 2,
      keys: 0,
      differences: [{ item: 'c', name: '3', message: 'it has no place on the sheet; it is answered on paper of its own' }],
    });
    expect(sheet.write(bread).bytes).toEqual(bytes);
  });

  /** The first page as grey pixels, so many to a millimetre. */
  const drawn = (bytes: Uint8Array, dots: number): { grey: (x: number, y: number) => number } => {
    const [page] = drawnPages(bytes, dots * 25.4);
    return { grey: (x, y) => page?.data[Math.round(y * dots) * page.width + Math.round(x * dots)] ?? 255 };
  };
  (poppler ? test : test.skip)('drawn by poppler, every mark stands where the geometry says', () => {
    const set: QuizSet = {
      ...bread,
      items: [...bread.items, { id: 'n', kind: 'numeric', stem: 'Wie viel?', points: 1, answers: [{ min: 1, max: 1, credit: 1 }] }],
    };
    const { grey } = drawn(sheet.write(set).bytes, 10);
    SHEET.corners.forEach((c, i) => {
      const half = SHEET.cornerSize / 2;
      expect([i, grey(c.x, c.y) < 60]).toEqual([i, i < 3]);
      for (const [dx, dy] of [
        [-1, 0],
        [1, 0],
        [0, -1],
        [0, 1],
      ] as const) {
        expect([i, grey(c.x + dx * (half - 0.4), c.y + dy * (half - 0.4)) < 60]).toEqual([i, true]);
        expect([i, grey(c.x + dx * (half + 0.4), c.y + dy * (half + 0.4)) > 200]).toEqual([i, true]);
      }
    });
    const bubbles = sheetOf(set).pages.flatMap((p) => p.fields.flatMap(bubblesOf));
    expect(bubbles.length).toBeGreaterThan(60);
    for (const b of bubbles) {
      // its line is darker than the paper inside and outside of it, wherever one looks
      const around = (r: number): number[] =>
        Array.from({ length: 12 }, (_, k) => grey(b.x + r * Math.cos((k * Math.PI) / 6), b.y + r * Math.sin((k * Math.PI) / 6)));
      const mean = (all: number[]): number => all.reduce((a, g) => a + g, 0) / all.length;
      expect(mean(around(SHEET.radius))).toBeLessThan(mean(around(SHEET.radius - 0.45)) - 40);
      expect(mean(around(SHEET.radius))).toBeLessThan(mean(around(SHEET.radius + 0.45)) - 40);
    }
  });

  (poppler ? test : test.skip)('its code is read by jsQR, an independent reader', () => {
    const { grey } = drawn(sheet.write(bread).bytes, 6);
    const { x, y, size } = SHEET.qr;
    // the code with the white around it
    const side = Math.round((size + 8) * 6);
    const rgba = new Uint8ClampedArray(side * side * 4).fill(255);
    for (let r = 0; r < side; r++) for (let c = 0; c < side; c++) rgba.fill(grey(x - 4 + c / 6, y - 4 + r / 6), (r * side + c) * 4, (r * side + c) * 4 + 3);
    expect(jsQR(rgba, side, side)?.data).toBe(sheetOf(bread).pages[0]?.code);
  });
});
