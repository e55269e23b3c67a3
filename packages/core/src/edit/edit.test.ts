/** Bulk changes, find and replace, filters, conversion and history: what they do, and that undo brings everything back. */
import { runs } from '../item/runs.js';
import fc from 'fast-check';
import { readDraft } from '../draft/read.js';
import { anyItem, anyRichSet } from '../item/arbitrary.js';
import { kinds } from '../item/kinds.js';
import { item as itemSchema, type Item, type Kind, type QuizSet } from '../item/model.js';
import { apply, emptyDocument, type Operation, type SetDocument, type SimpleOperation } from '../item/operations.js';
import { canonical } from '../item/sameness.js';
import { mark } from '../mark/mark.js';
import { rightResponse } from '../mark/answers.js';
import { findingsOf } from '../check/index.js';
import { type BulkChange, bulkChange, copyItems, leaveOut, markChecked, moveItems } from './bulk.js';
import { convert } from './convert.js';
import { filterItems, stateOf } from './filter.js';
import { differencesOf, documentBefore, goBack, sayOperation, type Step } from './history.js';
import { findIn, replaceIn } from './replace.js';
import { mapTexts } from '../item/texts.js';

const documents = fc
  .oneof(
    anyRichSet,
    fc.uniqueArray(anyItem, { minLength: 1, maxLength: 6, selector: (i) => i.id }).map((items) => ({ title: 'T', items })),
  )
  .map((set): SetDocument => ({ ...emptyDocument('T'), set }));
const all = (operations: readonly SimpleOperation[]): Operation => ({ type: 'all', operations: [...operations] });
const draft = (text: string): SetDocument => ({ ...emptyDocument('T'), set: readDraft(text).set });
const search = { find: '', capitals: false, words: false };

const changes: fc.Arbitrary<BulkChange> = fc.oneof(
  fc.integer({ min: 0, max: 9 }).map((points): BulkChange => ({ type: 'points', points })),
  fc.tuple(fc.constantFrom('required' as const, 'shuffle' as const), fc.constantFrom(true, false, null)).map(([type, value]): BulkChange => ({ type, value })),
  fc.constantFrom(30, null).map((seconds): BulkChange => ({ type: 'timeLimit', seconds })),
  fc.constantFrom('tags' as const, 'outcomes' as const).map((type): BulkChange => ({ type, add: ['new', ' new '], remove: ['bread'] })),
  fc
    .tuple(fc.constantFrom('correct' as const, 'general' as const), fc.constantFrom('Well done.', ''), fc.boolean())
    .map(([which, text, onlyWhereNone]): BulkChange => ({ type: 'feedback', which, text, onlyWhereNone })),
  fc
    .tuple(fc.constantFrom('stem' as const, 'option' as const, 'both' as const), fc.constantFrom('capital' as const, 'small' as const))
    .map(([of, how]): BulkChange => ({ type: 'capitals', of, how })),
  fc
    .tuple(fc.constantFrom('stem' as const, 'option' as const, 'both' as const), fc.constantFrom('add' as const, 'remove' as const))
    .map(([of, how]): BulkChange => ({ type: 'stops', of, how })),
  fc.constantFrom('es', null).map((language): BulkChange => ({ type: 'language', language })),
);

describe('bulk', () => {
  test('a change done twice is done once, gives valid items, and undo brings the set back', () => {
    fc.assert(
      fc.property(documents, changes, (document, change) => {
        const done = apply(document, all(bulkChange(document.set.items, change)));
        for (const i of done.document.set.items) expect(itemSchema.safeParse(i).success).toBe(true);
        expect(bulkChange(done.document.set.items, change)).toEqual([]);
        expect(apply(done.document, done.inverse).document).toEqual(document);
      }),
      { numRuns: 300 },
    );
  });
  test('capitals and full stops leave code, formulas, names with capitals inside and abbreviations as they are', () => {
    const set = draft('1. what is it\na) rye flour. *\nb) pH of the dough\nc) mRNA etc.\nd) salt').set;
    const run = (change: BulkChange): string[] => {
      const i = apply({ ...emptyDocument('T'), set }, all(bulkChange(set.items, change))).document.set.items[0];
      return i && 'options' in i ? [i.stem, ...i.options.map((o) => o.content)] : [];
    };
    expect(run({ type: 'capitals', of: 'both', how: 'capital' })).toEqual(['What is it', 'Rye flour.', 'pH of the dough', 'mRNA etc.', 'Salt']);
    expect(run({ type: 'stops', of: 'option', how: 'remove' })).toEqual(['what is it', 'rye flour', 'pH of the dough', 'mRNA etc.', 'salt']);
    expect(run({ type: 'stops', of: 'option', how: 'add' }).slice(1)).toEqual(['rye flour.', 'pH of the dough.', 'mRNA etc.', 'salt.']);
  });
  test('moved items stand together in their order, all others keep theirs', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 12 }), fc.nat(), fc.nat(), (n, mask, place) => {
        const items = Array.from({ length: n }, (_, i): Item => ({ id: `i${i}`, kind: 'essay', stem: `${i}`, points: 1 }));
        const ids = new Set(items.filter((_, i) => mask & (1 << i)).map((i) => i.id));
        const to = place % (n + 1);
        const after = apply({ ...emptyDocument('T'), set: { title: 'T', items } }, all(moveItems(items, ids, to))).document.set.items.map((i) => i.id);
        const moved = items.filter((i) => ids.has(i.id)).map((i) => i.id);
        expect(after.filter((id) => !ids.has(id))).toEqual(items.filter((i) => !ids.has(i.id)).map((i) => i.id));
        if (moved.length) expect(after.slice(after.indexOf(moved[0] ?? ''), after.indexOf(moved[0] ?? '') + moved.length)).toEqual(moved);
      }),
    );
  });
  test('copies have ids of their own and mark alike; items are left out and taken back in', () => {
    const document = draft('1. What is rye?\na) a grain *\nb) a fish\n\n2. True or false: Rye is a fish.\nAnswer: false');
    const [first] = document.set.items;
    if (!first) throw new Error('nothing was read');
    const copied = apply(document, all(copyItems(document.set.items, new Set([first.id])))).document;
    expect(copied.set.items).toHaveLength(3);
    const copy = copied.set.items[1] as Item;
    expect(copy.id).not.toBe(first.id);
    expect([first.label, copy.label]).toEqual(['1', String(document.set.items.length + 1)]);
    expect(mark(copy, rightResponse(copy)).state).toBe('right');
    expect(mark(copy, rightResponse(first)).state).toBe('unanswered');
    const out = apply(document, all(leaveOut(document, [first.id], true))).document;
    expect(stateOf(out, first)).toBe('left-out');
    expect(apply(out, all(leaveOut(out, [first.id], false))).document).toEqual(document);
    // what is left out stays so, and what has no key cannot be checked
    const open = { ...(document.set.items[1] as Item), id: 'open', kind: 'true-false', answer: null } as Item;
    const more = { ...out, set: { ...out.set, items: [...out.set.items, open] } };
    const many = markChecked(more, more.set.items, 'M', '2026-11-30T10:00:00Z');
    expect(many.faulty).toEqual([open]);
    const marked = apply(more, all(many.operations)).document;
    expect(marked.set.items.map((i) => stateOf(marked, i))).toEqual(['left-out', 'checked', 'error']);
    expect(markChecked(marked, marked.set.items, 'M', '').operations).toEqual([]);
  });
});

describe('find and replace', () => {
  const set: QuizSet = {
    title: 'T',
    items: [
      {
        id: 'a',
        kind: 'cloze',
        stem: 'Dough needs [[1]]. DOUGH &amp; doughnuts',
        points: 1,
        gaps: [{ id: '1', kind: 'text', points: 1, answers: [{ text: 'dough', credit: 1 }] }],
      },
      { id: 'b', kind: 'essay', stem: '<p>The <strong>dough</strong> &amp; the oven</p>', points: 1, feedback: { general: 'Dough rests.' } },
    ],
  };
  test('every place is found with its context, whole words only where asked, and markup is never touched', () => {
    expect(findIn(set, { ...search, find: 'dough' }).map((m) => [m.item, m.place])).toEqual([
      ['a', 'Question'],
      ['a', 'Question'],
      ['a', 'Question'],
      ['a', 'Accepted answer'],
      ['b', 'Question'],
      ['b', 'Feedback'],
    ]);
    expect(findIn(set, { ...search, find: 'dough', words: true })).toHaveLength(5);
    expect(findIn(set, { ...search, find: 'DOUGH', capitals: true })).toHaveLength(1);
    expect(findIn(set, { ...search, find: 'strong' })).toEqual([]);
    expect(findIn(set, { ...search, find: '  ' })).toEqual([]);
  });
  test('only the wanted matches are replaced, in the capitals of what they replace', () => {
    const by = { ...search, find: 'dough', words: true };
    const matches = findIn(set, by);
    const wanted = new Set(matches.filter((m) => m.place !== 'Accepted answer').map((m) => m.id));
    const { document } = apply({ ...emptyDocument('T'), set }, all(replaceIn(set, by, 'paste', wanted)));
    expect(document.set.items[0]).toMatchObject({ stem: 'Paste needs [[1]]. PASTE &amp; doughnuts', gaps: [{ answers: [{ text: 'dough' }] }] });
    expect(document.set.items[1]).toMatchObject({ stem: '<p>The <strong>paste</strong> &amp; the oven</p>', feedback: { general: 'Paste rests.' } });
  });
  test('what is put in is text: signs of markup are escaped in rich texts', () => {
    const by = { ...search, find: 'oven' };
    const { document } = apply({ ...emptyDocument('T'), set }, all(replaceIn(set, by, 'a < b & c', new Set(findIn(set, by).map((m) => m.id)))));
    expect(document.set.items[1]?.stem).toBe('<p>The <strong>dough</strong> &amp; the a &lt; b &amp; c</p>');
  });
  test('replacing nothing, or a word by itself, changes nothing', () => {
    fc.assert(
      fc.property(documents, fc.constantFrom('a', 'the', '<', '&', '.'), ({ set: s }, find) => {
        const by = { ...search, find, capitals: true };
        expect(replaceIn(s, by, 'x', new Set())).toEqual([]);
        const same = replaceIn(s, by, find, new Set(findIn(s, by).map((m) => m.id)));
        for (const i of apply({ ...emptyDocument('T'), set: s }, all(same)).document.set.items)
          expect(canonical(i)).toEqual(canonical(s.items.find((x) => x.id === i.id) as Item));
      }),
    );
  });
});

test('filters: every condition has to hold', () => {
  const document = draft(
    '1. What is rye?\na) a grain *\nb) a fish\nTags: grains\n\n2. True or false: Rye is not a fish.\nAnswer: true\n\n3. What is spelt?\na) a grain\nb) a fish\nTags: grains',
  );
  const [a, b, c] = document.set.items.map((i) => i.id);
  const findings = findingsOf(document.set);
  const ids = (f: Parameters<typeof filterItems>[1]): string[] => filterItems(document, f, findings).map((i) => i.id);
  expect(ids({})).toEqual([a, b, c]);
  expect(ids({ state: 'error' })).toEqual([c]);
  expect(ids({ kind: 'true-false' })).toEqual([b]);
  expect(ids({ tag: 'grains', words: 'GRAIN rye' })).toEqual([a]);
  expect(ids({ finding: 'key-missing' })).toEqual([c]);
  expect(ids({ finding: 'any', kind: 'true-false' })).toEqual([]);
});

describe('conversion', () => {
  const names = Object.keys(kinds) as Kind[];
  test('any item becomes any kind: valid, with its id, words and common fields', () => {
    fc.assert(
      fc.property(anyItem, fc.constantFrom(...names), (item, to) => {
        const { item: made, lost } = convert(item, to, 'en');
        expect(itemSchema.safeParse(made).success).toBe(true);
        expect(made.kind).toBe(to);
        expect([made.id, made.tags, made.outcomes, made.hints, made.section, made.timeLimit]).toEqual([
          item.id,
          item.tags,
          item.outcomes,
          item.hints,
          item.section,
          item.timeLimit,
        ]);
        expect(Object.values(made).every((v) => v !== undefined)).toBe(true);
        if (to === item.kind) expect([made, lost]).toEqual([item, []]);
      }),
      { numRuns: runs(600) },
    );
  });
  test('where nothing is lost and nothing needed, the way back gives the same item', () => {
    let tried = 0;
    fc.assert(
      fc.property(anyItem, fc.constantFrom(...names), (item, to) => {
        const there = convert(item, to, 'en');
        const back = convert(there.item, item.kind, 'en');
        if (there.lost.length || there.needed.length || back.lost.length || back.needed.length || item.kind === to) return;
        // an item for which nobody typed an answer may become anything
        if (item.kind === 'essay' || item.kind === 'information' || item.kind === 'ordering' || 'match' in item) return;
        tried++;
        const fields = (i: Item): unknown => {
          const { scoring: _s, stem: _stem, ...rest } = canonical(i);
          return rest;
        };
        expect(fields(back.item)).toEqual(fields(item));
      }),
      { numRuns: runs(1500) },
    );
    expect(tried).toBeGreaterThan(runs(1500) / 60);
  });
  const one = (text: string): Item => readDraft(text).set.items[0] as Item;
  test.each<[string, string, Kind, Partial<Record<string, unknown>>, string[], string[]]>([
    ['several keys', '1. Which are grains?\na) rye *\nb) cod\nc) oats *', 'multiple-choice', {}, ['that C is a key too'], []],
    ['choice to typed', '1. What is rye?\na) a grain *\nb) a fish', 'short-answer', { answers: [{ text: 'a grain', credit: 1 }] }, ['option B'], []],
    ['number to choice', '1. How many grams are a kilo?\nAnswer: 1000 g', 'multiple-choice', {}, ['the unit g'], ['wrong options']],
    ['choice to number', '1. How many?\na) 3 *\nb) 4', 'numeric', { answers: [{ min: 3, max: 3, credit: 1 }] }, ['option B'], []],
    ['words to number', '1. What is it?\na) rye *\nb) cod', 'numeric', { answers: [] }, ['option B', 'an answer that is no number'], ['the number']],
    ['choice to gap', '1. Rye is a ____ .\na) grain *\nb) fish', 'cloze', { stem: 'Rye is a [[1]] .' }, [], []],
    ['true and false as options', '1. Is rye a grain?\na) True *\nb) False', 'true-false', { answer: true }, [], []],
    ['steps to pairs', '1. Put in order.\n1) mix\n2) knead\n3) bake\nKind: ordering', 'matching', {}, [], []],
    ['choice to essay', '1. What is rye?\na) a grain *\nb) a fish', 'essay', { modelAnswer: 'a grain' }, ['option B', 'that it marks itself'], []],
  ])('%s', (_, text, to, has, lost, needed) => {
    const c = convert(one(text), to, 'en');
    expect(c.item).toMatchObject(has);
    expect([c.lost, c.needed]).toEqual([lost, needed]);
  });
});

describe('history', () => {
  test('the set before any number of steps is the set as it was, and going back gives it again, as one step that can be undone', () => {
    fc.assert(
      fc.property(documents, fc.array(changes, { minLength: 1, maxLength: 5 }), fc.nat(), (start, list, n) => {
        const states = [start];
        const steps: Step[] = [];
        for (const change of list) {
          const now = states.at(-1) as SetDocument;
          const operation = all(bulkChange(now.set.items, change));
          const done = apply(now, operation);
          states.push(done.document);
          steps.unshift({ version: steps.length + 1, operation, inverse: done.inverse });
        }
        const back = n % (steps.length + 1);
        const now = states.at(-1) as SetDocument;
        const then = states[states.length - 1 - back] as SetDocument;
        expect(documentBefore(now, steps.slice(0, back))).toEqual(then);
        const gone = apply(now, goBack(steps.slice(0, back), 'Back'));
        expect(gone.document).toEqual(then);
        expect(apply(gone.document, gone.inverse).document).toEqual(now);
        expect(differencesOf(then, then)).toEqual([]);
      }),
      { numRuns: 150 },
    );
  });
  test('differences name what was added, changed, moved and is gone', () => {
    const before = draft('1. A?\na) x *\nb) y\n\n2. B?\na) x *\nb) y\n\n3. C?\na) x *\nb) y\n\n4. D?\na) x *\nb) y');
    const [a, b, c, d] = before.set.items as [Item, Item, Item, Item];
    const fresh: Item = { id: 'new', kind: 'essay', stem: 'N', points: 1 };
    const after: SetDocument = { ...before, set: { ...before.set, items: [d, a, { ...b, points: 3, stem: 'B!' }, fresh] } };
    expect(differencesOf(before, after).map((x) => [x.id, x.what, x.fields])).toEqual([
      [d.id, 'moved', []],
      [b.id, 'changed', ['stem', 'points']],
      ['new', 'added', []],
      [c.id, 'gone', []],
    ]);
    expect(sayOperation({ type: 'change', id: b.id, set: { stem: 'B!', points: 3 } }, before.set.items)).toBe('Changed the question, points of item 2');
  });
});

test('walking the texts of an item changes nothing by itself', () => {
  fc.assert(
    fc.property(anyItem, (i) => void expect(mapTexts(i, (t) => t)).toEqual(i)),
    { numRuns: 300 },
  );
});
