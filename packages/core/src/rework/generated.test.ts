/** Sets that others wrote, given back as assistants give them back: in another order, reworded, with items gone and new and keys changed. Which is which is known. */
import { readdirSync, readFileSync } from 'node:fs';
import { readDraft } from '../draft/read.js';
import { keyProblem } from '../item/kinds.js';
import type { Item, QuizSet } from '../item/model.js';
import { numbersFrom } from '../item/shuffle.js';
import { mergeReply } from './merge.js';

const corpus = new URL('../../corpus/', import.meta.url);
const sets: QuizSet[] = readdirSync(corpus)
  .filter((f) => f.endsWith('.txt'))
  .sort()
  .map((f) => readDraft(readFileSync(new URL(f, corpus), 'utf8')).set)
  .filter((s) => s.items.length >= 6);

type Chance = () => number;
const shuffled = <T>(list: readonly T[], chance: Chance): T[] => {
  const out = [...list];
  for (let i = out.length - 1; i > 0; i--) {
    const k = Math.floor(chance() * (i + 1));
    [out[i], out[k]] = [out[k] as T, out[i] as T];
  }
  return out;
};
/** A stem in somewhat other words: one dropped, two put in. */
function reworded(stem: string, chance: Chance): string {
  const words = stem.split(' ');
  if (words.length > 5) words.splice(1 + Math.floor(chance() * (words.length - 2)), 1);
  return `${chance() < 0.5 ? 'Now tell: ' : ''}${words.join(' ')}`;
}
/** The key put on another option, or turned round; null for kinds whose key is no choice. */
function rekeyed(item: Item, chance: Chance): Item | null {
  if (item.kind === 'true-false' && item.answer !== null) return { ...item, answer: !item.answer };
  if (item.kind !== 'multiple-choice' || keyProblem(item) || item.options.some((o) => o.credit !== 0 && o.credit !== 1)) return null;
  const wrong = item.options.filter((o) => o.credit === 0);
  const now = wrong[Math.floor(chance() * wrong.length)];
  return now ? { ...item, options: item.options.map((o) => ({ ...o, credit: o === now ? 1 : 0 })) } : null;
}

test('sets of the corpus given back: no wrong pair, no changed key untold, hardly one missed or cried', () => {
  const chance = numbersFrom(20261128);
  const count = { kept: 0, paired: 0, wrong: 0, changed: 0, told: 0, cried: 0, added: 0, foundNew: 0 };
  const odd: string[] = [];
  sets.forEach((set, n) => {
    for (let round = 0; round < 3; round++) {
      const gold = new Map<Item, { from: number; changed: boolean }>();
      const back = set.items.flatMap((item, i) => {
        if (item.kind === 'information' || chance() < 0.15) return [];
        const { label: _, ...bare } = item;
        let now = { ...bare, id: `r${i}`, stem: chance() < 0.5 ? reworded(item.stem, chance) : item.stem } as Item;
        const changed = chance() < 0.2 ? rekeyed(now, chance) : null;
        now = changed ?? now;
        if ('options' in now && chance() < 0.5) now = { ...now, options: shuffled(now.options, chance) };
        gold.set(now, { from: i, changed: changed !== null });
        return [now];
      });
      const other = sets[(n + 7) % sets.length] as QuizSet;
      const fresh = other.items
        .filter((i) => i.kind !== 'information')
        .slice(0, 2)
        .map(({ label: _, ...i }) => ({ ...i, id: `new ${i.id}` }) as Item);
      const items = round === 0 ? [...back, ...fresh] : shuffled([...back, ...fresh], chance);
      const merged = mergeReply(set, { ...set, items });
      merged.pairs.forEach((p, i) => {
        const reply = p.reply === null ? undefined : items[p.reply];
        const truth = reply && gold.get(reply);
        const there = [...gold].find(([, g]) => g.from === i);
        if (there) count.kept++;
        if (there?.[1].changed) count.changed++;
        if (!reply) return;
        if (truth?.from !== i) {
          // of items that say the same, one is as good as the other
          if (truth && set.items[truth.from]?.stem === set.items[i]?.stem) return;
          count.wrong++;
          odd.push(`${set.title}: “${set.items[i]?.stem ?? ''}” with “${reply.stem}”`);
          return;
        }
        count.paired++;
        if (truth.changed && p.keyChanged) count.told++;
        if (!truth.changed && p.keyChanged) {
          count.cried++;
          odd.push(`${set.title}: key of “${set.items[i]?.stem ?? ''}”`);
        }
      });
      count.added += fresh.length;
      count.foundNew += fresh.filter((f) => merged.added.includes(items.indexOf(f))).length;
    }
  });
  expect(count.kept).toBeGreaterThan(500);
  expect(odd).toEqual([]);
  expect(count.wrong).toBe(0);
  expect(count.paired).toBeGreaterThanOrEqual(count.kept * 0.98);
  expect(count.told).toBeGreaterThanOrEqual(count.changed * 0.98);
  expect(count.cried).toBeLessThanOrEqual(count.kept * 0.01);
  expect(count.foundNew).toBe(count.added);
});
