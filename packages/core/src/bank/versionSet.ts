/** A version as a set of its own: its items in its order, options in an order of their own where their rule allows it, keys spread over the places. */
import { ALL_ABOVE, NONE_ABOVE, optionValue } from '../check/options.js';
import type { ChoiceItem, Item, Option, QuizSet, Section } from '../item/model.js';
import { plainOf } from '../item/richText.js';
import { type Chance, seeded, shuffled } from '../item/shuffle.js';
import type { PoolItem } from './blueprint.js';
import type { Drawn } from '../item/drawn.js';

/** Options that name others by their letters ("both A and C"): their places mean something. */
// bounded: it sees the end of an option
const NAMES_LETTERS = /(?:^|\s)[A-Ha-h](?: ?(?:,|and|und|y|et|e|or|&|\+) ?[A-Ha-h]){1,7}[.)]?$/;
const namesLetters = (o: Option): boolean => NAMES_LETTERS.test(plainOf(o.content).slice(-60));

/** Whether options may change places: not those whose item forbids it, numbers in order, or options that name others by letter. */
export function mayShuffle(item: ChoiceItem): boolean {
  if (item.shuffle === false || item.options.length < 2) return false;
  if (item.options.some(namesLetters)) return false;
  const values = item.options.filter((o) => !staysInPlace(o)).map(optionValue);
  if (values.length < 2) return false;
  if (values.some((v) => v === null)) return true;
  const numbers = values as number[];
  return !(numbers.every((v, i) => i === 0 || v >= (numbers[i - 1] ?? v)) || numbers.every((v, i) => i === 0 || v <= (numbers[i - 1] ?? v)));
}
/** Whether an option keeps its place: it is pinned, or speaks of all the others. */
export const staysInPlace = (o: Option): boolean => o.pinned === true || ALL_ABOVE.test(plainOf(o.content)) || NONE_ABOVE.test(plainOf(o.content));

const bySigns = (a: Option, b: Option): number => (a.content < b.content ? -1 : a.content > b.content ? 1 : 0);

/** The options of an item in the order of a version, its one key at a place, where there is only one and it may stand there. */
function reordered(item: ChoiceItem, place: number | null, chance: Chance): ChoiceItem {
  // from an order that says nothing, so that it does not matter in which they were written
  const loose = shuffled(item.options.filter((o) => !staysInPlace(o)).sort(bySigns), chance, `options ${item.stem}`);
  const free = item.options.flatMap((o, i) => (staysInPlace(o) ? [] : [i]));
  const key = loose.findIndex((o) => o.credit > 0);
  const at = place === null ? -1 : free.indexOf(place);
  if (key >= 0 && at >= 0) [loose[key], loose[at]] = [loose[at] as Option, loose[key] as Option];
  return { ...item, options: item.options.map((o) => (staysInPlace(o) ? o : (loose.shift() as Option))) };
}

/** For items of one number of options: each place equally often, in an order by chance. */
function placesFor(items: readonly ChoiceItem[], chance: Chance): Map<string, number> {
  const out = new Map<string, number>();
  const by = new Map<number, ChoiceItem[]>();
  for (const i of items) by.set(i.options.length, [...(by.get(i.options.length) ?? []), i]);
  for (const [n, list] of by) {
    const places = shuffled(
      list.map((_, i) => i % n),
      chance,
      `places ${n}`,
    );
    for (const item of list) {
      const allowed = new Set(item.options.flatMap((o, i) => (staysInPlace(o) ? [] : [i])));
      const at = places.findIndex((p) => allowed.has(p));
      if (at >= 0) out.set(item.id, places.splice(at, 1)[0] as number);
    }
  }
  return out;
}

/**
 * A version as a set: what is delivered, printed, rehearsed. Items and options keep their ids, so that the answers of all versions come together.
 * Items that are no longer in the pool are left out.
 * @param at which version, from 0
 */
export function versionSet(pool: readonly PoolItem[], drawn: Drawn, at: number, title: string): QuizSet {
  const version = drawn.versions[at];
  const by = new Map(pool.map((p) => [p.item.id, p]));
  const held = (version?.items ?? []).flatMap((id) => by.get(id) ?? []);
  const chance = seeded(`version ${drawn.plan.seed} ${at}`);
  const choices = held.flatMap(({ item }) => ('options' in item && drawn.plan.shuffle.options && mayShuffle(item) ? [item] : []));
  const single = choices.filter(
    (c) => c.kind === 'multiple-choice' && c.options.filter((o) => o.credit > 0).length === 1 && !c.options.some((o) => o.credit > 0 && staysInPlace(o)),
  );
  const places = placesFor(single, chance);
  const moving = new Set(choices.map((c) => c.id));
  // parts of several sets may have one id
  const sections = new Map<Section, string>();
  const ids = new Set<string>();
  const partOf = (p: PoolItem): Section | undefined => p.set.sections?.find((s) => s.id === p.item.section);
  for (const p of held) {
    const part = partOf(p);
    if (!part || sections.has(part)) continue;
    let id = part.id;
    for (let n = 2; ids.has(id); n++) id = `${part.id}-${n}`;
    ids.add(id);
    sections.set(part, id);
  }
  const assets = Object.assign({}, ...held.map((p) => p.set.assets ?? {})) as NonNullable<QuizSet['assets']>;
  const languages = new Set(held.map((p) => p.set.language));
  const [language] = languages;
  const items = held.map((p): Item => {
    const { section: _, label: __, ...item } = 'options' in p.item && moving.has(p.item.id) ? reordered(p.item, places.get(p.item.id) ?? null, chance) : p.item;
    const part = partOf(p);
    const own = item.language ?? p.set.language;
    return {
      ...item,
      // learners' pages do not shuffle once more
      ...('options' in item && drawn.plan.shuffle.options && { shuffle: false }),
      ...(part && { section: sections.get(part) }),
      ...(languages.size > 1 && own && { language: own }),
    } as Item;
  });
  return {
    title,
    ...(languages.size === 1 && language && { language }),
    ...(sections.size && { sections: [...sections].map(([part, id]) => ({ ...part, id })) }),
    items,
    ...(Object.keys(assets).length && { assets }),
  };
}
