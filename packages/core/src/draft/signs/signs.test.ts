/** Each recogniser finds what its examples say, with reasons for people; labels and entries are read in any script and with any sign. */
import { splitLines } from '../surface/lines.js';
import { Series } from '../series/series.js';
import { entriesIn } from '../signatures/entries.js';
import { recognisers, viewAt } from './index.js';
import { labelsAt } from '../signatures/label.js';

const examples = recognisers.flatMap((r) => r.examples.map(([text, role]) => [r.name, text, role, r] as const));

test('every recogniser has an example', () => {
  expect(recognisers.filter((r) => !r.examples.length).map((r) => r.name)).toEqual([]);
});

test.each(examples)('%s: %j is %s', (_, text, role, r) => {
  const marked = text.split('\n').findIndex((l) => l.startsWith('> '));
  const draft = text.replace(/^> /m, '');
  const series = new Series(splitLines(draft));
  const place = series.units.findIndex((u) => u.line.index === marked);
  const found = r.find(viewAt(series.units, place, series)).find((s) => s.role === role);
  expect(found).toBeDefined();
  expect(found?.why).toMatch(/^\p{Lu}.*\.$/u);
});

// Numbering of lists as word processors and scripts write it: letters of Unicode charts (Devanagari, Katakana, Hangul, Arabic-Indic digits), Roman numbers.
test.each([
  ['1. x', 'num', 1],
  ['12) x', 'num', 12],
  ['(3) x', 'num', 3],
  ['IV. x', 'rom', 4],
  ['(iii) x', 'roml', 3],
  ['B: x', 'up', 2],
  ['c) x', 'low', 3],
  ['क. x', 'other', 1],
  ['ウ、x', 'other', 3],
  ['나) x', 'other', 2],
  ['٤. x', 'num', 4],
  ['③ x', 'num', 3],
  ['Frage 7: x', 'word', 7],
  ['q6 which', 'word', 6],
  ['2.1 x', 'dec', 201],
  ['lO.A bank', 'num', 10],
])('%j starts with a label', (line, cls, ord) => {
  expect(labelsAt(line, 0)).toContainEqual(expect.objectContaining({ cls, ord }));
});

test.each([
  ['1 b 2 c 3 a', ['1=b', '2=c', '3=a']],
  ['1b - 2c - 3a', ['1=b', '2=c', '3=a']],
  ['1. True 2. False 3. carbon dioxide', ['1=True', '2=False', '3=carbon dioxide']],
  ['2.1 V; 2.2 F', ['201=V', '202=F']],
  ['1 (i) 2 (i)', ['1=(i)', '2=(i)']],
  ['13-  1.200 €     14-  12,5 %', ['13=1.200 €', '14=12,5 %']],
  ['5a. x 5b. y', ['5a=x', '5b=y']],
  ['1–5 CABDA', ['1=CABDA']],
  ['9 b   9 a', ['9=b', '9=a']],
  ['du 9 : archet ; du 10 : quatuor', ['9=archet', '10=quatuor']],
  ['In 1984 they met 12 times', []],
])('%j holds entries', (line, entries) => {
  expect(entriesIn(line).map((e) => `${e.number}${e.sub}=${e.value}`)).toEqual(entries);
});
