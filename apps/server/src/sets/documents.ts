/**
 * Sets as they lie in the database: a head, the order of the items, and each item with its review as a row of its own. An edit writes
 * the rows that it changes. What was read last stays in memory and is good for as long as the set has the same version.
 */
import { Injectable } from '@nestjs/common';
import type { EntityManager } from '@mikro-orm/postgresql';
import { LRUCache } from 'lru-cache';
import { guessLanguage, type Item, keyProblem, maximumOf, nearKeys, newId, ownFindings, type QuizSet, type Review, type SetDocument } from '@zakuska/core';
import { gone } from '../platform/problem.js';
import { sql } from '../platform/sql.js';
import type { DraftState } from './entities.js';

/** What lists say of a set, kept with it. */
export interface Summary {
  items: number;
  checked: number;
  leftOut: number;
  withoutKey: number;
  points: number;
  /** Names of the versions that are drawn; absent where none are. */
  versions?: string[];
}
export interface Versioned {
  version: number;
  document: SetDocument;
}

/** A document without its items and reviews. */
type Head = Omit<SetDocument, 'set' | 'reviews'> & { set: Omit<QuizSet, 'items'> };
const headOf = ({ reviews: _, set: { items: __, ...set }, ...rest }: SetDocument): Head => ({ ...rest, set });

/** Whether two states have the same head: fields that an edit leaves alone are the same objects, so that none is written out to be compared. */
function sameHead(before: SetDocument, after: SetDocument): boolean {
  const [a, b] = [before, after].map((d): Record<string, unknown> => {
    const { set, ...rest } = headOf(d);
    return { ...rest, ...Object.fromEntries(Object.entries(set).map(([k, v]) => [`set ${k}`, v])) };
  }) as [Record<string, unknown>, Record<string, unknown>];
  return Object.keys({ ...a, ...b }).every((k) => a[k] === b[k]);
}

/** Whether an item has no key: asked once of each item, since items never change in place. */
const keyless = new WeakMap<Item, boolean>();
function isKeyless(item: Item): boolean {
  const known = keyless.get(item);
  if (known !== undefined) return known;
  const found = keyProblem(item) !== null;
  keyless.set(item, found);
  return found;
}

/** An item's review. What every object has under some names (`constructor`) has no state and is none. */
function reviewOf({ reviews }: SetDocument, id: string): Review | undefined {
  const r = reviews[id] as Review | undefined;
  return r?.state ? r : undefined;
}

export function summaryOf(d: SetDocument): Summary {
  let checked = 0;
  const leftOut = new Set<string>();
  // by the reviews, not by the items: few are left out, and a look at each item's review is what would take time
  for (const [id, { state }] of Object.entries(d.reviews))
    if (state === 'checked') checked++;
    else leftOut.add(id);
  const { items } = d.set;
  const going = leftOut.size ? items.filter((i) => !leftOut.has(i.id)) : items;
  return {
    items: items.length,
    checked,
    leftOut: leftOut.size,
    withoutKey: going.reduce((n, i) => n + (isKeyless(i) ? 1 : 0), 0),
    points: maximumOf(going),
    ...(d.drawn && { versions: d.drawn.versions.map((v) => v.name) }),
  };
}

/** The items whose review differs between two states. */
function reviewed(before: SetDocument, after: SetDocument): Set<string> {
  const out = new Set<string>();
  if (before.reviews === after.reviews) return out;
  for (const id of Object.keys(before.reviews)) if (reviewOf(after, id) !== reviewOf(before, id)) out.add(id);
  for (const id of Object.keys(after.reviews)) if (reviewOf(before, id) !== reviewOf(after, id)) out.add(id);
  return out;
}

/** More items at once than this are looked at behind the edit. */
const MANY = 300;
/** Items that tell in which language a set is. */
const TELLING = 40;
/** The language that items of a set are searched by: what the set says, else what its words say. */
const languageOf = ({ language, items }: QuizSet): string | null =>
  language ??
  guessLanguage(
    items
      .slice(0, TELLING)
      .map((i) => i.stem)
      .join(' '),
  ) ??
  null;

/** Items kept in memory, over all sets. */
const MOST_ITEMS = 40_000;
/** What a set counts in such a memory: its items and a little; a set larger than all of it fills it alone. */
export const itemsSize = (set: QuizSet, most: number): number => Math.min(set.items.length + 10, most);

interface Row {
  version: number;
  head: Head;
  item_order: string[];
}

@Injectable()
export class Documents {
  private readonly kept = new LRUCache<string, Versioned>({ maxSize: MOST_ITEMS, sizeCalculation: ({ document }) => itemsSize(document.set, MOST_ITEMS) });

  /**
   * The document of a set and its version.
   * @throws Problem 404 where there is none
   */
  async read(em: EntityManager, id: string): Promise<Versioned> {
    return this.at(em, id, 'select version from quiz_set where id = ?');
  }

  /**
   * The same of a set whose row is locked.
   * @param em inside a transaction
   */
  async lock(em: EntityManager, id: string): Promise<Versioned> {
    return this.at(em, id, 'select version from quiz_set where id = ? for update');
  }

  private async at(em: EntityManager, id: string, versionOf: string): Promise<Versioned> {
    const [current] = await sql<{ version: number }>(em, versionOf, [id]);
    if (!current) throw gone('set');
    const there = this.kept.get(id);
    if (there?.version === current.version) return there;
    // one statement sees one state: head, order and items belong together
    const [row] = await sql<Row & { items: { item: Item; review: Review | null }[] | null }>(
      em,
      `select s.version, s.head, s.item_order, (select jsonb_agg(jsonb_build_object('item', i.item, 'review', i.review)) from set_item i where i.set_id = s.id) as items
       from quiz_set s where s.id = ?`,
      [id],
    );
    if (!row) throw gone('set');
    const items = new Map((row.items ?? []).map((r) => [r.item.id, r]));
    const reviews: Record<string, Review> = {};
    const inOrder = row.item_order.flatMap((itemId) => {
      const r = items.get(itemId);
      if (r?.review) reviews[itemId] = r.review;
      return r ? [r.item] : [];
    });
    const found = { version: row.version, document: { ...row.head, set: { ...row.head.set, items: inOrder }, reviews } };
    this.keep(id, found);
    return found;
  }

  /** Remembers a document, once it is in the database for good. */
  keep(id: string, v: Versioned): void {
    this.kept.set(id, v);
  }

  /** Writes a set that is new. */
  async create(
    em: EntityManager,
    set: { id?: string; workspace: string; folder?: string | null; owner?: string; restricted?: boolean; document: SetDocument; draft?: DraftState; at?: Date },
  ): Promise<string> {
    const { id = newId(), document, draft = { text: '', overrides: [] }, at = new Date() } = set;
    await sql(
      em,
      `insert into quiz_set (id, workspace_id, title, folder_id, owner_id, restricted, head, item_order, summary, draft, created_at, updated_at)
       values (?, ?, ?, ?, ?, ?, ?::jsonb, ?::jsonb, ?::jsonb, ?::jsonb, ?, ?)`,
      [
        id,
        set.workspace,
        document.set.title,
        set.folder ?? null,
        set.owner ?? null,
        set.restricted ?? false,
        JSON.stringify(headOf(document)),
        JSON.stringify(document.set.items.map((i) => i.id)),
        JSON.stringify(summaryOf(document)),
        JSON.stringify(draft),
        at,
        at,
      ],
    );
    await this.writeItems(em, id, { ...document, set: { ...document.set, items: [] }, reviews: {} }, document);
    return id;
  }

  /**
   * Writes what differs between two states of a set, with its new version.
   * @param em inside the transaction that has locked the set
   */
  async write(em: EntityManager, id: string, before: SetDocument, after: Versioned): Promise<void> {
    const { document, version } = after;
    await this.writeItems(em, id, before, document);
    // what is searched is stemmed by the language
    if (before.set.language !== document.set.language) await sql(em, 'update set_item set language = ? where set_id = ?', [languageOf(document.set), id]);
    const newHead = sameHead(before, document) ? null : JSON.stringify(headOf(document));
    const order = document.set.items;
    const moved = order.length !== before.set.items.length || order.some((i, n) => i.id !== before.set.items[n]?.id);
    await sql(
      em,
      `update quiz_set set version = ?, title = ?, updated_at = now(), summary = ?::jsonb,
         head = coalesce(?::jsonb, head), item_order = coalesce(?::jsonb, item_order) where id = ?`,
      [version, document.set.title, JSON.stringify(summaryOf(document)), newHead, moved ? JSON.stringify(order.map((i) => i.id)) : null, id],
    );
  }

  private async writeItems(em: EntityManager, id: string, before: SetDocument, after: SetDocument): Promise<void> {
    // mostly one item of many has changed in its place: maps are made only where items have moved
    const moved = after.set.items.length !== before.set.items.length || after.set.items.some((i, n) => i.id !== before.set.items[n]?.id);
    const was = moved ? new Map(before.set.items.map((i) => [i.id, i])) : null;
    const judged = reviewed(before, after);
    const changed = after.set.items.filter((i, n) => !(was ? was.get(i.id) === i : i === before.set.items[n]) || (judged.size > 0 && judged.has(i.id)));
    if (changed.length) {
      const language = languageOf(after.set);
      // what takes long for very many is left to housekeeping: the rows say that it is not known yet
      const known = (item: Item): object => (changed.length > MANY ? {} : { near: nearKeys(item), findings: ownFindings(item, language ?? undefined) });
      await sql(
        em,
        `insert into set_item (set_id, id, item, review, language, near_keys, findings)
         select ?, x->'item'->>'id', x->'item', nullif(x->'review', 'null'), ?, case when x->'near' is not null then array(select jsonb_array_elements_text(x->'near')::int) end,
           case when x->'near' is not null then array(select jsonb_array_elements_text(x->'findings')) end
         from jsonb_array_elements(?::jsonb) x
         on conflict (set_id, id) do update set item = excluded.item, review = excluded.review, language = excluded.language,
           near_keys = excluded.near_keys, findings = excluded.findings, changed_at = now()`,
        [id, language, JSON.stringify(changed.map((item) => ({ item, review: reviewOf(after, item.id) ?? null, ...known(item) })))],
      );
    }
    if (!moved) return;
    const left = new Set(after.set.items.map((i) => i.id));
    const gone = before.set.items.filter((i) => !left.has(i.id)).map((i) => i.id);
    if (gone.length) await sql(em, 'delete from set_item where set_id = ? and id in (select jsonb_array_elements_text(?::jsonb))', [id, JSON.stringify(gone)]);
  }
}
