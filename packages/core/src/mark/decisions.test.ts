import fc from 'fast-check';
import { item as itemSchema, type Item, type QuizSet } from '../item/model.js';
import { answerGroups, effectOf, finalItems } from './answerGroups.js';
import { criteriaOf } from './criteria.js';
import { type Decision, decisionProblem, handsOf, judgedMarks, judgingOf } from './decisions.js';
import { mark, type Response } from './mark.js';

const make = (fields: object): Item => itemSchema.parse(fields);
const colour = make({ id: 'colour', kind: 'short-answer', stem: 'What fades in the sun?', answers: [{ text: 'colour' }], points: 2 });
const weight = make({ id: 'weight', kind: 'numeric', stem: 'How heavy?', answers: [{ min: 250, max: 250 }], unit: 'g' });
const choice = make({
  id: 'choice',
  kind: 'multiple-choice',
  stem: 'Which flour?',
  options: [
    { id: 'a', content: 'rye', credit: 1 },
    { id: 'b', content: 'wheat' },
  ],
});
const gaps = make({
  id: 'gaps',
  kind: 'cloze',
  stem: 'Salt [[1]] water, [[2]] °C.',
  points: 4,
  gaps: [
    { id: '1', kind: 'text', points: 3, answers: [{ text: 'draws' }] },
    { id: '2', kind: 'number', points: 1, answers: [{ min: 4, max: 4 }] },
  ],
});
const essay = make({ id: 'essay', kind: 'essay', stem: 'Why rest the dough?', points: 5 });
const set: QuizSet = { title: 'Dough', items: [colour, weight, choice, gaps, essay] };
const marksWith = (decisions: Decision[], responses: Record<string, Response>, attempt = 'p1') =>
  judgedMarks(judgingOf(set, decisions), responses, handsOf(decisions).get(attempt));
const points = (decisions: Decision[], responses: Record<string, Response>): Record<string, number> =>
  Object.fromEntries(Object.entries(marksWith(decisions, responses)).map(([id, m]) => [id, m.points]));

describe('decisions on answers', () => {
  test('without any decision, marks are those of the items', () => {
    const responses: Record<string, Response> = { colour: { text: 'Colour' }, choice: { options: ['b'] }, essay: { text: 'It relaxes.' } };
    expect(marksWith([], responses)).toEqual(Object.fromEntries(set.items.map((i) => [i.id, mark(i, responses[i.id])])));
  });

  test('an answer that counts, counts for all who wrote it, whatever its capitals and blanks', () => {
    const d: Decision[] = [{ type: 'answer', item: 'colour', text: 'color', credit: 0.5 }];
    for (const text of ['color', 'COLOR ', ' Color']) expect(points(d, { colour: { text } })['colour']).toBe(1);
    expect(points(d, { colour: { text: 'colors' } })['colour']).toBe(0);
    // and can be taken away again
    expect(points([...d, { type: 'answer', item: 'colour', text: 'color', credit: 0 }], { colour: { text: 'color' } })['colour']).toBe(0);
  });

  test('a number is the same however it is written', () => {
    const d: Decision[] = [{ type: 'answer', item: 'weight', text: '0.25', credit: 1 }];
    expect(points(d, { weight: { text: '.25 g' } })['weight']).toBe(1);
    expect(points(d, { weight: { text: '0.250' } })['weight']).toBe(1);
    expect(points(d, { weight: { text: '25' } })['weight']).toBe(0);
  });

  test('an answer in a gap changes the points of that gap alone', () => {
    const given: Record<string, Response> = { gaps: { gaps: { '1': 'pulls', '2': '5' } } };
    expect(points([], given)['gaps']).toBe(0);
    expect(points([{ type: 'answer', item: 'gaps', gap: '1', text: 'pulls', credit: 1 }], given)['gaps']).toBe(3);
    expect(points([{ type: 'answer', item: 'gaps', gap: '2', text: '5.0', credit: 0.5 }], given)['gaps']).toBe(0.5);
  });

  test('another key, full points, left out, by hand', () => {
    const wheat: Decision = {
      type: 'key',
      item: 'choice',
      set: {
        options: [
          { id: 'a', content: 'rye', credit: 0 },
          { id: 'b', content: 'wheat', credit: 1 },
        ],
      },
      said: 'B is the key',
    };
    expect(points([wheat], { choice: { options: ['b'] } })['choice']).toBe(1);
    expect(points([wheat], { choice: { options: ['a'] } })['choice']).toBe(0);
    // one more key beside the first
    const both: Decision[] = [{ type: 'answer', item: 'choice', text: 'b', credit: 1 }];
    for (const options of [['a'], ['b']]) expect(points(both, { choice: { options } })['choice']).toBe(1);
    expect(marksWith(both, { choice: { options: ['a', 'b'] } })['choice']).toMatchObject({ points: 0, state: 'wrong' });
    expect(marksWith(both, {})['choice']).toMatchObject({ points: 0, state: 'unanswered' });
    expect(points([{ type: 'full-points', item: 'choice' }], {})['choice']).toBe(1);
    expect(Object.keys(points([{ type: 'leave-out', item: 'choice' }], {}))).not.toContain('choice');
    const hand: Decision = { type: 'hand', item: 'essay', attempt: 'p1', points: 3.5, comment: 'Say why.' };
    expect(marksWith([hand], { essay: { text: 'It relaxes.' } })['essay']).toMatchObject({ points: 3.5, state: 'partly', comment: 'Say why.' });
    expect(marksWith([hand], { essay: { text: 'It relaxes.' } }, 'p2')['essay']).toMatchObject({ points: 0, state: 'by-hand' });
    // the hand is above what everybody gets
    expect(points([hand, { type: 'full-points', item: 'essay' }], {})['essay']).toBe(3.5);
  });

  test('what does not fit is said, and changes nothing', () => {
    const wrong: [Decision, RegExp][] = [
      [{ type: 'leave-out', item: 'nothing' }, /not in what was sent/],
      [{ type: 'answer', item: 'choice', text: 'x', credit: 1 }, /no such option/],
      [{ type: 'answer', item: 'essay', text: 'x', credit: 1 }, /not typed/],
      [{ type: 'answer', item: 'gaps', gap: '9', text: 'x', credit: 1 }, /no such gap/],
      [{ type: 'key', item: 'choice', set: { answers: [] }, said: '' }, /does not fit/],
      [{ type: 'key', item: 'choice', set: { options: 'b' }, said: '' }, /does not fit/],
      [{ type: 'hand', item: 'essay', attempt: 'p1', points: 6 }, /5 points at most/],
      [{ type: 'hand', item: 'essay', attempt: 'p1', points: 5, criteria: [3, 3] }, /5 points at most/],
    ];
    for (const [d, said] of wrong) expect(decisionProblem(set, d)).toMatch(said);
    const judged = judgingOf(
      set,
      wrong.map(([d]) => d),
    );
    expect(judged.set.items).toEqual(set.items);
  });

  test('points never leave what an item is worth, whatever is decided', () => {
    const credit = fc.constantFrom(0, 0.25, 0.5, 1);
    const any = fc.oneof(
      fc.record({ type: fc.constant('answer' as const), item: fc.constantFrom('colour', 'weight'), text: fc.constantFrom('color', '250', 'x'), credit }),
      fc.record({
        type: fc.constant('answer' as const),
        item: fc.constant('gaps'),
        gap: fc.constantFrom('1', '2'),
        text: fc.constantFrom('pulls', '5'),
        credit,
      }),
      fc.record({ type: fc.constantFrom('leave-out' as const, 'full-points' as const), item: fc.constantFrom(...set.items.map((i) => i.id)) }),
      fc.record({
        type: fc.constant('hand' as const),
        item: fc.constant('essay'),
        attempt: fc.constantFrom('p1', 'p2'),
        points: fc.integer({ min: 0, max: 5 }),
      }),
    );
    const responses: Record<string, Response> = {
      colour: { text: 'color' },
      weight: { text: '250' },
      gaps: { gaps: { '1': 'pulls', '2': '5' } },
      essay: { text: 'so' },
    };
    fc.assert(
      fc.property(fc.array(any, { maxLength: 8 }), (decisions) => {
        const marks = marksWith(decisions, responses);
        for (const i of set.items) {
          const m = marks[i.id];
          const out = decisions.some((d) => d.type === 'leave-out' && d.item === i.id);
          expect(m === undefined).toBe(out);
          if (m) expect(m.points >= 0 && m.points <= i.points).toBe(true);
        }
      }),
    );
  });
});

describe('typed answers put together', () => {
  const given = ['color', 'Color', 'colour', 'light', 'cheese', 'color', '', 'lihgt', 'cheese', 'colour'].map((text): Response => ({ text }));
  test('the same answers are one group; what is near stands by what it is near to', () => {
    const groups = answerGroups(judgingOf(set, []), colour, undefined, [...given, undefined, null]);
    expect(groups.map((g) => [g.text, g.who, g.mark.state, g.near ?? ''])).toEqual([
      ['color', [0, 1, 5], 'wrong', 'colour'],
      ['cheese', [4, 8], 'wrong', ''],
      ['light', [3], 'wrong', ''],
      ['lihgt', [7], 'wrong', 'light'],
      ['colour', [2, 9], 'right', ''],
    ]);
    expect(groups[0]?.writings).toEqual(['color', 'Color']);
    const decided = answerGroups(judgingOf(set, [{ type: 'answer', item: 'colour', text: 'COLOR', credit: 1 }]), colour, undefined, given);
    expect(decided.find((g) => g.text === 'color')).toMatchObject({ decided: true, mark: { state: 'right' } });
  });
  test('gaps, one by one', () => {
    const gap = gaps.kind === 'cloze' ? gaps.gaps[1] : undefined;
    const groups = answerGroups(judgingOf(set, []), gaps, gap, [{ gaps: { '2': '4' } }, { gaps: { '2': '4.0' } }, { gaps: { '2': 'cold' } }]);
    expect(groups.map((g) => [g.text, g.who, g.mark.state])).toEqual([
      ['cold', [2], 'wrong'],
      ['4', [0, 1], 'right'],
    ]);
    expect(answerGroups(judgingOf(set, []), choice, undefined, [{ options: ['a'] }])).toEqual([]);
  });
  test('everybody who typed something is in one group, and in no other', () => {
    fc.assert(
      fc.property(fc.array(fc.string({ maxLength: 12 })), (texts) => {
        const groups = answerGroups(
          judgingOf(set, []),
          colour,
          undefined,
          texts.map((text) => ({ text })),
        );
        expect(groups.flatMap((g) => g.who).sort((a, b) => a - b)).toEqual(texts.flatMap((t, n) => (t.trim() ? [n] : [])));
      }),
    );
  });
});

describe('what a decision would change', () => {
  test('for whom, and the mean', () => {
    const people = ['color', 'colour', ''].map((text) => ({ responses: { colour: { text } } }));
    const after = judgingOf(set, [{ type: 'answer', item: 'colour', text: 'color', credit: 1 }]);
    const effect = effectOf(judgingOf(set, []), after, ['colour'], people);
    expect(effect.people).toEqual([{ place: 0, before: 0, after: 2 }]);
    // by hand: 2 of three people have 2 points afterwards, one has them before
    expect(effect.mean.before).toBeCloseTo(2 / 3);
    expect(effect.mean.after).toBeCloseTo(4 / 3);
    // what a person marked by hand stays as it is
    const hands = handsOf([{ type: 'hand', item: 'colour', attempt: 'p1', points: 1 }]).get('p1') ?? new Map();
    expect(effectOf(judgingOf(set, []), after, ['colour'], [{ responses: { colour: { text: 'color' } }, hands }]).people).toEqual([]);
  });
  test('who was late gains only the share that they keep', () => {
    const after = judgingOf(set, [{ type: 'answer', item: 'colour', text: 'color', credit: 1 }]);
    const people = [0.8, undefined].map((kept) => ({ responses: { colour: { text: 'color' } }, kept }));
    const effect = effectOf(judgingOf(set, []), after, ['colour'], people);
    expect(effect.people.map((p) => p.after)).toEqual([1.6, 2]);
    expect(effect.mean.after).toBeCloseTo(1.8);
  });
  test('items count once nobody waits for a person, and none that is left out', () => {
    const marked = (d: Decision[], r: Record<string, Response>) => marksWith(d, r);
    const ids = (all: ReturnType<typeof marked>[]) =>
      finalItems(
        set.items,
        all.map((marks) => ({ marks })),
      ).map((i) => i.id);
    expect(ids([marked([], { essay: { text: 'so' } })])).toEqual(['colour', 'weight', 'choice', 'gaps']);
    expect(ids([marked([{ type: 'leave-out', item: 'gaps' }], {})])).toEqual(['colour', 'weight', 'choice', 'essay']);
  });
});

test('a rubric whose lines say their points is a list of criteria', () => {
  expect(criteriaOf('Names two reasons (2 points)\nGives an example: 1 point\nUses the words of the course – 2 marks')).toEqual([
    { text: 'Names two reasons', points: 2 },
    { text: 'Gives an example', points: 1 },
    { text: 'Uses the words of the course', points: 2 },
  ]);
  expect(criteriaOf('<ul><li>Safe (1 point)</li><li>Clean (1.5 points)</li></ul>').map((c) => c.points)).toEqual([1, 1.5]);
  expect(criteriaOf('Alive (2 points) The next dough rises (1 point); own words (1 point)')).toEqual([
    { text: 'Alive', points: 2 },
    { text: 'The next dough rises', points: 1 },
    { text: 'own words', points: 1 },
  ]);
  expect(criteriaOf('Look for sense. 5 points in all.')).toEqual([]);
  expect(criteriaOf(undefined)).toEqual([]);
});
