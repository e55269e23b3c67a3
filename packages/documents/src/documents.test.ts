/** Files as people and programs outside write them, read as the person would. What made them is told in ../corpus/README.md. */
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { type Item, type QuizSet, ReadError, richToPlain, writeSetFile } from '@zakuska/core';
// @ts-expect-error the scorer is plain JavaScript
import { plain as scored, scoreDraft } from '../../core/corpus/score.mjs';
import { strToU8, zipSync } from 'fflate';
import { allFormats } from './index.js';

// PDFs are slow to open, and machines are busy
const corpus = path.join(import.meta.dirname, '../corpus');
const bytesOf = (...at: string[]): Uint8Array => new Uint8Array(readFileSync(path.join(corpus, ...at)));
const json = <T>(...at: string[]): T => JSON.parse(readFileSync(path.join(corpus, ...at), 'utf8')) as T;

interface Question {
  kind?: string;
  stem: string;
  options?: string[];
  key?: number | number[];
  answer?: string;
}
const plain = (rich: string): string => (scored as (s: string) => string)(richToPlain(rich));

/** An item as the lists of questions have it. */
function question(i: Item): Question {
  const stem = plain(i.stem);
  if ('options' in i) {
    const key = i.options.flatMap((o, n) => (o.credit > 0 ? [n] : []));
    return { kind: i.kind, stem, options: i.options.map((o) => plain(o.content)), key };
  }
  const answer =
    i.kind === 'true-false'
      ? i.answer
        ? 'True'
        : 'False'
      : i.kind === 'numeric'
        ? i.answers.map((a) => a.min).join('/')
        : i.kind === 'short-answer'
          ? i.answers.map((a) => a.text).join('/')
          : '';
  return { kind: i.kind, stem, answer };
}
const expected = (q: Question): Question =>
  q.options
    ? { kind: q.kind ?? 'multiple-choice', stem: plain(q.stem), options: q.options.map(plain), key: [q.key ?? []].flat() }
    : { kind: q.kind ?? '', stem: plain(q.stem), answer: q.answer ?? '' };

const given = readdirSync(path.join(corpus, 'given')).filter((f) => !f.endsWith('.gold.json'));
const unreadable = /doc-2[89]/;
test.each(given.filter((f) => !unreadable.test(f)))('%s is read as it is meant', async (file) => {
  const gold = json<{ items: unknown[]; diagnostics?: string[]; keysFrom?: string }>('given', file.replace(/\.[^.]+$/, '.gold.json'));
  const { set, diagnostics, asides } = await allFormats.read(bytesOf('given', file), file);
  const score = (
    scoreDraft as (g: unknown, s: unknown) => { misses: unknown[]; exact: number; silentWrongKey: number; missed: string[]; falseAlarms: string[] }
  )(gold, JSON.parse(writeSetFile(set, { diagnostics, asides })));
  expect({ misses: score.misses, exact: score.exact, silent: score.silentWrongKey, missed: score.missed, falseAlarms: score.falseAlarms }).toEqual({
    misses: [],
    exact: gold.items.length,
    silent: 0,
    missed: [],
    falseAlarms: [],
  });
  expect(set.items.length).toBe(gold.items.length);
  expect(diagnostics.some((d) => d.code === 'key-from-formatting')).toBe(gold.keysFrom !== undefined);
});

test.each([
  ['doc-28-cash-desk-password.pdf', /password/],
  ['doc-29-map-scan-picture-only.pdf', /picture/],
])('%s says why it cannot be read', async (file, why) => {
  const failed = allFormats.read(bytesOf('given', file), file);
  await expect(failed).rejects.toThrow(ReadError);
  await expect(failed).rejects.toThrow(why);
});

const six = json<Question[]>('questions.json').map(expected);
test.each(readdirSync(path.join(corpus, 'habits')))('%s gives the same six questions as every other habit', async (file) => {
  const { set } = await allFormats.read(bytesOf('habits', file), file);
  expect(set.items.map(question)).toEqual(six);
});

const twenty = json<Question[]>('twenty.json').map(expected);
describe('twenty questions, one after the other by independent writers', () => {
  test.each(readdirSync(path.join(corpus, 'twenty')))('%s', async (file) => {
    const { set } = await allFormats.read(bytesOf('twenty', file), file);
    expect(set.items.map(question)).toEqual(twenty);
  });

  test('and as QTI 2.1, QTI 3.0 and GIFT written here', async () => {
    const { set } = await allFormats.read(bytesOf('twenty', 'twenty.docx'), 'twenty.docx');
    for (const id of ['qti12', 'qti21', 'qti30', 'gift', 'csv', 'xlsx']) {
      const written = await allFormats.byId(id)?.write?.(set);
      if (!written) throw new Error(`${id} is not written`);
      expect((await allFormats.read(written.bytes, written.name)).set.items.map(question)).toEqual(twenty);
    }
  });
});

const setOf = async (file: string, keysFrom: 'none' | 'bold' | 'colour'): Promise<QuizSet> =>
  (await allFormats.read(bytesOf('habits', file), file, undefined, { keysFrom })).set;
const keys = (set: QuizSet): number => set.items.filter((i) => 'options' in i && i.options.some((o) => o.credit > 0)).length;
test('what a person says of the keys is followed: none from looks, or from another look', async () => {
  expect(keys(await setOf('bold-auto.docx', 'none'))).toBe(0);
  expect(keys(await setOf('bold-auto.docx', 'bold'))).toBe(6);
  expect(keys(await setOf('bold-auto.docx', 'colour'))).toBe(0);
  expect(keys(await setOf('red-bold-stems.docx', 'colour'))).toBe(6);
});

test('what was set aside is told', async () => {
  const { diagnostics } = await allFormats.read(bytesOf('habits', 'tracked.docx'), 'tracked.docx');
  expect(diagnostics.find((d) => d.code === 'document-note')?.message).toMatch(/^Tracked changes were read as accepted: \d+ insertions, \d+ deletions\.$/);
  const hidden = await allFormats.read(bytesOf('habits', 'hidden-notes.docx'), 'hidden-notes.docx');
  expect(hidden.diagnostics.some((d) => /hidden text/.test(d.message))).toBe(true);
});

/** A document whose paragraphs are the lines of a draft, as when a draft is pasted into a word processor. */
function asDocx(draft: string): Uint8Array {
  const escaped = (t: string): string => t.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/\t/g, '</w:t><w:tab/><w:t xml:space="preserve">');
  const body = draft
    .replace(/^\uFEFF/, '')
    .split(/\r?\n/)
    .map((l) => `<w:p><w:r><w:t xml:space="preserve">${escaped(l)}</w:t></w:r></w:p>`)
    .join('');
  return zipSync({
    'word/document.xml': strToU8(`<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body>${body}</w:body></w:document>`),
  });
}
const drafts = path.join(import.meta.dirname, '../../core/corpus');
test.each(readdirSync(drafts).filter((f) => f.endsWith('.txt')))('the draft %s means the same in a document', async (file) => {
  const gold = JSON.parse(readFileSync(path.join(drafts, file.replace('.txt', '.gold.json')), 'utf8')) as { items: unknown[] };
  const { set, diagnostics, asides } = await allFormats.read(asDocx(readFileSync(path.join(drafts, file), 'utf8')), 'a.docx');
  const score = (scoreDraft as (g: unknown, s: unknown) => { misses: unknown[]; exact: number; silentWrongKey: number })(
    gold,
    JSON.parse(writeSetFile(set, { diagnostics, asides })),
  );
  expect([score.misses, score.exact, score.silentWrongKey, set.items.length]).toEqual([[], gold.items.length, 0, gold.items.length]);
});
