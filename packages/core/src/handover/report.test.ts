import { item as itemSchema, type QuizSet } from '../item/model.js';
import { handsOf, judgedMarks, judgingOf } from '../mark/decisions.js';
import type { Response } from '../mark/mark.js';
import { pointsOf } from '../take/outcome.js';
import { paperOf, paperText } from './report.js';

const set: QuizSet = {
  title: 'Week two',
  items: [
    itemSchema.parse({ id: 'text', kind: 'information', stem: 'Read this.' }),
    itemSchema.parse({
      id: 'mc',
      kind: 'multiple-choice',
      stem: 'Which flour?',
      options: [
        { id: 'x', content: 'rye', credit: 1 },
        { id: 'y', content: 'oat' },
      ],
    }),
    itemSchema.parse({ id: 'num', kind: 'numeric', stem: 'How hot?', points: 2, answers: [{ min: 220, max: 220 }], unit: '°C' }),
    itemSchema.parse({ id: 'essay', kind: 'essay', stem: 'Why?', points: 4 }),
  ],
};
const responses: Record<string, Response> = { mc: { options: ['y'] }, num: { text: '220' }, essay: { text: 'So.\nAnd so.' } };
const labelOf = (i: { id: string }): string => ({ mc: '1', num: '2', essay: '3' })[i.id] ?? '';
const results = (hand: boolean) => {
  const decisions = hand ? [{ type: 'hand' as const, item: 'essay', attempt: 'a', points: 2.5, comment: 'Say why.' }] : [];
  const sitting = (id: string) => {
    const marks = judgedMarks(judgingOf(set, decisions), responses, handsOf(decisions).get(id));
    return { id, name: 'Ada', startedAt: '', submittedAt: '', marks, points: pointsOf(marks), responses };
  };
  return { set, sittings: [sitting('a'), sitting('b')] };
};

test('a paper: answers in words, points, the key where it was missed, the comment', () => {
  const { sittings } = results(true);
  const r = { set, sittings: sittings.slice(0, 1) };
  expect(paperText(r, r.sittings[0]!, labelOf)).toBe(
    [
      'Week two',
      'Ada: 4.5 of 7 points',
      '',
      '1. Which flour?',
      '   B. oat',
      '   0 of 1. Right: rye',
      '',
      '2. How hot?',
      '   220',
      '   2 of 2',
      '',
      '3. Why?',
      '   So.',
      '   And so.',
      '   2.5 of 4',
      '   Say why.',
    ].join('\n'),
  );
});
test('what waits for a person is not counted, and said; nobody’s answer is said', () => {
  const r = results(true);
  // the essay of this one waits, though that of the other was marked
  expect(paperOf(r, r.sittings[1]!)).toMatchObject({ points: 2, maximum: 3 });
  // nor is it counted for whom it was marked early
  expect(paperOf(r, r.sittings[0]!)).toMatchObject({ points: 2, maximum: 3 });
  expect(paperText(r, r.sittings[1]!, labelOf)).toContain('Not marked yet.');
  const none = { ...r.sittings[0]!, responses: {} };
  expect(paperText(r, none, labelOf)).toContain('   No answer.');
});
