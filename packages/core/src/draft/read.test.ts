import { runs } from '../item/runs.js';
import fc from 'fast-check';
import { keyProblem, keySign } from '../item/kinds.js';
import { applyEdits, readDraft } from './read.js';

const signs = (draft: string): string[] => readDraft(draft).set.items.map(keySign);
const codes = (draft: string): string[] => readDraft(draft).diagnostics.map((d) => d.code);

test.each([
  ['a star behind', '1. Q?\na) x\nb) y *'],
  ['a star in front', '1. Q?\na) x\n*b) y'],
  ['a tick', '1. Q?\na) x\nb) y \u2713'],
  ['a word in brackets', '1. Q?\na) x\nb) y (correct)'],
  ['an arrow', '1. Q?\na) x\nb) y <- correct'],
  ['a ticked box', 'Q1. Q?\n[ ] x\n[x] y'],
  ['an answer line', '1. Q?\na) x\nb) y\nAnswer: b'],
  ['letter and text', '1. Q?\nA. x\nB. y\nCorrect answer: B) y'],
  ['the text alone', '1. Q?\nA. x\nB. y\n**Answer:** y'],
  ['a key list', '1. Q?\na) x\nb) y\n\nAnswer key\n1. b'],
  ['a key list in a row', '1. Q?\na) x\nb) y\n\n2. R?\na) x\nb) y\n\nKey: 1 b 2 b'],
  ['one line of options', '1. Q? a) x b) y *'],
  ['Spanish', '1. \u00bfQ?\na) x\nb) y\nRespuesta correcta: b'],
  ['Ukrainian letters', '1. Q?\n\u0410) x\n\u0411) y\n\u0412\u0456\u0434\u043f\u043e\u0432\u0456\u0434\u044c: \u0411'],
  ['bold alone', '1. Q?\nA) x\nB) **y**\nC) z'],
])('the key is read from %s', (_, draft) => {
  expect(signs(draft)[0]).toBe('B');
});

test.each([
  ['True or False: Salt slows yeast.\nAnswer: True', 'true-false', true],
  ['1. Salt slows yeast. (T/F)\nAnswer: F', 'true-false', false],
  ['1. Salt slows yeast. \u2013 True', 'true-false', true],
  ['1. Is it?\na) True\nb) False *', 'true-false', false],
])('%j is true or false', (draft, kind, answer) => {
  expect(readDraft(draft).set.items[0]).toMatchObject({ kind, answer });
});

test('blanks, numbers, words, pairs and steps', () => {
  const { items } = readDraft(
    '1. A starter is ____ with ____.\nAnswer: fed; flour\n\n2. 5 x 5?\nAnswer: 25\n\n3. Gravity?\nAnswer: 9.8 \u00b1 0.1 m/s\n\n4. French for starter?\nAnswer: levain / le levain\n\n5. Match.\na -> 1\nb -> 2\n\n6. Put in order.\n1. one\n2. two\n\n7. Discuss the weather.',
  ).set;
  expect(items.map((i) => i.kind)).toEqual(['cloze', 'numeric', 'numeric', 'short-answer', 'matching', 'ordering', 'essay']);
  expect(items[0]).toMatchObject({ stem: 'A starter is [[1]] with [[2]].', gaps: [{ answers: [{ text: 'fed' }] }, { answers: [{ text: 'flour' }] }] });
  expect(items[2]).toMatchObject({ answers: [{ min: 9.7, max: 9.9 }], unit: 'm/s' });
  expect(items[3]).toMatchObject({ answers: [{ text: 'levain' }, { text: 'le levain' }] });
});

test('no key is guessed: a conflict, an unknown letter and silence all leave it empty and say so', () => {
  const conflict = '1. Q?\na) x *\nb) y\nAnswer: b';
  expect(signs(conflict)).toEqual(['?']);
  expect(codes(conflict)).toEqual(['key-conflict']);
  expect(codes('1. Q?\na) x\nb) y\nAnswer: e')).toEqual(['key-unknown-option']);
  expect(codes('1. Q?\na) x\nb) y')).toEqual(['key-missing']);
  expect(codes('1. Q?\na) x\nb) y\nAnswer: a) y')).toEqual(['key-conflict']);
});

test('a fix is a text edit that takes the doubt away', () => {
  const draft = '1. Q?\na) x\nb) y\n\n3. R?\na) x *\nb) y';
  const d = readDraft(draft).diagnostics;
  const marked = applyEdits(draft, d.find((x) => x.code === 'key-missing')?.fixes?.[1]?.edits ?? []);
  expect(signs(marked)).toEqual(['B', 'A']);
  const numbered = applyEdits(draft, d.find((x) => x.code === 'number-gap')?.fixes?.[0]?.edits ?? []);
  expect(codes(numbered)).not.toContain('number-gap');
});

test('greetings, closings and signatures are asides and no part of an item', () => {
  const r = readDraft('Sure! Here is a quiz:\n\n1. Q?\na) x *\nb) y\n\nBest wishes\nPetra');
  expect(r.asides.map((a) => a.text)).toEqual(['Sure! Here is a quiz:', 'Best wishes', 'Petra']);
  expect(r.set.items).toHaveLength(1);
});

test('a person can say what a line is', () => {
  const draft = '1. Q?\na) x *\nb) y\nc) see page 4';
  expect(readDraft(draft, { overrides: new Map([[3, 'aside']]) }).set.items[0]).toMatchObject({ options: [{ content: 'x' }, { content: 'y' }] });
});

const PIECES = [
  '1. What?',
  '2) Who?',
  'a) one',
  'b) two *',
  '- three',
  'Answer: B',
  'Answer key',
  '1. b 2. c',
  '',
  '   ',
  'True or False: yes',
  'Part B: matching',
  'x -> y',
  '| a | b |',
  '____',
  '{',
  '\\',
  '**bold**',
  '\u00ad\u200b\ufeff',
  '```',
  'Points: x',
  '9'.repeat(40),
  '\t\t',
  'Explanation: \u202e',
  '\ud800',
];
test('any text gives items and diagnostics, never an exception; every line has a role', () => {
  fc.assert(
    fc.property(
      fc.array(fc.oneof(fc.constantFrom(...PIECES), fc.string({ maxLength: 40 })), { maxLength: 40 }),
      fc.constantFrom('\n', '\r\n'),
      (lines, end) => {
        const draft = lines.join(end);
        const r = readDraft(draft);
        expect(r.roles).toHaveLength(draft.split('\n').length);
        draft.split('\n').forEach((l, i) => {
          if (/[\p{L}\p{N}]/u.test(l)) expect(r.roles[i]?.role).not.toBe('blank');
        });
        for (const i of r.set.items) if (keyProblem(i)) expect(r.diagnostics.some((d) => d.item === i.id && d.severity === 'error')).toBe(true);
      },
    ),
    { numRuns: runs(500) },
  );
});

// a tenth of what people could paste; all of it with ZAKUSKA_TIMES=10
test('a line without end, thousands of options, long lists and traps for patterns are read', () => {
  expect(readDraft(`1. ${'word '.repeat(runs(20_000))}?\na) x *\nb) y`).set.items).toHaveLength(1);
  expect(readDraft(`1. Q?\n${'a) x\n'.repeat(runs(2000))}`).set.items.length).toBeGreaterThan(0);
  // each of these took minutes while some step was quadratic
  for (const trap of ['(', '*', '- ', '1 ', '_ ', ' ', 'a/', '\\( ', '{a} ', '[a] ', '____ ', '"a" / ', '$ ', '` ', '<b> ', 'a) x b) y '])
    expect(readDraft(`1. Q ${trap.repeat(runs(8000))}\nAnswer: ${trap.repeat(runs(8000))}`).roles.length).toBe(2);
  const n = runs(1500);
  const list = Array.from({ length: n }, (_, i) => `${i + 1}. Q?\na) x\nb) y\n`).join('\n');
  const { set } = readDraft(`${list}\nAnswer key\n${Array.from({ length: n }, (_, i) => `${i + 1}. a\n`).join('')}`);
  expect(set.items).toHaveLength(n);
  expect(set.items.every((i) => keySign(i) === 'A')).toBe(true);
  for (const line of ['a -> b', '- step', 'some prose that goes on', 'Part A', '# h', 'Answer: a', '| a | b |', '```', 'What?', 'I. x'])
    expect(readDraft(`1. Match and put in order.\n${`${line}\n`.repeat(runs(1000))}`).roles).toHaveLength(runs(1000) + 2);
});

test.each(['(+ = right, – = wrong)', '+ = true, – = false', '(+ = true, - = false)'])(
  'signs of truth that a draft says of itself may be signs of patterns, too: %s',
  (head) => {
    expect(readDraft(`${head}\n1. Salt slows yeast. True\n2. Yeast is a stone. False`).set.items).toMatchObject([
      { kind: 'true-false', answer: true },
      { kind: 'true-false', answer: false },
    ]);
    expect(() => readDraft(`${head}\n1. Salt slows yeast (true/false)\n2. Yeast is a stone (true/false)\n\nKey: 1 + 2 –`)).not.toThrow();
  },
);

test('keys by a look stand in the margin, where nothing else says them', () => {
  const marks = (draft: string): string[] =>
    readDraft(draft, { keysFrom: 'bold' })
      .roles.filter((r) => r.role === 'option' || r.role === 'key')
      .map((r) => r.mark);
  expect(marks('1. Which is a grain?\na) leek\nb) **rye**\n\n2. Which is a fat?\na) **butter**  b) flour')).toEqual(['A', 'B ✓', 'A ✓ B']);
  expect(marks('1. Salt is sour.\na) True\nb) **False**\n\n2. Rye is a grain.\na) **True**\nb) False')).toEqual(['A', 'B ✓', 'A ✓', 'B']);
  // bold is only stress where a line says the key
  expect(marks('1. Which is a grain?\na) leek\nb) **rye**\nAnswer: b\n\n2. Which is a fat?\na) **butter**\nb) flour\nAnswer: a')).not.toContain('B ✓');
});
