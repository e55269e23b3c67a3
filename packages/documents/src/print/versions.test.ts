/** Three versions on paper, with their keys and answer sheets, as PDF and as DOCX: read back, nothing is otherwise than in the version. */
import { draw, goingSet, type Item, poolOf, type QuizSet, sheetOf, sheetPrint } from '@zakuska/core';
import { knownSheets } from '@zakuska/core/scan';
import { allFormats } from '../index.js';
import { printFormats } from './index.js';
import { readSheetDocx } from './sheetDocx.js';
import { sampled } from '../../../core/src/item/runs.js';

const options = (n: number): { id: string; content: string; credit: number }[] =>
  ['knead', 'rest', 'shape', 'bake'].map((word, i) => ({ id: `o${i}`, content: `${word} for ${n * 3 + i} minutes`, credit: i === n % 4 ? 1 : 0 }));
const items: Item[] = Array.from({ length: 12 }, (_, n): Item => {
  const base = { id: `q${n}`, stem: `What does step ${n * 7919} of the recipe say?`, points: 1 };
  if (n % 4 === 0) return { ...base, kind: 'true-false', answer: n % 8 === 0 };
  if (n % 4 === 1) return { ...base, kind: 'numeric', answers: [{ min: n, max: n, credit: 1 }] };
  return { ...base, kind: 'multiple-choice', options: options(n) };
});
const whole: QuizSet = { title: 'Bread', items };
const drawn = draw(poolOf([{ title: 'Bread', items }]), { versions: ['A', 'B', 'C'].map((name) => ({ name, count: 8 })), overlap: 'any' });
const document = { set: whole, reviews: {}, drawn };
const versions = drawn.versions.map(({ name }) => ({ name, set: goingSet(document, name) as QuizSet }));

const format = (id: string) => printFormats.find((f) => f.id === id) ?? allFormats.byId(id);
test.each(['pdf-questions', 'pdf-key', 'pdf-paper', 'docx-questions', 'docx-key', 'docx-paper', 'pdf-sheet'])('%s of each of three versions', async (id) => {
  const to = format(id);
  const names = new Set<string>();
  for (const { set } of versions) {
    const written = await to?.write?.(set);
    names.add(written?.name ?? '');
    expect((await to?.readBack?.(written?.bytes ?? new Uint8Array(), set))?.differences).toEqual([]);
    // what was written of one version is not that of another
    const [other] = versions.filter((v) => v.set !== set);
    if (other && !id.endsWith('sheet')) expect((await to?.readBack?.(written?.bytes ?? new Uint8Array(), other.set))?.differences).not.toEqual([]);
  }
  expect(names.size).toBe(3);
});

test('the answer sheets of three versions as DOCX: each is known as its own', async () => {
  const known = knownSheets(document);
  expect(new Set(versions.map(({ set }) => sheetPrint(set))).size).toBe(3);
  for (const { name, set } of sampled(versions, 0.4)) {
    const { bytes } = (await format('docx-sheet')?.write?.(set)) ?? { bytes: new Uint8Array() };
    const pages = await readSheetDocx(bytes, known);
    expect(pages).toHaveLength(sheetOf(set).pages.length);
    for (const p of pages) {
      expect(p.is === 'read' && [p.print, known.get(p.print)?.version]).toEqual([sheetPrint(set), name]);
      if (p.is === 'read') expect(p.fields.filter((f) => f.given.length)).toEqual([]);
    }
  }
});
