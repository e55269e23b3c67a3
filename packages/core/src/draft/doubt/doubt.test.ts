/** Doubt and corrections: what nearly was something else is said, and one correction moves all lines of its series. */
import fc from 'fast-check';
import { readDraft } from '../read.js';
import { taughtBy } from '../signs/lessons.js';
import type { Role } from '../model/outline.js';

const roles = (draft: string, overrides: [number, Role][] = []): string[] => readDraft(draft, { overrides: new Map(overrides) }).roles.map((r) => r.role);

test('a text with words and no question says so', () => {
  const { set, diagnostics } = readDraft('Minutes of the meeting\n\nThe oven was repaired. Marta has the bill.');
  expect(set.items).toEqual([]);
  expect(diagnostics).toContainEqual(expect.objectContaining({ code: 'nothing-read', severity: 'warning', line: 1 }));
  expect(readDraft('  \n\n').diagnostics).toEqual([]);
});

// first letters of scripts with and without capitals, from the code charts of Unicode 15
const SCRIPTS: Readonly<Record<string, [number, number]>> = {
  Latin: [0x61, 26],
  Greek: [0x3b1, 17],
  Armenian: [0x561, 38],
  Hebrew: [0x5d0, 27],
  Arabic: [0x628, 18],
  Devanagari: [0x915, 36],
  Tamil: [0xb95, 1],
  Thai: [0xe01, 46],
  Georgian: [0x10d0, 33],
  Ethiopic: [0x1200, 7],
  Hiragana: [0x3041, 86],
  Han: [0x4e00, 200],
  Hangul: [0xac00, 200],
  Hieroglyphs: [0x13000, 50],
  Cuneiform: [0x12000, 50],
};
test.each(Object.entries(SCRIPTS))('words in %s letters are read or it is said that they are not', (_, [from, count]) => {
  const word = fc.array(fc.integer({ min: from, max: from + count - 1 }), { minLength: 1, maxLength: 8 }).map((l) => String.fromCodePoint(...l));
  const line = fc.array(word, { minLength: 1, maxLength: 7 }).map((w) => w.join(' '));
  const sign = fc.constantFrom('', '', '.', '。', '؟', '☞ ', '… ', '❦');
  fc.assert(
    fc.property(fc.array(fc.tuple(sign, line, sign), { minLength: 1, maxLength: 5 }), (lines) => {
      const { set, diagnostics } = readDraft(lines.map((l) => l.join('')).join('\n'));
      return set.items.length > 0 || diagnostics.some((d) => d.code === 'nothing-read');
    }),
    { numRuns: 30 },
  );
});

test.each([
  ['1. מהו שמרים?', 'א. פטרייה', 'ב. צמח', 'תשובה: א'],
  ['١. ما هي الخميرة؟', 'أ) فطر', 'ب) نبات', 'الجواب: أ'],
  ['1. खमीर क्या है?', 'क) कवक', 'ख) पौधा', 'उत्तर: क'],
  ['1. ยีสต์คืออะไร', 'ก. เชื้อรา', 'ข. พืช', 'คำตอบ: ก'],
  ['1. 효모는 무엇입니까?', '① 균류', '② 식물', '정답: ①'],
  ['酵母在什么温度下死亡？', '甲、60度', '乙、40度', '答案：甲'],
  ['問1 酵母はどこで育ちますか。', 'ア 暖かい所', 'イ 冷蔵庫', '正解 ア'],
])('a script without capital letters: %s', (...lines) => {
  const { set, diagnostics } = readDraft(lines.join('\n'));
  expect(set.items.map((i) => i.kind === 'multiple-choice' && i.options.map((o) => [o.content, o.credit]))).toEqual([
    [1, 2].map((n) => [lines[n]?.replace(/^\S[.)、]?\s*/u, ''), n === 1 ? 1 : 0]),
  ]);
  expect(diagnostics).toEqual([]);
});

test('an article is no label: the same letter comes again', () => {
  const { set, diagnostics } = readDraft('1. What is yeast?\na fungus *\na plant\n\n2. What is salt?\na mineral *\na plant');
  expect(set.items.map((i) => 'options' in i && i.options.map((o) => o.content))).toEqual([
    ['a fungus', 'a plant'],
    ['a mineral', 'a plant'],
  ]);
  expect(diagnostics).toEqual([]);
});

test('a plain draft is in no doubt', () => {
  const draft = Array.from({ length: 6 }, (_, i) => `${i + 1}. Which loaf ${i}?\na) rye\nb) wheat *\nc) spelt`).join('\n\n');
  expect(readDraft(draft).diagnostics).toEqual([]);
});

// the statements of one recipe, that could as well be the options of the question above
const unclear = ['1. What happens in the oven', 'the crust browns', 'the crumb sets', '', '2. What happens before', 'the dough rises'].join('\n');
test('a doubt names the line, both readings and few characters; a correction takes it away', () => {
  const unsure = readDraft(unclear).diagnostics.filter((d) => d.code.endsWith('unsure'));
  for (const d of unsure) {
    expect(d.message).toMatch(/^This line is read as .+\. It could as well be .+\.$/);
    expect(d.fixes?.map((f) => f.roles?.[0]?.line)).toEqual([d.line - 1, d.line - 1]);
    expect(d.to - d.from).toBeLessThanOrEqual(12);
    expect(d.item).toBeDefined();
  }
  const told = readDraft(unclear, { overrides: new Map([1, 2, 5].map((l) => [l, 'option' as const])) });
  expect(told.diagnostics.filter((d) => d.code.endsWith('unsure') && [2, 3, 6].includes(d.line))).toEqual([]);
});

const bullets = ['- crumb: the inside of a loaf', '- crust: the outside', '- poolish: a wet pre-ferment', '- biga: a stiff one'];
test('one correction is read into all lines of its shape', () => {
  const draft = `Words of week 3\n\n${bullets.join('\n')}\n`;
  const before = roles(draft);
  const after = roles(draft, [[2, 'question']]);
  expect(after[2]).toBe('question');
  const more = taughtBy(readDraft(draft).roles, readDraft(draft, { overrides: new Map([[2, 'question']]) }).roles, 2);
  expect(more).toEqual([3, 4, 5].filter((i) => before[i] !== 'question' && after[i] === 'question'));
  expect(after.slice(2, 6)).toEqual(['question', 'question', 'question', 'question']);
});

test('a word that a person says announces the key does so everywhere', () => {
  const draft = ['1. What is rye?', 'a) a cereal', 'b) a cheese', 'Zorp: a', '', '2. What is brie?', 'a) a cereal', 'b) a cheese', 'Zorp: b'].join('\n');
  const { set } = readDraft(draft, { overrides: new Map([[3, 'key']]) });
  expect(set.items.map((i) => 'options' in i && i.options.findIndex((o) => o.credit === 1))).toEqual([0, 1]);
});

test('two corrections of one shape that disagree teach nothing', () => {
  const draft = `Words of week 3\n\n${bullets.join('\n')}\n`;
  const plain = roles(draft);
  const after = roles(draft, [
    [2, 'question'],
    [3, 'aside'],
  ]);
  expect(after.slice(2, 4)).toEqual(['question', 'aside']);
  expect(after.slice(4, 6)).toEqual(plain.slice(4, 6));
});

// "Best response:" over boxes is more of the question, or a heading of the options
const boxes = [
  'Scenario 1 – A guest complains about a cold soup.',
  'Best response:',
  '[ ] "So what?"',
  '[X] "I will bring a hot one."',
  '',
  'Scenario 2 – A guest asks about nuts.',
  'Best response:',
  '[ ] "I do not think so."',
  '[X] "Let me ask the kitchen."',
];
test('either reading of a doubt is one press, and either ends the doubt', () => {
  const draft = boxes.join('\n');
  const [doubt] = readDraft(draft).diagnostics.filter((d) => d.code === 'reading-unsure');
  const [now, other] = doubt?.fixes?.map((f) => f.roles?.[0]) ?? [];
  expect([now, other]).toEqual([
    { line: 1, role: 'more' },
    { line: 1, role: 'aside' },
  ]);
  const read = (role: Role): string[] => readDraft(draft, { overrides: new Map([[1, role]]) }).set.items.map((i) => i.stem);
  expect(read('more')[0]).toBe('A guest complains about a cold soup. Best response:');
  expect(read('aside')[0]).toBe('A guest complains about a cold soup.');
  for (const role of ['more', 'aside'] as const)
    expect(readDraft(draft, { overrides: new Map([[1, role]]) }).diagnostics.filter((d) => d.code === 'reading-unsure' && d.line === 2)).toEqual([]);
});

test('one question that a person shows teaches the rest, though no line says what it is', () => {
  const draft = 'Words of week 3\n\n- crumb\nthe inside of a loaf\n- crust\nthe outside of a loaf\n- poolish\na wet pre-ferment\n';
  const shown = readDraft(draft, {
    overrides: new Map([
      [2, 'question'],
      [3, 'key'],
    ]),
  });
  expect(shown.set.items.map((i) => [i.stem, i.kind === 'short-answer' && i.answers.map((a) => a.text)])).toEqual([
    ['crumb', ['the inside of a loaf']],
    ['crust', ['the outside of a loaf']],
    ['poolish', ['a wet pre-ferment']],
  ]);
});

test('a line that goes on from the one above is part of it, whatever that is', () => {
  const draft = '1. What is rye?\na) a cereal\nthat likes\nthe cold\nb) a cheese\nAnswer: a';
  const [item] = readDraft(draft, {
    overrides: new Map([
      [2, 'more'],
      [3, 'more'],
    ]),
  }).set.items;
  expect(item && 'options' in item && item.options.map((o) => o.content)).toEqual(['a cereal that likes the cold', 'a cheese']);
});
