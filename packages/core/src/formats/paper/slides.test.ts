/** Slides: their steps, the room that is kept for what comes later, and type that fits. What PPTX makes of them is tested with it. */
import fc from 'fast-check';
import { anyRichSet } from '../../item/arbitrary.js';
import { isQuestion } from '../../item/kinds.js';
import { runs } from '../../item/runs.js';
import { readDraft } from '../../draft/read.js';
import { deckOf, type ItemSlide, type Slide, slidesOf, wholeOf } from './slides.js';

const LONG = 'This goes on for so long that nobody could read it from the back of the room. '.repeat(40);
const set = readDraft(`# Bread

1. What raises bread?
a) yeast *
b) salt
Feedback: It makes gas.
Time limit: 45

2. At how many °C does water boil?
Answer: 100

3. ${LONG}
Answer: 7
Feedback: ${LONG}
`).set;
const items = (slides: readonly Slide[]): ItemSlide[] => slides.filter((s) => s.is === 'item');

test('a title, then each question with its key and what is said to it on steps of their own', () => {
  const { slides, seconds, language } = deckOf(set);
  expect(slides[0]).toMatchObject({ is: 'title', title: 'Bread' });
  expect(items(slides).map((s) => `${s.place.split(' ')[0]} ${s.step}`)).toEqual([
    '1 question',
    '1 key',
    '1 feedback',
    '2 question',
    '2 key',
    '3 question',
    '3 key',
    '3 feedback',
  ]);
  expect(items(slides)[0]).toMatchObject({ notes: expect.stringContaining('yeast') });
  expect(seconds).toEqual({ [items(slides)[0]?.id ?? '']: 45 });
  expect(language).toBe('en');
  expect(items(slidesOf(set, false)).some((s) => s.step === 'feedback')).toBe(false);
});

test('room is kept for the last step that stands on the same slide; what did not fit has its own', () => {
  const { slides } = deckOf(set);
  const step = (number: string, name: string): number => slides.findIndex((s) => s.is === 'item' && s.place.startsWith(`${number} /`) && s.step === name);
  expect(wholeOf(slides, 0)).toBe(0);
  for (const name of ['question', 'key', 'feedback']) expect(wholeOf(slides, step('1', name))).toBe(step('1', 'feedback'));
  expect(wholeOf(slides, step('2', 'question'))).toBe(step('2', 'key'));
  // the long question keeps its slide to itself
  expect(wholeOf(slides, step('3', 'question'))).toBe(step('3', 'question'));
  expect(wholeOf(slides, step('3', 'key'))).toBe(step('3', 'feedback'));
  expect(wholeOf(slides, slides.length)).toBe(slides.length);
});

test('of any set: every question is asked, no key stands on the step that asks, and the whole is a later step of the same question', () => {
  fc.assert(
    fc.property(anyRichSet, (any) => {
      const { slides } = deckOf(any);
      const asked = items(slides).filter((s) => s.step === 'question');
      expect(asked.length).toBe(any.items.filter(isQuestion).length);
      for (const s of asked) expect([s.key, s.feedback]).toEqual([[], []]);
      slides.forEach((s, at) => {
        const whole = wholeOf(slides, at);
        expect(whole).toBeGreaterThanOrEqual(at);
        const last = slides[whole];
        if (s.is === 'item' && last?.is === 'item') expect([last.id, last.size]).toEqual([s.id, s.size]);
      });
    }),
    { numRuns: runs(100) },
  );
});
