/** The limits of the item model, kept for whatever a file says: what a file says beyond them is brought within them and told. */
import type { z } from 'zod';
import { stableId } from './ids.js';
import { type Diagnostic, type Item, item as itemSchema, type ReadResult, type Section, section as sectionSchema } from './model.js';

type Issue = z.core.$ZodIssue;
type Parent = Record<PropertyKey, unknown>;

/** The object that holds the last step of a path. */
const parentOf = (of: unknown, path: readonly PropertyKey[]): Parent | undefined =>
  path.slice(0, -1).reduce<unknown>((at, step) => (at as Parent | undefined)?.[step], of) as Parent | undefined;

/** Words for a place in an item: "credit of option 3". */
const placed = (path: readonly PropertyKey[]): string => {
  const [last, at, list] = [...path].reverse();
  return typeof at === 'number' ? `${String(last)} of ${String(list).replace(/s$/, '')} ${at + 1}` : String(last);
};

/** Brings what one issue names within the model. @returns what was done, null where it needs no word, undefined where nothing helps */
function mended(of: unknown, issue: Issue): string | null | undefined {
  const parent = parentOf(of, issue.path);
  const last = issue.path[issue.path.length - 1];
  if (!parent || last === undefined || last === 'kind') return undefined;
  const value = parent[last];
  const where = placed(issue.path);
  if (last === 'id' || last === 'section') {
    if (typeof value !== 'string') return undefined;
    parent[last] = stableId(value);
    return null;
  }
  const bound = issue.code === 'too_big' ? issue.maximum : issue.code === 'too_small' ? issue.minimum : undefined;
  if (typeof value === 'number' && bound !== undefined && !('inclusive' in issue && issue.inclusive === false)) {
    parent[last] = Number(bound);
    return `The ${where} is ${value} in the file, and ${String(bound)} here.`;
  }
  delete parent[last];
  return `The ${where} was left out: ${JSON.stringify(value)?.slice(0, 40) ?? 'it'} cannot be one.`;
}

/** One item or part within the model; null where it cannot be brought there. */
function within<T extends Item | Section>(
  one: T,
  schema: { safeParse(v: unknown): { success: boolean; error?: { issues: Issue[] } } },
  tell: (message: string, lost: boolean) => void,
): T | null {
  // a mended field may show the next one: each turn mends at least one, and an item has few with limits
  let out: T = one;
  const said: string[] = [];
  for (let turn = 0; turn < 5; turn++) {
    const { success, error } = schema.safeParse(out);
    if (success) {
      for (const message of said) tell(message, false);
      return out;
    }
    if (turn === 0) out = structuredClone(one);
    for (const issue of error?.issues ?? []) {
      const message = mended(out, issue);
      if (message) said.push(message);
      if (message === undefined) turn = 5;
    }
  }
  tell(`${schema.safeParse(out).error?.issues[0]?.message ?? 'It is not valid'}.`, true);
  return null;
}

/** Items whose id stands before get one that depends on it and on how often it stood: a sheet copied within a workbook is read twice. */
function eachOnce(items: readonly Item[]): Item[] {
  const there = new Set<string>();
  return items.map((one) => {
    let { id } = one;
    for (let n = 2; there.has(id); n++) id = stableId(`${one.id} ${n}`);
    there.add(id);
    return id === one.id ? one : { ...one, id };
  });
}

/**
 * What was read, with every item and part within the limits of the model: ids of at most 200 characters, credits from -1 to 1, points
 * from 0, language tags of at most 35 characters. An id that is too long becomes one that depends on it alone, so that what names it
 * still does, and one that stands twice stays the first's; a number is brought to its bound and told; anything else is left out and told. Items that are within stay the very same.
 */
export function withinModel(result: ReadResult): ReadResult {
  const told: Diagnostic[] = [];
  const teller =
    (what: string, id?: string) =>
    (message: string, lost: boolean): void => {
      told.push({
        code: 'limit-passed',
        severity: lost ? 'error' : 'warning',
        from: 0,
        to: 0,
        line: 1,
        column: 1,
        message: lost ? `${what} was left out: ${message}` : `${what}: ${message}`,
        ...(id && !lost && { item: id }),
      });
    };
  const each = <T extends Item | Section>(list: readonly T[], schema: Parameters<typeof within>[1], what: string): T[] =>
    list.flatMap((one, i) => within(one, schema, teller(`${what} ${i + 1}`, what === 'Item' ? one.id : undefined)) ?? []);
  const items = eachOnce(each(result.set.items, itemSchema, 'Item'));
  const sections = result.set.sections && each(result.set.sections, sectionSchema, 'Part');
  const same = (a: readonly unknown[], b: readonly unknown[] | undefined): boolean => a.length === b?.length && a.every((x, i) => x === b[i]);
  if (same(items, result.set.items) && (!sections || same(sections, result.set.sections))) return result;
  return { ...result, set: { ...result.set, items, ...(sections && { sections }) }, diagnostics: [...result.diagnostics, ...told] };
}
