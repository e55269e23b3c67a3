/** The texts of a set as units for translators, each with an id that stays, and a set put together again in another language. */
import { hash32 } from '../item/ids.js';
import type { Item, QuizSet } from '../item/model.js';
import { lookUp } from '../language/lookUp.js';
import { plainOf, sanitiseRich } from '../item/richText.js';
import { rightsOf } from '../item/kinds.js';
import { mapTexts } from '../item/texts.js';
import type { Translation, Translations } from '../item/translations.js';

/** One text of a set. */
export interface Unit {
  /** The same as long as its item, option or part is the same; of letters, digits, dots, colons, dashes and underscores only. */
  id: string;
  /** Where it stands, for the person: "Question 3, option B". */
  name: string;
  /** The item that it belongs to; none for texts of the set and its parts. */
  item?: string;
  text: string;
  /** Whether it may hold markup. */
  rich: boolean;
  /** An option that is right. */
  right?: boolean;
}

/** What has become of a unit: no translation, one that somebody made, one that is checked, one whose original has changed since. */
export type UnitState = 'missing' | 'made' | 'checked' | 'stale';

/** Made of the signs that an id in XLIFF 2 may hold (NMTOKEN without what needs care). */
const safe = (id: string): string => id.replace(/[^A-Za-z0-9.:_-]/g, (c) => `_${(c.codePointAt(0) ?? 0).toString(16)}_`);
/** What is translated has letters: numbers and signs stay as they are. */
const hasWords = (text: string): boolean => /\p{L}/u.test(plainOf(text)) && !/^https?:\S+$/.test(text);

/** A print of an original, to know whether it is the same still. */
export const printOf = (text: string): string => hash32(text.normalize('NFC').trim()).toString(36);

type Put = (unit: Unit) => string;
function itemTexts(item: Item, place: string, put: Put): Item {
  const right = new Set('options' in item ? item.options.flatMap((o) => (o.credit > 0 ? [`option.${o.id}`] : [])) : []);
  return mapTexts(item, (text, { key, name, rich }) =>
    put({
      id: safe(`item.${item.id}.${key}`),
      name: `${place}, ${name.charAt(0).toLowerCase()}${name.slice(1)}`,
      item: item.id,
      text,
      rich,
      ...(right.has(key) && { right: true }),
    }),
  );
}
/** The set with every text put through `put`. */
export function setTexts(set: QuizSet, put: Put): QuizSet {
  let n = 0;
  const text = (id: string, name: string, value: string, rich = true): string => put({ id: safe(id), name, text: value, rich });
  return {
    ...set,
    title: text('set.title', 'Title of the set', set.title, false),
    ...(set.description !== undefined && { description: text('set.description', 'Description of the set', set.description) }),
    ...(set.sections && {
      sections: set.sections.map((s) => ({
        ...s,
        ...(s.title !== undefined && { title: text(`part.${s.id}.title`, `Part ${s.title}, title`, s.title, false) }),
        ...(s.instructions !== undefined && { instructions: text(`part.${s.id}.instructions`, `Part ${s.title ?? s.id}, instructions`, s.instructions) }),
        ...(s.passage !== undefined && { passage: text(`part.${s.id}.passage`, `Part ${s.title ?? s.id}, passage`, s.passage) }),
      })),
    }),
    items: set.items.map((item) => itemTexts(item, item.kind === 'information' ? 'Text' : `Question ${item.label ?? ++n}`, put)),
  };
}

/** All texts of a set that are translated, in the order in which people read them. */
export function unitsOf(set: QuizSet): Unit[] {
  const units: Unit[] = [];
  setTexts(set, (u) => {
    if (hasWords(u.text)) units.push(u);
    return u.text;
  });
  return units;
}

/** What has become of a unit, by its translation and its text as it is now. */
export const stateOf = (unit: Unit, t: Translation | undefined): UnitState => (!t ? 'missing' : t.print !== printOf(unit.text) ? 'stale' : t.state);

/** How many units of a set stand where, in a language. */
export function progressOf(set: QuizSet, language: string): Record<UnitState, number> {
  const out: Record<UnitState, number> = { missing: 0, made: 0, checked: 0, stale: 0 };
  const own = set.translations?.[language] ?? {};
  for (const u of unitsOf(set)) out[stateOf(u, own[u.id])]++;
  return out;
}

/**
 * The set in another of its languages. Keys, points and structure are those of the set; a text without a translation stays as it is, one
 * whose original has changed comes in the translation that there is.
 */
export function inLanguage(set: QuizSet, language: string): QuizSet {
  const own: Record<string, Translation> = set.translations?.[language] ?? {};
  const said = ({ id, text, rich }: Unit): string => {
    const t = lookUp(own, id)?.text;
    return t === undefined ? text : rich ? sanitiseRich(t) : t;
  };
  const { translations: _all, ...rest } = setTexts(set, said);
  return { ...rest, language, items: rest.items.map(({ language: _own, ...item }, n) => apart(item as Item, set.items[n] as Item)) };
}
const howMany = (texts: readonly string[]): number => new Set(texts.map((t) => plainOf(t).trim())).size;
/** Sides and steps are known by what they say: where two say the same in translation and not in the original, they stay in the original. */
function apart(item: Item, original: Item): Item {
  if (item.kind === 'matching' && original.kind === 'matching' && howMany(rightsOf(item)) < howMany(rightsOf(original)))
    return { ...item, pairs: item.pairs.map((p, i) => ({ ...p, right: original.pairs[i]?.right ?? p.right })), extraRights: original.extraRights };
  if (item.kind === 'ordering' && original.kind === 'ordering' && howMany(item.sequence) < howMany(original.sequence))
    return { ...item, sequence: original.sequence };
  return item;
}

/**
 * What one set says where another says it in other words.
 * @param other of the same build: the same items, options, pairs and steps in their places
 * @returns texts of `other` by the ids of the units of `set`
 */
export function textsIn(set: QuizSet, other: QuizSet): Record<string, string> {
  const theirs = new Map(unitsOf(other).map((u) => [u.id, u.text]));
  return Object.fromEntries(unitsOf(set).flatMap(({ id }) => (theirs.has(id) ? [[id, theirs.get(id) as string]] : [])));
}

/** The set with translations of a language added, in place of those of the same units. */
export function withTranslations(set: QuizSet, language: string, added: Readonly<Record<string, Translation>>): QuizSet {
  const all: Translations = { ...set.translations, [language]: { ...set.translations?.[language], ...added } };
  return { ...set, translations: all };
}
