/** Two languages in one set: each text with its translation beside it, and accepted answers in either. */
import type { Item, QuizSet } from '../item/model.js';
import { isMarkup, plainOf, richFromPlain } from '../item/richText.js';
import type { Translation } from '../item/translations.js';
import { lookUp } from '../language/lookUp.js';
import { inLanguage, setTexts, type Unit } from './units.js';

/** A gap stands in a sentence once: in the translation beside it, its place is shown. */
const withoutGaps = (text: string): string => text.replace(/\[\[([^\][]+)\]\]/g, '($1) …');
const BLOCK = /<(?:p|ul|ol|table|pre|blockquote|h[1-6])\b/i;
/** Short texts that stand in a line; the others get the translation below. */
const beside = (id: string): boolean => /\.(?:option\.[^.]+|pair\.\d+\.(?:left|right)|extra\.\d+|step\.\d+)$/.test(id);

function joined(unit: Unit, translation: string): string {
  const other = withoutGaps(translation);
  if (!unit.rich) return `${unit.text} / ${other}`;
  const markup = isMarkup(unit.text) || isMarkup(other);
  const [a, b] = markup ? [unit.text, other].map((t) => (isMarkup(t) ? t : richFromPlain(t))) : [unit.text, other];
  if (beside(unit.id) && !BLOCK.test(`${a}${b}`)) return `${a} / ${b}`;
  if (BLOCK.test(`${a}${b}`)) return `${BLOCK.test(a ?? '') ? a : `<p>${a}</p>`}${BLOCK.test(b ?? '') ? b : `<p>${b}</p>`}`;
  return markup ? `${a}<br>${b}` : `${a}\n${b}`;
}

/** The plain texts by which answers are known: they stand in each language alone. */
const known = (unit: Unit): boolean => /\.(?:answer\.\d+|bank\.\d+)$/.test(unit.id);

/**
 * The set with each text in its own language and in another. What a learner may type or choose by its words is right in both.
 * Texts without a translation stand alone.
 */
export function inBoth(set: QuizSet, language: string): QuizSet {
  const own: Record<string, Translation> = set.translations?.[language] ?? {};
  const other = inLanguage(set, language);
  const { translations: _, ...rest } = setTexts(widened(set, other), (u) => {
    const t = lookUp(own, u.id)?.text;
    return t === undefined || known(u) || plainOf(t).trim() === plainOf(u.text).trim() ? u.text : joined(u, t);
  });
  return { ...rest, title: set.title, items: rest.items.map((item, n) => withBank(item, other.items[n] as Item)) };
}

const added = <T>(all: readonly T[], more: readonly T[], nameOf: (t: T) => string): T[] => {
  const there = new Set(all.map(nameOf));
  return [...all, ...more.filter((m) => !there.has(nameOf(m)) && there.add(nameOf(m)))];
};
const typed = (a: { text: string }): string => a.text;

function accepting(item: Item, other: Item): Item {
  if (item.kind === 'short-answer' && other.kind === 'short-answer') return { ...item, answers: added(item.answers, other.answers, typed) };
  if (item.kind !== 'cloze' || other.kind !== 'cloze') return item;
  return {
    ...item,
    gaps: item.gaps.map((g, i) => {
      const o = other.gaps[i];
      return g.kind === 'text' && o?.kind === 'text' ? { ...g, answers: added(g.answers, o.answers, typed) } : g;
    }),
  };
}
/** Words to choose gaps from, in both languages. */
const withBank = (item: Item, other: Item): Item =>
  item.kind === 'cloze' && other.kind === 'cloze' && item.wordBank && other.wordBank
    ? { ...item, wordBank: added(item.wordBank, other.wordBank, (w) => w) }
    : item;

const widened = (set: QuizSet, other: QuizSet): QuizSet => ({ ...set, items: set.items.map((i, n) => accepting(i, other.items[n] as Item)) });

/** The set with the accepted answers of its translations added: who answers in one of these languages is marked alike. */
export function acceptingAll(set: QuizSet, languages: readonly string[]): QuizSet {
  return languages.reduce((wide, language) => widened(wide, inLanguage(set, language)), set);
}
