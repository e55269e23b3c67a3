/** A format is one row: how surely it recognises a file decides who reads it, and opening, reading, answering and rehearsing follow. */
import { readdirSync, readFileSync } from 'node:fs';
import { ReadError } from '../item/readError.js';
import type { QuizSet, ReadResult } from '../item/model.js';
import { utf8 } from './encoding.js';
import { everything } from '../fit/profile.js';
import type { FileHead } from './fileHead.js';
import type { Format } from './format.js';
import { coreFormats } from './index.js';
import { FormatRegistry } from './registry.js';

const set: QuizSet = { title: 'Bread', items: [{ id: 'a', kind: 'true-false', stem: 'Salt is sweet.', points: 1, answer: false }] };

/** A format of a line each, as somebody new would add it. */
const lines = {
  id: 'lines',
  name: 'Statements, one a line',
  extension: '.tf',
  mediaType: 'text/plain',
  profile: everything,
  anonymous: true,
  recognises: ({ name, text }: FileHead) => (text.startsWith('#statements\n') ? 1 : /\.tf$/i.test(name) ? 0.4 : 0),
  write: (s: QuizSet) => ({ bytes: utf8(`#statements\n${s.items.map((i) => `${'answer' in i && i.answer ? '+' : '-'}${i.stem}`).join('\n')}`), name: 'a.tf' }),
  read: (bytes: Uint8Array): ReadResult => ({
    set: {
      title: 'Untitled set',
      items: new TextDecoder()
        .decode(bytes)
        .split('\n')
        .slice(1)
        .map((l, n) => ({ id: `i${n}`, kind: 'true-false', stem: l.slice(1), points: 1, answer: l.startsWith('+') })),
    },
    diagnostics: [],
    asides: [],
  }),
} satisfies Format;
const registry = new FormatRegistry([...coreFormats.formats, lines]);

test('a new format is a row: found, opened, read, answered and rehearsed', async () => {
  const { bytes } = lines.write(set);
  expect(registry.byId('lines')).toBe(lines);
  expect(registry.readable).toContain(lines);
  expect(registry.writable).toContain(lines);
  expect(registry.recognise(bytes, 'whatever.txt')).toBe(lines);
  expect(await registry.open(bytes, 'x.txt')).toMatchObject({ format: 'lines', as: 'items', result: { set: { items: [{ stem: 'Salt is sweet.' }] } } });
  expect((await registry.read(bytes, 'week-3.tf')).set.title).toBe('week-3');
  expect((await registry.rehearse(bytes, 'a.tf', set)).ok).toBe(true);
  const wrong = { ...set, items: [{ ...set.items[0], answer: true }] } as QuizSet;
  expect((await registry.rehearse(bytes, 'a.tf', wrong)).ok).toBe(false);
});

test('the surest reads; of equals the first', () => {
  const sure = (id: string, by: number): Format => ({ id, name: id, extension: '.x', mediaType: 'text/plain', recognises: () => by });
  const found = (...of: Format[]): string => new FormatRegistry(of).recognise(utf8('x'), 'x').id;
  expect(found(sure('a', 0.2), sure('b', 0.3))).toBe('b');
  expect(found(sure('a', 0.3), sure('b', 0.3))).toBe('a');
  expect(() => found(sure('a', 0))).toThrow(ReadError);
});

test('what is named is read as that; an unknown name and a format that is only written are refused with the list', async () => {
  const words = utf8('Salt is sweet.\nQuestion,A\n');
  expect((await registry.read(utf8('1. True or false: Salt is sweet.\nAnswer: false'), 'a.csv', 'draft')).set.items).toHaveLength(1);
  await expect(registry.read(words, 'a.txt', 'nonsense')).rejects.toThrow(/no reader called “nonsense”; there are draft, .*lines/);
  await expect(registry.read(words, 'a.txt', 'qti21')).rejects.toThrow(/no reader called “qti21”/);
});

test('a file of items has no draft; a draft opens as its words', async () => {
  await expect(registry.draft(utf8('::a::Salt is sweet.{F}'), 'a.gift')).rejects.toThrow('this is a file of items (GIFT)');
  expect(await registry.open(utf8('\ufeffSalt\r\nis'), 'a.txt')).toMatchObject({ as: 'draft', text: 'Salt\nis' });
  expect(await registry.open(utf8('Question,A,B,Key\nSweet?,salt,sugar,B'), 'a.txt')).toMatchObject({ as: 'tables', format: 'csv', sheets: [{ name: '' }] });
});

test('a file that is too large is refused before it is looked at', () => {
  expect(() => registry.recognise(new Uint8Array(51e6), 'a.txt')).toThrow(/51 MB; files of up to 50 MB/);
});

// Every file of the corpus and everything that is written here goes to the reader of its sort.
const folder = new URL('../../corpus/files/', import.meta.url);
test.each(readdirSync(folder).filter((f) => !f.endsWith('.json')))('%s is QTI', (file) => {
  expect(coreFormats.recognise(new Uint8Array(readFileSync(new URL(file, folder))), file).id).toBe('qti');
  expect(coreFormats.recognise(new Uint8Array(readFileSync(new URL(file, folder))), 'nameless').id).toBe('qti');
});
test.each(coreFormats.writable.map((f) => [f.id, f] as const))('what %s writes is recognised, with its name and without', async (id, format) => {
  const { bytes, name } = await format.write(set);
  const reader = /^(?:qti|cc)/.test(id) ? 'qti' : /^[ct]sv/.test(id) ? 'csv' : /^(?:text|markdown)$/.test(id) ? 'draft' : id.startsWith('html') ? 'html' : id;
  expect(coreFormats.recognise(bytes, name).id).toBe(reader);
  expect(coreFormats.recognise(bytes, 'download').id).toBe(reader);
});

test.each<[string, string]>([
  ['draft', '1. The dough is {~kneaded =folded}.\n\n2. Which flour is strong?\na) rye\n*b) wheat\n'],
  ['gift', '// numbered by hand\n::1:: The dough is {~kneaded =folded}.\n\n::2:: Salt slows yeast. {T}\n'],
  ['gift', '1. The dough is {~kneaded =folded}.\n\n2. Salt slows yeast. {T}\n'],
  ['draft', '1. A starter doubles in \\(\\frac{\\ln 2}{k}\\) hours at {=24} °C.\n'],
])('numbered questions over lettered options are a draft, whatever stands in braces: %s', (id, words) => {
  expect(coreFormats.recognise(utf8(words), 'a.txt').id).toBe(id);
});
