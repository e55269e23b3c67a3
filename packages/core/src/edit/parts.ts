/** The parts of a set: made of items, changed, moved as one, dissolved; and items moved in and out of them. */
import { newId } from '../item/ids.js';
import { isQuestion } from '../item/kinds.js';
import type { Item, QuizSet, Section } from '../item/model.js';
import type { Operation, SimpleOperation } from '../item/operations.js';
import { moveItems } from './bulk.js';

/** Neighbours that are of one part; or of none, where there is no section. */
export interface Run {
  section?: Section;
  /** Places of the items in the set. */
  from: number;
  to: number;
}
/** The set as it is seen from above: runs of items of one part, in order. */
export function runsOfSet({ items, sections }: Pick<QuizSet, 'items' | 'sections'>): Run[] {
  const byId = new Map(sections?.map((s) => [s.id, s]));
  const out: Run[] = [];
  items.forEach((item, i) => {
    const section = item.section === undefined ? undefined : byId.get(item.section);
    const last = out.at(-1);
    if (last && last.section === section) last.to = i + 1;
    else out.push({ ...(section && { section }), from: i, to: i + 1 });
  });
  return out;
}

const all = (label: string, operations: SimpleOperation[]): Operation => ({ type: 'all', label, operations });
const home = (item: Item, section: string | undefined): SimpleOperation[] =>
  item.section === section
    ? []
    : [section === undefined ? { type: 'change', id: item.id, set: {}, unset: ['section'] } : { type: 'change', id: item.id, set: { section } }];

/**
 * Moves an item to a place. Between two items of one part it becomes of that part; at the edge of its own it stays in it; elsewhere it leaves it.
 * @param to its place when it is taken out first, 0-based
 */
export function moveTo({ items }: Pick<QuizSet, 'items'>, id: string, to: number): Operation | null {
  const from = items.findIndex((i) => i.id === id);
  const item = items[from];
  if (!item || to < 0 || to >= items.length || to === from) return null;
  const rest = items.filter((i) => i.id !== id);
  const [before, after] = [rest[to - 1]?.section, rest[to]?.section];
  const section = before === after ? before : item.section !== undefined && (before === item.section || after === item.section) ? item.section : undefined;
  const more = home(item, section);
  const move: SimpleOperation = { type: 'move', id, to };
  return more.length ? all('Moved an item to another part', [move, ...more]) : move;
}

/** Makes a part of items: they come to stand together, where the first of them stands. */
export function makePart(set: QuizSet, ids: ReadonlySet<string>, fields: Omit<Section, 'id'>): Operation {
  const section: Section = { id: newId(), ...fields };
  const first = set.items.findIndex((i) => ids.has(i.id));
  const chosen = set.items.filter((i) => ids.has(i.id));
  return all('Made a part', [
    { type: 'describe', set: { sections: [...(set.sections ?? []), section] } },
    ...moveItems(set.items, ids, Math.max(0, first)),
    ...chosen.flatMap((i) => home(i, section.id)),
  ]);
}

/**
 * Says anew what a part is called, asks, shows and keeps.
 * @param points of each of its questions, where all are to have the same
 */
export function changePart(set: QuizSet, part: Section, points?: number): Operation {
  const { id, title, instructions, passage, keepOrder } = part;
  const section: Section = { id, ...(title && { title }), ...(instructions && { instructions }), ...(passage && { passage }), ...(keepOrder && { keepOrder }) };
  return all('Changed a part', [
    { type: 'describe', set: { sections: (set.sections ?? []).map((s) => (s.id === id ? section : s)) } },
    ...set.items.flatMap((i): SimpleOperation[] =>
      points !== undefined && i.section === id && isQuestion(i) && i.points !== points ? [{ type: 'change', id: i.id, set: { points } }] : [],
    ),
  ]);
}

/** Takes a part away; its items stay where they are. */
export function dissolvePart(set: QuizSet, id: string): Operation {
  const sections = (set.sections ?? []).filter((s) => s.id !== id);
  return all('Dissolved a part', [
    ...set.items.filter((i) => i.section === id).flatMap((i) => home(i, undefined)),
    sections.length ? { type: 'describe', set: { sections } } : { type: 'describe', set: {}, unset: ['sections'] },
  ]);
}

/** Moves a run of items past the run before it (−1) or behind it (1); null at the ends. */
export function moveRun(set: QuizSet, at: number, by: -1 | 1): Operation | null {
  const runs = runsOfSet(set);
  const [run, other] = [runs[at], runs[at + by]];
  if (!run || !other) return null;
  const ids = new Set(set.items.slice(run.from, run.to).map((i) => i.id));
  return all('Moved a part', moveItems(set.items, ids, by < 0 ? other.from : other.to));
}

/** How items are numbered: through the set, anew in each part, or not at all. Texts to read get no number. */
export function numberItems(set: QuizSet, how: 'through' | 'parts' | 'none'): Operation | null {
  const operations: SimpleOperation[] = [];
  let n = 0;
  for (const run of runsOfSet(set)) {
    if (how === 'parts') n = 0;
    for (const item of set.items.slice(run.from, run.to)) {
      const label = how === 'none' || !isQuestion(item) ? undefined : String(++n);
      if (item.label === label) continue;
      operations.push(label === undefined ? { type: 'change', id: item.id, set: {}, unset: ['label'] } : { type: 'change', id: item.id, set: { label } });
    }
  }
  return operations.length ? all('Numbered the items', operations) : null;
}
