/** The three promises of the reader, on our drafts, on the corpus and on mutants of both. */
import { readFileSync, readdirSync } from 'node:fs';
import { jest } from '@jest/globals';
import { runs, sampled } from '../item/runs.js';
import fc from 'fast-check';
import { keyProblem } from '../item/kinds.js';
import type { Diagnostic, Fix, Item } from '../item/model.js';
import { ADVICE } from './items/fixes.js';
import { Ground } from './search/ground.js';
import { withoutIds } from './generate/withoutIds.js';
import { DraftReader, readDraft, type DraftResult, type Role } from './read.js';

const corpus = new URL('../../corpus/', import.meta.url);
const drafts = [
  ...readdirSync(corpus)
    .filter((f) => f.endsWith('.txt'))
    .map((f) => readFileSync(new URL(f, corpus), 'utf8')),
  ...readFileSync(new URL('./drafts.txt', import.meta.url), 'utf8')
    .split(/^=== .*\n/m)
    .slice(1)
    .map((c) => c.split(/^--- read as\n/m)[0] ?? ''),
];

/** Drop, double, swap and cut lines, put signs in: what happens to text on its way. */
const mutation = fc.record({ kind: fc.nat(6), a: fc.nat(), b: fc.nat(), sign: fc.constantFrom(...'*()[]{}|_#~=:1aX\t\u00a0\u200b`<&\\$→✓') });
const mutant = fc.tuple(fc.constantFrom(...drafts), fc.array(mutation, { maxLength: 7 })).map(([draft, changes]) => {
  let lines = draft.split('\n');
  for (const { kind, a, b, sign } of changes) {
    const [i, j] = [a % lines.length, b % lines.length];
    const line = lines[i] ?? '';
    const cut = b % (line.length + 1);
    if (kind === 0) lines = lines.filter((_, k) => k !== i);
    else if (kind === 1) lines.splice(i, 0, lines[j] ?? '');
    else if (kind === 2) [lines[i], lines[j]] = [lines[j] ?? '', line];
    else if (kind === 3) lines[i] = line.slice(0, cut);
    else if (kind === 4) lines[i] = line.slice(0, cut) + sign + line.slice(cut);
    else if (kind === 5) lines[i] = line.slice(0, cut) + line.slice(cut + 1);
    else lines[i] = `${line} ${lines[j] ?? ''}`;
    if (!lines.length) lines = [''];
  }
  return lines.join('\n');
});

test('every character that is not blank is a field, a mark or set aside', () => {
  fc.assert(
    fc.property(mutant, (draft) => {
      const reader = new DraftReader();
      const { asides } = reader.read(draft);
      const spans = reader.spans();
      let at = 0;
      for (const s of spans) {
        expect(s.from).toBeGreaterThanOrEqual(at);
        // between spans there is nothing but blanks
        expect(draft.slice(at, s.from).trim()).toBe('');
        at = s.to;
        if (s.as === 'mark') expect((draft.slice(s.from, s.to).match(/[\p{L}\p{N}]/gu) ?? []).length).toBeLessThanOrEqual(44);
        if (s.as === 'left over') expect(asides.some((a) => a.from <= s.from && a.to >= s.to)).toBe(true);
      }
      expect(draft.slice(at).trim()).toBe('');
    }),
    { numRuns: runs(100) },
  );
});

test('what a field says stands in the draft', () => {
  const squeezed = (s: string): string =>
    s
      .replace(/<\/?(?:strong|em|b|i|u|mark|p|br|pre|code|sub|sup|table|tbody|tr|td|img|details|summary)(?:\s[^<>]*)?\/?>|&[a-z]+;|\[\[\d+\]\]|\\[()]/g, '')
      .replace(/[^\p{L}\p{N}]/gu, '');
  const texts = (i: Item): string[] => [
    i.stem,
    ...('options' in i ? i.options.map((o) => o.content) : []),
    ...(i.kind === 'ordering' ? i.sequence : []),
    ...(i.kind === 'matching' ? i.pairs.flatMap((p) => [p.left, p.right]) : []),
  ];
  fc.assert(
    fc.property(mutant, (draft) => {
      const seen = draft.replace(/[\u00ad\u200b-\u200f]/g, '');
      // a tag that is never closed stands there as it is typed
      const all = `${squeezed(seen)} ${seen.replace(/[^\p{L}\p{N}]/gu, '')}`;
      // line by line, because lines set aside may stand between
      for (const item of readDraft(draft).set.items)
        for (const t of texts(item))
          for (const piece of t.split(/<\/p>|<br\/>|\n/)) for (const word of piece.split(/\s+/)) expect(all).toContain(squeezed(word));
    }),
    { numRuns: runs(100) },
  );
});

test('without a mark there is no key', () => {
  const word = fc.constantFrom('flour', 'water', 'salt', 'yeast', 'oven', 'crumb', 'crust', 'dough');
  const plain = fc.array(
    fc.tuple(fc.array(word, { minLength: 2, maxLength: 6 }), fc.uniqueArray(word, { minLength: 2, maxLength: 5 }), fc.constantFrom('a) ', 'A. ', '- ', '(a) ')),
    { minLength: 1, maxLength: 8 },
  );
  fc.assert(
    fc.property(plain, (questions) => {
      const draft = questions
        .map(([stem, options, label], i) =>
          [`${i + 1}. ${stem.join(' ')}?`, ...options.map((o, k) => label.replace(/a/i, (c) => String.fromCharCode(c.charCodeAt(0) + k)) + o)].join('\n'),
        )
        .join('\n\n');
      const { set, diagnostics } = readDraft(draft);
      expect(set.items).toHaveLength(questions.length);
      for (const i of set.items) {
        expect(keyProblem(i)).not.toBeNull();
        expect(diagnostics.some((d) => d.item === i.id && d.severity === 'error')).toBe(true);
      }
    }),
    { numRuns: runs(100) },
  );
});

test('an item without a complete key always says so', () => {
  fc.assert(
    fc.property(mutant, (draft) => {
      const { set, diagnostics, roles } = readDraft(draft);
      expect(roles).toHaveLength(draft.split('\n').length);
      for (const i of set.items) if (keyProblem(i)) expect(diagnostics.some((d) => d.item === i.id && d.severity === 'error')).toBe(true);
    }),
    { numRuns: runs(100) },
  );
});

test('reading on after each edit gives what a full reading gives', () => {
  const edit = fc.record({
    at: fc.nat(),
    cut: fc.nat(40),
    insert: fc.constantFrom('', 'x', '\n', '\n\n', ' *', 'b) ', '7. ', 'Answer: b', '**', '\nAnswer key\n1. b\n'),
  });
  fc.assert(
    fc.property(mutant, fc.array(edit, { minLength: 1, maxLength: 6 }), (draft, edits) => {
      const reader = new DraftReader();
      let text = draft;
      reader.read(text);
      for (const { at, cut, insert } of edits) {
        const from = at % (text.length + 1);
        text = text.slice(0, from) + insert + text.slice(from + (insert ? 0 : cut));
        expect(withoutIds(reader.read(text))).toEqual(withoutIds(readDraft(text)));
      }
    }),
    { numRuns: runs(50) },
  );
});

test('an edit that changes what the labels count for changes the lines before it, too', () => {
  const reader = new DraftReader();
  const draft =
    'Here you go! 🎉\n\n🅱️ Lisbon ✅\n🅰 *️ Porto\n1️⃣ What is the capital of Portugal?\n🅲 Faro\n\n2️⃣ Which river flows through Lisbon?\n🅰️ Tagus ✅\n🅱️ Douro\n🅲 Minho\n';
  reader.read(draft);
  const edited = draft.replace('ough Lisbon?\n', '');
  expect(withoutIds(reader.read(edited))).toEqual(withoutIds(readDraft(edited)));
});

test('in long drafts, too, with corrections among the edits', () => {
  const edit = fc.record({
    at: fc.nat(),
    cut: fc.nat(3),
    insert: fc.constantFrom('', 'x', '\n', '?', ' *', 'c) ', 'Answer: b', '\n\n4. Another?\n'),
    role: fc.option(fc.constantFrom('question', 'option', 'key', 'aside', 'more'), { freq: 8, nil: undefined }),
  });
  fc.assert(
    fc.property(fc.array(fc.constantFrom(...drafts), { minLength: 2, maxLength: 4 }), fc.array(edit, { minLength: 2, maxLength: 6 }), (parts, edits) => {
      const reader = new DraftReader();
      let text = parts.join('\n\n');
      const overrides = new Map<number, Role>();
      reader.read(text);
      for (const { at, cut, insert, role } of edits) {
        const from = at % (text.length + 1);
        if (role) overrides.set(text.slice(0, from).split('\n').length - 1, role);
        else text = text.slice(0, from) + insert + text.slice(from + (insert ? 0 : cut));
        expect(withoutIds(reader.read(text, { overrides }))).toEqual(withoutIds(readDraft(text, { overrides })));
      }
    }),
    { numRuns: runs(30) },
  );
});

test('an edit in a long draft makes nothing anew but the lines near it', () => {
  const item = (n: number): string => `${n}. Which of these is thing ${n}?\na) one of ${n}\nb) another of ${n} *\nc) a third of ${n}\nFeedback: it is ${n}.\n`;
  const draft = Array.from({ length: 120 }, (_, i) => item(i + 1)).join('\n');
  const reader = new DraftReader();
  const before = reader.read(draft);
  const looked = jest.spyOn(Ground.prototype, 'toldAt');
  const after = reader.read(draft.replace('thing 60?', 'thing 60 here?'));
  // two searches, a few lines each
  expect(looked.mock.calls.length).toBeLessThan(40);
  looked.mockRestore();
  expect(after.set.items.filter((i, n) => i.id !== before.set.items[n]?.id)).toHaveLength(1);
});

test('items that an edit does not touch keep their ids', () => {
  const reader = new DraftReader();
  const draft = '1. One?\na) x *\nb) y\n\n2. Two?\na) x\nb) y *\n\n3. Three?\na) x *\nb) y\n';
  const before = reader.read(draft).set.items;
  const after = reader.read(draft.replace('Two', 'Two and a half')).set.items;
  expect(after.map((i) => i.id === before.find((b) => b.stem === i.stem)?.id)).toEqual([true, false, true]);
  expect(after[2]?.source?.from).toBe((before[2]?.source?.from ?? 0) + 11);
});

describe('every doubt can be acted on', () => {
  /** Few drafts leave a doubt: these do, each another one, and are tried in every run. */
  const doubtful = [
    'Vocabulary\n\n1. The opposite of hot is ______ (cold).\n2. The opposite of fast is ______ (slow).\n3. Water freezes at (0) degrees.\n',
    '1. Which?\na) this\nb) that\n',
    '1. Green tea is oxidised.\na. True\nb. False\nAns: b\n\n2. Which tea is smoked?\na. Lapsang\nb. Sencha\nAns: a\n\n11. Extra: which tea is white?\na. Silver needle\nb. Assam\nAns: a\n',
    'Name two raising agents. *\n2 points\nShort answer text\n\nTell us about your favourite dish.\n5 points\nLong answer text\n',
  ];
  const doubtsOf = (draft: string) => readDraft(draft).diagnostics.filter((d) => d.severity !== 'info');
  /** The draft after a fix; where it says roles, read with them. */
  const pressed = (draft: string, { edits, roles }: Fix): DraftResult => {
    const text = [...edits].sort((a, b) => b.from - a.from).reduce((t, e) => t.slice(0, e.from) + e.insert + t.slice(e.to), draft);
    return readDraft(text, { overrides: new Map(roles?.map((r) => [r.line, r.role as Role])) });
  };
  const actedOn = (draft: string, d: Diagnostic): void => {
    if (!d.fixes?.length && d.code !== 'nothing-read') expect([d.code, d.message.endsWith(ADVICE[d.code] ?? '?')]).toEqual([d.code, true]);
    for (const f of d.fixes ?? []) for (const e of f.edits) expect(e.from >= 0 && e.from <= e.to && e.to <= draft.length).toBe(true);
  };
  test('by a fix that takes it away, or by what the message says is to be done', () => {
    const left: string[] = [];
    /** By code; of each so many are pressed. */
    const tried: Record<string, number> = {};
    for (const draft of [...doubtful, ...sampled(drafts, 0.1)]) {
      const doubts = doubtsOf(draft);
      for (const d of doubts) {
        actedOn(draft, d);
        tried[d.code] = (tried[d.code] ?? 0) + 1;
        if ((tried[d.code] ?? 0) > runs(40)) continue;
        for (const f of d.fixes ?? []) {
          const after = pressed(draft, f).diagnostics.filter((x) => x.code === d.code).length;
          if (after >= doubts.filter((x) => x.code === d.code).length) left.push(`${d.code} ${f.label}: ${d.message}`);
        }
      }
    }
    expect(left).toEqual([]);
    expect(Object.keys(tried).length).toBeGreaterThan(2);
  });
  test('mutants too', () =>
    fc.assert(
      fc.property(mutant, (draft) => doubtsOf(draft).forEach((d) => actedOn(draft, d))),
      { numRuns: runs(200) },
    ));
});
