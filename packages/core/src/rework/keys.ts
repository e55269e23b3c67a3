/** Whether a reworked item still has the key of the item it comes from: by what the key means, not by its letter or place. */
import type { Item, Option } from '../item/model.js';
import { isGraded, keyProblem } from '../item/kinds.js';
import { plainOf } from '../item/richText.js';
import { parseNumber } from '../language/numbers.js';
import { alike, numbersOf, partners } from './likeness.js';

/** Which option of the reply each option of the item became; null where it is gone. */
export function optionPairs(before: readonly Option[], after: readonly Option[]): (number | null)[] {
  const score = (i: number, k: number): number => {
    const [a, b] = [before[i]?.content ?? '', after[k]?.content ?? ''];
    // the same to the letter, signs alone among them: nothing is nearer
    if (plainOf(a).trim() === plainOf(b).trim()) return 3;
    const [x, y] = [numbersOf(a).join(), numbersOf(b).join()];
    // figures are what they are in any language
    const figures = x && x === y ? 0.5 : x || y ? (x && y ? -0.6 : -0.2) : 0;
    return alike(a, b) + figures;
  };
  const found = partners(before.length, after.length, (i, k) => (score(i, k) >= 0.4 ? score(i, k) : 0));
  // what is left over stands where it stood, else in order: other words or another language, the same places
  const taken = new Set(found.filter((k) => k !== null));
  const free = after.map((_, k) => k).filter((k) => !taken.has(k));
  const open = found.flatMap((k, i) => (k === null ? [i] : []));
  for (const i of open)
    if (free.includes(i)) {
      found[i] = i;
      free.splice(free.indexOf(i), 1);
    }
  if (before.length === after.length) for (const i of open) if (found[i] === null) found[i] = free.shift() ?? null;
  return found;
}

const sameSet = (a: readonly number[], b: readonly number[]): boolean => a.length === b.length && a.every((x) => b.includes(x));

/** What became of the key. `reordered`: the options stand in another order. `missing`: the reply says no key. */
export interface KeyCompared {
  changed: boolean;
  reordered: boolean;
  missing: boolean;
}

function textsChanged(before: readonly string[], after: readonly string[], translated: boolean): boolean {
  if (!before.length) return false;
  return !before.some((a) =>
    after.some((b) => {
      const [x, y] = [parseNumber(a), parseNumber(b) ?? parseNumber(b, true)];
      if (x !== null || y !== null) return x !== null && y !== null && Math.abs(x - y) < 1e-9;
      // another language says it in other words
      return translated ? true : alike(a, b) >= 0.5;
    }),
  );
}

/**
 * Compares the keys.
 * @param translated the reply is in another language, so that typed answers are other words
 */
export function compareKeys(before: Item, after: Item, translated: boolean): KeyCompared {
  const none: KeyCompared = { changed: false, reordered: false, missing: false };
  if (!isGraded(before) || keyProblem(before)) return { ...none, changed: isGraded(after) && !keyProblem(after) && isGraded(before) };
  if (isGraded(after) && keyProblem(after)) {
    const reordered = 'options' in before && 'options' in after && movedIn(optionPairs(before.options, after.options));
    return { changed: false, reordered, missing: true };
  }
  if ('options' in before && 'options' in after) {
    const pairs = optionPairs(before.options, after.options);
    const was = before.options.flatMap((o, i) => (o.credit > 0 ? [pairs[i] ?? -1] : []));
    const now = after.options.flatMap((o, i) => (o.credit > 0 ? [i] : []));
    return { changed: !sameSet(was, now), reordered: movedIn(pairs), missing: false };
  }
  if (before.kind !== after.kind) return { ...none, changed: kindsDiffer(before, after, translated) };
  switch (before.kind) {
    case 'true-false':
      return { ...none, changed: before.answer !== (after as typeof before).answer };
    case 'numeric': {
      const other = after as typeof before;
      const full = (i: typeof before): string[] => i.answers.filter((a) => a.credit >= 1).map((a) => `${a.min} ${a.max}`);
      return { ...none, changed: !full(before).some((a) => full(other).includes(a)) };
    }
    case 'short-answer': {
      const full = (i: typeof before): string[] => i.answers.filter((a) => a.credit >= 1).map((a) => a.text);
      return { ...none, changed: textsChanged(full(before), full(after as typeof before), translated) };
    }
    case 'cloze': {
      const said = (i: typeof before): string[][] =>
        i.gaps.map((g) =>
          g.kind === 'choice'
            ? g.options.filter((o) => o.credit > 0).map((o) => o.content)
            : g.answers.map((a) => ('text' in a && a.text !== undefined ? a.text : 'min' in a ? String(a.min) : '')),
        );
      const [a, b] = [said(before), said(after as typeof before)];
      return {
        ...none,
        changed:
          a.length !== b.length ||
          (translated ? a.some((x, i) => textsChanged(x, b[i] ?? [], true)) : a.some((x) => !b.some((y) => !textsChanged(x, y, false)))),
      };
    }
    case 'matching': {
      const other = after as typeof before;
      const lefts = partners(
        before.pairs.length,
        other.pairs.length,
        (i, k) => 0.1 + alike(before.pairs[i]?.left ?? '', other.pairs[k]?.left ?? '') + (i === k ? 0.05 : 0),
      );
      const rights = partners(
        before.pairs.length,
        other.pairs.length,
        (i, k) => 0.1 + alike(before.pairs[i]?.right ?? '', other.pairs[k]?.right ?? '') + (lefts[i] === k ? 0.05 : 0),
      );
      return { ...none, changed: before.pairs.length !== other.pairs.length || lefts.some((k, i) => k !== rights[i]), reordered: movedIn(lefts) };
    }
    case 'ordering': {
      const other = after as typeof before;
      const pairs = partners(
        before.sequence.length,
        other.sequence.length,
        (i, k) => 0.1 + alike(before.sequence[i] ?? '', other.sequence[k] ?? '') + (i === k ? 0.05 : 0),
      );
      return { ...none, changed: before.sequence.length !== other.sequence.length || movedIn(pairs) };
    }
    default:
      return none;
  }
}
const movedIn = (pairs: readonly (number | null)[]): boolean => {
  const there = pairs.filter((k): k is number => k !== null);
  return there.some((k, i) => i > 0 && k < (there[i - 1] ?? 0));
};

/** The words of the key, whatever the kind: to compare items that changed their kind. */
function keyWords(item: Item): string[] {
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return item.options.filter((o) => o.credit > 0).map((o) => o.content);
    case 'short-answer':
      return item.answers.filter((a) => a.credit >= 1).map((a) => a.text);
    case 'numeric':
      return item.answers.map((a) => a.text ?? String(a.min));
    case 'cloze':
      return item.gaps.flatMap((g) =>
        g.kind === 'choice'
          ? g.options.filter((o) => o.credit > 0).map((o) => o.content)
          : g.answers.flatMap((a) => ('text' in a && a.text !== undefined ? [a.text] : 'min' in a ? [String(a.min)] : [])),
      );
    default:
      return [];
  }
}
function kindsDiffer(before: Item, after: Item, translated: boolean): boolean {
  const [a, b] = [keyWords(before), keyWords(after)];
  // a statement made of a question, or an essay: its key is another sort of thing, which a person looks at
  if (!a.length || !b.length) return isGraded(after);
  return textsChanged(a, b, translated);
}
