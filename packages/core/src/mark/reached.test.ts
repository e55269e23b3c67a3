/** Who left an item out, and who did not come so far. */
import type { Item } from '../item/model.js';
import type { Mark } from './mark.js';
import { notReached } from './reached.js';

const item = (id: string, kind: 'short-answer' | 'information' = 'short-answer'): Item =>
  (kind === 'information' ? { id, kind, stem: 'Read.', points: 0 } : { id, kind, stem: 'Say.', points: 1, answers: [] }) as Item;
const items = [item('a'), item('text', 'information'), item('b'), item('c'), item('d')];
const marks = (states: string): Record<string, Mark> =>
  Object.fromEntries(
    ['a', 'b', 'c', 'd'].flatMap((id, n) => {
      const state = ({ r: 'right', w: 'wrong', h: 'by-hand', _: 'unanswered' } as const)[states[n] as 'r'];
      return state ? [[id, { credit: 0, points: 0, state, reason: '' } as Mark]] : [];
    }),
  );

test.each([
  ['all answered', 'rwrw', ''],
  ['stopped after the second', 'rw__', 'cd'],
  ['left one out, and stopped later', '_w__', 'cd'],
  ['left one out, and answered the last', 'r_wr', ''],
  ['an essay that waits for its marker is an answer', 'r_h_', 'd'],
  ['nothing at all', '____', 'abcd'],
  ['what was left out since is none of them', 'r_ _', 'bd'],
])('%s', (_, states, left) => {
  expect(notReached(items, marks(states)).join('')).toBe(left);
});

test('behind is what came later to this person', () => {
  expect(notReached([items[4], items[3], items[2], items[0]] as Item[], marks('r__r'))).toEqual([]);
  expect(notReached([items[4], items[0], items[3], items[2]] as Item[], marks('r__r'))).toEqual(['c', 'b']);
});
