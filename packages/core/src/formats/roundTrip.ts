/** Development only: what a trip through a format does to a set, against what was said beforehand. */
import { type Fit, fitSet } from '../fit/fit.js';
import type { Profile } from '../fit/profile.js';
import type { Item, QuizSet } from '../item/model.js';
import { canonical, changedFields, sectionOf } from '../item/sameness.js';
import type { Format } from './format.js';

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
const lossesBetween = (a: Item, aSet: QuizSet, b: Item, bSet: QuizSet): string[] => [
  ...changedFields(a, b),
  ...(same(sectionOf(a, aSet), sectionOf(b, bSet)) ? [] : ['section']),
];

export interface Surprise {
  item: Item;
  field: string;
  before: unknown;
  after: unknown;
}

/** Writes, reads back, and gives every difference that the fit had not said. */
export async function surprises(set: QuizSet, format: Format): Promise<Surprise[]> {
  const { profile, write, read } = format;
  if (!profile || !write || !read) throw new Error(`${format.id} cannot make the trip`);
  if (!fitSet(set, profile).set.items.length) return [];
  const written = await write(set);
  return between(set, (await read(written.bytes, written.name)).set, profile, format.anonymous);
}

function between(set: QuizSet, back: QuizSet, profile: Profile, anonymous = false): Surprise[] {
  const { set: due, fits } = fitSet(set, profile);
  const out: Surprise[] = [];
  if (back.items.length !== due.items.length) out.push({ item: due.items[0] as Item, field: 'count', before: due.items.length, after: back.items.length });
  let n = 0;
  fits.forEach((f: Fit, i) => {
    const item = set.items[i] as Item;
    for (const d of f.items) {
      const b = back.items[n++];
      if (!b) continue;
      const held = due.items.find((x) => x.id === d.id) ?? d;
      for (const field of lossesBetween(held, due, b, back)) {
        out.push({
          item,
          field,
          before: field === 'section' ? sectionOf(held, due) : canonical(held)[field],
          after: field === 'section' ? sectionOf(b, back) : canonical(b)[field],
        });
      }
      if (!anonymous && b.id !== d.id) out.push({ item, field: 'id', before: d.id, after: b.id });
      if (f.items.length === 1) {
        const told = [...f.losses].sort();
        const real = [...new Set(lossesBetween(item, set, b, back))].sort();
        if (!same(told, real)) out.push({ item, field: 'losses', before: told, after: real });
      }
    }
    // every loss has words, and no words are about nothing
    if (!f.notes.length !== !f.losses.length) out.push({ item, field: 'notes', before: f.notes, after: f.losses });
  });
  return out;
}
