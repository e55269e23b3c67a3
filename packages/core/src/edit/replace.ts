/** Find and replace in the texts of items: every place with what it would become, and the operations for those that are wanted. */
import type { Item, QuizSet } from '../item/model.js';
import type { SimpleOperation } from '../item/operations.js';
import { escapeXml, isMarkup, unescapeXml } from '../item/markup.js';
import { changeTo, mapTexts, type Place } from '../item/texts.js';

/** What to look for, and how. */
export interface Search {
  find: string;
  /** Capital letters count. */
  capitals: boolean;
  /** Only whole words. */
  words: boolean;
}
/** A place where it was found. */
export interface Match {
  /** What tells this match from the others: item, place and number in the place. */
  id: string;
  item: string;
  place: string;
  /** The text around it, plain: before, the words found, behind. */
  context: [string, string, string];
}

const CONTEXT = 40;

/** A search as an expression; null where nothing is searched for. */
function expression({ find, capitals, words }: Search): RegExp | null {
  if (!find.trim()) return null;
  const plain = find
    .normalize('NFC')
    .replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
    .replace(/\s+/g, '\\s+');
  return new RegExp(words ? `(?<![\\p{L}\\p{N}])${plain}(?![\\p{L}\\p{N}])` : plain, capitals ? 'gu' : 'giu');
}

/** Rich texts of files may hold two signs more than ours. */
const decode = (s: string): string => unescapeXml(s.replace(/&#39;/g, "'").replace(/&nbsp;/g, '\u00a0'));

/** The text of a rich text put through `f`, stretch by stretch between the tags; the tags stay. Gap markers stay too. */
function betweenTags(rich: string, f: (text: string) => string): string {
  const stretches = (text: string, escaped: boolean): string =>
    text
      .split(/(\[\[[^\][]+\]\])/)
      .map((part, i) => (i % 2 ? part : escaped ? escapeXml(f(decode(part))) : f(part)))
      .join('');
  if (!isMarkup(rich)) return stretches(rich, false);
  return rich
    .split(/(<[^<>]*>)/)
    .map((part, i) => (i % 2 || !part ? part : stretches(part, true)))
    .join('');
}

/** Walks all matches of a set; `each` says what a match becomes. */
function walk(set: QuizSet, search: Search, each: (item: Item, place: Place, match: RegExpExecArray, text: string, n: number) => string): Item[] {
  const e = expression(search);
  if (!e) return set.items;
  return set.items.map((item) => {
    let places = 0;
    return mapTexts(item, (text, place) => {
      places++;
      let n = 0;
      const change = (stretch: string): string =>
        stretch.replace(e, (...found) => {
          const at = found.findIndex((x) => typeof x === 'number');
          const match = Object.assign([String(found[0])], { index: Number(found[at]), input: stretch }) as unknown as RegExpExecArray;
          return each(item, place, match, stretch, places * 1000 + n++);
        });
      return place.rich ? betweenTags(text, change) : change(text);
    });
  });
}

/** All places where the words stand, in the order of the set. Words that a tag parts ("wild <b>yeast</b>") are not found. */
export function findIn(set: QuizSet, search: Search): Match[] {
  const out: Match[] = [];
  walk(set, search, (item, place, m, text, n) => {
    const end = m.index + m[0].length;
    out.push({
      id: `${item.id} ${n}`,
      item: item.id,
      place: place.name,
      context: [text.slice(Math.max(0, m.index - CONTEXT), m.index), m[0], text.slice(end, end + CONTEXT)],
    });
    return m[0];
  });
  return out;
}

/** Capital letters as in the words that are replaced: "Dough" → "Paste", "DOUGH" → "PASTE". */
function likeIt(found: string, replacement: string): string {
  if (found.length > 1 && found === found.toUpperCase() && found !== found.toLowerCase()) return replacement.toUpperCase();
  return /^\p{Lu}/u.test(found) && found.slice(1) === found.slice(1).toLowerCase() ? replacement.charAt(0).toUpperCase() + replacement.slice(1) : replacement;
}

/**
 * The operations that replace the wanted matches.
 * @param wanted ids of matches as `findIn` gives them for the same set and search
 */
export function replaceIn(set: QuizSet, search: Search, replacement: string, wanted: ReadonlySet<string>): SimpleOperation[] {
  const after = walk(set, search, (item, _place, m, _text, n) =>
    wanted.has(`${item.id} ${n}`) ? (search.capitals ? replacement : likeIt(m[0], replacement)) : m[0],
  );
  return set.items.flatMap((item, i) => changeTo(item, after[i] as Item) ?? []);
}
