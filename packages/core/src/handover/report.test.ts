import { item as itemSchema, type QuizSet } from '../item/model.js';
import { handsOf, judgedMarks, judgingOf } from '../mark/decisions.js';
import type { Response } from '../mark/mark.js';
import { pointsOf } from '../take/outcome.js';
import { paperLanguages } from '../formats/paper/words.js';
import { reportSchema } from '../formats/paper/pieces.js';
import { paperOf, paperText } from './report.js';
import { classReport, reportPaper } from './reportPaper.js';

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

test('a report says what was answered, what it earned and what was right, in the language of the set', () => {
  const made = reportPaper(results(false), undefined, labelOf as never);
  const keys = made.pieces.find((p) => p.is === 'key');
  expect(keys?.is === 'key' && keys.rows.map((r) => [r.number, r.points, JSON.stringify(r.notes)])).toEqual([
    ['1', '0 / 1', expect.stringMatching(/oat.*Right: .*rye/)],
    ['2', '2 / 2', expect.stringMatching(/220/)],
    ['3', '– / 4', expect.stringMatching(/So\..*"break".*And so\..*Not marked yet\./)],
  ]);
  expect(JSON.stringify(made.pieces)).toContain('Points: 2 of 3, 67%');
  const all = results(true);
  const german = reportPaper({ set: { ...set, language: 'de' }, sittings: all.sittings.slice(0, 1) });
  expect(JSON.stringify(german.pieces)).toContain('Punkte: 4,5 von 7, 64');
  expect(JSON.stringify(german.pieces)).toContain('Richtig: ');
  expect(JSON.stringify(german.pieces)).toContain('Say why.');
});
test('a report is what the server takes as one, in every language, with the key in its place', () => {
  for (const language of [...paperLanguages, 'xx', 'he']) {
    const r = { ...results(false), set: { ...set, language } };
    for (const made of [reportPaper(r), classReport(r)]) {
      expect(reportSchema.parse(made)).toEqual(made);
      expect(JSON.stringify(made)).not.toMatch(/\bn\b.{1,6}\bm\b/);
    }
    expect(JSON.stringify(reportPaper(r).pieces)).toMatch(/: ?\S*rye|rye/);
  }
});
test('the class on one: everybody by name, the most missed item first', () => {
  const { sittings, ...rest } = results(true);
  const [one] = sittings;
  if (!one) throw new Error('nobody');
  const made = classReport({
    ...rest,
    sittings: [
      { ...one, name: 'Person 10' },
      { ...one, id: 'b', name: 'Person 9' },
    ],
  });
  const [people, items] = made.pieces.filter((p) => p.is === 'key');
  expect(people?.rows.map((r) => JSON.stringify(r.key))).toEqual([expect.stringContaining('Person 9'), expect.stringContaining('Person 10')]);
  expect(items?.rows.map((r) => r.number)[0]).toBe('1');
});

test('a gap of a report is a blank with the number that its answer has', () => {
  const cloze = itemSchema.parse({
    id: 'c',
    kind: 'cloze',
    stem: 'Mix [[x]] with [[y]].',
    gaps: ['x', 'y'].map((id) => ({ id, kind: 'text', points: 1, answers: [{ text: 'flour', credit: 1 }] })),
  });
  const one = results(true).sittings[0]!;
  const [row] = reportPaper({ set: { title: 'T', items: [cloze] }, sittings: [{ ...one, marks: {}, responses: {} }] }).pieces.flatMap((p) =>
    p.is === 'key' ? p.rows : [],
  );
  expect(JSON.stringify(row?.key)).toMatch(/Mix .*\(1\).*blank.* with .*\(2\).*blank/);
  expect(JSON.stringify(row)).not.toContain('[[x');
});
