/** Checks and evidence on anything: no item, however odd, stops them, and every fix that is offered can be done and undone. */
import fc from 'fast-check';
import { anyItem, anyRichSet } from '../item/arbitrary.js';
import { type Item, item as itemSchema } from '../item/model.js';
import { apply, emptyDocument } from '../item/operations.js';
import { mark } from '../mark/mark.js';
import { rightResponse } from '../mark/answers.js';
import { evidenceFor } from '../source/evidence.js';
import { indexSources } from '../source/sentences.js';
import { findingKey, findingsOf, ruleOf } from './index.js';
import { hardWords, readabilityOf, sentencesOf } from './readability.js';
import { readText } from './readText.js';

const sets = fc.oneof(
  anyRichSet,
  fc.uniqueArray(anyItem, { minLength: 1, maxLength: 8, selector: (i) => i.id }).map((items) => ({ title: 'T', items: items as Item[] })),
);
const aims = fc.record({ year: fc.option(fc.integer({ min: 1, max: 12 }), { nil: undefined }), outcomes: fc.constant({ Baking: 3 }) });

test('every finding is of a known rule, about items that are there, and has a key of its own', () => {
  fc.assert(
    fc.property(sets, aims, fc.constantFrom('en', 'tr', 'ar', undefined), (set, aim, language) => {
      const findings = findingsOf({ ...set, ...(language && { language }) }, { aim });
      const ids = new Set(set.items.map((i) => i.id));
      for (const f of findings) {
        expect(ruleOf(f.code)).toBeDefined();
        expect(f.items.every((id) => ids.has(id))).toBe(true);
        expect(f.message).not.toMatch(/undefined|NaN|\[object/);
      }
      const stems = findings.filter((f) => f.option === undefined && f.items.length === 1 && f.place === 'key').map(findingKey);
      expect(new Set(stems).size).toBe(stems.length);
    }),
    { numRuns: 300 },
  );
});

test('every fix can be done, gives valid items that mark the right answer right, and is undone', () => {
  fc.assert(
    fc.property(sets, (set) => {
      const document = { ...emptyDocument('T'), set };
      for (const f of findingsOf(set)) {
        if (!f.fix) continue;
        const done = apply(document, { type: 'all', operations: f.fix.operations });
        for (const i of done.document.set.items) {
          expect(itemSchema.safeParse(i).success).toBe(true);
          const before = set.items.find((x) => x.id === i.id) as Item;
          const right = rightResponse(before);
          // who was right before is right afterwards
          if (right && mark(before, right).state === 'right') expect([f.code, mark(i, right).state]).toEqual([f.code, 'right']);
        }
        expect(apply(done.document, done.inverse).document).toEqual(document);
      }
    }),
    { numRuns: 300 },
  );
});

test('evidence of any item in any text: places lie in the text, scores between nothing and one', () => {
  const words = fc.array(
    fc.constantFrom('rye', 'is', 'not', 'a', 'grain', '12', '%', '4–5', 'hours', 'Dr.', '°C', '\n\n', '.', '?', 'été', '½', '«', "l'eau"),
    { maxLength: 60 },
  );
  fc.assert(
    fc.property(
      sets,
      fc.oneof(
        words.map((w) => w.join(' ')),
        fc.string({ maxLength: 200 }),
      ),
      (set, text) => {
        const index = indexSources([{ id: 's', name: 'S', text }], 'en');
        for (const s of index.sentences) expect(text.slice(s.from, s.to).replace(/\n/g, ' ')).toBe(s.text);
        for (const item of set.items) {
          const e = evidenceFor(item, index);
          for (const h of [...(e?.supports ?? []), ...(e?.contradicts ?? [])]) {
            expect(h.score).toBeGreaterThanOrEqual(0);
            expect(h.score).toBeLessThanOrEqual(1);
            for (const m of h.matched) expect(m.to).toBeLessThanOrEqual(h.sentence.text.length);
          }
        }
      },
    ),
    { numRuns: 300 },
  );
});

test('reading level of anything: numbers, or nothing where there are no words; marks lie in the text', () => {
  fc.assert(
    fc.property(anyItem, (item) => {
      const text = readText(item as Item);
      const r = readabilityOf(text);
      if (r) for (const v of Object.values(r)) expect(Number.isFinite(v)).toBe(true);
      for (const w of hardWords(text)) expect(text.slice(w.from, w.to)).toBe(w.word);
      for (const s of sentencesOf(text)) expect(s.to).toBeLessThanOrEqual(text.length);
    }),
    { numRuns: 300 },
  );
});
