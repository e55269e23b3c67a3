/** What answers say of items: told from twenty on, of the item as it is now, and one thing of each. */
import type { Item } from '../item/model.js';
import { answerFindings } from './answerFindings.js';

const items = ['a', 'b', 'constructor'].map((id): Item => ({ id, kind: 'true-false', stem: id, points: 1, answer: true }));
const told = (f: object): (string | undefined)[] => answerFindings(items, { a: { answers: 24, ...f } }).map((x) => x.code);

test.each([
  ['who is better does worse', { share: 0.5, discrimination: -0.2 }, ['answers-against']],
  ['that says more than that nobody got it', { share: 0.05, discrimination: -0.01 }, ['answers-against']],
  ['next to nobody', { share: 0.05, discrimination: 0.1 }, ['answers-none']],
  ['nearly everybody', { share: 0.97 }, ['answers-all']],
  ['as it should be', { share: 0.6, discrimination: 0.3 }, []],
  ['on the edges', { share: 0.1, discrimination: 0 }, []],
  ['too few answers', { answers: 19, share: 0, discrimination: -1 }, []],
  ['changed since', { share: 0, discrimination: -1, changed: true }, []],
  ['no points to earn', { discrimination: -1 }, []],
])('%s', (_, figures, codes) => {
  expect(told(figures)).toEqual(codes);
});
test('in words with the number of people and the key; of items that nobody answered nothing', () => {
  const [f] = answerFindings(items, { b: { answers: 31, share: 0.4, discrimination: -0.3 } });
  expect(f).toMatchObject({ items: ['b'], place: 'key', severity: 'warning' });
  expect(f?.message).toMatch(/^31 people answered it, .* the key . may be wrong/);
  expect(answerFindings(items, {})).toEqual([]);
});
