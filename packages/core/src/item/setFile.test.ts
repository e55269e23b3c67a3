import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { anyItem } from './arbitrary.js';
import { ReadError } from './readError.js';
import { readSetFile, setFileJsonSchema, writeSetFile } from './setFile.js';

test('any set comes back from its file as it was', () => {
  fc.assert(
    fc.property(fc.uniqueArray(anyItem, { maxLength: 5, selector: (i) => i.id }), (items) => {
      const set = { title: 'T', language: 'en', items };
      const back = readSetFile(writeSetFile(set));
      expect(back.diagnostics).toEqual([]);
      expect(JSON.parse(JSON.stringify(back.set))).toEqual(JSON.parse(JSON.stringify(set)));
    }),
  );
});

test('a bad item costs that item alone and is named', () => {
  const r = readSetFile(
    JSON.stringify({
      zakuska: 1,
      title: 'T',
      items: [
        { kind: 'true-false', stem: 'ok', answer: true },
        { kind: 'no such kind', stem: 'x' },
        { kind: 'essay', stem: 'ok', points: -3 },
      ],
    }),
  );
  expect(r.set.items).toHaveLength(1);
  expect(r.diagnostics.map((d) => d.message)).toEqual([expect.stringContaining('item 2'), expect.stringContaining('item 3')]);
});

test.each([
  ['', 'not a set file'],
  ['[]', 'no "zakuska" version'],
  ['{"zakuska":9,"items":[]}', 'version 9'],
])('%j is refused in plain words', (text, words) => {
  expect(() => readSetFile(text)).toThrow(ReadError);
  expect(() => readSetFile(text)).toThrow(words);
});

test('markup that could run is taken out of rich text and left alone in plain text', () => {
  const r = readSetFile(
    JSON.stringify({
      zakuska: 1,
      items: [{ kind: 'short-answer', stem: '<p onclick="x()">Hi<script>alert(1)</script><img src="http://x/y.png"/></p>', answers: [{ text: '<b>' }] }],
    }),
  );
  expect(r.set.items[0]?.stem).toBe('<p>Hi</p>');
  expect(r.set.items[0]).toMatchObject({ answers: [{ text: '<b>' }] });
});

test('the JSON Schema names all ten kinds', () => {
  const text = JSON.stringify(setFileJsonSchema());
  for (const kind of ['multiple-choice', 'multiple-response', 'true-false', 'short-answer', 'numeric', 'cloze', 'matching', 'ordering', 'essay', 'information'])
    expect(text).toContain(`"${kind}"`);
});

test('the published JSON Schema is that of the model', () => {
  const kept = JSON.parse(readFileSync(new URL('../../../../docs/set-file-1.schema.json', import.meta.url), 'utf8')) as unknown;
  expect(JSON.parse(JSON.stringify(setFileJsonSchema()))).toEqual(kept); // else run: node scripts/schema.mjs
});
