import fc from 'fast-check';
import { readDraft } from '../draft/read.js';
import { writeNotation } from '../formats/notation/notation.js';
import { anyGraded, anyItem } from '../item/arbitrary.js';
import { keyProblem } from '../item/kinds.js';
import { kindNames, type Item, type QuizSet } from '../item/model.js';
import { apply } from '../item/operations.js';
import { plainOf } from '../item/richText.js';
import { runs } from '../item/runs.js';
import { changedFields } from '../item/sameness.js';
import { additions, askedKinds, composeRequest, cutTo, exampleOf, firstWish, formOf, measure, wish, wishProblem } from './request.js';
import { phraseLanguages, phrasesOf } from './phrases.js';
import { compareDrafts } from './compare.js';
import { answersIn, composeOpinion, opinionFindings, opinionsOf } from './opinion.js';
import { aimNames, aims, composeRework, reworked, shortIds, takeAsTranslations, takeProposals } from './rework.js';
import { inLanguage, progressOf } from '../translate/index.js';

const quiz = (...items: Item[]): QuizSet => ({ title: 'T', items });
const read = (text: string): Item[] => readDraft(text).set.items;

describe('requests', () => {
  test.each(phraseLanguages)('the examples of the form read back as they are meant: %s', (language) => {
    expect(Object.values(phrasesOf(language)).every((p) => p.length > 0)).toBe(true);
    for (const add of [[], ['feedback'], [...additions]] as const)
      for (const kind of kindNames) {
        const item = exampleOf(kind, language, { options: 4, add: [...add] });
        const back = readDraft(writeNotation(quiz(item)), { language });
        expect(back.set.items.length).toBe(1);
        expect([kind, changedFields(item, back.set.items[0] as Item).filter((f) => f !== 'label')]).toEqual([kind, []]);
        expect(back.diagnostics.filter((d) => d.severity !== 'info')).toEqual([]);
      }
  });
  test('a reply in the form of the request, all kinds in a row, reads without a doubt', () => {
    for (const language of phraseLanguages) {
      const examples = formOf(askedKinds, language, { options: 4, add: ['feedback'] }).split('of the content):\n\n')[1] ?? '';
      const back = readDraft(`Of course! Here are your items:\n\n${examples}\n\nLet me know if you want more.`, { language });
      expect(back.set.items.map((i) => i.kind)).toEqual(askedKinds);
      expect(back.diagnostics.filter((d) => d.severity === 'error')).toEqual([]);
    }
  });
  test('says what was wished for, and only that', () => {
    const w = wish.parse({
      topic: 'Salt in bread',
      counts: { 'multiple-choice': 3, 'true-false': 2, essay: 0 },
      options: 5,
      level: 'year 8',
      language: 'es',
      outcomes: ['Says what salt does'],
      thinking: { remember: 40, apply: 60 },
      add: ['hints'],
      more: 'No brand names.',
    });
    expect(wishProblem(w)).toBeNull();
    const { text, source } = composeRequest(w);
    for (const said of [
      'Salt in bread',
      '3 multiple choice items with 5 options',
      '2 true or false items',
      'Spanish',
      'year 8',
      'Says what salt does',
      'remember 40 %, apply 60 %',
      '"Hint:"',
      'No brand names.',
      '¿Qué hace subir el pan?',
    ])
      expect(text).toContain(said);
    for (const unsaid of ['Model answer', '"Feedback:"', 'Ordering', '"""']) expect(text).not.toContain(unsaid);
    expect(source).toBeUndefined();
  });
  test('a source is cut behind a sentence, and how much goes along is said', () => {
    const text = 'Salt slows yeast. '.repeat(100);
    const { text: said, source } = composeRequest(wish.parse({ counts: { essay: 1 }, most: 500, source: { title: 'Notes', text } }));
    expect(source?.of).toBe(text.trim().length);
    expect(source?.kept).toBeLessThanOrEqual(500);
    expect(cutTo(text, 500)).toMatch(/yeast\.$/);
    expect(said).toContain(`its first ${source?.kept ?? 0} characters of ${source?.of ?? 0}`);
  });
  test('what is missing in a wish is said', () => {
    expect(wishProblem(firstWish())).toMatch(/about/);
    expect(wishProblem({ ...firstWish(), topic: 'x', counts: {} })).toMatch(/how many/);
    expect(wishProblem({ ...firstWish(), topic: 'x', thinking: { apply: 30 } })).toMatch(/30 %/);
  });
  test('tokens are estimated by script', () => {
    expect(measure('abcd'.repeat(10))).toEqual({ characters: 40, tokens: 10 });
    expect(measure('хлеб').tokens).toBe(2);
    expect(measure('面包').tokens).toBe(2);
  });
});

const ITEMS = read(`1. What feeds the yeast in a starter?
a) salt
b) sugars from the flour *
c) butter
Feedback: Yeast eats sugar.

2. Salt speeds up fermentation.
Answer: false

3. How many grams are 2 kilograms?
Answer: 2000 g
`);
const echo = (items: readonly Item[]): string => {
  const ids = shortIds(items);
  return writeNotation(quiz(...items.map((i, n) => ({ ...i, label: String(n + 1), stem: `(${ids.get(i.id) ?? ''}) ${i.stem}` }) as Item)));
};

describe('rework', () => {
  test.each(aimNames)('the request holds the items with their signs, and the form: %s', (aim) => {
    const asks = 'asks' in aims[aim] ? (aims[aim] as { asks: string }).asks : '';
    const text = composeRework(ITEMS, aim, asks === 'language' ? 'es' : asks === 'kind' ? 'cloze' : asks === 'words' ? 'Mention rye.' : '3');
    for (const id of shortIds(ITEMS).values()) expect(text).toContain(`(${id})`);
    expect(text).toContain('sugars from the flour *');
    expect(text).toContain('Examples of the form');
    if (aim === 'language') expect(text).toContain('Spanish');
    if (aim === 'kind') expect(text).toContain('{flour}');
    if (aim === 'words') expect(text).toContain('Mention rye.');
  });
  test('a reply that changes nothing proposes nothing', () => {
    fc.assert(
      fc.property(fc.array(anyItem, { minLength: 1, maxLength: 5 }), (items) => {
        const list = items.map((i, n) => ({ ...i, id: `${'abcde'[n] ?? 'x'}0f3c9-${n}` }) as Item);
        const r = reworked(list, readDraft(echo(list)).set);
        expect(r.missing).toEqual([]);
        expect(r.proposals.map((p) => [p.mine?.stem, p.changes, p.keyChanged])).toEqual([]);
        expect(r.same.length).toBe(list.length);
      }),
      { numRuns: runs(30) },
    );
  });
  test('said in other words: key, feedback, points and ids stay; one step, undone in one', () => {
    const [first, second, third] = ITEMS as [Item, Item, Item];
    const mine = { ...first, points: 3, tags: ['yeast'] } as Item;
    const items = [mine, second, third];
    const ids = shortIds(items);
    const reply = `Sure, here they are in simpler words:

1. (${ids.get(mine.id) ?? ''}) What does yeast eat?
a) salt
b) sugar from flour *
c) butter

3. (${ids.get(third.id) ?? ''}) 2 kilograms are how many grams?
Answer: 200 g

4. (new) Does rye hold gluten?
Answer: true`;
    const r = reworked(items, readDraft(reply).set);
    expect(r.missing).toEqual([second]);
    const [one, two, added] = r.proposals;
    expect(one).toMatchObject({
      by: 'id',
      keyChanged: false,
      theirs: { id: mine.id, stem: 'What does yeast eat?', points: 3, tags: ['yeast'], feedback: { general: 'Yeast eats sugar.' } },
    });
    expect(one?.theirs).toMatchObject({ options: (mine as Extract<Item, { kind: 'multiple-choice' }>).options.map(({ id, credit }) => ({ id, credit })) });
    expect(two).toMatchObject({ keyChanged: true, theirs: { id: third.id } });
    expect(added?.mine).toBeUndefined();
    expect(added?.theirs).toMatchObject({ kind: 'true-false', stem: 'Does rye hold gluten?', answer: true });
    const document = { set: quiz(...items), reviews: { [mine.id]: { state: 'checked' as const, by: 'm', at: '2026-01-01' } } };
    const { document: after, inverse } = apply(
      document,
      takeProposals(
        document.set,
        items,
        [one, added].flatMap((p) => p ?? []),
        'simpler',
      ),
    );
    expect(after.set.items.map((i) => plainOf(i.stem))).toEqual(['What does yeast eat?', plainOf(second.stem), plainOf(third.stem), 'Does rye hold gluten?']);
    // what was said anew is open again
    expect(after.reviews[mine.id]).toBeUndefined();
    expect(apply(after, inverse).document).toEqual(document);
  });
  test('a reply that says no key leaves the one that is there', () => {
    const [first] = ITEMS as [Item];
    const r = reworked([first], readDraft(`1. (${shortIds([first]).get(first.id) ?? ''}) What does yeast eat?\na) salt\nb) sugar from flour\nc) butter`).set);
    expect(r.proposals[0]).toMatchObject({ keyMissing: true, keyChanged: false, theirs: { options: [{ credit: 0 }, { credit: 1 }, { credit: 0 }] } });
  });
  test('another kind keeps what any kind has; brackets of the question itself stay', () => {
    const [first] = ITEMS as [Item];
    const tagged = { ...first, tags: ['yeast'], points: 2 } as Item;
    const r = reworked([tagged], readDraft(`1. (${shortIds([first]).get(first.id) ?? ''}) (Two words) Yeast eats {sugar | sugars}.`).set);
    expect(r.proposals[0]?.theirs).toMatchObject({ kind: 'cloze', id: first.id, tags: ['yeast'], points: 2 });
    expect(r.proposals[0]?.theirs.stem).toMatch(/^\(Two words\) Yeast eats/);
    expect(r.proposals[0]?.theirs).not.toHaveProperty('options');
  });
  test('what only adds changes none of those asked about', () => {
    const r = reworked(ITEMS, readDraft('1. What feeds the yeast in a starter?\na) salt\nb) sugars from the flour *\nc) butter').set, true);
    expect(r.missing).toEqual([]);
    expect(r.proposals.map((p) => p.mine)).toEqual([undefined]);
  });
});

/** Answers a request as its text shows it, right or wrong by the item's own key. */
function answerOf(item: Item, right: boolean, request: string): string | null {
  const letter = (n: number): string => String.fromCharCode(65 + n);
  const one = (s: string): string => plainOf(s).replace(/\s+/g, ' ').trim();
  const shownLetter = (words: string, list: readonly string[]): string =>
    letter([...new Set(list)].sort((a, b) => plainOf(a).localeCompare(plainOf(b))).indexOf(words));
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response': {
      const keys = item.options.flatMap((o, i) => (o.credit > 0 ? [i] : []));
      const best = item.kind === 'multiple-choice' ? keys.filter((k) => item.options[k]?.credit === 1) : keys;
      const others = item.options.flatMap((o, i) => (o.credit <= 0 ? [i] : []));
      const said = right ? best : others.slice(0, 1);
      return said.length ? said.map(letter).join(', ') : null;
    }
    case 'true-false':
      return String(right ? item.answer : !item.answer);
    case 'numeric': {
      const full = item.answers.find((a) => a.credit === 1);
      return full && right ? String((full.min + full.max) / 2) : full ? '98765432.1' : null;
    }
    case 'matching': {
      const rights = [...item.pairs.map((p) => p.right), ...item.extraRights];
      const said = item.pairs.map((p, i) => `${i + 1}${shownLetter(right ? p.right : (rights.find((r) => one(r) !== one(p.right)) ?? ''), rights)}`);
      return said.some((s) => s.endsWith('@')) ? null : said.join(' ');
    }
    case 'ordering':
      return (right ? item.sequence : [...item.sequence].reverse()).map((s) => shownLetter(s, item.sequence)).join(' ');
    default:
      return request ? null : '';
  }
}

describe('second opinion', () => {
  test('right answers agree, wrong ones do not, whatever the items', () => {
    fc.assert(
      fc.property(fc.array(anyGraded, { minLength: 1, maxLength: 6 }), fc.boolean(), (items, right) => {
        const { text, asked } = composeOpinion(items);
        const lines = asked.map((item, n) => {
          const said = answerOf(item, right, text);
          return said === null ? '' : `${n + 1}. ${said} | because it is so`;
        });
        for (const o of opinionsOf(asked, lines.filter(Boolean).join('\n'))) {
          if (o.said === undefined) expect(o.agrees).toBeNull();
          // two options, pairs or steps that read the same cannot be told apart by a letter
          else if (right) expect([o.item.kind, o.said, o.agrees]).toEqual([o.item.kind, o.said, true]);
          else if (o.item.kind !== 'ordering' && o.item.kind !== 'matching') expect([o.item.kind, o.said, o.agrees]).toEqual([o.item.kind, o.said, false]);
        }
      }),
      { numRuns: runs(100) },
    );
  });
  test('the request gives no key away', () => {
    const { text } = composeOpinion(ITEMS);
    expect(text).not.toMatch(/\*\s*$/m);
    for (const said of ['2000', 'Yeast eats sugar', 'Answer: false']) expect(text).not.toContain(said);
    expect(text).toContain('B) sugars from the flour');
  });
  test.each([
    ['as asked', '1. B | Yeast eats sugar.\n2. false | It slows it.\n3. 2000 | A kilogram is a thousand grams.'],
    [
      'with its words, in bold',
      '**1.** B) sugars from the flour — yeast eats sugar\n**2.** False. Salt slows it.\n**3.** 2000 g (a kilogram has a thousand grams)',
    ],
    ['as a table', '| No. | Answer | Reason |\n|---|---|---|\n| 1 | B | Sugar. |\n| 2 | False | Slows. |\n| 3 | 2,000 | Thousand. |'],
    ['with talk and reasons below', 'Here are my answers:\n\n1. Answer: b\nReason: sugar is food for yeast.\n\n2) FALSE\n   Salt slows it.\n\n3: 2000'],
    ['numbers with words', 'Question 1: B\nQuestion 2: false\nQuestion 3: 2000 grams'],
  ])('answers are understood %s', (_, reply) => {
    expect(opinionsOf(ITEMS, reply).map((o) => o.agrees)).toEqual([true, true, true]);
  });
  test('an item whose options stand otherwise since it was asked is not compared', () => {
    const { text, asked } = composeOpinion(ITEMS);
    const reply = '1. C | Fat feeds yeast.\n2. true | It does.';
    expect(opinionsOf(asked, reply, text).map((o) => o.agrees)).toEqual([false, false, null]);
    const [first, second] = asked as [Extract<Item, { kind: 'multiple-choice' }>, Item];
    const turned = { ...first, options: [...first.options].reverse() };
    expect(opinionsOf([turned, second], reply, text).map((o) => o.agrees)).toEqual([null, false]);
    // one that is gone takes no other's answer
    expect(opinionsOf([undefined, second], reply, text).map((o) => [o.item.id, o.said])).toEqual([[second.id, 'true']]);
    expect(opinionFindings(opinionsOf(asked, reply, text))).toMatchObject([
      { code: 'second-opinion', items: [first.id], message: 'A second opinion on the key B says “C”: Fat feeds yeast.' },
      { items: [second.id] },
    ]);
  });
  test('what disagrees comes with its reason; what was not answered is said', () => {
    const [one, two, three] = opinionsOf(ITEMS, '1. C | Fat feeds yeast.\n3. 200');
    expect(one).toMatchObject({ said: 'C', agrees: false, reason: 'Fat feeds yeast.' });
    expect(two).toMatchObject({ agrees: null });
    expect(three).toMatchObject({ agrees: false });
    expect(answersIn('nothing of the sort').size).toBe(0);
  });
});

describe('several drafts', () => {
  const statements = (keys: readonly boolean[]): string =>
    keys.map((k, n) => `${n + 1}. Dough number ${n + 1} rises in the oven.\nAnswer: ${String(k)}\n`).join('\n');
  const choices = (place: (n: number) => number): string =>
    Array.from(
      { length: 8 },
      (_, n) =>
        `${n + 1}. Which flour suits bread number ${n + 1}?\n${['rye', 'oat', 'rice', 'corn'].map((o, i) => `${'abcd'.charAt(i)}) ${o} ${n}${i === place(n) ? ' *' : ''}`).join('\n')}\n`,
    ).join('\n');
  test('the one-sided ones are told, the others are not', () => {
    const [allTrue, mixed, allB, spread] = compareDrafts(
      [statements([true, true, true, true, true, true]), statements([true, false, true, false, false, true]), choices(() => 1), choices((n) => n % 4)],
      'en',
    );
    const codes = (d: typeof allTrue): string[] => [...new Set(d?.figures.findings.map((f) => f.code))];
    expect(allTrue?.figures).toMatchObject({ kinds: [{ kind: 'true-false', count: 6 }], truths: { yes: 6, of: 6 }, places: [] });
    expect(codes(allTrue)).toContain('true-false-out-of-balance');
    expect(codes(mixed)).not.toContain('true-false-out-of-balance');
    expect(allB?.figures.places).toEqual([0, 8]);
    expect(codes(allB)).toContain('keys-in-one-place');
    expect(spread?.figures.places).toEqual([2, 2, 2, 2]);
    expect(codes(spread)).not.toContain('keys-in-one-place');
  });
  test('what the sources say is counted; a reply that holds no items is an empty draft', () => {
    const source = { id: 's', name: 'Notes', text: 'Yeast feeds on the sugars of the flour. Salt slows the yeast down.' };
    const [one, none] = compareDrafts(
      ['1. What does yeast feed on?\na) the sugars of the flour *\nb) the salt of the sea', 'I am sorry, I cannot help with that.'],
      'en',
      {},
      [source],
    );
    expect(one?.figures.evidence).toEqual({ supported: 1, contradicted: 0, silent: 0 });
    expect(none?.items).toEqual([]);
    expect(none?.figures).toMatchObject({ kinds: [], withoutKey: 0, findings: [] });
  });
});

test('a reply of another kind without a key is a whole item still: it can be shown, and is told to have no key', () => {
  const items = read('1. What feeds the yeast in a starter?\na) salt *\nb) sugars from the flour\nc) butter\n');
  // the reply to another request, still standing there
  const [p] = reworked(items, readDraft('1. B | Enzymes turn the starch of the flour into sugars.', { language: 'es' }).set).proposals;
  expect(p?.theirs).toMatchObject({ kind: 'short-answer', answers: [] });
  expect(keyProblem(p?.theirs as Item)).not.toBeNull();
});

describe('a rewording in another language, kept beside the original', () => {
  const [choice, cloze] = readDraft('1. What feeds the **yeast** at \\(a^2\\)?\na) salt\nb) flour *\n\n2. It lives at {=24} °C in a {warm} room.\n').set
    .items as [Item, Item];
  const set: QuizSet = { title: 'Starters', items: [choice, cloze] };
  const beside = (reply: string) => takeAsTranslations(reworked(set.items, readDraft(reply).set).proposals, 'es', 'assistant');
  test('its texts stand beside, and keys stay', () => {
    const { operation, left } = beside('1. ¿Qué alimenta la levadura a \\(a^2\\)?\na) sal\nb) harina *\n\n2. Vive a {=24} °C en una sala {cálida}.\n');
    expect(left).toEqual([]);
    const next = apply({ set, reviews: {} }, operation).document.set;
    expect(next.items).toBe(set.items);
    const [a, b] = inLanguage(next, 'es').items;
    expect(a).toMatchObject({ stem: '¿Qué alimenta la levadura a \\(a^2\\)?', options: [{ credit: 0 }, { content: 'harina', credit: 1 }] });
    expect(b?.stem).toBe(cloze.stem.replace('It lives at', 'Vive a').replace('in a', 'en una sala').replace(' room', ''));
    expect(progressOf(next, 'es').stale).toBe(0);
  });
  test('a text that lost a formula is left, and said, the others are taken; an item whose key changed is never taken', () => {
    const lost = beside('1. ¿Qué alimenta la levadura?\na) sal\nb) harina *\n\n2. Vive a {=24} °C en una sala {cálida}.\n');
    expect(lost.left.map((i) => i.id)).toEqual([choice.id]);
    expect(inLanguage(apply({ set, reviews: {} }, lost.operation).document.set, 'es').items[0]).toMatchObject({
      stem: choice.stem,
      options: [{ content: 'sal' }, { content: 'harina' }],
    });
    const proposals = reworked(set.items, readDraft('1. ¿Qué alimenta la levadura?\na) sal *\nb) harina\n').set).proposals;
    const { operation } = takeAsTranslations(
      proposals.map((p) => ({ ...p, keyChanged: true })),
      'es',
      '',
    );
    expect(apply({ set, reviews: {} }, operation).document.set.translations).toBeUndefined();
  });
});
