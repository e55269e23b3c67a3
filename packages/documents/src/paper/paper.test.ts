/** Papers as DOCX: all of a set stands on them, in its order, for our reader and for another; what importers are given marks as the set. */
import fs from 'node:fs';
import type { QuizSet } from '@zakuska/core';
import fc from 'fast-check';
import { strFromU8, unzipSync } from 'fflate';
import mammoth from 'mammoth';
import { anyRichSet } from '../../../core/src/item/arbitrary.js';
import { runs } from '../../../core/src/item/runs.js';
import { allFormats } from '../index.js';

const written = async (id: string, set: QuizSet): Promise<{ bytes: Uint8Array; name: string }> => {
  const format = allFormats.byId(id);
  if (!format?.write) throw new Error(`${id} is not written`);
  return format.write(set);
};
const readBack = async (id: string, set: QuizSet) => {
  const { bytes } = await written(id, set);
  return allFormats.byId(id)?.readBack?.(bytes, set);
};

const loaves: QuizSet = {
  title: 'Salt, acid and time',
  language: 'en',
  sections: [{ id: 's', title: 'Part one', instructions: 'Use a pencil.', passage: '<p>A <strong>starter</strong> is kept warm.</p>' }],
  items: [
    {
      id: 'a',
      kind: 'multiple-choice',
      section: 's',
      stem: 'Which flour has the most gluten?',
      points: 1,
      options: ['rye', 'rice', 'strong wheat', 'maize'].map((content, i) => ({ id: `o${i}`, content, credit: i === 2 ? 1 : 0 })),
      feedback: { general: 'It has 12 to 14 % protein.' },
    },
    { id: 'b', kind: 'true-false', section: 's', stem: 'Salt slows down yeast.', points: 1, answer: true },
    {
      id: 'c',
      kind: 'numeric',
      stem: 'How long is \\(t = \\frac{\\ln 2}{k}\\) for \\(k = 2\\)?',
      points: 2,
      answers: [{ min: 0.34, max: 0.35, credit: 1 }],
      unit: 'h',
    },
    {
      id: 'd',
      kind: 'cloze',
      stem: 'It rests for [[g]] minutes in the [[h]].',
      points: 2,
      gaps: [
        { id: 'g', points: 1, kind: 'number', answers: [{ min: 30, max: 30, credit: 1 }] },
        { id: 'h', points: 1, kind: 'text', answers: [{ text: 'bowl', credit: 1 }] },
      ],
      wordBank: ['bowl', 'tub'],
    },
    {
      id: 'e',
      kind: 'matching',
      stem: 'Match each with its temperature.',
      points: 2,
      pairs: [
        { left: 'cold proof', right: '4 °C' },
        { left: 'oven', right: '240 °C' },
      ],
      extraRights: ['900 °C'],
    },
    { id: 'f', kind: 'ordering', stem: 'Put them in order.', points: 1, sequence: ['mix', 'salt', 'fold'] },
    { id: 'g', kind: 'essay', stem: 'Why is the crust darker?', points: 6, modelAnswer: 'More sugar is left.', rubric: '3 for sugar.', lines: 8 },
  ],
};

test.each([
  ['docx-paper', 7, 7],
  ['docx-questions', 7, 0],
  ['docx-key', 0, 7],
  ['docx-guide', 1, 0],
  ['html-questions', 7, 0],
  ['html-key', 0, 7],
  ['html-guide', 1, 0],
  ['markdown-questions', 7, 0],
  ['markdown-key', 0, 7],
  ['markdown-guide', 1, 0],
])('%s: nothing of a set is missing', async (id, items, keys) => {
  expect(await readBack(id, loaves)).toEqual({ items, keys, differences: [] });
});

test.each(['docx-paper', 'html-questions', 'html-key', 'markdown-questions', 'markdown-key'])('random sets stand on paper whole: %s', async (id) => {
  await fc.assert(
    fc.asyncProperty(anyRichSet, async (set) => {
      expect((await readBack(id, set))?.differences.slice(0, 2)).toEqual([]);
    }),
    { numRuns: runs(id === 'docx-paper' ? 25 : 10) },
  );
});

test('a page and a text hold formulas and pictures, and no key where it is not asked for', async () => {
  const pixel = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';
  const hash = 'a'.repeat(64);
  const set: QuizSet = {
    ...loaves,
    assets: { [hash]: { mediaType: 'image/png', name: 'loaf.png', data: pixel } },
    items: [{ ...loaves.items[0], stem: `<p>Which is this? <img src="asset:${hash}" alt="a loaf"/> \\(\\frac{1}{2}\\)</p>` } as QuizSet['items'][number]],
  };
  const page = new TextDecoder().decode((await written('html-questions', set)).bytes);
  expect(page).toContain(`<img src="data:image/png;base64,${pixel}" alt="a loaf">`);
  expect(page).toMatch(/<math>[^]*<mfrac>/);
  expect(page).not.toMatch(/notation|protein|asset:/);
  const text = new TextDecoder().decode((await written('markdown-questions', set)).bytes);
  expect(text).toContain(`**1.** Which is this? ![a loaf](data:image/png;base64,${pixel}) $\\frac{1}{2}$`);
  expect(text).toContain('- c) strong wheat');
  expect(text).not.toMatch(/protein|asset:/);
});

test('what is missing or in another place is told', async () => {
  const { bytes } = await written('docx-paper', loaves);
  const format = allFormats.byId('docx-paper');
  const items = loaves.items.map((i) =>
    i.id === 'f' ? { ...i, stem: 'Put them in a row.' } : i.id === 'b' && i.kind === 'true-false' ? { ...i, answer: false } : i,
  );
  const { differences } = (await format?.readBack?.(bytes, { ...loaves, items })) ?? { differences: [] };
  expect(differences.map((d) => [d.item, d.message])).toEqual([
    ['f', 'the question “Put them in a row.” is not where it belongs'],
    ['b', 'the key “False” is not where it belongs'],
  ]);
});

test('the same set gives the same bytes', async () => {
  const [one, two] = [await written('docx-paper', loaves), await written('docx-paper', loaves)];
  expect(Buffer.from(one.bytes).equals(Buffer.from(two.bytes))).toBe(true);
  expect(one.name).toBe('salt-acid-and-time.docx');
});

// an independent reader of DOCX: npm mammoth
test('another reader finds a numbered list of the questions, lettered options inside, and the key as a table', async () => {
  const { bytes } = await written('docx-paper', {
    ...loaves,
    items: loaves.items.map((i) =>
      i.kind === 'multiple-choice' ? { ...i, options: i.options.map((o) => ({ ...o, content: `${o.content}, as it is sold in every shop of the town` })) } : i,
    ),
  });
  const { value } = await mammoth.convertToHtml({ buffer: Buffer.from(bytes) });
  expect(value).toContain('<h1>Salt, acid and time</h1>');
  expect(value).toContain('<h2>Part one</h2>');
  const list = (...of: string[]): string => `<ol>${of.map((o) => `<li>${o}</li>`).join('')}</ol>`;
  const shop = ', as it is sold in every shop of the town';
  expect(value).toContain(
    `<li>Which flour has the most gluten?${list(...['rye', 'rice', 'strong wheat', 'maize'].map((o) => o + shop))}</li><li>Salt slows down yeast.</li>`,
  );
  const key = /<table>(?:(?!<table>)[\s\S])*<\/table>$/.exec(value)?.[0] ?? '';
  const rows = Array.from(key.matchAll(/<tr>([\s\S]*?)<\/tr>/g), (m) =>
    (m[1] ?? '')
      .replace(/<\/t[dh]>|<\/p>/g, ' ')
      .replace(/<[^>]+>/g, '')
      .replace(/\s+/g, ' ')
      .trim(),
  );
  expect(rows).toEqual([
    'No. Key Points',
    '1 c It has 12 to 14 % protein. 1',
    '2 True 1',
    '3 0.34 to 0.35 h 2',
    '4 (1) 30 (2) bowl 2',
    '5 1–B, 2–A 2',
    '6 mix → salt → fold 1',
    '7 More sugar is left. 3 for sugar. 6',
  ]);
});

test.each(['docx-import-starred', 'docx-import-bold'])('%s is answered as the set is', async (id) => {
  const set: QuizSet = {
    title: 'Flour',
    items: Array.from({ length: 6 }, (_, n) => ({
      id: `i${n}`,
      kind: 'multiple-choice' as const,
      stem: `What belongs into loaf number ${n + 1}?`,
      points: 1,
      options: ['flour', 'salt', 'sand', 'soap'].map((word, i) => ({ id: `${n}${i}`, content: `${word} of sort ${n}`, credit: i === n % 4 ? 1 : 0 })),
    })),
  };
  const { bytes, name } = await written(id, set);
  const rehearsal = await allFormats.rehearse(bytes, name, set);
  expect(rehearsal.items.map((i) => i.verdict)).toEqual(set.items.map(() => 'ok'));
});

test('a document for importers without keys holds none', async () => {
  const { bytes, name } = await written('docx-import', loaves);
  const { set } = await allFormats.read(bytes, name);
  expect(set.items.map((i) => i.stem)).toEqual(['A starter is kept warm. Which flour has the most gluten?', 'A starter is kept warm. Salt slows down yeast.']);
  expect(set.items.map((i) => ('options' in i ? i.options.map((o) => [o.content, o.credit]) : 'answer' in i ? i.answer : ''))).toEqual([
    [
      ['rye', 0],
      ['rice', 0],
      ['strong wheat', 0],
      ['maize', 0],
    ],
    null,
  ]);
  expect((await readBack('docx-import', loaves))?.differences).toEqual([]);
});

test('a picture of the set stands in the paper with its words; one of a sort that DOCX has not gives its words', async () => {
  const data = fs.readFileSync(new URL('../../../../docs/screenshots/take.png', import.meta.url)).toString('base64');
  const hash = 'a'.repeat(64);
  const set: QuizSet = {
    title: 'Pictures',
    assets: { [hash]: { mediaType: 'image/png', name: 'take.png', data }, ['b'.repeat(64)]: { mediaType: 'image/webp', name: 'x.webp', data: 'UklGRg==' } },
    items: [
      { id: 'a', kind: 'essay', points: 1, stem: `<p>What is this? <img src="asset:${hash}" alt="a page"/></p>` },
      { id: 'b', kind: 'essay', points: 1, stem: `<p>And this? <img src="asset:${'b'.repeat(64)}" alt="a loaf"/></p>` },
    ],
  };
  const { bytes } = await written('docx-questions', set);
  const { value } = await mammoth.convertToHtml({ buffer: Buffer.from(bytes) });
  expect(value).toMatch(/<img alt="a page" src="data:image\/png;base64,/);
  expect(value).toContain('a loaf');
});

/** The slides of a PPTX as XML, in their order. */
const slidesIn = (bytes: Uint8Array): string[] =>
  Object.entries(unzipSync(bytes))
    .filter(([path]) => /^ppt\/slides\/slide\d+\.xml$/.test(path))
    .sort(([a], [b]) => Number(/\d+/.exec(a)?.[0]) - Number(/\d+/.exec(b)?.[0]))
    .map(([, xml]) => strFromU8(xml));
const HEIGHT = 7.5 * 914_400;

test('slides: a title, the part, each item with its key on a second step in the same place', async () => {
  const { bytes } = await written('pptx', loaves);
  const slides = slidesIn(bytes);
  const words = slides.map((xml) => Array.from(xml.matchAll(/<a:t>([^<]*)</g), (m) => m[1]).join(''));
  expect(words.slice(0, 4)).toEqual([
    'Salt, acid and time',
    'Part oneUse a pencil.',
    'Part oneA starter is kept warm.',
    '1 / 7Which flour has the most gluten?a)  ryeb)  ricec)  strong wheatd)  maize',
  ]);
  expect(words[4]).toBe('1 / 7Which flour has the most gluten?a)  ryeb)  ricec)  strong wheat  ✓d)  maize');
  expect(words[5]).toContain('It has 12 to 14 % protein.');
  // nothing jumps: what the first step shows stands where it stood
  const places = (xml: string): string[] =>
    Array.from(xml.matchAll(/<p:cNvPr id="\d+" name="([^"]*)"[\s\S]*?<a:off x="(\d+)" y="(\d+)"\/>/g), (m) => m.slice(1).join(' '));
  expect(places(slides[3] ?? '')).toEqual(places(slides[4] ?? ''));
  expect(places(slides[5] ?? '')).toEqual(expect.arrayContaining(places(slides[4] ?? '')));
  const notes = strFromU8(unzipSync(bytes)['ppt/notesSlides/notesSlide4.xml'] as Uint8Array);
  expect(notes).toContain('Key: c) strong wheat');
});

test('slides of random sets hold all of them, and nothing stands below the slide', async () => {
  await fc.assert(
    fc.asyncProperty(anyRichSet, async (set) => {
      const { bytes } = await written('pptx', set);
      expect((await allFormats.byId('pptx')?.readBack?.(bytes, set))?.differences.slice(0, 2)).toEqual([]);
      for (const xml of slidesIn(bytes))
        for (const [, y, h] of xml.matchAll(/<a:off x="\d+" y="(\d+)"\/><a:ext cx="\d+" cy="(\d+)"/g))
          expect(Number(y) + Number(h)).toBeLessThanOrEqual(HEIGHT);
    }),
    { numRuns: runs(25) },
  );
});

test('signs that XML escapes are read back as they were', async () => {
  const set: QuizSet = {
    title: 'Baker\'s <b> & "co"',
    items: [{ id: 'a', kind: 'true-false', stem: "Is a baker's dozen > 12 & < 14?", points: 1, answer: true }],
  };
  for (const id of ['pptx', 'docx-paper']) expect((await readBack(id, set))?.differences).toEqual([]);
});

test('a formula on a slide is a line of words with powers and indices', async () => {
  const { bytes } = await written('pptx', { title: 'F', items: [{ id: 'a', kind: 'essay', points: 1, stem: 'Is \\(x_1^2 = \\frac{a+b}{2}\\) so?' }] });
  const xml = slidesIn(bytes)[1] ?? '';
  expect(Array.from(xml.matchAll(/<a:rPr([^>]*)>[\s\S]*?<a:t>([^<]*)</g), (m) => [/baseline="(-?\d+)"/.exec(m[1] ?? '')?.[1] ?? '', m[2]]).slice(1)).toEqual([
    ['', 'Is '],
    ['', 'x'],
    ['-40000', '1'],
    ['30000', '2'],
    ['', ' = (a + b)/2'],
    ['', ' so?'],
  ]);
});
