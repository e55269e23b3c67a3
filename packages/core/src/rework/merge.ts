/** A reply of an assistant matched with the items it was asked about: which is which, what changed, and whether a key did. */
import type { Item, QuizSet } from '../item/model.js';
import { isQuestion } from '../item/kinds.js';
import { guessLanguage, smallWords } from '../language/guess.js';
import { plainOf } from '../item/richText.js';
import { changedFields } from '../item/sameness.js';
import { compareKeys } from './keys.js';
import { alike, numbersDisagree, numbersOf, partners } from './likeness.js';

/** An item with what became of it. */
export interface MergedPair {
  /** Id of the item. */
  item: string;
  /** 0-based place of the item of the reply; null where the reply has none of it. */
  reply: number | null;
  /** By its id, by its words, or by its place among the others. */
  by: 'id' | 'words' | 'place' | null;
  /** The key means something else than before. */
  keyChanged: boolean;
  /** The reply says no key: the one before stays. */
  keyMissing: boolean;
  optionsReordered: boolean;
  /** Fields that differ, by their names in the model. */
  changes: string[];
}
/** A reply matched with a set. */
export interface Merged {
  pairs: MergedPair[];
  /** 0-based places of items of the reply that belong to none. */
  added: number[];
  /** The reply says it in another language. */
  translated: boolean;
}

/** The id that an item of a reply names: in brackets, behind "id", or as its label. */
function idIn(reply: Item, ids: ReadonlyMap<string, number>): number | undefined {
  const texts = [reply.label ?? '', reply.title ?? '', plainOf(reply.stem), ...(reply.tags ?? [])];
  for (const t of texts) {
    const m = /(?:\[|\(|\{|^)\s*(?:(?:item|id|ref|#)\s*[:#=]?\s*)([\w-]{2,40})\s*(?:\]|\)|\}|$|[:.])/i.exec(t) ?? /^\s*[[({]([\w-]{1,40})[\])}]/.exec(t);
    const said = m?.[1]?.toLowerCase();
    if (said === undefined) continue;
    const whole = ids.get(said);
    if (whole !== undefined) return whole;
    // short ids: the beginning of one, and of one only
    const short = said.length >= 4 ? [...ids].filter(([id]) => id.startsWith(said)) : [];
    if (short.length === 1) return short[0]?.[1];
  }
  return ids.get((reply.label ?? '').toLowerCase());
}

const partsOf = (i: Item): string[] => {
  switch (i.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return i.options.map((o) => o.content);
    case 'matching':
      return i.pairs.flatMap((p) => [p.left, p.right]);
    case 'ordering':
      return i.sequence;
    case 'short-answer':
      return i.answers.map((a) => a.text);
    case 'cloze':
      return i.gaps.flatMap((g) => (g.kind === 'choice' ? g.options.map((o) => o.content) : g.answers.map((a) => ('text' in a && a.text) || '')));
    default:
      return [];
  }
};
/** Without an id that was put in front of it. */
const stemOf = (i: Item): string => plainOf(i.stem).replace(/^\s*[[({][\w: #-]{2,44}[\])}]\s*/, '');
const textOf = (i: Item): string => [stemOf(i), ...partsOf(i)].join(' ');

/** How alike two items are by their words, 0 to 1. */
function wordsAlike(a: Item, b: Item): number {
  const stem = alike(stemOf(a), stemOf(b));
  const [x, y] = [partsOf(a), partsOf(b)];
  if (!x.length || !y.length) return stem;
  return 0.6 * stem + 0.4 * alike(x.join(' '), y.join(' '));
}
const keyPlace = (i: Item): string =>
  'options' in i ? i.options.flatMap((o, k) => (o.credit > 0 ? [k] : [])).join() : i.kind === 'true-false' ? String(i.answer) : '';
/** How alike two items are by their build, 0 to 1: kind, number of parts, place of the key, points, numbers. */
function buildAlike(a: Item, b: Item): number {
  const parts = partsOf(a).length === partsOf(b).length ? 0.25 : 0;
  const [x, y] = [numbersOf(textOf(a)), numbersOf(textOf(b))];
  const common = x.filter((n) => y.includes(n)).length;
  const figures = x.length || y.length ? (0.3 * common) / Math.max(x.length, y.length) : 0.15;
  return (a.kind === b.kind ? 0.3 : 0) + parts + (keyPlace(a) && keyPlace(a) === keyPlace(b) ? 0.1 : 0) + (a.points === b.points ? 0.05 : 0) + figures;
}

/** From this likeness on the words alone say that it is the same item. */
const SAME_WORDS = 0.5;
/** From this on they say so where place or number agree. */
const LIKELY_WORDS = 0.24;
/** From this on they say so between two neighbours that are found. */
const BETWEEN_WORDS = 0.1;
/** Less than this, for most of a reply whose language nothing tells, is another language. */
const OTHER_LANGUAGE = 0.3;

/** Items that follow one another in both lists: the best way to lay one along the other, in order (Needleman and Wunsch 1970). */
function alongside(n: number, m: number, score: (i: number, k: number) => number, gap: number): (number | null)[] {
  const best = Array.from({ length: n + 1 }, () => new Float64Array(m + 1));
  for (let i = 1; i <= n; i++) (best[i] as Float64Array)[0] = -gap * i;
  for (let k = 1; k <= m; k++) (best[0] as Float64Array)[k] = -gap * k;
  const at = (i: number, k: number): number => best[i]?.[k] ?? 0;
  for (let i = 1; i <= n; i++)
    for (let k = 1; k <= m; k++) (best[i] as Float64Array)[k] = Math.max(at(i - 1, k - 1) + score(i - 1, k - 1), at(i - 1, k) - gap, at(i, k - 1) - gap);
  const out: (number | null)[] = Array.from({ length: n }, () => null);
  for (let i = n, k = m; i > 0 && k > 0; ) {
    if (Math.abs(at(i, k) - (at(i - 1, k - 1) + score(i - 1, k - 1))) < 1e-9) {
      out[i - 1] = k - 1;
      i--;
      k--;
    } else if (Math.abs(at(i, k) - (at(i - 1, k) - gap)) < 1e-9) i--;
    else k--;
  }
  return out;
}

const script = (s: string): string =>
  (['Cyrillic', 'Greek', 'Arabic', 'Hebrew', 'Han', 'Hangul', 'Thai'] as const).find(
    (x) => (s.match(new RegExp(`\\p{Script=${x}}`, 'gu')) ?? []).length > s.length * 0.3,
  ) ?? 'Latin';

/**
 * Matches a reply with the set it was asked about: by ids, then by words, and what is said in other words or in another language by build and order.
 * A reply that only resembles an item is no version of it: it is added.
 */
export function mergeReply(set: QuizSet, reply: QuizSet): Merged {
  const { items } = set;
  const others = reply.items;
  const ids = new Map(items.map((i, n) => [i.id.toLowerCase(), n]));
  const found: (number | null)[] = items.map(() => null);
  const by: MergedPair['by'][] = items.map(() => null);
  const taken = new Set<number>();
  const pair = (i: number, k: number, how: MergedPair['by']): void => {
    found[i] = k;
    by[i] = how;
    taken.add(k);
  };
  others.forEach((r, k) => {
    const at = idIn(r, ids);
    if (at !== undefined && found[at] === null) pair(at, k, 'id');
  });
  const words = items.map((a) => others.map((b) => ((a.kind === 'information') === (b.kind === 'information') ? wordsAlike(a, b) : 0)));
  const likeOf = (i: number, k: number): number => words[i]?.[k] ?? 0;
  const free = (): number[] => others.flatMap((_, k) => (taken.has(k) ? [] : [k]));
  const open = (): number[] => items.flatMap((_, i) => (found[i] === null ? [i] : []));
  const bests = others.map((_, k) => Math.max(0, ...items.map((__, i) => likeOf(i, k)))).sort((a, b) => a - b);
  const middle = bests[Math.floor(bests.length / 2)] ?? 1;
  const [here, there] = [items.map(textOf).join(' '), others.map(textOf).join(' ')];
  const translated = others.length > 0 && otherLanguage(here, there, middle);
  const against = (i: number, k: number): boolean => numbersDisagree(textOf(items[i] as Item), textOf(others[k] as Item));
  if (!translated) {
    const sure = partners(items.length, others.length, (i, k) =>
      // of two that say the same, the one of the same build, wherever it stands
      found[i] === null && !taken.has(k) && likeOf(i, k) >= SAME_WORDS && !against(i, k)
        ? likeOf(i, k) + 0.1 * buildAlike(items[i] as Item, others[k] as Item) + (i === k ? 0.02 : 0)
        : 0,
    );
    sure.forEach((k, i) => {
      if (k !== null) pair(i, k, 'words');
    });
    // said in other words: number, place and build speak for it as well
    const likely = partners(items.length, others.length, (i, k) => {
      if (found[i] !== null || taken.has(k) || against(i, k) || likeOf(i, k) < LIKELY_WORDS) return 0;
      const label = items[i]?.label ?? String(i + 1);
      const agrees = label === (others[k]?.label ?? String(k + 1));
      const between = stands(found, i, k);
      return (agrees || between) && buildAlike(items[i] as Item, others[k] as Item) >= 0.45 ? likeOf(i, k) + (agrees ? 0.2 : 0) + (between ? 0.1 : 0) : 0;
    });
    likely.forEach((k, i) => {
      if (k !== null) pair(i, k, 'place');
    });
    // all in other words, but between the same neighbours
    items.forEach((_, i) => {
      const k = (found[i - 1] ?? -1) + 1;
      const next = i + 1 === items.length ? others.length : found[i + 1];
      if (found[i] === null && k < others.length && !taken.has(k) && next === k + 1 && !against(i, k) && likeOf(i, k) >= BETWEEN_WORDS) pair(i, k, 'place');
    });
    // options alone, with another key and hardly a word of the question: more of the same sort, unless most of the reply is a rewording
    const weak = items.flatMap((item, i) => {
      const k = found[i];
      const other = k === null || k === undefined || by[i] === 'id' ? undefined : others[k];
      return other && alike(stemOf(item), stemOf(other)) < SAME_WORDS && compareKeys(item, other, false).changed ? [i] : [];
    });
    const strong = found.filter((k) => k !== null).length - weak.length;
    if (weak.length >= strong)
      for (const i of weak) {
        taken.delete(found[i] as number);
        found[i] = null;
        by[i] = null;
      }
  } else {
    // figures stand in any language: who alone has the same, wherever it stands, is the same
    const figures = (x: Item): string => numbersOf(textOf(x)).sort().join(' ');
    const [ours, tours] = [items.map(figures), others.map(figures)];
    items.forEach((_, i) => {
      const own = ours[i] ?? '';
      if (found[i] !== null || own.replace(/\D/g, '').length < 3) return;
      const at = tours.flatMap((t, k) => (t === own && !taken.has(k) ? [k] : []));
      if (at.length === 1 && ours.filter((t) => t === own).length === 1) pair(i, at[0] as number, 'words');
    });
    const [left, right] = [open(), free()];
    const score = (a: number, b: number): number => {
      const [i, k] = [left[a] as number, right[b] as number];
      const label = items[i]?.label !== undefined && items[i]?.label === others[k]?.label ? 0.15 : 0;
      const bareOf = (x: Item | undefined): number => (x ? numbersOf(textOf(x)).length : 0);
      const [x, y] = [bareOf(items[i]), bareOf(others[k])];
      const unlike = against(i, k) ? -0.6 : (x >= 2 && y === 0) || (y >= 2 && x === 0) ? -0.4 : 0;
      return buildAlike(items[i] as Item, others[k] as Item) + likeOf(i, k) + label + unlike - 0.45;
    };
    // first what stands out whatever its place: the same figures, names and build, and nothing else as good
    const inOrder = alongside(left.length, right.length, score, 0.12);
    inOrder.forEach((b, a) => {
      if (b !== null && score(a, b) > 0) pair(left[a] as number, right[b] as number, 'place');
    });
    // what the order left over, where words and build are plain enough
    const rest = partners(items.length, others.length, (i, k) =>
      found[i] === null && !taken.has(k) && !against(i, k) && likeOf(i, k) >= 0.3 && buildAlike(items[i] as Item, others[k] as Item) >= 0.6 ? likeOf(i, k) : 0,
    );
    rest.forEach((k, i) => {
      if (k !== null) pair(i, k, 'words');
    });
  }
  return {
    translated,
    added: free().filter((k) => others[k] && (isQuestion(others[k]) || others[k].stem !== '')),
    pairs: items.map((item, i): MergedPair => {
      const k = found[i] ?? null;
      const other = k === null ? undefined : others[k];
      if (!other) return { item: item.id, reply: null, by: null, keyChanged: false, keyMissing: false, optionsReordered: false, changes: [] };
      const key = compareKeys(item, other, translated);
      return {
        item: item.id,
        reply: k,
        by: by[i] ?? null,
        keyChanged: key.changed,
        keyMissing: key.missing,
        optionsReordered: key.reordered,
        changes: changesOf(item, other),
      };
    }),
  };
}

/** Whether a reply is in another language than the items. */
function otherLanguage(here: string, there: string, middle: number): boolean {
  // most of it stands there word for word: whatever else came with it, it is this language
  if (middle >= SAME_WORDS) return false;
  if (script(here) !== script(there)) return true;
  const [said, replied] = [guessLanguage(here), guessLanguage(there)];
  if (said !== undefined && replied !== undefined) return said !== replied;
  // a language that is not known here: hardly a word in common, and none of the small ones
  return said !== undefined && middle < OTHER_LANGUAGE && (smallWords(there, said) ?? 1) < 0.03;
}

/** Whether a place of the reply lies between those of the neighbours that are found. */
function stands(found: readonly (number | null)[], i: number, k: number): boolean {
  const before = found.slice(0, i).findLast((x) => x !== null) ?? -1;
  const after = found.slice(i + 1).find((x) => x !== null) ?? Infinity;
  return before < k && k < after;
}

/** Fields that say something else; what the reply leaves unsaid (points, feedback, tags) is no change. */
function changesOf(a: Item, b: Item): string[] {
  if (a.kind !== b.kind) return ['kind', ...(plain(stemOf(a)) === plain(stemOf(b)) ? [] : ['stem'])];
  const said = b as unknown as Record<string, unknown>;
  return changedFields({ ...a, stem: stemOf(a) }, { ...b, stem: stemOf(b) }).filter(
    (f) => f !== 'label' && f !== 'section' && said[f.split('.')[0] ?? ''] !== undefined && !(f === 'points' && b.points === 1),
  );
}
const plain = (s: string): string => s.replace(/\s+/g, ' ').trim();
