/** Practice: hints, tries, and no key before an item is through. */
import fc from 'fast-check';
import { anyItem } from '../item/arbitrary.js';
import type { Item } from '../item/model.js';
import { rightResponse } from '../mark/answers.js';
import { mark, type Response } from '../mark/mark.js';
import { type ItemTries, practised, practiceStep, practiceView, type PracticeStep } from './practice.js';

const item = {
  id: 'i',
  kind: 'multiple-choice',
  stem: 'Which is a grain?',
  points: 2,
  options: [
    { id: 'a', content: 'rye', credit: 1, feedback: 'A grain.' },
    { id: 'b', content: 'cod', credit: 0, feedback: 'A fish.' },
    { id: 'c', content: 'plum', credit: 0 },
  ],
  hints: ['It grows in a field.', 'Bread is made of it.'],
  feedback: { correct: 'Well done.', incorrect: 'See page 3.' },
} as Item;
const answer = (id: string): PracticeStep => ({ type: 'answer', response: { options: [id] } });
const after = (rules: { tries: number; hints: boolean }, ...steps: PracticeStep[]): ItemTries | undefined =>
  steps.reduce<ItemTries | undefined>((p, s) => practiceStep(item, p, s, rules), undefined);
const seen = (rules: { tries: number; hints: boolean }, ...steps: PracticeStep[]) => practiceView(item, after(rules, ...steps), rules);

test('a wrong answer brings a hint and another try, the last one the key with feedback', () => {
  const rules = { tries: 3, hints: true };
  expect(seen(rules)).toEqual({ tries: 0, left: 3, hints: [], moreHints: true, done: false });
  expect(seen(rules, answer('b'))).toEqual({ tries: 1, left: 2, hints: ['It grows in a field.'], moreHints: true, done: false, state: 'wrong' });
  expect(seen(rules, answer('b'), answer('c'))).toMatchObject({ tries: 2, left: 1, hints: item.hints, moreHints: false, done: false });
  expect(seen(rules, answer('b'), answer('c'), answer('b'))).toEqual({
    tries: 3,
    left: 0,
    hints: item.hints,
    moreHints: false,
    done: true,
    state: 'wrong',
    points: 0,
    feedback: ['A fish.', 'See page 3.'],
    answer: 'rye',
  });
});

test('a right answer ends it; how the first was marked is kept', () => {
  const rules = { tries: 0, hints: true };
  expect(seen(rules, answer('b'), answer('a'))).toEqual({
    tries: 2,
    hints: ['It grows in a field.'],
    moreHints: false,
    done: true,
    state: 'right',
    points: 2,
    feedback: ['A grain.', 'Well done.'],
  });
  expect(after(rules, answer('b'), answer('a'))).toMatchObject({ first: 'wrong', tries: 2, hints: 1 });
});

test('a hint can be asked for; the key can be seen, and then nothing can be tried any more', () => {
  const rules = { tries: 0, hints: true };
  expect(seen(rules, { type: 'hint' }, { type: 'hint' }, { type: 'hint' })).toMatchObject({ hints: item.hints, moreHints: false, tries: 0, done: false });
  const given = after(rules, answer('b'), { type: 'give-up' });
  expect(practiceView(item, given, rules)).toMatchObject({ done: true, state: 'wrong', answer: 'rye' });
  expect(practiceStep(item, given, answer('a'), rules)).toBe(given);
  expect(seen(rules, { type: 'give-up' })).toMatchObject({ done: true, state: 'unanswered', points: 0, answer: 'rye' });
  expect(seen({ tries: 2, hints: false }, answer('b'))).toMatchObject({ hints: [], moreHints: false });
});

test('nothing answered is no try', () => {
  expect(after({ tries: 1, hints: true }, { type: 'answer', response: { options: [] } })).toMatchObject({ tries: 0, done: false });
});

test('what counts is what was tried last; what was given up without a try counts as not answered', () => {
  const responses: Record<string, Response> = { i: { options: ['a'] }, j: { text: 'x' }, k: { text: 'y' } };
  const progress = { i: after({ tries: 1, hints: false }, answer('b')) as ItemTries, j: { tries: 0, hints: 0, done: true } };
  expect(practised(responses, progress)).toEqual({ i: { options: ['b'] }, k: { text: 'y' } });
});

test('of any item: before it is through nothing tells the key, tries are counted, and a right answer ends it', () => {
  const step = fc.constantFrom('right', 'nothing', 'hint', 'give-up');
  fc.assert(
    fc.property(anyItem, fc.array(step, { maxLength: 8 }), fc.integer({ min: 0, max: 4 }), fc.boolean(), (it, steps, tries, hints) => {
      const rules = { tries, hints };
      let p: ItemTries | undefined;
      for (const s of steps) {
        const right = rightResponse(it);
        const before = practiceView(it, p, rules);
        if (!before.done) expect([before.answer, before.feedback, before.points]).toEqual([undefined, undefined, undefined]);
        const next: PracticeStep = s === 'right' && right ? { type: 'answer', response: right } : s === 'give-up' ? { type: 'give-up' } : { type: 'hint' };
        p = practiceStep(it, p, next, rules);
        if (s === 'right' && right && it.kind !== 'information' && mark(it, right).state === 'right') expect(p.done).toBe(true);
        if (tries) expect(p.tries).toBeLessThanOrEqual(tries);
        expect(p.hints).toBeLessThanOrEqual(it.hints?.length ?? 0);
      }
    }),
    { numRuns: 200 },
  );
});
