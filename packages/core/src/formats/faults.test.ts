/** Files and sets that were once read, written or rehearsed wrongly (`corpus/faults/`), each with what is right. */
import { readFileSync } from 'node:fs';
import { strFromU8, unzipSync } from 'fflate';
import type { Item, QuizSet } from '../item/model.js';
import { readSetFile } from '../item/setFile.js';
import { readDraft } from '../draft/read.js';
import type { Rehearsal } from '../rehearse/rehearse.js';
import { fitSet } from '../fit/fit.js';
import { everything } from '../fit/profile.js';
import { utf8 } from './encoding.js';
import { coreFormats } from './index.js';
import { giftText } from './gift/write.js';
import { readGift } from './gift/read.js';
import { writeNotation } from './notation/notation.js';
// The independent GIFT grammar: npm gift-pegjs 1.0.2.
import grammar from 'gift-pegjs';

const folder = new URL('../../corpus/faults/', import.meta.url);
const bytes = (name: string): Uint8Array => new Uint8Array(readFileSync(new URL(name, folder)));
const setOf = (name: string): QuizSet => readSetFile(strFromU8(bytes(name))).set;
interface Read {
  items: Item[];
  told: string[];
}
async function read(name: string): Promise<Read> {
  const opened = await coreFormats.open(bytes(name), name);
  if (!('result' in opened)) throw new Error(`${name} is a draft`);
  return { items: opened.result.set.items, told: opened.result.diagnostics.map((d) => d.code) };
}
/** The key in a few words. */
function key(i: Item | undefined): unknown {
  switch (i?.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return i.options.filter((o) => o.credit > 0).map((o) => o.content);
    case 'true-false':
      return i.answer;
    case 'short-answer':
      return i.answers.map((a) => a.text);
    case 'numeric':
      return i.answers.map((a) => [a.min, a.max]);
    case 'cloze':
      return i.gaps.map((g) =>
        g.kind === 'choice'
          ? g.options.filter((o) => o.credit > 0).map((o) => o.content)
          : g.answers.map((a) => ('text' in a && a.text !== undefined ? a.text : 'min' in a ? a.min : '')),
      );
    case 'matching':
      return i.pairs.map((p) => `${p.left} ${p.right}`);
    default:
      return null;
  }
}

test.each<[string, unknown[], string[]]>([
  ['01-tex-n.gift.txt', [['$$\\neq$$'], ['\\neq']], []],
  ['02-13digits.gift.txt', [[[4006381333931, 4006381333931]]], []],
  ['04-template.xml', [[[]]], ['key-drawn']],
  ['04b-template-choice.xml', [[]], ['key-drawn']],
  ['05-pattern.xml', [[['colour', 'color', 'hue', 'hues']]], []],
  [
    '06.gift.txt',
    [
      [
        [9.5, 10.5],
        [9, 11],
      ],
      true,
    ],
    [],
  ],
  ['08-swallow.gift.txt', [[['red'], ['blue']], true, ['x'], [[5, 5]]], ['gaps-guessed', 'no-blank-line', 'no-blank-line']],
  ['09-wildcard.gift.txt', [['blue', 'bl?e'], []], ['answer-pattern', 'answer-pattern', 'key-missing']],
  ['12-picture.gift.txt', [['[a.png]']], ['picture-missing', 'picture-missing']],
  ['13-catchall.gift.txt', [[[3, 3]], [[3, 3]]], []],
  ['15-other-outcome.xml', [['Beta']], []],
  ['16-max2.xml', [['Alpha', 'Beta']], ['choices-limited']],
  ['16-mustnot.xml', [['Alpha', 'Beta']], ['scoring-adapted']],
  ['23-respident-variant.xml', [['Beta']], []],
  ['24-no-respident.xml', [['Beta']], []],
  ['30-matching-grp.xml', [['cat mammal', 'owl bird']], []],
  ['52-member-two.xml', [['Alpha', 'Beta']], ['key-conflict']],
])('%s is read with its key, and what cannot be held is told', async (name, keys, told) => {
  const found = await read(name);
  expect(found.items.map(key)).toEqual(keys);
  expect(found.told).toEqual(told);
});

test('feedback for all other answers of a number and of a text is what is said when wrong', async () => {
  const [first] = (await read('13-catchall.gift.txt')).items;
  expect(first?.feedback).toEqual({ incorrect: 'bad' });
});

test('"any one of these" is told, and all are kept', async () => {
  const { items, told } = await read('17-selection.zip');
  expect(items).toHaveLength(3);
  expect(told).toEqual(['selection-dropped', 'not-in-test']);
});

test.each(['text', 'markdown', 'html', 'gift', 'qti12', 'qti21', 'qti30', 'csv', 'xlsx'])(
  'numbers with powers and with thirteen figures go to %s and come back',
  async (id) => {
    const sets = [setOf('03-sci.zak.json'), setOf('11-big.zak.json')];
    for (const set of sets) {
      const format = coreFormats.byId(id);
      if (!format?.write) continue;
      const { bytes: written, name } = await format.write(set);
      const back = await coreFormats.open(written, name);
      const items =
        back.as === 'items' ? back.result.set.items : back.as === 'draft' ? readDraft(back.text).set.items : (await coreFormats.read(written, name)).set.items;
      const numbers = (list: readonly Item[]): unknown[] => list.flatMap((i) => (i.kind === 'numeric' ? [i.answers.map((a) => [a.min, a.max])] : []));
      expect(numbers(items)).toEqual(numbers(set.items));
    }
  },
);

test.each(['1.6e-19 C', '6.02e23', '6.02 × 10^23', '1.6·10⁻¹⁹ kg', '2.5E-3'])('a draft that answers “%s” has that number as its key', (answer) => {
  const due = { '1.6e-19 C': 1.6e-19, '6.02e23': 6.02e23, '6.02 × 10^23': 6.02e23, '1.6·10⁻¹⁹ kg': 1.6e-19, '2.5E-3': 0.0025 }[answer];
  const [item] = readDraft(`1. How much is it?\nAnswer: ${answer}\n`).set.items;
  expect(item?.kind).toBe('numeric');
  expect(key(item)).toEqual([[due, due]]);
});

test('a number with more figures than can be compared is compared as text', () => {
  const [item] = readGift('Which number? {#12345678901234567890}').set.items;
  expect(item?.kind).toBe('short-answer');
  expect(key(item)).toEqual(['12345678901234567890']);
  const [drafted] = readDraft('1. Which number stands on the slip?\nAnswer: 12345678901234567890\n').set.items;
  expect(drafted?.kind).toBe('short-answer');
});

test('the reference grammar takes numbers with general feedback and a title', () => {
  const text = giftText(setOf('06-num-general.zak.json'));
  expect(text).not.toMatch(/\{[^}]*\n\s*\n/);
  expect(grammar.parse(text).filter((q: { type: string }) => q.type === 'Numerical')).toHaveLength(1);
});

test('code keeps its lines and its indentation in text', () => {
  const draft = readDraft(strFromU8(bytes('10-code.txt')));
  const again = readDraft(writeNotation(draft.set));
  expect(again.set.items[0]?.stem).toBe(draft.set.items[0]?.stem);
  expect(again.set.items[0]?.stem).toContain('\n        print(i)');
});

const wrongly = (r: Rehearsal): string[] => r.items.filter((i) => i.verdict === 'differs').map((i) => `${i.name} ${i.reason}`);
test.each([
  ['07-extra-answer.zip', ['City of light? “London” earns 2 of 2 there and 0 here']],
  ['07b-extra-answer.gift.txt', ['City of light? “London” earns 1 of 1 there and 0 here']],
  ['07c-maxchoices1.zip', ['Primes? “2” and “3” cannot be chosen together there']],
  ['07d-item-not-in-test.zip', ['Weights? it is in the file, but its test does not ask it']],
  ['07e-negative-total.zip', ['Primes? “4” and “6” earns -3 of 3 there and 0 here']],
])('the rehearsal finds what marks otherwise in %s', async (name, found) => {
  const reasons = wrongly(await coreFormats.rehearse(bytes(name), name, setOf('base.zak.json')));
  expect(reasons.map((r) => r.replace(/\s+/g, ' '))).toEqual(found);
});

const DOT = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';
test.each([
  [
    'matimage',
    `<questestinterop><item ident="i"><presentation><material><mattext>Which?</mattext><matimage imagtype="image/png" embedded="base64">${DOT.slice(0, 40)}\n${DOT.slice(40)}</matimage></material></presentation></item></questestinterop>`,
  ],
  [
    'img',
    `<assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" identifier="i" title="i" adaptive="false" timeDependent="false"><itemBody><p>Which? <img src="data:image/png;base64,${DOT}" alt="dot"/></p></itemBody></assessmentItem>`,
  ],
])('a picture that stands in the file in base64 (%s) is kept, a broken one is told', async (_, xml) => {
  const opened = await coreFormats.read(utf8(xml), 'a.xml');
  const [item] = opened.set.items;
  expect(item?.stem).toMatch(/Which\?.*<img src="asset:[0-9a-f]{64}"/s);
  expect(Object.values(opened.set.assets ?? {}).map((a) => a.mediaType)).toEqual(['image/png']);
  const broken = await coreFormats.read(utf8(xml.replace(DOT.slice(0, 40), '!!')), 'a.xml');
  expect(broken.set.items).toHaveLength(1);
  expect(broken.diagnostics.map((d) => d.code)).toContain('picture-missing');
});

test('a rule that no longer goes on to the next is found in a file of ours', async () => {
  const item: Item = {
    id: 'm',
    kind: 'multiple-response',
    stem: 'Which raise a dough?',
    points: 2,
    scoring: 'per-option',
    options: [
      { id: '1', content: 'yeast', credit: 1 },
      { id: '2', content: 'levain', credit: 1 },
      { id: '3', content: 'salt', credit: 0 },
    ],
  };
  const set: QuizSet = { title: 'T', items: [item] };
  const written = await coreFormats.byId('qti12')?.write?.(set);
  const questions = strFromU8(unzipSync(written?.bytes ?? new Uint8Array())['questions.xml'] ?? new Uint8Array());
  const rehearsed = async (xml: string): Promise<boolean> => (await coreFormats.rehearse(utf8(xml), 'questions.xml', set)).ok;
  expect(questions).toContain('continue="Yes"');
  expect(await rehearsed(questions)).toBe(true);
  expect(await rehearsed(questions.replaceAll('continue="Yes"', 'continue="No"'))).toBe(false);
});

test('twenty thousand questions without a blank line are as many questions', () => {
  const { set } = readGift(Array.from({ length: 20_000 }, (_, i) => `q${i} {T}`).join('\n'));
  expect(set.items).toHaveLength(20_000);
});

test('a share that importers with a fixed list refuse is told, a third is not', () => {
  const set = setOf('14-picture.zak.json');
  const notes = (s: QuizSet): string[] => fitSet(s, coreFormats.byId('gift')?.profile ?? everything).fits.flatMap((f) => f.notes.map((n) => n.message));
  expect(notes(set)).toEqual(['a share of 45 % is refused by importers that know a fixed list of shares']);
  const [item] = set.items;
  const third = {
    ...item,
    options: [
      { id: 'x', content: 'a', credit: 1 },
      { id: 'y', content: 'b', credit: 1 / 3 },
    ],
  } as Item;
  expect(notes({ ...set, items: [third] })).toEqual([]);
});

test('identifiers of a package come from its set: stable, and others for another set', async () => {
  const identifiers = async (file: string, id: string): Promise<string[]> => {
    const set = { ...readDraft(strFromU8(bytes(file))).set, title: file };
    const held = { ...set, items: set.items.map((i, n) => ({ ...i, id: `${file}-${n}` })) };
    const written = await coreFormats.byId(id)?.write?.(held);
    const files = unzipSync(written?.bytes ?? new Uint8Array());
    return Object.entries(files).flatMap(([path, b]) =>
      path.endsWith('.xml')
        ? [...strFromU8(b).matchAll(/<(?:manifest|assessment|section|assessmentTest|assessmentSection)\b[^>]*?\b(?:identifier|ident)="([^"]*)"/g)].map(
            (m) => m[1] ?? '',
          )
        : [],
    );
  };
  for (const id of ['qti12', 'qti21', 'qti30', 'cc13']) {
    const [one, again, two] = [await identifiers('s1.txt', id), await identifiers('s1.txt', id), await identifiers('s2.txt', id)];
    expect(one).toEqual(again);
    expect(new Set(one).size).toBe(one.length);
    expect(one.filter((i) => two.includes(i))).toEqual([]);
  }
  // a part between items without one
  const written = await coreFormats.byId('qti12')?.write?.(setOf('15-root-section.zak.json'));
  const questions = strFromU8(unzipSync(written?.bytes ?? new Uint8Array())['questions.xml'] ?? new Uint8Array());
  const sections = [...questions.matchAll(/<section ident="([^"]*)"/g)].map((m) => m[1]);
  expect(new Set(sections).size).toBe(3);
});

test('what a format holds of a picture and of a share of 45 % is the same when it comes back, or told', async () => {
  const set = setOf('14-picture.zak.json');
  for (const id of ['gift', 'qti12', 'qti21', 'qti30']) {
    const format = coreFormats.byId(id);
    const { bytes: written, name } = (await format?.write?.(set)) ?? { bytes: new Uint8Array(), name: '' };
    const back = await coreFormats.open(written, name);
    const [item] = 'result' in back ? back.result.set.items : [];
    expect(item && 'options' in item && item.options.map((o) => o.credit)).toEqual([1, 0.45]);
    expect(item?.stem).toContain('<img src="asset:');
  }
});
