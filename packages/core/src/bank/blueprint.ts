/** What versions are made of: a table of rows, each a sort of item and how many of it. */
import { counted } from '../language/counted.js';
import { KIND_CODES } from '../item/kindCodes.js';
import { kinds } from '../item/kinds.js';
import { type BlueprintRow, blueprintRow } from '../item/drawn.js';
import { bloomLevels, type Item, type Kind, kindNames, type QuizSet } from '../item/model.js';
import { ReadError } from '../item/readError.js';

/** An item that may be drawn. */
export interface PoolItem {
  item: Item;
  /** The set that it stands in: its parts, its language. */
  set: QuizSet;
  /** Difficulty from answers, 0 (all right) to 1; where there is none, the item's given level counts. */
  measured?: number;
  /** How often it was used. */
  uses?: number;
}
/** How hard an item is, 0 to 1, from answers or else as its level says; undefined where nobody said. */
export const difficultyOf = ({ item, measured }: PoolItem): number | undefined => measured ?? item.level?.difficulty;

const same = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();
/** Whether an item is of a row's sort. */
export function ofRow(row: BlueprintRow, pooled: PoolItem): boolean {
  const { item, set } = pooled;
  if (row.outcome !== undefined && !item.outcomes?.some((o) => same(o, row.outcome ?? ''))) return false;
  if (row.tag !== undefined && !item.tags?.some((t) => same(t, row.tag ?? ''))) return false;
  if (row.kind !== undefined && item.kind !== row.kind) return false;
  if (row.bloom !== undefined && item.level?.bloom !== row.bloom) return false;
  if (row.difficulty) {
    const d = difficultyOf(pooled);
    if (d === undefined || d < row.difficulty.from || d > row.difficulty.to) return false;
  }
  if (row.part !== undefined) {
    const part = set.sections?.find((s) => s.id === item.section);
    if (!part || !(part.id === row.part || same(part.title ?? '', row.part))) return false;
  }
  return true;
}

/** A row as a person reads it: "3 items of outcome Yeast, true/false". */
export function sayRow(row: BlueprintRow): string {
  const sorts = [
    row.outcome !== undefined && `outcome “${row.outcome}”`,
    row.tag !== undefined && `tag “${row.tag}”`,
    row.kind !== undefined && `kind “${kinds[row.kind].name}”`,
    row.bloom !== undefined && `level “${row.bloom}”`,
    row.difficulty && `difficulty ${row.difficulty.from} to ${row.difficulty.to}`,
    row.part !== undefined && `part “${row.part}”`,
  ].filter(Boolean);
  const many = row.count !== undefined ? counted(row.count, 'item') : `${row.points ?? 0} points`;
  return sorts.length ? `${many} of ${sorts.join(', ')}` : many;
}

/** What the pool offers to a row: items, and their points. */
export interface RowOffer {
  items: number;
  points: number;
}
/** What a pool offers to each row. Of items that ask nearly the same, one counts, because a version holds only one. */
export function offersOf(pool: readonly PoolItem[], rows: readonly BlueprintRow[], groups: readonly (readonly number[])[]): RowOffer[] {
  const heads = new Map(groups.flatMap((g) => g.map((i) => [i, g[0] as number])));
  return rows.map((row) => {
    const seen = new Set<number>();
    let points = 0;
    pool.forEach((p, i) => {
      const head = heads.get(i) ?? i;
      if (!ofRow(row, p) || seen.has(head)) return;
      seen.add(head);
      points += p.item.points;
    });
    return { items: seen.size, points };
  });
}

// ── a blueprint as a file ──

const NAMES: Record<string, keyof BlueprintRow | 'level'> = {
  outcome: 'outcome',
  outcomes: 'outcome',
  tag: 'tag',
  tags: 'tag',
  kind: 'kind',
  type: 'kind',
  bloom: 'bloom',
  level: 'level',
  difficulty: 'difficulty',
  part: 'part',
  section: 'part',
  count: 'count',
  items: 'count',
  n: 'count',
  number: 'count',
  points: 'points',
};
/** Words for a third of the range of difficulty each; common practice, no source. */
export const difficultyThirds: Readonly<Record<string, { from: number; to: number }>> = {
  easy: { from: 0, to: 0.35 },
  medium: { from: 0.35, to: 0.65 },
  hard: { from: 0.65, to: 1 },
};

function kindNamed(name: string): Kind | undefined {
  const plain = name
    .trim()
    .toLowerCase()
    .replace(/[\s_/]+/g, '-');
  return kindNames.find((k) => k === plain || same(kinds[k].name, name)) ?? KIND_CODES[name.trim().toUpperCase()];
}

/**
 * Reads a blueprint file: a list of rows, or an object that holds it under `rows`. A row names `outcome`, `tag`, `kind`, `level`
 * (a word such as "apply" or "easy", or `{ bloom, difficulty }`) and `part`, and says `count` or `points`.
 * @throws ReadError that names the row and what to change
 */
export function readBlueprint(text: string): BlueprintRow[] {
  let raw: unknown;
  try {
    raw = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (e) {
    throw new ReadError(`the blueprint is not JSON: ${(e as Error).message}`);
  }
  const list = Array.isArray(raw)
    ? raw
    : raw && typeof raw === 'object'
      ? ((raw as Record<string, unknown>)['rows'] ?? (raw as Record<string, unknown>)['blueprint'])
      : undefined;
  if (!Array.isArray(list)) throw new ReadError('the blueprint holds no list of rows; write [{ "outcome": "…", "count": 3 }]');
  return list.map((value: unknown, i) => {
    const wrong = (what: string): ReadError => new ReadError(`row ${i + 1} of the blueprint: ${what}`);
    if (!value || typeof value !== 'object' || Array.isArray(value)) throw wrong('is no row; write { "outcome": "…", "count": 3 }');
    const row: Record<string, unknown> = {};
    const level = (said: unknown): void => {
      if (said && typeof said === 'object' && !Array.isArray(said) && 'from' in said) return void (row['difficulty'] = said);
      if (said && typeof said === 'object' && !Array.isArray(said)) return void Object.entries(said).forEach(([k, v]) => take(k, v));
      if (Array.isArray(said)) row['difficulty'] = { from: said[0] as unknown, to: said[1] as unknown };
      else if (typeof said === 'number') row['difficulty'] = { from: said, to: said };
      else if (typeof said === 'string' && bloomLevels.some((b) => same(b, said))) row['bloom'] = said.trim().toLowerCase();
      else if (typeof said === 'string' && difficultyThirds[said.trim().toLowerCase()]) row['difficulty'] = difficultyThirds[said.trim().toLowerCase()];
      else throw wrong(`level “${String(said)}” is not known; use ${bloomLevels.join(', ')}, easy, medium or hard`);
    };
    const take = (name: string, said: unknown): void => {
      const field = NAMES[name.toLowerCase()];
      if (!field) throw wrong(`“${name}” is not known; use outcome, tag, kind, level, part, count or points`);
      if (said === null || said === undefined) return;
      if (field === 'level' || field === 'difficulty') return level(said);
      if (field === 'kind') {
        const kind = kindNamed(String(said));
        if (!kind) throw wrong(`kind “${String(said)}” is not known; use one of ${kindNames.join(', ')}`);
        row['kind'] = kind;
      } else row[field] = Array.isArray(said) && said.length === 1 ? (said[0] as unknown) : said;
    };
    for (const [name, said] of Object.entries(value)) take(name, said);
    const read = blueprintRow.safeParse(row);
    if (!read.success) throw wrong(`${read.error.issues[0]?.path.join('.') ?? ''} ${read.error.issues[0]?.message ?? 'is not valid'}`);
    if (read.data.count === undefined && read.data.points === undefined) throw wrong('says neither count nor points');
    return read.data;
  });
}
