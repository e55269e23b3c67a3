/** Whatever comes back: replies are mutants of real drafts and of echoes of the request. Nothing throws, nothing is lost, no key moves unsaid. */
import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import { readDraft } from '../draft/read.js';
import { writeNotation } from '../formats/notation/notation.js';
import { anyGraded, anyItem } from '../item/arbitrary.js';
import { keyPlaces, keyProblem } from '../item/kinds.js';
import { item as itemSchema, type Item, type QuizSet } from '../item/model.js';
import { apply } from '../item/operations.js';
import { runs } from '../item/runs.js';
import { compareDrafts } from './compare.js';
import { composeOpinion, opinionsOf } from './opinion.js';
import { composeRework, editedProposal, proposalText, reworked, shortIds, takeProposals } from './rework.js';
import { takeVerbatim, verbatimOf } from './verbatim.js';

const corpus = new URL('../../corpus/', import.meta.url);
const drafts = readdirSync(corpus)
  .filter((f) => f.endsWith('.txt'))
  .map((f) => readFileSync(new URL(f, corpus), 'utf8'))
  .filter((d) => d.length < 4000);
const numbered = (items: readonly Item[]): Item[] => items.map((i, n) => ({ ...i, id: `${(n + 10).toString(36)}7c1d0e-${n}` }) as Item);
const someItems = fc.array(anyItem, { minLength: 1, maxLength: 4 }).map(numbered);
const echo = (items: readonly Item[]): string => {
  const ids = shortIds(items);
  return writeNotation({
    title: 'T',
    items: items.map((i, n) => ({ ...i, label: String(n + 1), section: undefined, stem: `(${ids.get(i.id) ?? ''}) ${i.stem}` }) as Item),
  });
};
/** Lines dropped, doubled, cut, with signs put in. */
const cuts = fc.array(fc.record({ at: fc.nat(), how: fc.nat(3), sign: fc.constantFrom(...'*()[]|#>:1a✓\u0000') }), { maxLength: 5 });
function damaged(text: string, changes: readonly { at: number; how: number; sign: string }[]): string {
  const lines = text.split('\n');
  for (const { at, how, sign } of changes) {
    const n = at % lines.length;
    const line = lines[n] ?? '';
    if (how === 0) lines.splice(n, 1);
    else if (how === 1) lines.splice(n, 0, line);
    else if (how === 2) lines[n] = line.slice(0, at % (line.length + 1));
    else lines[n] = line.slice(0, at % (line.length + 1)) + sign + line.slice(at % (line.length + 1));
    if (!lines.length) lines.push('');
  }
  return lines.join('\n');
}

test('any reply to a rework: each item is proposed, the same or missing; what is proposed is a valid item; taken in one step and undone in one', () => {
  fc.assert(
    fc.property(someItems, cuts, fc.boolean(), fc.nat(), (items, changes, other, pick) => {
      const text = other ? (drafts[pick % drafts.length] ?? '') : damaged(echo(items), changes);
      const r = reworked(items, readDraft(text).set);
      const told = [...r.proposals.flatMap((p) => p.mine ?? []), ...r.same, ...r.missing].map((i) => i.id);
      expect(told.sort()).toEqual(items.map((i) => i.id).sort());
      for (const p of r.proposals) {
        expect(itemSchema.safeParse(p.theirs).success).toBe(true);
        if (p.mine) expect(p.theirs.id).toBe(p.mine.id);
        // a key that is not said anew stays, and one that is not the same is told
        if (p.mine?.kind === 'multiple-choice' && p.theirs.kind === 'multiple-choice' && !p.keyChanged && !keyProblem(p.mine)) {
          const before = p.mine.options[keyPlaces(p.mine)[0] ?? -1]?.id;
          const after = keyPlaces(p.theirs).map((k) => (p.theirs as typeof p.mine & { options: { id: string }[] }).options[k]?.id);
          if (after.length) expect(after).toContain(before);
        }
      }
      const document = { set: { title: 'T', items } as QuizSet, reviews: {} };
      const { document: next, inverse } = apply(document, takeProposals(document.set, items, r.proposals, 'simpler'));
      expect(next.set.items.length).toBe(items.length + r.proposals.filter((p) => !p.mine).length);
      expect(apply(next, inverse).document).toEqual(document);
    }),
    { numRuns: runs(40) },
  );
});

test('the key of a choice on another option is told, whatever else the reply says', () => {
  fc.assert(
    fc.property(anyGraded, fc.nat(), (item, n) => {
      fc.pre(item.kind === 'multiple-choice' && !keyProblem(item) && item.options.every((o) => o.credit === 0 || o.credit === 1));
      if (item.kind !== 'multiple-choice') return;
      const words = item.options.map((o) =>
        o.content
          .replace(/<[^>]*>/g, '')
          .trim()
          .toLowerCase(),
      );
      fc.pre(words.every(Boolean) && new Set(words).size === words.length);
      const [mine] = numbered([item]) as [Extract<Item, { kind: 'multiple-choice' }>];
      const wrong = mine.options.flatMap((o, k) => (o.credit === 0 ? [k] : []));
      fc.pre(wrong.length > 0);
      const to = wrong[n % wrong.length];
      const moved = { ...mine, options: mine.options.map((o, k) => ({ ...o, credit: k === to ? 1 : 0 })) } as Item;
      const r = reworked([mine], readDraft(echo([moved])).set);
      expect(r.proposals.map((p) => p.keyChanged)).toEqual([true]);
    }),
    { numRuns: runs(70) },
  );
});

test('a proposal edited as text is the same item where nothing was changed; what is no item is not taken', () => {
  fc.assert(
    fc.property(someItems, (items) => {
      const [mine] = items as [Item];
      const p = { mine, theirs: mine, by: 'id' as const, keyChanged: false, keyMissing: false, optionsReordered: false, changes: [] };
      const back = editedProposal(p, proposalText(p));
      expect(back?.keyChanged).toBe(false);
      expect(back?.theirs.id).toBe(mine.id);
      expect(editedProposal(p, 'See you on Monday!')).toBeNull();
    }),
    { numRuns: runs(30) },
  );
});

test('requests of any items hold every one of them by its sign', () => {
  fc.assert(
    fc.property(someItems, (items) => {
      const text = composeRework(items, 'simpler', '');
      const signs = [...shortIds(items).values()];
      expect(signs.map((id, n) => text.includes(`\n${n + 1}. (${id})`))).toEqual(signs.map(() => true));
      // an assistant that gives them back as they are changes nothing
      const back = reworked(items, readDraft(text.slice(text.lastIndexOf('The items:') + 10)).set);
      expect([back.proposals.map((p) => [p.changes, p.keyChanged, p.mine?.kind]), back.missing]).toEqual([[], []]);
    }),
    { numRuns: runs(40) },
  );
});

test('any reply to a second opinion gives one opinion for each item asked, and never throws', () => {
  fc.assert(
    fc.property(fc.array(anyGraded, { minLength: 1, maxLength: 5 }), cuts, fc.string(), fc.nat(), (items, changes, words, pick) => {
      const { text, asked } = composeOpinion(items);
      for (const reply of [damaged(text, changes), words, drafts[pick % drafts.length] ?? '', asked.map((_, n) => `${n + 1}. ${words}`).join('\n')]) {
        const opinions = opinionsOf(asked, reply, text);
        expect(opinions.map((o) => o.item)).toEqual(asked);
        for (const o of opinions) if (o.said === undefined) expect(o.agrees).toBeNull();
      }
    }),
    { numRuns: runs(70) },
  );
});

test('any reply to a request for the notation: what does not hold leaves the draft as it is, to the letter', () => {
  fc.assert(
    fc.property(fc.nat(), fc.nat(), cuts, (one, two, changes) => {
      const draft = drafts[one % drafts.length] ?? '';
      const own = damaged(draft, changes);
      for (const reply of [own, drafts[two % drafts.length] ?? '']) {
        const r = verbatimOf(draft, reply);
        const { text, taken } = takeVerbatim(draft, r);
        expect(taken).toBeLessThanOrEqual(r.items.filter((v) => v.holds).length);
        if (!taken) expect(text).toBe(draft);
        for (const v of r.items) {
          if (v.holds) expect(v.foreign).toEqual([]);
          if (v.from !== undefined) expect([v.from >= 0, (v.to ?? 0) <= draft.length]).toEqual([true, true]);
        }
        for (const l of r.leftOut) expect(draft.slice(l.from, l.to)).toBe(l.text);
      }
    }),
    { numRuns: runs(25) },
  );
});

test('any texts can be compared', () => {
  fc.assert(
    fc.property(fc.array(fc.oneof(fc.string(), fc.constantFrom(...drafts)), { maxLength: 3 }), (texts) => {
      const all = compareDrafts(texts, 'en');
      expect(all.length).toBe(texts.length);
      for (const { items, figures } of all) {
        expect(figures.kinds.reduce((n, k) => n + k.count, 0)).toBe(items.filter((i) => i.kind !== 'information').length);
        expect(figures.truths.yes).toBeLessThanOrEqual(figures.truths.of);
      }
    }),
    { numRuns: runs(15) },
  );
});
