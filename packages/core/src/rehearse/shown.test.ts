/** A rehearsal sees what a file shows otherwise, not only what it scores. */
import type { Item, QuizSet } from '../item/model.js';
import { playSet } from './play.js';
import { type Playable, rehearse } from './rehearse.js';

const loaf: Item = {
  id: 'a',
  kind: 'multiple-choice',
  stem: 'Which flour has the most gluten?',
  points: 1,
  options: [
    { id: '1', content: 'wheat', credit: 1 },
    { id: '2', content: 'rye', credit: 0 },
  ],
};
const starter: Item = { id: 'b', kind: 'true-false', stem: 'A starter needs feeding.', points: 2, answer: true };
const set: QuizSet = { title: 'T', items: [loaf, starter] };
const with_ = (change: (p: Playable[]) => Playable[]): string[] =>
  rehearse(change(playSet(set)), set).items.flatMap((i) => (i.verdict === 'ok' ? [] : [`${i.item}: ${i.reason}`]));
const at = (n: number, part: Partial<Playable>) => (p: Playable[]) => p.map((x, i) => (i === n ? { ...x, ...part } : x));

test('the same file shows and marks the same', () => expect(with_((p) => p)).toEqual([]));

test.each<[string, (p: Playable[]) => Playable[], string]>([
  ['another question', at(0, { stem: 'Which flour has the least gluten?' }), 'a: it asks otherwise there: “Which flour has the least gluten?”'],
  ['a further option', at(0, { options: ['wheat', 'rye', 'maize'] }), 'a: “maize” can be chosen there and is none of its options'],
  ['a picture that is gone', at(0, { pictures: 1 }), 'a: it shows 1 picture there and 0 here'],
  ['asked by no test', at(1, { delivered: 0 }), 'b: it is in the file, but its test does not ask it'],
  ['asked twice', at(1, { delivered: 2 }), 'b: its test asks it 2 times'],
  ['a correct response that earns nothing', at(1, { declared: () => 0 }), 'b: what the file calls correct earns 0 of 2'],
  ['other points', at(1, { maximum: 3 }), 'b: it is worth 3 there and 2 here'],
  ['a choice that cannot be made', at(0, { score: () => 'refused' }), 'a: “wheat” cannot be chosen there'],
  ['points off others', at(1, { score: (act) => (act.type === 'truth' && act.value ? 2 : -1) }), 'b: false earns -1 of 2 there and 0 here'],
  ['one that the set does not have', (p) => [...p, { ...(p[0] as Playable), id: 'c', stem: 'Which is blue?' }], 'c: it is in the file and not in the set'],
  ['one that is missing', (p) => p.slice(0, 1), 'b: it is not in the file'],
])('%s', (_, change, told) => expect(with_(change)).toEqual([told]));

test('white space, gaps and the words of pictures are no difference', () => {
  expect(with_(at(0, { stem: '<p>Which  flour has\nthe most gluten?</p><img src="asset:x" alt="a sack"/>' }))).toEqual([]);
});
