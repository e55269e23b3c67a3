import fc from 'fast-check';
// The independent GIFT grammar: npm gift-pegjs 1.0.2.
import grammar from 'gift-pegjs';
import { anyItem } from '../../item/arbitrary.js';
import { keyProblem } from '../../item/kinds.js';
import { defaultMatch, type Item } from '../../item/model.js';
import { readGift } from './read.js';
import { fit, fitSet } from '../../fit/fit.js';
import { giftProfile } from './profile.js';
import { giftText } from './write.js';

const one = (item: Item): string => giftText({ title: 'T', items: [item] });
const squeeze = (s: string): string => s.replace(/\s+/g, ' ').trim();
/** The grammar leaves escapes on the right side of a match as `&&…;` (a known surprise of it). */
const unamp = (s: string): string => s.replace(/&&(\d{3});/g, (_, d: string) => String.fromCharCode(Number(d)));
/** HTML that the writer chooses to keep an arrow or slashes literal. */
const unhtml = (s: string): string =>
  s
    .replace(/&gt;/g, '>')
    .replace(/&lt;/g, '<')
    .replace(/&quot;/g, '"')
    .replace(/&#47;/g, '/')
    .replace(/&#91;/g, '[')
    .replace(/&amp;/g, '&');
const text = (t: { format: string; text: string }): string => squeeze(unhtml(t.text));
const wanted = (s: string): string => squeeze(s);

test('the independent grammar reads every item that is written, with the same stem, answers and weights', () => {
  fc.assert(
    fc.property(anyItem, (whole) => {
      const read = grammar.parse(one(whole));
      const due = fitSet({ title: 'T', items: [whole] }, giftProfile).set.items;
      expect(read).toHaveLength(due.length);
      const q = read[0];
      const item = due[0];
      if (!q || !item) throw new Error('nothing read');
      if (item.kind !== 'cloze') expect(text(q.stem)).toBe(wanted(item.stem));
      switch (item.kind) {
        case 'multiple-choice':
          expect(q.choices?.map((c) => [text(c.text), c.isCorrect])).toEqual(item.options.map((o) => [wanted(o.content), o.credit === 1]));
          break;
        case 'multiple-response': {
          const sum = q.choices?.reduce((s, c, i) => s + ((item.options[i]?.credit ?? 0) > 0 ? (c.weight ?? 0) : 0), 0);
          expect(sum).toBeCloseTo(100, 2);
          expect(q.choices?.map((c) => text(c.text))).toEqual(item.options.map((o) => wanted(o.content)));
          break;
        }
        case 'true-false':
          expect(q.isTrue).toBe(item.answer);
          break;
        case 'short-answer':
          expect(q.choices?.map((c) => text(c.text))).toEqual(item.answers.map((a) => wanted(a.text.replace(/->/g, '→'))));
          break;
        case 'matching':
          expect(
            q.matchPairs?.filter((p) => p.subquestion.text).map((p) => [text(p.subquestion), squeeze(unhtml(unamp(p.subanswer.replace(/^\[html\]/, ''))))]),
          ).toEqual(item.pairs.map((p) => [wanted(p.left), wanted(p.right)]));
          break;
        default:
          expect(q.type).toBe({ essay: 'Essay', information: 'Description', numeric: 'Numerical', cloze: q.type, ordering: '' }[item.kind]);
      }
    }),
    { numRuns: 400 },
  );
});

// The examples of the GIFT format description, in our own words.
test.each<[string, Partial<Item>]>([
  ['Who bakes?{=the baker ~the cook ~nobody}', { kind: 'multiple-choice' }],
  ['Rye takes up more water.{TRUE#No#Yes}', { kind: 'true-false', answer: true, optionFeedback: { false: 'No', true: 'Yes' } }],
  [
    'A natural starter?{=levain =%50%leven#Nearly}',
    {
      kind: 'short-answer',
      match: defaultMatch,
      answers: [
        { text: 'levain', credit: 1 },
        { text: 'leven', credit: 0.5, feedback: 'Nearly' },
      ],
    },
  ],
  ['Half a kilo in grams?{#500:5}', { kind: 'numeric', answers: [{ min: 495, max: 505, credit: 1 }] }],
  ['Range?{#1..5}', { kind: 'numeric', answers: [{ min: 1, max: 5, credit: 1 }] }],
  [
    'Pairs{=a -> b =c -> d = -> e}',
    {
      kind: 'matching',
      pairs: [
        { left: 'a', right: 'b' },
        { left: 'c', right: 'd' },
      ],
      extraRights: ['e'],
    },
  ],
  ['A dough {=rests} first.', { kind: 'cloze', stem: 'A dough [[1]] first.' }],
  ['Write.{}', { kind: 'essay' }],
  ['Just read this.', { kind: 'information' }],
  ['Two?{~%50%a ~%50%b ~%-100%c}', { kind: 'multiple-response', scoring: 'right-minus-wrong' }],
  ['::T\\:1:: What is \\{x\\} \\= 2?{=4}', { title: 'T:1', stem: 'What is {x} = 2?' }],
])('%s', (gift, item) => {
  expect(readGift(gift).set.items[0]).toMatchObject(item as object);
});

test('a question that cannot be read costs itself alone and is told with its line', () => {
  const r = readGift('One{=a ~b}\n\nTwo{=a\n\n~b}\n\nThree{#abc}\n\nFour{T}');
  expect(r.set.items.map((i) => i.stem)).toEqual(['One', 'Two', 'Four']);
  expect(r.diagnostics[0]).toMatchObject({ line: 7, code: 'item-invalid' });
});

test('an item without a key stays behind, as the fit says', () => {
  const item: Item = { id: 'x', kind: 'true-false', stem: 'S', points: 1, answer: null };
  expect(keyProblem(item)).not.toBeNull();
  expect(fit(item, giftProfile, { title: 'T', items: [item] }).notes[0]?.fit).toBe('impossible');
  expect(one(item)).not.toContain('S');
});
