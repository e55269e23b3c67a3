/** What is typed into long drafts, read near by: it must be what the whole reading gives, and say so where it cannot be. */
import { readFileSync } from 'node:fs';
import { isDeepStrictEqual } from 'node:util';
import { jest } from '@jest/globals';
import fc from 'fast-check';
import { runs, sampled } from '../item/runs.js';
import { withoutIds } from './generate/withoutIds.js';
import { TypedDraft } from './near.js';
import { DraftReader, readDraft, type DraftResult, type Role } from './read.js';

/** Questions of one shape, as many as asked for. */
const many = (n: number, question: (i: number) => string): string => Array.from({ length: n }, (_, i) => question(i + 1)).join('\n\n');
const starred = (i: number): string => `${i}. Which loaf bears the number ${i} here?\na) the rye loaf of day ${i}\nb) the spelt loaf *\nc) none of them`;
const LETTERS = 'abc';
const shapes: Record<string, string> = {
  'keys at the options': many(50, starred),
  'a line with the key': many(
    120,
    (i) => `${i}) What is baked on day ${i}?\nA. rye ${i}\nB. oats ${i}\nC. wheat\nAnswer: ${'ABC'[i % 3]}\nFeedback: because of day ${i}.`,
  ),
  'a list of keys below': `${many(50, (i) => `${i}. What is baked on day ${i}?\na) rye ${i}\nb) oats ${i}\nc) wheat`)}\n\nAnswer key\n${Array.from({ length: 50 }, (_, i) => `${i + 1}${LETTERS[i % 3]}`).join(', ')}`,
  'no numbers': many(50, (i) => `What is baked on day ${i} of the month?\n- rye ${i} *\n- oats ${i}\n- wheat`),
  'parts with headings': ['Breads', 'Cakes', 'Pastries']
    .map(
      (part, p) =>
        `Part ${p + 1}: ${part}\nDecide which is true and which is false.\n\n${many(30, (i) => `${i}. Loaf ${i} of ${part} rises twice. (${i % 3 ? 'T' : 'F'})`)}`,
    )
    .join('\n\n'),
};
/** A reading without what says why, which may count lines of the whole draft, and without a fix that moves all keys of a list: it waits. */
const shownOf = (r: DraftResult | null): unknown =>
  r &&
  withoutIds({
    ...r,
    roles: r.roles.map((role) => ({ ...role, reason: '' })),
    diagnostics: r.diagnostics.map(({ fixes, ...d }) => ({ ...d, ...(fixes && d.code !== 'key-list' && { fixes }) })),
  });

/** Types letters at a place, one after the other, and gives how often the near reading was had, and was that of the whole. */
function type(draft: string, at: number, letters: string, reader = new TypedDraft(1)): { near: number; same: number; other: string[] } {
  let text = draft;
  const told = { near: 0, same: 0, other: [] as string[] };
  reader.read(text);
  [...letters].forEach((letter, i) => {
    text = text.slice(0, at + i) + letter + text.slice(at + i);
    const near = reader.near(text);
    if (!near) return void reader.read(text);
    told.near++;
    if (isDeepStrictEqual(shownOf(near), shownOf(readDraft(text)))) told.same++;
    else told.other.push(`${text.slice(Math.max(0, at - 20), at)}|${letters.slice(0, i + 1)}|`);
  });
  return told;
}

describe.each(sampled(Object.entries(shapes), 0.4))('%s', (_, draft) => {
  // places of words, far from the first and the last question
  const places = [0.2, 0.45, 0.71]
    .map((share) => draft.indexOf(' day ', Math.floor(draft.length * share)))
    .map((at, i) => (at < 0 ? draft.indexOf('rises', 500 * (i + 1)) : at));
  test.each(sampled(places, 0.3))('words at %i are read near by, as they are read in the whole', (at) => {
    expect(type(draft, at, ' yeast and')).toEqual({ near: 10, same: 10, other: [] });
  });
});

describe('in a draft with keys at the options', () => {
  const draft = shapes['keys at the options'] as string;
  const at = (words: string): number => draft.indexOf(words);

  test('a new option, a new question and one that is taken out again', () => {
    // a letter alone could be any line: of that the whole draft knows more
    const option = type(draft, at('\n\n26. '), '\nd) brown bread');
    expect(option.near).toBe(15);
    expect(option.other.length).toBeLessThanOrEqual(1);
    expect(type(draft, at('\n\n26. ') + 1, '\n25. Another?\na) yes *\nb) no\n')).toMatchObject({ other: [] });
    const reader = new TypedDraft(1);
    reader.read(draft);
    const [from, to] = [at('26. '), at('27. ')];
    const without = draft.slice(0, from) + draft.slice(to);
    expect(shownOf(reader.near(without))).toEqual(shownOf(readDraft(without)));
  });

  test('only the item that is typed in gets another id, and what is read whole afterwards keeps the others', () => {
    const reader = new TypedDraft(1);
    const ids = (r: DraftResult | null): string[] => r?.set.items.map((i) => i.id) ?? [];
    const before = ids(reader.read(draft));
    const place = at(' 26 here?');
    const typed = `${draft.slice(0, place)} twenty-six${draft.slice(place)}`;
    const near = ids(reader.near(typed));
    expect(near.filter((id, i) => id !== before[i])).toHaveLength(1);
    expect(ids(reader.read(typed)).filter((id, i) => id !== before[i])).toHaveLength(1);
  });

  test('where the caret stands is read before anything is typed there', () => {
    const reader = new TypedDraft(1);
    reader.read(draft);
    const read = jest.spyOn(DraftReader.prototype, 'read');
    const place = at(' 26 here?');
    reader.prepare(draft.slice(0, place).split('\n').length - 1);
    reader.near(`${draft.slice(0, place)}x${draft.slice(place)}`);
    // once as it was, once as it is
    expect(read).toHaveBeenCalledTimes(2);
    read.mockClear();
    reader.near(`${draft.slice(0, place)}xy${draft.slice(place)}`);
    expect(read).toHaveBeenCalledTimes(1);
    // no line of the draft
    reader.prepare(100_000);
    read.mockRestore();
  });

  test('what means something further off is left to the whole reading', () => {
    const reader = new TypedDraft(1);
    const near = (text: string): DraftResult | null => (reader.read(draft), reader.near(text));
    const insert = (place: number, words: string): string => draft.slice(0, place) + words + draft.slice(place);
    // two places, too much, the same again
    expect(near(insert(at('9. '), 'x').replace('48. Which', '48. What'))).toBeNull();
    expect(near(insert(at('9. '), 'word '.repeat(500)))).toBeNull();
    expect(near(draft)).toBeNull();
    // asked for in another way
    reader.read(draft);
    expect(reader.near(insert(at('9. '), 'x'), { language: 'de' })).toBeNull();
    expect(reader.near(insert(at('9. '), 'x'), { overrides: new Map([[3, 'aside']]) })).toBeNull();
    // short drafts are read whole
    const short = new TypedDraft();
    short.read(draft.slice(0, 2000));
    expect(short.near(draft.slice(0, 1999))).toBeNull();
  });

  test('what a person said of lines moves with them', () => {
    const reader = new TypedDraft(1);
    const lineOf = (text: string, words: string): number => text.slice(0, text.indexOf(words)).split('\n').length - 1;
    const said = (text: string): Map<number, Role> => new Map([9, 27, 48].map((n) => [lineOf(text, `${n}. `) + 3, 'aside']));
    reader.read(draft, { overrides: said(draft) });
    const typed = draft.replace('26. Which', '26. Now:\nwhich');
    const near = reader.near(typed, { overrides: said(typed) });
    expect(shownOf(near)).toEqual(shownOf(readDraft(typed, { overrides: said(typed) })));
    expect(near?.roles[lineOf(typed, '27. ') + 3]?.role).toBe('aside');
  });
});

test('whatever is typed anywhere, places lie in the text, and reading it whole gives what a full reading gives', () => {
  const own = readFileSync(new URL('./drafts.txt', import.meta.url), 'utf8')
    .split(/^=== .*\n/m)
    .slice(1)
    .map((c) => c.split(/^--- read as\n/m)[0] ?? '');
  const edit = fc.record({
    at: fc.nat(),
    cut: fc.nat(30),
    insert: fc.constantFrom('', 'x', ' word', '\n', '\n\n', '?', ' *', 'b) ', '7. ', 'Answer: b', '**', '```\n', '\nPart C\n', '\nAnswer key\n1. b\n'),
  });
  fc.assert(
    fc.property(fc.array(fc.constantFrom(...own), { minLength: 3, maxLength: 5 }), fc.array(edit, { minLength: 1, maxLength: 5 }), (parts, edits) => {
      const reader = new TypedDraft(1);
      let text = parts.join('\n\n');
      reader.read(text);
      for (const { at, cut, insert } of edits) {
        const from = at % (text.length + 1);
        text = text.slice(0, from) + insert + text.slice(from + (insert ? 0 : cut));
        const near = reader.near(text);
        if (!near) {
          expect(withoutIds(reader.read(text))).toEqual(withoutIds(readDraft(text)));
          continue;
        }
        expect(near.roles).toHaveLength(text.split('\n').length);
        const lines = text.split('\n').length;
        const ids = new Set(near.set.items.map((i) => i.id));
        expect(ids.size).toBe(near.set.items.length);
        const spots = [
          ...near.set.items.map((i) => i.source),
          ...near.diagnostics,
          ...near.asides,
          ...near.diagnostics.flatMap((d) => d.fixes?.flatMap((f) => f.edits) ?? []),
        ];
        for (const s of spots) expect(s && s.from >= 0 && s.from <= s.to && s.to <= text.length).toBe(true);
        for (const d of near.diagnostics) {
          expect(d.line).toBe(text.slice(0, d.from).split('\n').length);
          expect(d.item === undefined || ids.has(d.item)).toBe(true);
          for (const r of d.fixes?.flatMap((f) => f.roles ?? []) ?? []) expect(r.line < lines).toBe(true);
        }
        for (const [i, item] of near.set.items.entries()) expect((item.source?.from ?? 0) >= (near.set.items[i - 1]?.source?.to ?? 0)).toBe(true);
      }
      expect(withoutIds(reader.read(text))).toEqual(withoutIds(readDraft(text)));
    }),
    { numRuns: runs(60) },
  );
});
