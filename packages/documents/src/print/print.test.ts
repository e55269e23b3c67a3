/** Papers as PDF: all of a set stands on them in its order, by our reader and by poppler's; nothing that a set holds can break or steer them. */
import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { Item, QuizSet } from '@zakuska/core';
import { jest } from '@jest/globals';
import fc from 'fast-check';
import { anyRichSet } from '../../../core/src/item/arbitrary.js';
import { runs } from '../../../core/src/item/runs.js';
import { pdfFormats } from './index.js';

jest.setTimeout(300_000);
const [whole, questions] = pdfFormats;
const essay = (stem: string, id = 'a'): Item => ({ id, kind: 'essay', stem, points: 1, lines: 2 });
const words = (bytes: Uint8Array): string => {
  const file = path.join(fs.mkdtempSync(path.join(os.tmpdir(), 'paper-')), 'a.pdf');
  fs.writeFileSync(file, bytes);
  return execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' });
};
/** poppler's tools are no part of what tests install. */
const poppler = (() => {
  try {
    execFileSync('pdftotext', ['-v'], { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
})();

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
  const set: QuizSet = { title: 'Signs', items: [essay('Was heißt 面包?')] };
  const { bytes } = await questions.write(set);
  expect((await questions.readBack(bytes, set)).differences).toMatchObject([{ item: 'a', message: 'the question “Was heißt 面包?” is not where it belongs' }]);
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
