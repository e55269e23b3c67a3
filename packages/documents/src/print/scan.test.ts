/**
 * From the printed sheet to scores: the PDF as it is written, drawn by poppler, filled in and photographed by computation, its code
 * read, and what comes out compared with what was marked.
 */
import { jest } from '@jest/globals';
import { type Item, mark as markOf, type QuizSet, type Response } from '@zakuska/core';
import { knownSheets, peopleOf, readSheet, type SettledPage } from '@zakuska/core/scan';
import { anyShot, circlesFor, mark, numbersFrom, type Paper, photographed, runs } from '@zakuska/core/testing';
import { drawnPages, popplerIsThere } from '../testing/poppler.js';
import { pdfFormats } from './index.js';

jest.setTimeout(600_000);
const options = (n: number, right: number[]): { id: string; content: string; credit: number }[] =>
  Array.from({ length: n }, (_, i) => ({ id: `o${i}`, content: `answer ${i}`, credit: right.includes(i) ? 1 / right.length : 0 }));
const choice = (i: number): Item => ({ id: `c${i}`, kind: 'multiple-choice', stem: `Choice ${i}?`, points: 1, options: options(3 + (i % 3), [i % 3]) }) as Item;
const set: QuizSet = {
  title: 'Bread, on paper',
  language: 'en',
  items: [
    ...Array.from({ length: 20 }, (_, i) => choice(i)),
    { id: 'r', kind: 'multiple-response', stem: 'Which two?', points: 2, scoring: 'all', options: options(4, [1, 2]) } as Item,
    ...Array.from({ length: 6 }, (_, i): Item => ({ id: `t${i}`, kind: 'true-false', stem: `So ${i}?`, points: 1, answer: i % 2 === 0 })),
    { id: 'n', kind: 'numeric', stem: 'How many?', points: 2, answers: [{ min: 12.5, max: 12.5, credit: 1 }] } as Item,
    {
      id: 'm',
      kind: 'matching',
      stem: 'Match.',
      points: 3,
      pairs: ['rye', 'oat', 'spelt'].map((left, i) => ({ left, right: `right ${i}` })),
      extraRights: ['right 9'],
    } as Item,
    { id: 'o', kind: 'ordering', stem: 'Order.', points: 1, sequence: ['knead', 'proof', 'shape', 'bake'] } as Item,
    {
      id: 'g',
      kind: 'cloze',
      stem: 'Bake at [[b]] in a [[a]] oven.',
      points: 2,
      gaps: [
        { id: 'a', kind: 'choice', options: options(3, [1]) },
        { id: 'b', kind: 'number', answers: [{ min: 220, max: 220, credit: 1 }] },
      ],
    } as unknown as Item,
    { id: 'e', kind: 'essay', stem: 'Why?', points: 4 } as Item,
  ],
};
const PEOPLE = runs(12);
const document = { set, reviews: {} } as unknown as Parameters<typeof knownSheets>[0];

(popplerIsThere() ? test : test.skip)(
  'sheets printed, filled in and photographed, thirty and more of them by command: everybody gets the points of what they marked',
  () => {
    const known = knownSheets(document);
    const [[print, { sheet, set: printed }]] = [...known] as [[string, ReturnType<typeof knownSheets> extends Map<string, infer K> ? K : never]];
    const [, , , , answerSheet] = pdfFormats;
    const papers = drawnPages(answerSheet.write(set).bytes, 200);
    expect(papers).toHaveLength(sheet.pages.length);
    const settled: SettledPage[] = [];
    const meant = new Map<string, Map<string, string>>();
    let asked = 0;
    let fields = 0;
    for (let n = 0; n < PEOPLE; n++) {
      const roll = numbersFrom(900 + n);
      const name = `Person ${n}`;
      const answers = new Map<string, string>();
      meant.set(name, answers);
      sheet.pages.forEach((page, p) => {
        const paper = { ...(papers[p] as Paper), data: (papers[p] as Paper).data.slice() };
        for (const field of page.fields) {
          const value =
            field.is === 'grid'
              ? roll() < 0.5
                ? field.item === 'n'
                  ? '12.5'
                  : '220'
                : String(Math.floor(roll() * 999))
              : field.is === 'bubbles'
                ? field.bubbles[Math.floor(roll() * field.bubbles.length)]?.value
                : '';
          if (!value || roll() < 0.05) continue;
          answers.set(`${field.item} ${field.part ?? ''}`, value);
          for (const at of circlesFor(field, value)) mark(paper, at, 'filled', roll);
        }
        const r = readSheet(photographed(paper, { ...anyShot(roll), fine: 4.5 + 2 * roll() }), known);
        if (r.is === 'not') throw new Error(`${name}: ${r.message}`);
        expect([r.print, r.page]).toEqual([print, p + 1]);
        fields += r.fields.length;
        settled.push({
          print,
          page: r.page,
          name,
          fields: r.fields.map(({ field, given, doubt }) => {
            const said = answers.get(`${field.item} ${field.part ?? ''}`);
            if (doubt) asked++;
            // who is asked says what was marked
            return { item: field.item, ...(field.part !== undefined && { part: field.part }), given: doubt ? (said ? [said] : []) : given };
          }),
        });
      });
    }
    const [group] = peopleOf(settled, known);
    expect(group?.people).toHaveLength(PEOPLE);
    expect(group?.notes).toEqual(['Question 32 has no place on the sheet: it is no part of these results.']);
    expect(group?.items.map((i) => i.id)).toEqual(set.items.filter((i) => i.id !== 'e').map((i) => i.id));
    for (const { name, responses } of group?.people ?? []) {
      const said = meant.get(name) ?? new Map<string, string>();
      const points = (item: Item, given: Response | null): number => markOf(item, given).points;
      for (const item of printed.items)
        if (item.kind !== 'essay')
          expect([name, item.id, points(item, responses[item.id] ?? null)]).toEqual([name, item.id, points(item, responseMeant(item, said))]);
    }
    expect(asked / fields).toBeLessThan(0.04);
  },
);

/** What answers of a sheet mean, said by hand for the items above. */
function responseMeant(item: Item, said: ReadonlyMap<string, string>): Response | null {
  const all = [...said].filter(([k]) => k.startsWith(`${item.id} `));
  if (!all.length) return null;
  const of = (part: string): string | undefined => said.get(`${item.id} ${part}`);
  const at = (letter = ''): number => 'ABCDEF'.indexOf(letter);
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return { options: [`o${at(of(''))}`] };
    case 'true-false':
      return { truth: of('') === 'true' };
    case 'matching': {
      // as the paper letters them: those at odd places first (displayOrder)
      const lettered = ['right 1', 'right 9', 'right 0', 'right 2'];
      return { pairs: [0, 1, 2].map((i) => (of(String(i)) ? (lettered[at(of(String(i)))] ?? null) : null)) };
    }
    case 'ordering': {
      const printed = ['proof', 'bake', 'knead', 'shape'];
      const order = ['1', '2', '3', '4'].map((place) => {
        const there = printed.filter((_, row) => of(String(row)) === place);
        return there.length === 1 ? (there[0] ?? '') : '';
      });
      return { order };
    }
    case 'cloze':
      return { gaps: { ...(of('b') && { b: of('b') ?? '' }), ...(of('a') && { a: `o${at(of('a'))}` }) } };
    default:
      return { text: of('') ?? '' };
  }
}

test('pages of one person go together; what is missing or there twice is told', () => {
  const known = knownSheets(document);
  const [print = ''] = [...known.keys()];
  const page = (name: string, given: string[]): SettledPage => ({ print, page: 1, name, fields: [{ item: 'c0', given }] });
  const [one] = peopleOf([page('Ada', ['A']), page('Otto', []), page('Ada', ['B'])], known);
  expect(one?.people).toEqual([
    { name: 'Ada', responses: { c0: { options: ['o1'] } } },
    { name: 'Otto', responses: {} },
  ]);
  expect(one?.notes[0]).toBe('There are 2 sheets of Ada: the last one counts.');
  expect(peopleOf([{ ...page('Ada', []), print: 'other' }], known)).toEqual([]);
});

test('a set whose items were put in another order has another sheet, and so has each version', () => {
  const [print] = [...knownSheets(document).keys()];
  const turned = { ...document, set: { ...set, items: [...set.items].reverse() } };
  expect([...knownSheets(turned).keys()]).not.toContain(print);
  const drawn = {
    ...document,
    drawn: {
      plan: { seed: 1, shuffle: { items: false, options: false } },
      versions: [
        { name: 'A', items: ['c1', 'c0'] },
        { name: 'B', items: ['c2'] },
      ],
    },
  } as unknown as typeof document;
  expect([...knownSheets(drawn).values()].map((k) => k.version)).toEqual(['', 'A', 'B']);
});
