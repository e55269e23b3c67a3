/**
 * Editing as operations: every change of a set is one operation, and applying one gives its inverse. Undo, history,
 * saving, syncing and conflict handling all rest on this.
 */
import { grades, roundings } from './grades.js';
import { z } from 'zod';
import { drawn, type Drawn } from './drawn.js';
import { item as itemSchema, section, type Item, type QuizSet } from './model.js';
import { languageTag, translation, type Translation } from './translations.js';

/** The schema of a review. */
export const review = z.discriminatedUnion('state', [
  z.object({ state: z.literal('checked'), by: z.string(), at: z.string() }),
  z.object({ state: z.literal('left-out') }),
]);
/** What a person said of an item: looked at and right, or not to go out. An item without a review is open. */
export type Review = z.infer<typeof review>;
const reviews = z.record(z.string(), review);

/** A set with what people said of its items: the thing that operations change. */
export interface SetDocument {
  set: QuizSet;
  reviews: Record<string, Review>;
  /** Findings that a person set aside, with the reason; see `findingKey`. */
  dismissed?: Record<string, string>;
  /** What the set is meant to be: its reading level, how many items of which outcome. */
  aim?: Aim;
  /** Versions drawn from its items; they stay as they are until drawn again. */
  drawn?: Drawn;
  /** Who is to check which of its items. */
  work?: Work[];
}
/** The items that go out: all but those that a person left out. */
export const includedItems = ({ set, reviews }: SetDocument): Item[] => set.items.filter((i) => reviews[i.id]?.state !== 'left-out');
/** The set of a document without what a person left out. */
export const includedSet = (document: SetDocument): QuizSet => ({ ...document.set, items: includedItems(document) });

/** A document without items. */
export const emptyDocument = (title: string): SetDocument => ({ set: { title, items: [] }, reviews: {} });

/** The schema of what a set is meant to be. */
export const aim = z.object({
  year: z.number().min(1).max(20).optional(),
  outcomes: z.record(z.string().min(1).max(300), z.number().int().min(1).max(10_000)).optional(),
  /** The grades that its points are worth. */
  grades: grades.optional(),
  /** How the points of a person are rounded. */
  rounding: z.enum(roundings).optional(),
});
/** What a set is meant to be. */
export type Aim = z.infer<typeof aim>;

/** The schema of a person's share of the checking. */
export const work = z.object({ account: z.string().min(1).max(200), name: z.string().max(200), items: z.array(z.string()).max(20_000) });
/** The items that a person is to check, by their ids; those that are gone since do not count. */
export type Work = z.infer<typeof work>;

const setFields = z.object({
  title: z.string().min(1).max(300),
  description: z.string(),
  language: z.string(),
  sections: z.array(section),
});

/** The schema of one change. */
export const simpleOperation = z.discriminatedUnion('type', [
  z.object({ type: z.literal('insert'), at: z.number().int().min(0), items: z.array(itemSchema), reviews: reviews.optional() }),
  z.object({ type: z.literal('remove'), ids: z.array(z.string()) }),
  z.object({ type: z.literal('move'), id: z.string(), to: z.number().int().min(0) }),
  /** New values of single fields of an item; fields named in `unset` go. `review` is what the item's review becomes. */
  z.object({
    type: z.literal('change'),
    id: z.string(),
    set: z.record(z.string(), z.unknown()),
    unset: z.array(z.string()).optional(),
    review: review.nullable().optional(),
  }),
  /** The whole item anew, as when it changes its kind. */
  z.object({ type: z.literal('replace'), item: itemSchema, review: review.nullable().optional() }),
  z.object({ type: z.literal('review'), id: z.string(), review: review.nullable() }),
  /** Sets a finding aside with a reason, or takes it back in. */
  z.object({ type: z.literal('dismiss'), finding: z.string().min(1).max(400), reason: z.string().max(500).nullable() }),
  z.object({ type: z.literal('aim'), aim: aim.nullable() }),
  z.object({ type: z.literal('draw'), drawn: drawn.nullable() }),
  /** Divides the checking among people, or ends that. */
  z.object({ type: z.literal('divide'), work: z.array(work).max(200).nullable() }),
  /** New translations of units into a language, in place of those that are there; those named in `unset` go. */
  z.object({ type: z.literal('translate'), language: languageTag, set: z.record(z.string().max(600), translation), unset: z.array(z.string()).optional() }),
  z.object({ type: z.literal('describe'), set: setFields.partial(), unset: z.array(z.enum(['description', 'language', 'sections'])).optional() }),
]);
/** One change of a set. */
export type SimpleOperation = z.infer<typeof simpleOperation>;

/** The schema of a change that is one step for a person: one, or several under a label. */
export const operation = z.union([simpleOperation, z.object({ type: z.literal('all'), label: z.string().optional(), operations: z.array(simpleOperation) })]);
/** A change that is one step for a person: one, or several under a label. */
export type Operation = z.infer<typeof operation>;

/** An operation that does not fit the set: the item is gone, a field has a wrong value. Nothing was changed. */
export class OperationError extends Error {
  constructor(
    readonly code: 'item-gone' | 'item-there' | 'value-invalid',
    message: string,
  ) {
    super(message);
  }
}

/** Fields that make up what a person checked; changing one sets a checked item back to open. */
const MATERIAL = new Set(['stem', 'options', 'answer', 'answers', 'gaps', 'pairs', 'extraRights', 'sequence', 'match', 'scoring', 'unit', 'wordBank']);

/** The document after an operation, and the operation that leads back. */
export interface Applied {
  document: SetDocument;
  inverse: Operation;
}

/**
 * Applies an operation; the given document stays as it is.
 * @throws OperationError where the operation does not fit.
 */
export function apply(document: SetDocument, op: Operation): Applied {
  if (op.type === 'all') {
    const inverses: SimpleOperation[] = [];
    let now = document;
    for (const one of op.operations) {
      const r = applySimple(now, one);
      now = r.document;
      inverses.unshift(r.inverse);
    }
    return { document: now, inverse: { type: 'all', ...(op.label && { label: op.label }), operations: inverses } };
  }
  return applySimple(document, op);
}

function applySimple(document: SetDocument, op: SimpleOperation): { document: SetDocument; inverse: SimpleOperation } {
  const { set } = document;
  const withItems = (items: Item[], revs = document.reviews): SetDocument => ({ ...document, set: { ...set, items }, reviews: revs });
  const place = (id: string): number => {
    const at = set.items.findIndex((i) => i.id === id);
    if (at < 0) throw new OperationError('item-gone', 'The item is no longer in the set.');
    return at;
  };
  switch (op.type) {
    case 'insert': {
      const there = new Set(set.items.map((i) => i.id));
      for (const i of op.items) {
        if (there.has(i.id)) throw new OperationError('item-there', 'The item is in the set already.');
        there.add(i.id);
      }
      const at = Math.min(op.at, set.items.length);
      return {
        document: withItems([...set.items.slice(0, at), ...op.items, ...set.items.slice(at)], { ...document.reviews, ...op.reviews }),
        inverse: { type: 'remove', ids: op.items.map((i) => i.id) },
      };
    }
    case 'remove':
      return removeItems(
        document,
        op.ids.map(place).sort((a, b) => a - b),
      );
    case 'move': {
      const from = place(op.id);
      const rest = set.items.filter((i) => i.id !== op.id);
      const to = Math.min(op.to, rest.length);
      return {
        document: withItems([...rest.slice(0, to), set.items[from] as Item, ...rest.slice(to)]),
        inverse: { type: 'move', id: op.id, to: from },
      };
    }
    case 'change': {
      const at = place(op.id);
      const old = set.items[at] as Item & Record<string, unknown>;
      const fields = [...Object.keys(op.set), ...(op.unset ?? [])];
      if (fields.some((f) => f === 'id' || f === 'kind')) throw new OperationError('value-invalid', 'An item keeps its id and kind.');
      const next: Record<string, unknown> = { ...old, ...op.set };
      for (const f of op.unset ?? []) delete next[f];
      const item = checkedItem(next);
      const was = {
        type: 'change' as const,
        id: op.id,
        set: Object.fromEntries(fields.filter((f) => f in old).map((f) => [f, old[f]])),
        unset: fields.filter((f) => !(f in old)),
      };
      return finishChange(
        document,
        at,
        item,
        op.review,
        fields.some((f) => MATERIAL.has(f)),
        was,
      );
    }
    case 'replace': {
      const at = place(op.item.id);
      return finishChange(document, at, op.item, op.review, true, { type: 'replace', item: set.items[at] as Item });
    }
    case 'review': {
      place(op.id);
      const was = reviewIn(document, op.id);
      return { document: { ...document, reviews: withReview(document.reviews, op.id, op.review) }, inverse: { type: 'review', id: op.id, review: was } };
    }
    case 'dismiss': {
      const was = document.dismissed?.[op.finding] ?? null;
      const { [op.finding]: _, ...rest } = document.dismissed ?? {};
      const next = op.reason === null ? rest : { ...rest, [op.finding]: op.reason };
      const { dismissed: __, ...others } = document;
      return { document: { ...others, ...(Object.keys(next).length && { dismissed: next }) }, inverse: { type: 'dismiss', finding: op.finding, reason: was } };
    }
    case 'aim': {
      const { aim: was, ...others } = document;
      return { document: { ...others, ...(op.aim && { aim: op.aim }) }, inverse: { type: 'aim', aim: was ?? null } };
    }
    case 'draw': {
      const { drawn: was, ...others } = document;
      return { document: { ...others, ...(op.drawn && { drawn: op.drawn }) }, inverse: { type: 'draw', drawn: was ?? null } };
    }
    case 'divide': {
      const { work: was, ...others } = document;
      return { document: { ...others, ...(op.work && { work: op.work }) }, inverse: { type: 'divide', work: was ?? null } };
    }
    case 'translate':
      return translate(document, op);
    case 'describe': {
      const next: QuizSet = { ...set, ...op.set };
      for (const f of op.unset ?? []) delete next[f];
      const fields = [...(Object.keys(op.set) as (keyof typeof op.set)[]), ...(op.unset ?? [])];
      return {
        document: { ...document, set: next },
        inverse: {
          type: 'describe',
          set: Object.fromEntries(fields.filter((f) => set[f] !== undefined).map((f) => [f, set[f]])),
          unset: fields.filter((f): f is 'description' => set[f] === undefined && f !== 'title'),
        },
      };
    }
  }
}

function translate(document: SetDocument, op: Extract<SimpleOperation, { type: 'translate' }>): { document: SetDocument; inverse: SimpleOperation } {
  const { translations, ...set } = document.set;
  const { [op.language]: was = {}, ...others } = translations ?? {};
  const own: Record<string, Translation> = { ...was, ...op.set };
  for (const unit of op.unset ?? []) delete own[unit];
  const all = Object.keys(own).length ? { ...others, [op.language]: own } : others;
  const units = [...Object.keys(op.set), ...(op.unset ?? [])];
  const there = (unit: string): boolean => Object.hasOwn(was, unit);
  return {
    document: { ...document, set: { ...set, ...(Object.keys(all).length && { translations: all }) } },
    inverse: {
      type: 'translate',
      language: op.language,
      set: Object.fromEntries(units.filter(there).map((u) => [u, was[u] as Translation])),
      unset: units.filter((u) => !there(u)),
    },
  };
}

/** Removing gives back an insert per run of neighbours; a single run is the usual case and stays one operation. */
function removeItems(document: SetDocument, places: number[]): { document: SetDocument; inverse: SimpleOperation } {
  const { set, reviews: revs } = document;
  const gone = places.map((p) => set.items[p] as Item);
  const ids = new Set(gone.map((i) => i.id));
  const kept = Object.fromEntries(Object.entries(revs).filter(([id]) => !ids.has(id)));
  const goneReviews = Object.fromEntries(Object.entries(revs).filter(([id]) => ids.has(id)));
  const first = places[0] ?? 0;
  const contiguous = places.every((p, i) => p === first + i);
  if (!contiguous) throw new OperationError('value-invalid', 'Items that do not stand together are removed one after the other.');
  return {
    document: { ...document, set: { ...set, items: set.items.filter((i) => !ids.has(i.id)) }, reviews: kept },
    inverse: { type: 'insert', at: first, items: gone, ...(Object.keys(goneReviews).length && { reviews: goneReviews }) },
  };
}

function finishChange(
  document: SetDocument,
  at: number,
  item: Item,
  said: Review | null | undefined,
  material: boolean,
  inverse: Extract<SimpleOperation, { type: 'change' | 'replace' }>,
): { document: SetDocument; inverse: SimpleOperation } {
  const was = reviewIn(document, item.id);
  const fallsBack = material && was?.state === 'checked' ? null : was;
  const now = said === undefined ? fallsBack : said;
  const items = document.set.items.slice();
  items[at] = item;
  return {
    document: { ...document, set: { ...document.set, items }, reviews: withReview(document.reviews, item.id, now) },
    inverse: { ...inverse, review: was },
  };
}

const reviewIn = ({ reviews: all }: SetDocument, id: string): Review | null => (Object.hasOwn(all, id) ? (all[id] ?? null) : null);
const withReview = (all: Record<string, Review>, id: string, one: Review | null): Record<string, Review> => {
  const { [id]: _, ...rest } = all;
  return one ? { ...rest, [id]: one } : rest;
};

function checkedItem(value: unknown): Item {
  const r = itemSchema.safeParse(value);
  if (r.success) return r.data;
  const issue = r.error.issues[0];
  throw new OperationError('value-invalid', `${issue?.path.join('.') || 'item'}: ${issue?.message ?? 'not valid'}`);
}

/** The operations that take several items out, wherever they stand. */
export const removing = (ids: readonly string[]): Operation =>
  ids.length === 1 ? { type: 'remove', ids: [...ids] } : { type: 'all', operations: ids.map((id): SimpleOperation => ({ type: 'remove', ids: [id] })) };

/** The single changes that an operation is made of. */
export const changesOf = (op: Operation): readonly SimpleOperation[] => (op.type === 'all' ? op.operations : [op]);

/** What an operation reads or writes, as keys: two operations that share none can be done in either order. */
export function touches(op: Operation): Set<string> {
  const keys = new Set<string>();
  for (const o of changesOf(op)) {
    if (o.type === 'insert') for (const i of o.items) keys.add(`${i.id}:item`);
    else if (o.type === 'remove') for (const id of o.ids) keys.add(`${id}:item`);
    else if (o.type === 'move') keys.add(`${o.id}:place`);
    else if (o.type === 'change') for (const f of [...Object.keys(o.set), ...(o.unset ?? [])]) keys.add(`${o.id}:${f}`);
    else if (o.type === 'replace') keys.add(`${o.item.id}:item`);
    else if (o.type === 'review') keys.add(`${o.id}:review`);
    else if (o.type === 'aim') keys.add('set:aim');
    else if (o.type === 'draw') keys.add('set:drawn');
    else if (o.type === 'divide') keys.add('set:work');
    else if (o.type === 'translate') for (const u of [...Object.keys(o.set), ...(o.unset ?? [])]) keys.add(`text ${o.language}:${u}`);
    else if (o.type === 'dismiss') keys.add(`finding:${o.finding}`);
    else for (const f of [...Object.keys(o.set), ...(o.unset ?? [])]) keys.add(`set:${f}`);
  }
  return keys;
}

const whole = (key: string): string => `${key.slice(0, key.indexOf(':'))}:item`;

/** Whether two operations, made without knowledge of each other, change the same thing. */
export function clash(a: Operation, b: Operation): boolean {
  const ka = touches(a);
  const kb = touches(b);
  for (const k of ka) if (kb.has(k) || kb.has(whole(k))) return true;
  for (const k of kb) if (ka.has(whole(k))) return true;
  return false;
}

/** The document with one's own operations on top of others', and those that touch the same thing. */
export interface Rebased<T> {
  /** Mine that go on top of theirs. */
  kept: T[];
  /** Mine that change what they changed, or no longer fit: a person decides. */
  conflicts: T[];
  document: SetDocument;
}

/**
 * Puts operations that were made on an older version on top of what others did since.
 * @param current the document with all of theirs applied
 */
export function rebase<T extends { operation: Operation }>(current: SetDocument, mine: readonly T[], theirs: readonly Operation[]): Rebased<T> {
  const out: Rebased<T> = { kept: [], conflicts: [], document: current };
  for (const m of mine) {
    if (theirs.some((t) => clash(m.operation, t)) || out.conflicts.some((c) => clash(m.operation, c.operation))) {
      out.conflicts.push(m);
      continue;
    }
    try {
      out.document = apply(out.document, m.operation).document;
      out.kept.push(m);
    } catch (e) {
      if (!(e instanceof OperationError)) throw e;
      out.conflicts.push(m);
    }
  }
  return out;
}
