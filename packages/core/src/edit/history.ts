/** The history of a set: what was done, in words; the set as it was; and the way back. */
import { lookUp } from '../language/lookUp.js';
import { languageName } from '../language/name.js';
import { nameOf } from '../item/kinds.js';
import type { Item } from '../item/model.js';
import { apply, changesOf, type Operation, type SetDocument } from '../item/operations.js';
import { canonical } from '../item/sameness.js';

/** One operation of a set's history, with the operation that takes it back. */
export interface Step {
  version: number;
  operation: Operation;
  inverse: Operation;
}

/**
 * The set as it was before the given steps were done.
 * @param steps all steps since then, the newest first, without a gap
 * @throws OperationError where the steps are not the ones that led here
 */
export const documentBefore = (now: SetDocument, steps: readonly Step[]): SetDocument => steps.reduce((d, s) => apply(d, s.inverse).document, now);

/** One operation that takes the steps back, the newest first; itself a step that can be undone. */
export const goBack = (steps: readonly Step[], label: string): Operation => ({ type: 'all', label, operations: steps.flatMap((s) => changesOf(s.inverse)) });

const FIELDS: Readonly<Record<string, string>> = {
  stem: 'the question',
  options: 'the options',
  answer: 'the key',
  answers: 'the accepted answers',
  gaps: 'the gaps',
  pairs: 'the pairs',
  extraRights: 'the right sides',
  sequence: 'the order',
  match: 'the matching rule',
  scoring: 'how it is marked',
  feedback: 'feedback',
  hints: 'hints',
  points: 'points',
  timeLimit: 'the time limit',
  section: 'its part',
  language: 'its language',
  takenFrom: 'what it is compared with where it was taken from',
};
/** Names of fields as a person calls them, in one line. */
export const fieldNames = (names: readonly string[]): string => names.map((n) => lookUp(FIELDS, n) ?? n).join(', ');

/** What an operation did, in one line. Items are named by their number in `items`, or by their words where they are gone. */
export function sayOperation(op: Operation, items: readonly Item[]): string {
  const name = (id: string): string => {
    const at = items.findIndex((i) => i.id === id);
    return at < 0 ? 'an item that is gone' : `item ${items[at]?.label ?? at + 1}`;
  };
  const many = (n: number): string => (n === 1 ? '1 item' : `${n} items`);
  switch (op.type) {
    case 'all':
      if (op.label) return op.label;
      return op.operations.length === 1 && op.operations[0] ? sayOperation(op.operations[0], items) : `${op.operations.length} changes at once`;
    case 'insert':
      return op.items.length === 1 && op.items[0] ? `Added “${nameOf(op.items[0], 50)}”` : `Added ${many(op.items.length)}`;
    case 'remove':
      return `Took out ${many(op.ids.length)}`;
    case 'move':
      return `Moved ${name(op.id)}`;
    case 'change':
      return `Changed ${fieldNames([...Object.keys(op.set), ...(op.unset ?? [])])} of ${name(op.id)}`;
    case 'replace':
      return `Rewrote ${name(op.item.id)}`;
    case 'review':
      return op.review?.state === 'checked' ? `Checked ${name(op.id)}` : op.review ? `Left out ${name(op.id)}` : `Opened ${name(op.id)} again`;
    case 'dismiss':
      return op.reason === null ? 'Took a finding back in' : 'Set a finding aside';
    case 'aim':
      return 'Changed what the set is meant to be';
    case 'draw':
      return op.drawn ? `Drew ${op.drawn.versions.length === 1 ? 'a version' : `${op.drawn.versions.length} versions`}` : 'Took the versions away';
    case 'divide':
      return op.work ? `Divided the checking among ${op.work.map((w) => w.name).join(', ')}` : 'Ended the dividing of the checking';
    case 'translate': {
      const [made, gone] = [Object.keys(op.set).length, op.unset?.length ?? 0];
      const texts = made + gone === 1 ? 'a text' : `${made + gone} texts`;
      return made ? `Translated ${texts} into ${languageName(op.language)}` : `Took ${texts} in ${languageName(op.language)} away`;
    }
    case 'describe':
      return `Changed the ${Object.keys(op.set)
        .concat(op.unset ?? [])
        .join(', ')} of the set`;
  }
}

/** An item before and after, by field. */
export interface ItemDifference {
  id: string;
  what: 'added' | 'gone' | 'changed' | 'moved';
  before: Item | null;
  after: Item | null;
  /** The fields in which they differ, by their names in the model. */
  fields: string[];
}

/** How two states of a set differ, item by item in the order of the later one; what is gone stands last. */
export function differencesOf(before: SetDocument, after: SetDocument): ItemDifference[] {
  const was = new Map(before.set.items.map((i) => [i.id, i]));
  const out: ItemDifference[] = [];
  const kept = new Set(after.set.items.map((i) => i.id));
  const orderBefore = before.set.items.filter((i) => kept.has(i.id)).map((i) => i.id);
  const orderAfter = after.set.items.filter((i) => was.has(i.id)).map((i) => i.id);
  const still = longestCommon(orderBefore, orderAfter);
  for (const item of after.set.items) {
    const old = was.get(item.id);
    if (!old) {
      out.push({ id: item.id, what: 'added', before: null, after: item, fields: [] });
      continue;
    }
    const fields = fieldsThatDiffer(old, item);
    if (fields.length) out.push({ id: item.id, what: 'changed', before: old, after: item, fields });
    else if (!still.has(item.id)) out.push({ id: item.id, what: 'moved', before: old, after: item, fields: [] });
  }
  for (const item of before.set.items) if (!kept.has(item.id)) out.push({ id: item.id, what: 'gone', before: item, after: null, fields: [] });
  return out;
}

function fieldsThatDiffer(a: Item, b: Item): string[] {
  if (a.kind !== b.kind) return ['kind'];
  const [x, y] = [canonical(a), canonical(b)];
  const json = (v: unknown): string => JSON.stringify(v) ?? '';
  return [...new Set([...Object.keys(x), ...Object.keys(y)])].filter((k) => json(x[k]) !== json(y[k]));
}

/** The ids that stand in the same order in both lists (a longest common subsequence); beyond 2,000 items only those at the same place. */
function longestCommon(a: readonly string[], b: readonly string[]): ReadonlySet<string> {
  if (a.length > 2000) return new Set(a.filter((id, i) => b[i] === id));
  const place = new Map(b.map((id, i) => [id, i]));
  const seq = a.map((id) => place.get(id) ?? -1);
  // longest increasing run of places, by patience
  const tails: number[] = [];
  const from: number[] = [];
  seq.forEach((p, i) => {
    let lo = 0;
    let hi = tails.length;
    while (lo < hi) {
      const mid = (lo + hi) >> 1;
      if ((seq[tails[mid] as number] ?? 0) < p) lo = mid + 1;
      else hi = mid;
    }
    from[i] = lo ? (tails[lo - 1] as number) : -1;
    tails[lo] = i;
  });
  const out = new Set<string>();
  for (let i = tails.at(-1) ?? -1; i >= 0; i = from[i] ?? -1) out.add(a[i] as string);
  return out;
}
